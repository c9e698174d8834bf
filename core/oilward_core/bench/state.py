"""Where a visit stands: each step done, skipped, running, ready, or blocked and by what."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from decimal import Decimal
from enum import StrEnum

from ..debris import Level, OilLook, Verdict
from ..errors import CoreError
from ..fill import Advice
from ..guard import Sound, guarded
from ..runsheet import (
    FACTS,
    Aside,
    Ask,
    Fact,
    Job,
    Name,
    Rounds,
    Step,
    StepId,
    TaskPlan,
    build,
    look_up_id,
)
from ..spec import Cell, Path, Recipe
from .entries import DRY, GRADINGS, REGRADE, SKIP, Entry, ordered
from .facts import DRAIN_PLUG, FILL_PLUG, Facts, Stands, gathered
from .fasteners import FastenerState, fasteners
from .filling import Bench, Filling, fillings_of
from .judged import TorqueCard, drained_remark, judge_finding, torque_card, turned_wrong
from .known import Known, VisitPlan, all_unmet, is_complete, run_since, settling
from .stance import Hands, Stance


class Status(StrEnum):
    """Where a step stands."""

    DONE = "done"
    SKIPPED = "skipped"
    RUNNING = "running"
    READY = "ready"
    BLOCKED = "blocked"


CLOSED = (Status.DONE, Status.SKIPPED)


@dataclass(frozen=True, kw_only=True)
class StepState:
    """A step with what was recorded on it. ``ends_at`` is when a started wait runs out and
    ``not_before`` when what it waits for does; ``unmet`` says what it waits for; ``remark`` what the
    last entry means; ``reopened``: it was done, and something undid it; ``taken_by`` who has it in
    hand, if somebody said so."""

    step: Step
    status: Status
    entry: Entry | None = None
    started_at: datetime | None = None
    ends_at: datetime | None = None
    not_before: datetime | None = None
    remark: str = ""
    unmet: tuple[str, ...] = ()
    reopened: bool = False
    taken_by: str = ""

    @property
    def closed(self) -> bool:
        """Whether it is done with."""
        return self.status in CLOSED


@dataclass(frozen=True, kw_only=True)
class TaskState(Sound):
    """How a reservoir stands: what the coach says, what came out, what is in, its fasteners, and why
    nothing may go on with it (``stopped``)."""

    key: str
    advice: Advice | None = None
    torque: TorqueCard | None = None
    finding: Verdict | None = None
    drained: Decimal | None = None
    added: Decimal = Decimal(0)
    filled: bool = False
    opened: bool = False
    oil_out: bool = False
    draining: bool = False
    stopped: str = ""
    fasteners: tuple[FastenerState, ...] = ()
    found: str = ""
    fluid: str = ""


@dataclass(frozen=True, kw_only=True)
class Stop:
    """Something happened that should not have, and nobody has said yet what was found of it; or a
    finding says ``hold``, and no lead has lifted it."""

    entry: str
    step: str
    text: str
    hold: bool = False


@dataclass(frozen=True, kw_only=True)
class Waits:
    """What a visit waits for, at which step, since when, and who said so."""

    step: str
    what: str
    words: str
    by: str
    since: datetime


@dataclass(frozen=True, kw_only=True)
class Sheet(Sound):
    """The state of a visit. ``focus`` is the step to do now (None: all done, or nothing can be);
    ``set_aside`` are entries whose step is not part of the visit; ``in_hands_of`` who wrote something
    down last; ``handed_back`` why it goes back to its owner, not to be ridden."""

    tasks: tuple[TaskState, ...]
    steps: tuple[StepState, ...]
    focus: str | None
    stops: tuple[Stop, ...]
    ready_to_sign: bool
    set_aside: tuple[Entry, ...]
    waits: Waits | None = None
    in_hands_of: str = ""
    stance: Stance | None = None
    hands: Hands | None = None
    handed_back: str = ""

    @property
    def opened_drain(self) -> bool:
        """Whether oil has been let out in this visit, or a leg or the front wheel taken off."""
        return any(task.oil_out for task in self.tasks)

    @property
    def stopped(self) -> str:
        """Why nothing may go on, if so."""
        said = [stop.text for stop in self.stops] + [task.stopped for task in self.tasks]
        return " ".join(text for text in said if text)

    def step(self, step_id: str) -> StepState | None:
        """The state of one step, if the sheet has it."""
        return next((state for state in self.steps if str(state.step.id) == step_id), None)

    def task(self, key: str) -> TaskState | None:
        """The state of one reservoir, if it is part of the visit."""
        return next((task for task in self.tasks if task.key == key), None)

    @property
    def soonest(self) -> datetime | None:
        """When the wait ends that ends soonest: one that somebody started, or what the next step
        waits for."""
        ends = [
            state.ends_at
            for state in self.steps
            if state.status == Status.RUNNING and state.step.ask != Ask.WAIT
        ]
        focus = self.step(self.focus or "")
        ends.append(focus.not_before if focus else None)
        return min((end for end in ends if end), default=None)

    @property
    def unfinished(self) -> StepState | None:
        """The first step that is not done or skipped."""
        return next((state for state in self.steps if not state.closed), None)


def _remark(step: Step, entry: Entry | None, known: Known, finding: Verdict | None) -> str:
    if entry is None:
        return ""
    if entry.kind == SKIP:
        return str(entry.data.get("reason", ""))
    task = known.tasks.get(step.id.reservoir)
    if step.ask == Ask.TORQUE:
        return _torque_remark(step, entry, known)
    if step.ask == Ask.FINDING and finding:
        return f"{finding.level.word.capitalize()}: {finding.action}"
    if step.name == Name.MEASURE and task:
        return _drained_remark(task, entry, known)
    if step.ask == Ask.LEAKS and entry.data["result"] != DRY:
        where = str(entry.data["result"]).lower()
        return f"Leak at the {where}. Put it right, wipe, run, look again."
    filling = known.fillings.get(step.id.reservoir)
    return filling.unused.get(entry.id, "") if filling else ""


def _drained_remark(task: TaskPlan, entry: Entry, known: Known) -> str:
    """With how the level stood as it came and what the oil looks like, as far as they are known."""
    key, last = task.reservoir.key, known.facts.last
    filler, plug = last.get(str(StepId(key, Name.FILLER))), last.get(str(StepId(key, Name.INSPECT)))
    stood = str(filler.data.get("stood", "")) if filler else ""
    looks = [OilLook(look) for look in plug.data.get("oil", ())] if plug else []
    return drained_remark(task, Decimal(entry.data["ml"]), stood, looks)


def _torque_remark(step: Step, entry: Entry, known: Known) -> str:
    card = known.torque.get(step.id.reservoir)
    if card is None or card.verdict is None:
        return ""
    spec = step.fastener.torque if step.fastener else None
    wrong = turned_wrong(spec, entry) if spec and card.verdict.verdict == "in" else ""
    return wrong or card.verdict.action


def _status(step: Step, known: Known, unmet: Sequence[str], entry: Entry | None) -> Status:
    if step.ask == Ask.WAIT:
        return _wait_status(step, known)
    if known.complete[step.id]:
        return Status.SKIPPED if entry is not None and entry.kind == SKIP else Status.DONE
    timer = known.facts.timers.get(str(step.id))
    if timer is not None and timer.stopped is None:
        return Status.RUNNING
    return Status.BLOCKED if unmet else Status.READY


def _wait_status(step: Step, known: Known) -> Status:
    """Settling runs by itself from the engine's stop until its level has been read."""
    if not known.complete[step.id]:
        return Status.BLOCKED
    level = StepId(step.id.reservoir, Name.LEVEL, "", step.id.round)
    return Status.DONE if known.complete.get(level) else Status.RUNNING


def _state(step: Step, known: Known, findings: Mapping[str, Verdict | None]) -> StepState:
    key = str(step.id)
    entry = known.facts.last.get(key)
    unmet = all_unmet(step, known)
    status = _status(step, known, unmet, entry)
    timer = known.facts.timers.get(key)
    started = settling(step, known) if step.ask == Ask.WAIT else timer and timer.started
    ends = None
    if started and step.minutes is not None:
        ends = started + known.bench.length(step.minutes)
    return StepState(
        step=_skippable(step) if key in known.facts.undone else step,
        status=status,
        entry=entry,
        started_at=started or None,
        ends_at=ends,
        not_before=_not_before(step, known),
        remark=_remark(step, entry, known, findings.get(step.id.reservoir)),
        unmet=unmet if status == Status.BLOCKED else (),
        reopened=key in known.facts.undone,
        taken_by=_taken_by(key, known.facts),
    )


def _taken_by(step: str, facts: Facts) -> str:
    entry = facts.taken.get(step)
    return entry.by if entry else ""


def _skippable(step: Step) -> Step:
    """What was only tightened again needs no new seal; a reason says so."""
    again = step.name in (Name.WASHER, Name.REFIT)
    return replace(step, skippable=True) if again else step


def _not_before(step: Step, known: Known) -> datetime | None:
    """When what a level waits for is over."""
    if step.ask != Ask.LEVEL:
        return None
    settle = known.steps.get(StepId(step.id.reservoir, Name.SETTLE, "", step.id.round))
    begun = settling(settle, known) if settle else None
    if settle is None or begun is None or settle.minutes is None:
        return None
    return begun + known.bench.length(settle.minutes)


def _still_against(entry: Entry, written: Sequence[Entry], known: Known) -> list[str]:
    """The needs an entry went against, by all that is known by now of what had happened before it:
    work that was only remembered later takes its need away."""
    before = [one for one in ordered(written) if (one.at, one.id) < (entry.at, entry.id)]
    then = known_of(known.plan, gathered(before), known.bench)
    step = then.steps.get(StepId.of(entry.step))
    said = [str(text) for text in entry.data["despite"]]
    if step is None:
        return said
    unmet = all_unmet(step, then)
    return [text for text in said if text in unmet]


def _stops(known: Known, written: Sequence[Entry]) -> tuple[Stop, ...]:
    found, facts = [], known.facts
    for entry in facts.despite:
        against = [] if entry.id in facts.answered else _still_against(entry, written, known)
        if not against:
            continue
        step = known.steps.get(StepId.of(entry.step))
        title = step.title if step else entry.step
        why = "; ".join(against)
        text = f"“{title}” was done although {why}. Say what you found."
        found.append(Stop(entry=entry.id, step=entry.step, text=text))
    return tuple(found)


def _holds(known: Known, findings: Mapping[str, Verdict | None]) -> tuple[Stop, ...]:
    """Findings that say hold: nothing is run and nothing signed until a lead lifts them."""
    found = []
    for key, verdict in findings.items():
        entry = known.facts.last.get(str(StepId(key, Name.INSPECT)))
        if verdict is None or entry is None or verdict.level < Level.HOLD:
            continue
        if entry.id not in known.facts.answered:
            text = f"{known.label(key).capitalize()}: {verdict.origin}. {verdict.action}"
            found.append(Stop(entry=entry.id, step=entry.step, text=text, hold=True))
    return tuple(found)


def _handed_back(known: Known) -> str:
    """Why it goes back: what a lead said of a finding that stands. One corrected since says it anew."""
    for key in known.tasks:
        entry = known.facts.last.get(str(StepId(key, Name.INSPECT)))
        answer = known.facts.answered.get(entry.id) if entry else None
        if answer and answer.data.get("handed_back") is True:
            return str(answer.data.get("reason", ""))
    return ""


def _task_state(task: TaskPlan, known: Known, finding: Verdict | None) -> TaskState:
    key, facts = task.reservoir.key, known.facts
    filling = known.fillings.get(key)
    look = facts.last.get(str(StepId(key, Name.LOOK)))
    opened = key in facts.opened
    if filling is None:
        return TaskState(
            key=key,
            added=facts.into(key),
            filled=bool(look) or facts.into(key) > 0,
            opened=opened,
            oil_out=opened or (task.reservoir.facts.recipe == Recipe.FORK and "" in facts.opened),
            found=str(look.data.get("value", "")) if look else "",
        )
    filler = facts.fastener(key, FILL_PLUG)
    seized = filler is not None and filler.stands == Stands.SEIZED
    fluids = [f.entry.data["fluid"] for f in facts.poured(key) if f.entry.data.get("fluid")]
    return TaskState(
        key=key,
        advice=filling.advice,
        torque=known.torque.get(key),
        finding=finding,
        drained=facts.drained(key),
        added=facts.into(key),
        filled=filling.right,
        opened=opened,
        oil_out=facts.fastener(key, DRAIN_PLUG) is not None,
        draining=facts.fastener(key, DRAIN_PLUG) is not None
        and str(StepId(key, Name.DRAIN)) not in facts.last,
        stopped=SEIZED_STOP.format(label=task.reservoir.label) if seized else "",
        fasteners=fasteners(key, known),
        found="",
        fluid=fluids[-1] if fluids else "",
    )


HANDED_BACK = "it goes back to its owner, not to be ridden"
SEIZED_STOP = (
    "The {label}'s filler is seized. Do not drain it. Free it, or close the visit as it stands."
)


def _looked_up(task: TaskPlan, facts: Facts) -> dict[Path, Cell]:
    """What was looked up in this visit, with where it stands."""
    found = {}
    for path in task.asks:
        entry = facts.last.get(str(look_up_id(path)))
        if entry is not None and entry.kind == "look up":
            data = entry.data
            found[path] = Cell(
                written=data["written"],
                document=data["document"],
                page=data["page"],
                entered_by=entry.by,
            )
    return found


def _in_planned_order(
    steps: Sequence[Step], jobs: Sequence[Job], order: Sequence[str]
) -> list[Step]:
    """Steps as the plan has them; what it does not know stays where the description has it."""
    if not order:
        return list(steps)
    place = {job: n for n, job in enumerate(order)}
    own = {job.id: n for n, job in enumerate(jobs)}
    last = -1.0
    rank: dict[str, float] = {}
    for job in sorted(own, key=lambda key: own[key]):
        last = place.get(job, last)
        rank[job] = last if job in place else last + 0.5
    return sorted(steps, key=lambda step: rank.get(step.job, -1.0))


def known_of(plan: VisitPlan, facts: Facts, bench: Bench) -> Known:
    """Everything a visit's steps are worked out from."""
    tasks = {t.reservoir.key: t.told(_looked_up(t, facts)) for t in plan.tasks}
    fillings = fillings_of(tasks, facts, bench)
    rounds = Rounds(
        {key: one.rounds for key, one in fillings.items()}, _runs(facts, tasks, fillings)
    )
    sheet = build([task.task for task in tasks.values()], plan.cold, plan.learned, rounds)
    torque = {
        key: torque_card(tasks[key], bench, facts.last.get(str(StepId(key, Name.TORQUE))))
        for key in fillings
    }
    known = Known(
        plan=plan,
        tasks=tasks,
        facts=facts,
        fillings=fillings,
        torque=torque,
        sheet=sheet,
        bench=bench,
    )
    known.steps = {step.id: step for step in sheet.steps}
    known.makers = sheet.makers()
    known.complete = {step.id: is_complete(step, known) for step in sheet.steps}
    return known


def _runs(facts: Facts, tasks: Mapping[str, TaskPlan], fillings: Mapping[str, Filling]) -> int:
    """Runs that happened, and one more where a level still has to be read after one."""
    numbers = [StepId.of(key).round for key in facts.timers if StepId.of(key).name == Name.RUN]
    happened = max([0, *numbers])
    for key, filling in fillings.items():
        level = tasks[key].reservoir.level
        if level is None or not level.run_minutes or filling.right:
            continue
        if run_since(key, facts) is None:
            return happened + 1
    return max(happened, 1)


@guarded
def fold(plan: VisitPlan, entries: Iterable[Entry], bench: Bench) -> Sheet:
    """The visit as its entries make it.

    The same set of entries, in any order and repeated at will, folds to the same state.
    Raises CoreError ``fill.no_capacity`` when a spec sheet lacks the variant's capacity.
    """
    written = list(entries)
    facts = gathered(written)
    known = known_of(plan, facts, bench)
    findings = {key: _finding(key, known) for key in known.tasks}
    order = _in_planned_order(known.sheet.steps, known.sheet.jobs, plan.order)
    stops = (*_stops(known, written), *_holds(known, findings))
    back = _handed_back(known)
    against = (*(stop.text for stop in stops), *((HANDED_BACK,) if back else ()))
    states = tuple(_held(_state(step, known, findings), against) for step in order)
    tasks = tuple(_task_state(task, known, findings[key]) for key, task in known.tasks.items())
    names = {str(step.id) for step in order}
    aside = [e for step, found in facts.by_step.items() if step not in names for e in found]
    closed = all(state.closed for state in states)
    filled = all(task.filled for task in tasks if task.key in known.fillings)
    return Sheet(
        tasks=tasks,
        steps=states,
        focus=_focus(states),
        stops=stops,
        ready_to_sign=closed and filled and not stops and not back,
        set_aside=tuple(sorted(aside, key=lambda entry: (entry.at, entry.id))),
        waits=_waits(facts),
        in_hands_of=facts.newest.by if facts.newest else "",
        stance=facts.stance,
        hands=facts.hands,
        handed_back=back,
    )


def _waits(facts: Facts) -> Waits | None:
    entry = facts.waits
    if entry is None:
        return None
    what, words = str(entry.data.get("what", "")), str(entry.data.get("words", ""))
    return Waits(step=entry.step, what=what, words=words, by=entry.by, since=entry.at)


def _held(state: StepState, against: tuple[str, ...]) -> StepState:
    """While something that should not have happened is open, or a finding says hold, no engine is run
    and nothing signed."""
    if not against or state.step.name not in (Name.RUN, Name.FINISH):
        return state
    if state.status != Status.READY:
        return state
    return replace(state, status=Status.BLOCKED, unmet=against)


def _finding(key: str, known: Known) -> Verdict | None:
    entry = known.facts.last.get(str(StepId(key, Name.INSPECT)))
    if entry is None or entry.kind not in GRADINGS:
        return None
    return judge_finding(known.tasks[key], entry)


def _focus(states: Sequence[StepState]) -> str | None:
    """The first step that is ready, in the planned order; else the first wait that runs; else what
    only waits for the bike to be strapped down."""
    for status in (Status.READY, Status.RUNNING):
        for state in states:
            if state.status == status and state.step.ask != Ask.WAIT:
                return str(state.step.id)
    loose = (FACTS[Fact.STRAPPED].unmet,)
    return next((str(state.step.id) for state in states if state.unmet == loose), None)


@guarded
def check_entry(
    sheet: Sheet,
    step_id: str,
    kind: str,
    at: datetime,
    supersedes: str | None,
) -> tuple[Step, tuple[str, ...]]:
    """The step an entry may be recorded on at that time, and the needs it goes against.

    Raises CoreError ``sheet.no_such_step``, ``sheet.already_done`` (a correction has to name the
    entry it replaces), ``sheet.running``, ``sheet.not_started`` and ``sheet.too_soon`` (a timer that
    has to run its full time).
    """
    state = sheet.step(step_id)
    if state is None:
        raise CoreError("sheet.no_such_step", step=step_id)
    title = state.step.title
    aside = kind in tuple(Aside)
    free = supersedes is not None or aside or kind in ("answered", "cause", REGRADE)
    if state.closed and (not free or kind == Aside.TAKES):
        raise CoreError("sheet.already_done", step=title)
    if kind == "start" and state.status == Status.RUNNING and state.step.ask != Ask.WAIT:
        raise CoreError("sheet.running", step=title)
    if kind == "stop" and state.started_at is None:
        raise CoreError("sheet.not_started", step=title)
    if kind == "stop" and state.step.full and state.ends_at and at < state.ends_at:
        raise CoreError("sheet.too_soon", step=title, minutes=state.step.minutes)
    return state.step, () if free or kind == SKIP else state.unmet

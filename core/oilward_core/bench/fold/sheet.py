"""The fold: a visit as its entries make it."""

from collections.abc import Iterable, Sequence
from datetime import datetime, timedelta
from decimal import Decimal

from ...codes.bench import Status
from ...codes.entries import ASIDES, Ask, EntryKind
from ...codes.facts import Fact
from ...codes.roles import Role
from ...codes.steps import Name
from ...debris import Verdict
from ...errors import CoreError
from ...guard import guarded
from ...runsheet import Need, Option, Step, StepId, TaskPlan
from ...said import bench as said
from ...spec import Recipe
from ..asides.waits import WaitsUntil
from ..asks.amount import Amount
from ..asks.fill import PouredIn
from ..asks.leaks import Looked
from ..entries import Data, Entry
from . import legs
from .draining import out_before_it_was_shut
from .facts import Facts
from .fasteners import fasteners, holders
from .filling import is_wrong_oil
from .gather import gathered
from .judged import finding_of, looked
from .knowing import in_planned_order, known_of
from .known import Bench, Known, VisitPlan
from .level_reads import TO_LOOK
from .needs import run_since
from .state import LegOil, OtherLeg, Sheet, StepState, TaskState, TorqueCard, Waits
from .status import state_of
from .stops import all_stops, answered, handed_back, held_back, not_there, seized


def _fluid(key: str, facts: Facts) -> str:
    """What was poured there last, if somebody said; not what may not go in and is drained again."""
    named = [
        flow.entry.data.fluid
        for flow in facts.poured(key)
        if isinstance(flow.entry.data, PouredIn) and flow.entry.data.fluid
        if not is_wrong_oil(flow.entry, facts)
    ]
    return named[-1] if named else ""


def _found(key: str, known: Known) -> str:
    """What a look there showed, in words."""
    look = looked(key, known)
    return said.chosen(look, "") if look else ""


def _circuit_shut(key: str, known: Known) -> bool:
    """Whether a circuit's new filter is in, and its cover on."""
    steps = (StepId(key, Name.CIRCUIT), StepId(key, Name.TORQUE_FILTER))
    there = [step for step in steps if step in known.complete]
    return bool(there) and all(known.complete[step] for step in there)


def _apart(task: TaskPlan, known: Known, finding: Verdict | None) -> TaskState:
    """What is not drained through a plug."""
    key, facts = task.reservoir.key, known.facts
    opened = key in facts.opened
    facts_of = task.reservoir.facts
    wheel_out = facts_of.recipe == Recipe.FORK and "" in facts.opened
    return TaskState(
        key=key,
        added=facts.into(key),
        cards=_cards(key, known),
        filled=str(StepId(key, Name.LOOK)) in facts.last
        or facts.into(key) > 0
        or _circuit_shut(key, known),
        apart=True,
        opened=opened,
        drained=facts.drained(key),
        oil_out=opened or wheel_out,
        found=_found(key, known),
        finding=finding,
        look=looked(key, known),
        other_leg=_other_leg(task, known),
        leg=_leg_oil(key, known),
        fasteners=holders(task, known) if facts_of.recipe == Recipe.FORK else (),
    )


def _poured(key: str, known: Known) -> Decimal | None:
    """What was poured into a leg, before it was drawn down."""
    entry = known.facts.last.get(str(StepId(key, Name.LEG_FILL)))
    return entry.data.ml if entry and isinstance(entry.data, Amount) else None


def _leg_oil(key: str, known: Known) -> LegOil | None:
    poured, (found, left) = _poured(key, known), legs.gaps(key, known.facts)
    spring = legs.spring(key, known.tasks, known.facts)
    if poured is None and spring is None:
        return None
    return LegOil(
        poured=poured,
        inside=known.facts.into(key),
        found=found,
        left=left,
        by_gap=StepId(key, Name.LEG_GAP) in known.steps,
        spring=spring.length if spring else None,
        least=known.tasks[key].reservoir.leg.spring_limit,
        air=legs.air(key, known.facts),
    )


def _other_leg(task: TaskPlan, known: Known) -> OtherLeg | None:
    """What the other leg of the visit got, where the sheet gives both the same."""
    spec = task.reservoir
    for other in known.tasks.values():
        leg = other.reservoir
        alike = (leg.capacities, leg.air_gap) == (spec.capacities, spec.air_gap)
        if leg.facts.recipe == Recipe.FORK and leg.key != spec.key and alike:
            return OtherLeg(_poured(leg.key, known), legs.gaps(leg.key, known.facts)[1])
    return None


def _cards(key: str, known: Known) -> dict[str, TorqueCard]:
    """The wrench cards of its fasteners, by their steps."""
    found = {step: card for step, card in known.cards.items() if StepId.of(step).reservoir == key}
    return {step: card for step, card in found.items() if card is not None}


def _drains(key: str, known: Known) -> bool:
    """Whether oil still runs out at one of its plugs."""
    drains = [s for s in known.complete if (s.reservoir, s.name) == (key, Name.DRAIN)]
    begun = [s for s in drains if str(s) in known.facts.timers or not s.part]
    return any(str(step) not in known.facts.last for step in begun)


def _task_state(task: TaskPlan, known: Known, finding: Verdict | None) -> TaskState:
    key, facts = task.reservoir.key, known.facts
    filling = known.fillings.get(key)
    if filling is None:
        return _apart(task, known, finding)
    out = facts.fastener(key, Role.DRAIN_PLUG) is not None
    return TaskState(
        key=key,
        advice=filling.advice,
        torque=known.cards.get(str(StepId(key, Name.TORQUE))),
        cards=_cards(key, known),
        finding=finding,
        drained=facts.drained(key),
        added=facts.into(key),
        filled=filling.right and filling.counted,
        opened=key in facts.opened,
        oil_out=out,
        draining=out and _drains(key, known),
        stopped=seized(task, known),
        fasteners=fasteners(task, known),
        fluid=_fluid(key, facts),
        fell=filling.fell,
        tilt=filling.tilt,
        takes=filling.takes,
        marks=filling.marks,
        closed_early=out_before_it_was_shut(task, facts) is not None,
    )


@guarded
def fold(plan: VisitPlan, entries: Iterable[Entry], bench: Bench) -> Sheet:
    """The visit as its entries make it.

    The same set of entries, in any order and repeated at will, folds to the same state.
    Raises CoreError ``fill.no_capacity`` when a spec sheet lacks the variant's capacity.
    """
    written = list(entries)
    facts = gathered(written)
    known = known_of(plan, facts, bench)
    findings = {key: finding_of(key, known) for key in known.tasks}
    order = in_planned_order(known.sheet.steps, known.sheet.jobs, plan.order)
    stops = all_stops(known, written, findings)
    back, away = handed_back(known), known.plan.away
    states = tuple(
        held_back(not_there(state_of(step, known, findings), away), stops, back, away)
        for step in order
    )
    tasks = tuple(_task_state(task, known, findings[key]) for key, task in known.tasks.items())
    names = {str(step.id) for step in order}
    aside = [e for step, found in facts.by_step.items() if step not in names for e in found]
    closed = all(state.closed for state in states)
    filled = all(task.filled for task in tasks if task.key in known.fillings)
    return Sheet(
        tasks=tasks,
        steps=states,
        focus=_focus(states, known),
        stops=stops,
        ready_to_sign=closed and filled and not stops and not back,
        set_aside=tuple(sorted(aside, key=lambda entry: (entry.at, entry.id))),
        waits=_waits(facts),
        in_hands_of=facts.newest.by if facts.newest else "",
        in_hands_of_who=facts.newest.who if facts.newest else "",
        stance=facts.stance,
        hands=facts.hands,
        handed_back=back,
        away=tuple(one.words for one in away),
        answered=answered(known, written, findings),
    )


def _waits(facts: Facts) -> Waits | None:
    entry = facts.waits
    if entry is None or not isinstance(entry.data, WaitsUntil):
        return None
    data = entry.data
    return Waits(step=entry.step, what=data.what, words=data.words, by=entry.by, since=entry.at)


def _hurried(states: Sequence[StepState], known: Known) -> tuple[StepState, timedelta] | None:
    """A level that will be too old before long, and how long something else may be done first: nothing
    once it has settled. It is as late as when something was written down last."""
    for state in states:
        key, newest = state.step.id.reservoir, known.facts.newest
        if state.step.ask != Ask.LEVEL or state.status != Status.READY or newest is None:
            continue
        level, run = known.tasks[key].reservoir.level, run_since(key, known.facts)
        if level is None or level.latest is None or run is None or run.stopped is None:
            continue
        settles = state.not_before is not None and newest.at < state.not_before
        last = run.stopped + known.bench.length(level.latest - TO_LOOK)
        return state, last - newest.at if settles else timedelta(0)
    return None


# what may be done while a case drips, and draws nobody away from its pan
_MEANWHILE = (Name.FILTER, Name.ELEMENT, Name.CIRCUIT, Name.TORQUE_FILTER)


def _dripping(states: Sequence[StepState], known: Known) -> set[str]:
    """The reservoirs that drip, and with an engine the circuits that share its oil."""
    found = {
        one.step.id.reservoir
        for one in states
        if one.step.name == Name.DRAIN and one.status == Status.RUNNING
    }
    if any(known.tasks[key].reservoir.facts.runs_engine for key in found):
        found |= {key for key in known.tasks if key not in known.fillings}
    return found


def _focus(states: Sequence[StepState], known: Known) -> str | None:
    """The first step that is ready, in the planned order; else the first wait that runs; else what
    only waits for the bike to be strapped down. Nobody leaves an engine that runs on new oil; and a
    level that will be too old before long comes first, nothing being begun that takes longer."""
    runs = (one for one in states if one.step.name == Name.RUN and one.status == Status.RUNNING)
    running = next(runs, None)
    if running is not None:
        return str(running.step.id)
    hurried = _hurried(states, known)
    if hurried is not None:
        level, spare = hurried
        minutes = {job.id: known.bench.length(Decimal(job.minutes)) for job in known.sheet.jobs}
        ready = (one for one in states if one.status == Status.READY and one is not level)
        short = (one for one in ready if minutes[one.step.job] <= spare)
        return str(next(short, level).step.id)
    drips = _dripping(states, known)
    for status in (Status.READY, Status.RUNNING):
        for state in states:
            meanwhile = state.step.name in _MEANWHILE and state.step.id.reservoir in drips
            if state.status == status and state.step.ask != Ask.WAIT and not meanwhile:
                return str(state.step.id)
    loose = (Need(Fact.STRAPPED).code,)
    found = (s for s in states if tuple(one.code for one in s.unmet) == loose)
    return next((str(state.step.id) for state in found), None)


_FREE = (
    EntryKind.ANSWERED,
    EntryKind.CAUSE,
    EntryKind.REGRADE,
    EntryKind.ALSO_SEEN,
    *ASIDES,
)


def _may_stay(sheet: Sheet, step: Step) -> bool:
    task = sheet.task(step.id.reservoir)
    return task is not None and task.advice is not None and task.advice.may_stay


@guarded
def goes_against(unmet: Sequence[Option], data: Data) -> tuple[Option, ...]:
    """What an entry goes against of what its step still waits for: a leak that is seen early goes against
    nothing, it is there to be seen."""
    if isinstance(data, Looked) and not data.dry:
        return ()
    return tuple(unmet)


@guarded
def check_entry(
    sheet: Sheet, step_id: str, kind: EntryKind, at: datetime, supersedes: str | None
) -> tuple[Step, tuple[Option, ...]]:
    """The step an entry may be recorded on at that time, and what it goes against, with its codes.

    Raises CoreError ``sheet.no_such_step``, ``sheet.already_done`` (a correction has to name the
    entry it replaces), ``level.not_inside`` (only a level inside its marks is left), ``sheet.running``,
    ``sheet.not_started`` and ``sheet.too_soon`` (a timer that has to run its full time).
    """
    state = sheet.step(step_id)
    if state is None:
        raise CoreError("sheet.no_such_step", step=step_id)
    title = state.step.title
    free = supersedes is not None or kind in _FREE
    if state.closed and (not free or kind == EntryKind.TAKES):
        done = {"by": state.entry.by, "at": state.entry.at} if state.entry else {}
        raise CoreError("sheet.already_done", step=title, **done)
    if kind == EntryKind.START and state.status == Status.RUNNING and state.step.ask != Ask.WAIT:
        raise CoreError("sheet.running", step=title)
    if kind == EntryKind.STOP and state.started_at is None:
        raise CoreError("sheet.not_started", step=title)
    if kind == EntryKind.STOP and state.step.full and state.ends_at and at < state.ends_at:
        raise CoreError("sheet.too_soon", step=title, minutes=state.step.minutes)
    if kind == EntryKind.LEFT and supersedes is None and not _may_stay(sheet, state.step):
        raise CoreError("level.not_inside", step=title)
    if free or kind == EntryKind.SKIP:
        return state.step, ()
    return state.step, state.unmet

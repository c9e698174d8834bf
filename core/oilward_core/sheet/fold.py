"""A run sheet is a fold over its entries: same entries, same sheet, whatever their order."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from decimal import Decimal
from enum import StrEnum

from ..debris import Observation, OilLook, Verdict, verdict
from ..errors import CoreError
from ..fill import (
    Advice,
    CauseFound,
    FillCase,
    FillEvent,
    Gauge,
    LevelReading,
    Poured,
    coach,
)
from ..guard import Sound, guarded
from ..quantity import show
from ..schools import torque_aim
from ..spec import Cell, FillRule, LevelCheck, Path, ReservoirSpec, needed
from ..torque import (
    Setting,
    TorqueVerdict,
    Wrench,
    WrenchSetting,
    fitting_wrenches,
    judge,
    scale_factor,
)
from .entries import DRY, KINDS, Entry, in_order, part_from
from .steps import (
    SEIZED,
    Step,
    StepKind,
    TaskPlan,
    fill_round,
    look_up,
    steps_after_fill,
    steps_before_fill,
)

MOST_ROUNDS = 12


class Status(StrEnum):
    """Where a step stands."""

    DONE = "done"
    SKIPPED = "skipped"
    FOCUS = "focus"
    WAITING = "waiting"


@dataclass(frozen=True)
class StepState:
    """A step with what was recorded on it. ``ends_at`` is when a started timer runs out;
    ``remark`` says what the entry means (a verdict, an unused reading)."""

    step: Step
    status: Status
    entry: Entry | None
    started_at: datetime | None
    ends_at: datetime | None
    remark: str


@dataclass(frozen=True)
class TorqueCard(Sound):
    """What the torque step shows: the aim (N·m), the wrenches that fit with their marks, best first,
    the last reading (N·m) and what it means."""

    aim: Setting
    low: Decimal
    high: Decimal
    wrenches: tuple[WrenchSetting, ...]
    reading: Decimal | None
    verdict: TorqueVerdict | None


@dataclass(frozen=True)
class Sheet(Sound):
    """The state of a run sheet. ``focus`` is the step to do now (None: all done or stopped),
    ``stopped`` says why nothing may go on, ``set_aside`` are entries whose step is gone."""

    steps: tuple[StepState, ...]
    focus: str | None
    stopped: str
    advice: Advice | None
    torque: TorqueCard | None
    finding: Verdict | None
    drained: Decimal | None
    added: Decimal
    filled: bool
    ready_to_sign: bool
    set_aside: tuple[Entry, ...]

    @property
    def opened_drain(self) -> bool:
        """Whether the drain plug has been taken out in this visit."""
        return any(s.step.kind == StepKind.DRAIN and s.started_at for s in self.steps)

    def step(self, step_id: str) -> StepState | None:
        """The state of one step, if the sheet has it."""
        return next((state for state in self.steps if state.step.id == step_id), None)


@dataclass(frozen=True)
class Bench(Sound):
    """What the workshop brings: its wrenches, and how long a minute is
    (60 s; a practice clock runs faster and says so)."""

    wrenches: tuple[Wrench, ...] = ()
    seconds_per_minute: float = 60.0

    def length(self, minutes: Decimal) -> timedelta:
        """``minutes`` of bench time as real time."""
        return timedelta(seconds=float(minutes) * self.seconds_per_minute)


class _Book:
    """Entries by step, in order."""

    def __init__(self, entries: Iterable[Entry]) -> None:
        self.by_step: dict[str, list[Entry]] = {}
        for entry in in_order(entries):
            self.by_step.setdefault(entry.step, []).append(entry)

    def last(self, step: Step, kind: str) -> Entry | None:
        found = [entry for entry in self.by_step.get(step.id, ()) if entry.kind == kind]
        return found[-1] if found else None

    def completing(self, step: Step) -> Entry | None:
        """The entry that completes the step: its own kind, or a skip, whichever came last."""
        kinds = (KINDS[step.kind][0], "skip")
        found = [entry for entry in self.by_step.get(step.id, ()) if entry.kind in kinds]
        return found[-1] if found else None


def _case(task: TaskPlan) -> FillCase:
    reservoir, capacity = task.reservoir, task.capacity
    if capacity is None:
        raise CoreError("fill.no_capacity")
    gauge = None
    if reservoir.fill_rule == FillRule.LEVEL and reservoir.level is not None:
        gauge = Gauge(reservoir.level.between_marks, reservoir.level.target)
    return FillCase(capacity, gauge, reservoir.initial, task.took)


def _waited(book: _Book, steps: Sequence[Step], prefix: str, until: datetime | None) -> timedelta:
    """How long the timer step of this round ran (to its stop, or to ``until``)."""
    step = next((step for step in steps if step.id.rpartition("/")[2].startswith(prefix)), None)
    start = book.last(step, "start") if step else None
    end = until or (stop.at if step and (stop := book.last(step, "stop")) else None)
    return end - start.at if start and end else timedelta(0)


def _why_unused(
    entry: Entry, reservoir: ReservoirSpec, book: _Book, steps: Sequence[Step], bench: Bench
) -> str:
    """Why a level reading is kept but not used; empty if it is valid."""
    level = reservoir.level
    if level is None:
        return ""
    second = level.second.attitude if level.second else level.attitude
    if entry.data["attitude"] not in (level.attitude, second):
        return (
            f"Read {entry.data['attitude']}; this {level.gauge} is read {level.attitude}. Kept, "
            "not used. Stand it right and read again."
        )
    if _waited(book, steps, "run.", None) < bench.length(level.run_minutes):
        return "The engine ran too short. Kept, not used. Correct the run, then read again."
    if _waited(book, steps, "settle.", entry.at) < bench.length(level.settle_minutes):
        return f"Read before it had settled for {level.settle_minutes:f} min. Kept, not used. Read again."
    return ""


def _reading(entry: Entry, level: LevelCheck | None, valid: bool) -> LevelReading:
    """A reading on the first pair of marks; one on the second is carried over by its ml."""
    position = Decimal(entry.data["position"])
    if level and level.second and entry.data["attitude"] == level.second.attitude:
        below = (level.second.target - position) * level.second.between
        position = level.target - below / level.between_marks
    return LevelReading(entry.data["sight"], position, valid)


@dataclass
class _Filling:
    """The rounds walked so far; ``poured`` and ``unused`` are as in `Counted`."""

    steps: list[Step]
    events: list[FillEvent]
    remarks: dict[str, str]
    level_done: bool
    advice: Advice | None
    poured: dict[str, Decimal] = field(default_factory=dict)
    unused: set[str] = field(default_factory=set)


def _read_round(
    filling: _Filling, task: TaskPlan, steps: Sequence[Step], book: _Book, bench: Bench
) -> None:
    """Take the readings and causes of this round's level step into the events."""
    last = steps[-1]
    for entry in book.by_step.get(last.id, ()):
        if entry.kind == "level":
            unused = _why_unused(entry, task.reservoir, book, steps, bench)
            filling.events.append(_reading(entry, task.reservoir.level, not unused))
            filling.remarks[last.id] = unused
            if unused:
                filling.unused.add(entry.id)
        elif entry.kind == "cause":
            filling.events.append(CauseFound(entry.data["cause"]))


def _fill(task: TaskPlan, book: _Book, bench: Bench) -> _Filling:
    """Walk the rounds: pour, run, settle, read, until the coach is done or waits for an entry.

    Without the values the coach needs there are no rounds yet: they are being looked up.
    """
    if set(needed(task.reservoir, task.variant)) & set(task.asks):
        return _Filling([], [], {}, False, None)
    case = _case(task)
    prefills = [
        Poured(Decimal(entry.data["ml"]), prefill=True)
        for entries in book.by_step.values()
        for entry in entries
        if entry.kind == "filter"
    ][-1:]
    filling = _Filling([], list(prefills), {}, False, coach(case, prefills))
    for number in range(1, MOST_ROUNDS + 1):
        remove = filling.advice is not None and filling.advice.action == "remove"
        steps = fill_round(task, number, remove)
        filling.steps += steps
        poured = book.last(steps[0], "pour")
        if poured is None:
            return filling
        ml = Decimal(poured.data["ml"]) * (-1 if remove else 1)
        filling.poured[poured.id] = ml
        filling.events.append(Poured(ml))
        if case.gauge is not None:
            _read_round(filling, task, steps, book, bench)
        advice = filling.advice = coach(case, filling.events)
        if advice.action == "done":
            filling.level_done = True
        if advice.action in ("done", "read", "stop"):
            return filling
    return filling


def _torque_card(task: TaskPlan, bench: Bench, reading: Entry | None) -> TorqueCard | None:
    plug = task.reservoir.fastener("drain plug")
    if plug is None or plug.torque is None or not plug.torque.by_wrench:
        return None
    spec = plug.torque
    low, high = spec.low or Decimal(0), spec.high or Decimal(0)
    aim = torque_aim(spec, plug.sealant, task.reservoir.kind, task.schools)
    fitting = fitting_wrenches(spec, aim.value, bench.wrenches, plug.adapter)
    judged = nm = None
    if reading is not None:
        used = next((w for w in bench.wrenches if w.id == reading.data.get("wrench")), None)
        factor = scale_factor(used, plug.adapter) if used else None
        nm = Decimal(reading.data["nm"]) / (factor or 1)
        accuracy = used.accuracy if used else Decimal("0.06")
        judged = judge(nm, spec, accuracy, plug.soft)
    return TorqueCard(aim, low, high, fitting, nm, judged)


@guarded
def judge_finding(task: TaskPlan, entry: Entry) -> Verdict:
    """The verdict on a finding entry."""
    seen = Observation(
        task.reservoir.kind,
        tuple(part_from(part) for part in entry.data["parts"]),
        frozenset(OilLook(look) for look in entry.data["oil"]),
        task.km_since_wiped,
        task.first_service,
    )
    return verdict(seen)


def _drained_remark(task: TaskPlan, ml: Decimal) -> str:
    """Against what went in last time; within ± 7 % is expected [trade]."""
    if task.last_put_in is None:
        return "Nothing on record to compare with."
    off = (ml - task.last_put_in) / task.last_put_in
    put = show(task.last_put_in, "ml")
    if abs(off) <= Decimal("0.07"):
        return f"As expected: {put} went in last time."
    if off < 0:
        return f"{-off:.0%} less than the {put} put in last time: burnt, leaked or underfilled."
    return f"{off:.0%} more than the {put} put in last time: overfilled, water or fuel."


@dataclass(frozen=True)
class _Facts:
    """What the fold knows besides the steps, for judging whether one is complete."""

    filling: _Filling
    torque: TorqueCard | None
    finding: Verdict | None
    drained: Decimal | None


def _complete(step: Step, entry: Entry | None, facts: _Facts) -> bool:
    if entry is None:
        return False
    if entry.kind == "skip":
        return True
    if step.kind == StepKind.GATE:
        return bool(entry.data["value"] != SEIZED)
    if step.kind == StepKind.LEAKS:
        return bool(entry.data["result"] == DRY)
    if step.kind == StepKind.TORQUE:
        card = facts.torque
        return card is None or (card.verdict is not None and card.verdict.verdict == "in")
    if step.kind == StepKind.LEVEL:
        rounds = facts.filling.steps
        return facts.filling.level_done or step is not rounds[-1]
    return True


def _remark(step: Step, entry: Entry | None, task: TaskPlan, facts: _Facts) -> str:
    if entry is None or entry.kind == "skip":
        return str(entry.data["reason"]) if entry else ""
    if step.kind == StepKind.TORQUE and facts.torque and facts.torque.verdict:
        return facts.torque.verdict.action
    if step.kind == StepKind.FINDING and facts.finding:
        return f"{facts.finding.level.word.capitalize()}: {facts.finding.action}"
    if step.kind == StepKind.AMOUNT and facts.drained is not None:
        return _drained_remark(task, facts.drained)
    if step.kind == StepKind.LEAKS and entry.data["result"] != DRY:
        return f"Leak at the {entry.data['result'].lower()}. Put it right, wipe, run, look again."
    return facts.filling.remarks.get(step.id, "")


def _state(
    step: Step, status: Status, book: _Book, task: TaskPlan, facts: _Facts, bench: Bench
) -> StepState:
    start = book.last(step, "start")
    ends = start.at + bench.length(step.minutes) if start and step.minutes is not None else None
    entry = book.completing(step)
    return StepState(
        step, status, entry, start.at if start else None, ends, _remark(step, entry, task, facts)
    )


def _stopped(steps: Sequence[Step], book: _Book) -> str:
    for step in steps:
        entry = book.completing(step)
        if step.kind == StepKind.GATE and entry and entry.data.get("value") == SEIZED:
            return "The filler is seized. Do not drain. Free it, or close the visit as it stands."
    return ""


def _looked_up(task: TaskPlan, book: _Book) -> dict[Path, Cell]:
    """What was looked up in this visit, with where it stands."""
    found = {}
    for path in task.asks:
        entry = book.last(look_up(path), "look up")
        if entry is not None:
            data = entry.data
            found[path] = Cell(data["written"], data["document"], data["page"], entry.by)
    return found


@dataclass(frozen=True)
class Counted(Sound):
    """What fill entries count for: ml poured (below zero: taken out) by each that is in the sum, and
    the level readings that are kept and not used. Both by entry id."""

    poured: Mapping[str, Decimal]
    unused: frozenset[str]


def counted(task: TaskPlan, entries: Iterable[Entry], bench: Bench) -> Counted:
    """What each pour and each reading among these entries counts for. Raises as `fold` does."""
    book = _Book(entries)
    filling = _fill(task.told(_looked_up(task, book)), book, bench)
    return Counted(filling.poured, frozenset(filling.unused))


def fold(task: TaskPlan, entries: Iterable[Entry], bench: Bench) -> Sheet:
    """The run sheet as its entries make it.

    The same set of entries, in any order and repeated at will, folds to the same sheet.
    Raises CoreError ``fill.no_capacity`` when the spec sheet lacks the variant's capacity.
    """
    book = _Book(entries)
    task = task.told(_looked_up(task, book))
    filling = _fill(task, book, bench)
    steps = [*steps_before_fill(task), *filling.steps, *steps_after_fill(task)]
    by_kind = {step.kind: book.completing(step) for step in steps if not step.round}
    finding, drained = by_kind.get(StepKind.FINDING), by_kind.get(StepKind.AMOUNT)
    facts = _Facts(
        filling,
        _torque_card(task, bench, by_kind.get(StepKind.TORQUE)),
        judge_finding(task, finding) if finding and finding.kind == "finding" else None,
        Decimal(drained.data["ml"]) if drained and drained.kind == "amount" else None,
    )
    states: list[StepState] = []
    focus: str | None = None
    for step in steps:
        entry = book.completing(step)
        if focus is None and not _complete(step, entry, facts):
            focus = step.id
            status = Status.FOCUS
        elif focus is not None:
            status = Status.WAITING
        else:
            status = Status.SKIPPED if entry and entry.kind == "skip" else Status.DONE
        states.append(_state(step, status, book, task, facts, bench))
    known = {step.id for step in steps}
    aside = [e for step, es in book.by_step.items() if step not in known for e in es]
    return Sheet(
        tuple(states),
        focus,
        _stopped(steps, book),
        filling.advice,
        facts.torque,
        facts.finding,
        facts.drained,
        filling.advice.added if filling.advice else Decimal(0),
        filling.level_done,
        focus is None and filling.level_done,
        tuple(sorted(aside, key=lambda entry: (entry.at, entry.id))),
    )


def check_entry(
    sheet: Sheet, step_id: str, kind: str, at: datetime, supersedes: str | None
) -> Step:
    """The step an entry may be recorded on at that time.

    Raises CoreError ``sheet.no_such_step``, ``sheet.not_yet`` (an earlier step is open),
    ``sheet.already_done`` (a correction has to name the entry it replaces), ``sheet.not_started``
    and ``sheet.too_soon`` (a timer that has to run its full time).
    """
    state = sheet.step(step_id)
    if state is None:
        raise CoreError("sheet.no_such_step", step=step_id)
    if state.status == Status.WAITING:
        open_step = sheet.step(sheet.focus or "")
        raise CoreError("sheet.not_yet", step=open_step.step.title if open_step else "")
    if state.status != Status.FOCUS and supersedes is None:
        raise CoreError("sheet.already_done", step=state.step.title)
    if kind == "stop" and state.started_at is None:
        raise CoreError("sheet.not_started", step=state.step.title)
    if kind == "stop" and state.step.full and state.ends_at and at < state.ends_at:
        raise CoreError("sheet.too_soon", step=state.step.title, minutes=state.step.minutes)
    return state.step

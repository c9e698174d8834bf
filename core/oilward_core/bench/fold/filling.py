"""Filling a reservoir, from what flowed and was read: rounds that happened, and the one in hand."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from decimal import Decimal

from ...codes.bench import Sight
from ...codes.fill import Acts, Start
from ...codes.roles import Role
from ...codes.steps import Name
from ...errors import CoreError
from ...fill import (
    ACTS,
    Advice,
    CauseFound,
    EdgeRead,
    FillCase,
    FillEvent,
    FilterAnew,
    Left,
    LevelReading,
    Lost,
    Poured,
    Ran,
    WrongOil,
    case_of,
    coach,
    fell,
    marks_seen,
    part_of,
    start_of,
    will_rise,
)
from ...fill import Sight as FillSight
from ...runsheet import Round, StepId, TaskPlan, ran_out_id
from ...said import bench as said
from ...spec import IDLING, LevelCheck, Variant, needed
from ..asks.fill import PouredIn
from ..asks.filter import FilterOn
from ..asks.level import CauseNamed, LeftHere, LevelRead
from ..asks.ran_out import RanOut
from ..entries import Entry
from .draining import out_before_it_was_shut
from .facts import Facts, Timer, Way, shut
from .known import Bench, Filling

TO_LOOK = Decimal(3)  # minutes from settled to read, at the least [def]
RUNS_DOWN = Decimal(1)  # minutes until what was poured stands in the glass, before any run [def]


def fill_case(task: TaskPlan, facts: Facts) -> FillCase:
    """What the coach has to know; of a gauge that cannot be read nothing. Raises CoreError
    ``fill.no_capacity``."""
    case = _gauged(task, facts)
    return replace(case, gauge=None, edge=False) if _by_the_book(task, facts) else case


def _by_the_book(task: TaskPlan, facts: Facts) -> bool:
    """Whether a lead has said that its gauge cannot be read."""
    return any(_cannot_be_read(one) for one in facts.events.get(task.reservoir.key, ()))


def _cannot_be_read(entry: Entry) -> bool:
    """Whether it says that the gauge cannot be read."""
    data = entry.data
    return isinstance(data, CauseNamed) and ACTS[data.cause] == Acts.BY_THE_BOOK


def _gauged(task: TaskPlan, facts: Facts) -> FillCase:
    """What the coach has to know where its gauge can be read."""
    if task.capacity is None:
        raise CoreError("fill.no_capacity")
    out = out_before_it_was_shut(task, facts)
    if out is not None:
        events = facts.events.get(task.reservoir.key, ())
        anew = any(isinstance(entry.data, FilterOn) for entry in events)
        variant = task.variant if anew else Variant.DRAIN_ONLY
        return part_of(
            case_of(task.reservoir, variant, task.capacity, task.before), out, new_filter=anew
        )
    return case_of(task.reservoir, task.variant, task.capacity, task.before)


@dataclass(frozen=True)
class _Since:
    """A reading among what happened before it: the last pour, the last run, when it began to settle."""

    poured: datetime | None
    run: Timer | None
    settled_from: datetime | None


def _since(entry: Entry, key: str, facts: Facts) -> _Since:
    pours = [f.at for f in facts.poured(key) if f.at <= entry.at]
    poured = pours[-1] if pours else None
    runs = [r for r in facts.runs if r.started <= entry.at and (not poured or r.started >= poured)]
    run = runs[-1] if runs else None
    settle = facts.timers.get(str(StepId(key, Name.SETTLE, "", StepId.of(entry.step).round)))
    begun = run.stopped if run else poured
    if settle and begun and settle.started >= begun:
        begun = settle.started
    return _Since(poured, run, begun)


def _why_unused_before(
    level: LevelCheck, start: Start, since: _Since, at: datetime, bench: Bench
) -> str:
    """Why a look before the first start is not used."""
    if start == Start.TANK:
        return said.TANK_BEFORE
    down = bench.length(min(RUNS_DOWN, level.settle_minutes))
    return said.RUNNING_DOWN if since.poured is None or at - since.poured < down else ""


def why_unused(entry: Entry, read: LevelRead, task: TaskPlan, facts: Facts, bench: Bench) -> str:
    """Why a level reading is kept but not used; empty if it is valid."""
    level = task.reservoir.level
    if level is None:
        return ""
    second = level.second.attitude if level.second else level.attitude
    if read.attitude not in (level.attitude, second):
        return said.wrong_attitude(read.attitude, level.gauge, level.attitude)
    key, start = task.reservoir.key, start_of(task.reservoir)
    since, ran = _since(entry, key, facts), facts.ran_on(key)
    if start != Start.NONE and (not ran or ran[0].started > entry.at):
        return _why_unused_before(level, start, since, entry.at, bench)
    if level.run_minutes:
        lasted = since.run.lasted(entry.at) if since.run else timedelta(0)
        if lasted < bench.length(level.run_minutes):
            return said.TOO_SHORT
    if level.engine == IDLING:
        stopped = since.run.stopped if since.run else None
        return said.ENGINE_OFF if stopped and stopped < entry.at else ""
    settled = entry.at - since.settled_from if since.settled_from else timedelta(0)
    if settled < bench.length(level.settle_minutes):
        return said.too_soon(f"{level.settle_minutes:f}")
    return said.too_late(f"{level.latest:f}") if _late(level, since, entry.at, bench) else ""


def _rises(task: TaskPlan, facts: Facts) -> dict[str, Decimal]:
    """What was read cold, by its entry's id, with by how many ml it will have swollen."""
    read = facts.events.get(task.reservoir.key, ())
    return {one.id: rise for one in read if (rise := _rise(one, task, facts))}


def _late(level: LevelCheck, since: _Since, at: datetime, bench: Bench) -> bool:
    """Whether the oil has drained back by then, or gone cold; never before it could settle."""
    stopped = since.run.stopped if since.run else None
    if level.latest is None or stopped is None:
        return False
    return at - stopped > bench.length(max(level.latest, level.settle_minutes + TO_LOOK))


def _gone_stale(task: TaskPlan, facts: Facts, bench: Bench) -> datetime | None:
    """When it was read too late last: no run before that counts for a level any more."""
    key, level = task.reservoir.key, task.reservoir.level
    read = [one for one in facts.events.get(key, ()) if isinstance(one.data, LevelRead)]
    late = [
        one.at for one in read if level and _late(level, _since(one, key, facts), one.at, bench)
    ]
    return max(late, default=None)


def _rise(entry: Entry, task: TaskPlan, facts: Facts) -> Decimal:
    """By how many ml what was read cold will have swollen. Not before the first start: how far it falls
    there was learned on oil as warm."""
    read, level, key = entry.data, task.reservoir.level, task.reservoir.key
    if not isinstance(read, LevelRead) or read.celsius is None or level is None:
        return Decimal(0)
    ran = facts.ran_on(key)
    if start_of(task.reservoir) != Start.NONE and (not ran or ran[0].started > entry.at):
        return Decimal(0)
    flows = [flow for flow in facts.flows if flow.reservoir == key and flow.at <= entry.at]
    return will_rise(sum((flow.into for flow in flows), Decimal(0)), read.celsius, level.engine)


def _reading(read: LevelRead, level: LevelCheck | None, valid: bool, rise: Decimal) -> LevelReading:
    """A reading on the first pair of marks, as it will stand warm; one on the second is carried over by
    its ml."""
    position = read.position
    if level and rise:
        between = level.between_marks
        if level.second and read.attitude == level.second.attitude:
            between = level.second.between
        position += round(rise / between, 3)
    if level and level.second and read.attitude == level.second.attitude:
        below = (level.second.target - position) * level.second.between
        position = level.target - below / level.between_marks
    sights: dict[Sight, FillSight] = {Sight.BELOW: "below", Sight.ABOVE: "above"}
    return LevelReading(sights.get(read.sight, "seen"), position, valid)


def _happened(task: TaskPlan, facts: Facts, bench: Bench) -> tuple[list[FillEvent], dict[str, str]]:
    """What the coach hears of, oldest first."""
    events: list[FillEvent] = []
    unused: dict[str, str] = {}
    key = task.reservoir.key
    ahead = facts.ran_on(key)
    for entry in facts.events.get(key, ()):
        while ahead and ahead[0].started <= entry.at:
            events.append(Ran())
            ahead.pop(0)
        if isinstance(entry.data, LevelRead):
            why = why_unused(entry, entry.data, task, facts, bench)
            if why:
                unused[entry.id] = why
            if task.reservoir.level and task.reservoir.level.edge:
                runs = entry.data.sight == Sight.RUNS_OUT
                events.append(EdgeRead(runs, entry.data.ml, not why))
                continue
            rise = _rise(entry, task, facts)
            events.append(_reading(entry.data, task.reservoir.level, not why, rise))
        else:
            events.append(_event(entry, key, facts, ran=any(isinstance(e, Ran) for e in events)))
            if is_wrong_oil(entry, facts):
                events.append(WrongOil())
    return ([*events, Ran()] if ahead else events), unused


def is_wrong_oil(entry: Entry, facts: Facts) -> bool:
    """Whether an oil was poured that may not go in there, and no lead has said why it stays."""
    data = entry.data
    return isinstance(data, PouredIn) and data.refused and entry.id not in facts.answered


def _event(entry: Entry, key: str, facts: Facts, *, ran: bool) -> FillEvent:
    """Oil that flowed, a filter changed again once the engine ``ran``, or a cause that was named."""
    if isinstance(entry.data, CauseNamed):
        return CauseFound(entry.data.cause, entry.data.words)
    ml = sum((flow.into for flow in facts.flows if flow.entry.id == entry.id), Decimal(0))
    if isinstance(entry.data, LeftHere):
        return Left(entry.data.reason is not None)
    if isinstance(entry.data, RanOut):
        return Lost(-ml)
    if isinstance(entry.data, FilterOn) and ran:
        return FilterAnew(ml, facts.prefill_gone.get(key, Decimal(0)))
    return Poured(ml, prefill=isinstance(entry.data, FilterOn))


def _rounds(task: TaskPlan, facts: Facts, advice: Advice) -> tuple[Round, ...]:
    """The fillings that happened, by their numbers, and the one in hand."""
    key = task.reservoir.key
    drawn = {f.round: f.way == Way.DRAWN for f in facts.poured(key)}
    events = facts.events.get(key, ())
    looked = (e for e in events if isinstance(e.data, LevelRead | LeftHere) or _cannot_be_read(e))
    steps = [StepId.of(e.step) for e in looked]
    settled = [StepId.of(step) for step in facts.timers]
    read = {step.round for step in steps if step.name == Name.LEVEL}
    # whoever lets it settle goes on to read it
    read |= {step.round for step in settled if step[:2] == (key, Name.SETTLE)}
    last = max([0, *drawn, *read, *(step.round for step in steps)])
    rounds = [Round(drawn.get(n, False), n in read) for n in range(1, last + 1)]
    draws = advice.action == "remove"
    if advice.action in ("pour", "look", "remove") and not _in_hand(rounds, draws, advice):
        rounds.append(Round(draws, False, advice.again))
    elif advice.action == "read" or (last in drawn and _shut_to_run(key, facts, advice)):
        rounds[-1:] = [replace(one, read=True) for one in rounds[-1:]]
    return tuple(rounds)


def _shut_to_run(key: str, facts: Facts, advice: Advice) -> bool:
    """Whether its filler was shut on what an engine may run on, more to go in or not."""
    return (
        advice.enough
        and advice.action in ("pour", "look")
        and shut(facts.fastener(key, Role.FILL_PLUG))
    )


def _in_hand(rounds: list[Round], draws: bool, advice: Advice) -> bool:
    """Whether the last round is still the one in hand: nothing was read after it, and it goes the same
    way. Drained again stands for itself."""
    if not rounds or rounds[-1].read or rounds[-1].draws != draws:
        return False
    return not draws


def _counted(key: str, facts: Facts) -> bool:
    """Whether of all that let oil out of it somebody has said how much."""
    asked = (ran_out_id(key, one.entry) for one in facts.opened_again.get(key, ()))
    return all(str(step) in facts.last for step in asked)


def _unread(events: Iterable[FillEvent]) -> Iterator[FillEvent]:
    """What was read of a gauge that cannot be read tells nothing; what ran out of an edge is gone."""
    for one in events:
        if isinstance(one, EdgeRead):
            if one.ml:
                yield Lost(one.ml)
        elif not isinstance(one, LevelReading | Left):
            yield one


def filling_of(task: TaskPlan, facts: Facts, bench: Bench) -> Filling:
    """How the filling of a reservoir stands; before its values are looked up, it has not begun.

    Raises CoreError ``fill.no_capacity``.
    """
    if set(needed(task.reservoir, task.variant)) & set(task.asks):
        poured = facts.poured(task.reservoir.key)
        rounds = tuple(Round(f.way == Way.DRAWN, False) for f in poured) or (Round(),)
        return Filling(rounds=rounds, advice=None, right=False, enough=False)
    case = fill_case(task, facts)
    events, unused = _happened(task, facts, bench)
    if case.gauge is None and not case.edge:
        events = list(_unread(events))
    advice = coach(case, events)
    return Filling(
        rounds=_rounds(task, facts, advice),
        advice=advice,
        right=advice.action == "done",
        counted=_counted(task.reservoir.key, facts),
        enough=advice.enough and bool(facts.poured(task.reservoir.key)),
        unused=unused,
        rises=_rises(task, facts),
        stale=_gone_stale(task, facts, bench),
        fell=fell(case, events),
        marks=marks_seen(case.gauge, events) if case.gauge and case.gauge.assumed else None,
    )


def fillings_of(tasks: Mapping[str, TaskPlan], facts: Facts, bench: Bench) -> dict[str, Filling]:
    """The filling of each reservoir that is drained in this visit."""
    return {
        key: filling_of(task, facts, bench)
        for key, task in tasks.items()
        if task.reservoir.facts.drained
    }

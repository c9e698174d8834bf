"""Filling a reservoir, from what flowed and was read: rounds that happened, and the one in hand."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from decimal import Decimal

from ...codes.bench import Sight
from ...codes.fill import Acts
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
)
from ...runsheet import Round, StepId, TaskPlan, ran_out_id
from ...spec import Variant, needed
from ..asks.fill import PouredIn
from ..asks.filter import FilterOn
from ..asks.level import CauseNamed, LeftHere, LevelRead
from ..asks.ran_out import RanOut
from ..entries import Entry
from .draining import out_before_it_was_shut
from .facts import Facts, Way, shut
from .known import Bench, Filling
from .level_reads import gone_stale, reading_of, rise_of, rises, tilt_seen, tilted, why_unused


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
            rise = rise_of(entry, task, facts)
            events.append(reading_of(entry.data, task, not why, rise))
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
        rises=rises(task, facts),
        stale=gone_stale(task, facts, bench),
        fell=fell(case, events),
        takes=_takes(case, advice),
        tilt=tilt_seen(task, facts, bench),
        tilted=tilted(task, facts),
        marks=marks_seen(case.gauge, events) if case.gauge and case.gauge.assumed else None,
    )


def _takes(case: FillCase, advice: Advice) -> Decimal | None:
    """What brings it to the target, once its level is right: what went in is up to an eighth of the glass
    more or less, and where it was left on purpose, more."""
    gauged = case.gauge is not None or case.edge
    return Decimal(round(advice.belief.mean)) if gauged and advice.action == "done" else None


def fillings_of(tasks: Mapping[str, TaskPlan], facts: Facts, bench: Bench) -> dict[str, Filling]:
    """The filling of each reservoir that is drained in this visit."""
    return {
        key: filling_of(task, facts, bench)
        for key, task in tasks.items()
        if task.reservoir.facts.drained
    }

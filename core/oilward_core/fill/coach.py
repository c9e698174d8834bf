"""The fill coach: an estimator of how much new oil the gauge will take.

It believes ``x ~ N(μ, σ²)`` ml brings the level to the target, pours as much as it safely can, looks at
the gauge before the first start where that tells something, and learns from each valid reading.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from ..codes.fill import Cause, Contradiction, Start
from ..guard import Sound, guarded, whole_table
from ..reasons import Reason, Source
from ..said import fill as said
from .belief import Belief, floored, prior
from .case import FillCase, FillEvent, Gauge, LevelReading
from .edge import EdgeState, enough_at_edge, known_at_edge, missing_at_edge
from .learned import IN_TOLERANCE, STEP, State, known, known_marks, may_stay

Action = Literal["pour", "remove", "look", "read", "done", "stop"]

# of what is between the marks: how far short of the target a bike that is new here is filled before its
# first start, in case it stands tilted and nobody sees it [our definition]
SHORT_OF_IT = 0.04
SAFE = 2.33  # one-sided 99 % quantile: at most 1 % of pours pass the high mark
WORTH_POURING = 0.05  # of what is between the marks: less than that waits for the next reading
IN_SIGHT = 0.9  # of the glass, where a look before the first start still finds it [our definition]
TANK_STARTS_WITH = Decimal(
    "0.8"
)  # of the book, where the sheet names no first amount [our definition]
RIGHT_WITHIN = Decimal(5)  # ml of an exact quantity, or 1 % of it [def]

CAUSES: dict[Contradiction, tuple[Cause, ...]] = whole_table(
    Contradiction,
    {
        Contradiction.FULL_EARLY: (Cause.OLD_OIL, Cause.ATTITUDE, Cause.TOO_SOON),
        Contradiction.LOW_LATE: (Cause.LEAK, Cause.CAPACITY, Cause.NOT_COUNTED),
        Contradiction.OFF: (Cause.AMOUNT, Cause.MISREAD, Cause.NOT_AS_ASKED),
    },
)


@dataclass(frozen=True, kw_only=True)
class Advice(Sound):
    """What to do now. ``ml`` to pour or remove, ``added`` so far, ``causes`` when it stops; ``again``:
    all of it comes out, and old oil with it; ``enough``: an engine may run on what is in; ``may_stay``:
    it stands inside its marks, and may be left there for a reason; ``runs``: its level is read after a
    run."""

    action: Action
    ml: Decimal
    added: Decimal
    belief: Belief
    causes: tuple[Cause, ...]
    reasons: tuple[Reason, ...]
    again: bool = False
    enough: bool = False
    may_stay: bool = False
    runs: bool = True


def _floor(ml: float | Decimal) -> Decimal:
    return Decimal(int(ml // STEP) * STEP)


def _within(case: FillCase, rest: Decimal) -> bool:
    return abs(rest) <= max(case.capacity / 100, RIGHT_WITHIN)


def _stands_in_it(gauge: Gauge, state: State) -> bool:
    """Whether a reading stood at the low mark or above, and still would with what flowed since."""
    if state.stood is None:
        return False
    position, added = state.stood
    return position + (state.added - added) / float(gauge.between_marks) >= 0


def _low_mark(gauge: Gauge, takes: Belief) -> float:
    """How much is in when it stands at the low mark, by what it is believed to take: μ − t·V."""
    return takes.mean - float(gauge.target * gauge.surely)


def _enough(case: FillCase, state: State) -> bool:
    """Whether an engine may run on what is in: at the low mark by what is believed, or by a reading; of a
    tank the sheet's first amount, else 0.8 of the book; all of an exact quantity [def]."""
    added = Decimal(str(round(state.added, 3)))
    if state.drains or added <= 0:
        return False
    if case.gauge is None:
        return _within(case, case.capacity - added)
    if case.start == Start.TANK:
        return added >= (case.initial or case.capacity * TANK_STARTS_WITH)
    low = round(_low_mark(case.gauge, state.belief))
    return state.added >= low or _stands_in_it(case.gauge, state)


def _was_seen(state: State) -> bool:
    """Whether the oil has been seen in the glass, or above it."""
    return state.last is not None and state.last.sight != "below"


def _is_new_here(case: FillCase) -> bool:
    """Whether nobody knows yet what it takes, nor how far its level falls at the first start."""
    return not case.took and (case.drop is None or case.drop.sd >= case.capacity / 100)


def _safe(case: FillCase, gauge: Gauge, state: State) -> tuple[Decimal, Reason]:
    """How much more can go in: to the target, or to where it passes the high mark once in a hundred."""
    between, target = float(gauge.surely), float(gauge.target)
    gap = state.belief.mean - state.added
    if case.part and state.last is None:
        # as much as came out brings it to where it stood
        text = said.what_came_out(float(case.capacity))
        return _floor(gap), Reason("what came out", text, Source.HISTORY)
    safe = gap + (1 - target) * between - SAFE * floored(case, state.belief).sd
    if state.before_start and state.last is not None and _is_new_here(case):
        gap -= SHORT_OF_IT * between
    amount, initial = min(gap, safe), ""
    if state.last is None and case.initial is not None and state.added < case.initial:
        amount = min(amount, float(case.initial) - state.added)
        initial = f"{case.initial:.0f}"
    if state.before_start and case.drop is not None and not _was_seen(state):
        # so that the first look finds it in the glass, and tells how much is missing
        in_sight = state.joint.before.mean + (IN_SIGHT - target) * between - state.added
        if in_sight < amount - WORTH_POURING * between:
            amount = in_sight
    if state.last and state.last.sight == "below" and not state.flowed_since:
        amount = max(amount, target * between)
    text = said.gap(gap, safe, initial)
    return _floor(amount), Reason("safe pour", text, Source.DEFINED)


def _excess(gauge: Gauge, state: State, reading: LevelReading) -> Decimal:
    believed = _floor(state.added - state.belief.mean)
    if state.before_start:
        # it still falls when filter and galleries fill
        return believed
    if reading.sight == "seen":
        excess = _floor((reading.position - gauge.target) * gauge.between_marks)
    else:
        excess = max(believed, _floor((1 - gauge.target) * gauge.between_marks))
    return max(excess, Decimal(STEP))


def _removable(case: FillCase, gauge: Gauge, state: State) -> Decimal:
    """How much may come out: never below the low mark by the sum, whatever the gauge says. Where it was
    seen in the glass the sum is what it is believed to take by now, else by the book."""
    seen = state.trust_book and state.last is not None and state.last.sight == "seen"
    takes = state.belief if seen else prior(case)[0]
    return _floor(state.added - _low_mark(gauge, takes))


def _advise(
    case: FillCase, state: State, action: Action, ml: Decimal, why: Reason | None = None
) -> Advice:
    causes: tuple[Cause, ...] = ()
    if action == "stop" and state.contradiction is not None:
        causes = (*CAUSES[state.contradiction], Cause.GAUGE)
    reasons = (*state.reasons, why) if why else state.reasons
    return Advice(
        action=action,
        ml=ml,
        added=Decimal(round(state.added)),
        belief=floored(case, state.belief),
        causes=causes,
        reasons=reasons,
        again=action == "remove" and state.drains,
        enough=_enough(case, state),
        may_stay=may_stay(state),
        runs=case.start != Start.NONE,
    )


def _advise_exact(case: FillCase, state: State) -> Advice:
    rest = case.capacity - Decimal(str(round(state.added, 3)))
    why = Reason("exact quantity", said.exact(f"{case.capacity:.0f}"), Source.MANUAL)
    if _within(case, rest):
        return _advise(case, state, "done", Decimal(0), why)
    action: Action = "pour" if rest > 0 else "remove"
    return _advise(case, state, action, Decimal(abs(round(rest))), why)


def _advise_at_edge(case: FillCase, state: EdgeState) -> Advice:
    """Poured until oil runs out of its level plug; what is too much runs out by itself."""
    action: Action = "done" if state.ran_out else "read"
    ml = Decimal(0)
    if state.drains and state.added > 0:
        action, ml = "remove", _floor(state.added) or Decimal(STEP)
    elif not state.ran_out:
        ml = missing_at_edge(case, state)
        action = "pour" if ml else "read"
    return Advice(
        action=action,
        ml=ml,
        added=Decimal(round(state.added)),
        belief=state.belief,
        causes=(),
        reasons=state.reasons,
        again=action == "remove",
        enough=enough_at_edge(case, state),
        runs=case.start != Start.NONE,
    )


def _more(case: FillCase, gauge: Gauge, state: State) -> Advice:
    """With oil in since it was last read: pour on while it is safe, look where that tells something, and
    run it when there is enough for that."""
    ml, why = _safe(case, gauge, state)
    if state.drawn and (case.start == Start.NONE or _enough(case, state)):
        # drawn down to the target: what is there is read before anything goes in again
        return _advise(case, state, "read", Decimal(0))
    if ml >= max(STEP, WORTH_POURING * float(gauge.between_marks)):
        return _advise(case, state, "pour", ml, why)
    looked = state.last is not None and not state.flowed_since
    tells = case.drop is not None and state.last is None
    if (
        state.before_start
        and case.start == Start.SUMP
        and not looked
        and (tells or not _enough(case, state))
    ):
        return _advise(case, state, "look", Decimal(0))
    if case.start == Start.NONE or _enough(case, state):
        return _advise(case, state, "read", Decimal(0))
    # nothing tells more than has been looked at: on to the low mark, by what is believed
    rest = _floor(_low_mark(gauge, state.belief) - state.added + STEP)
    return _advise(case, state, "pour", max(rest, Decimal(STEP)), why)


def _over(case: FillCase, gauge: Gauge, state: State, reading: LevelReading) -> Advice:
    ml = min(_excess(gauge, state, reading), _removable(case, gauge, state))
    if ml <= 0:
        off = replace(state, contradiction=Contradiction.OFF)
        return _advise(case, off, "stop", Decimal(0))
    why = Reason("overfilled", said.OVERFILLED, Source.TRADE)
    return _advise(case, state, "remove", ml, why)


def _after(case: FillCase, gauge: Gauge, state: State, reading: LevelReading) -> Advice:
    """Right after a reading."""
    if state.before_start:
        between = float(gauge.between_marks)
        over = state.added - state.belief.mean > (1 - float(gauge.target)) * between
        return _over(case, gauge, state, reading) if over else _more(case, gauge, state)
    seen = reading.sight == "seen"
    if state.left or (seen and abs(reading.position - gauge.target) <= IN_TOLERANCE):
        return _advise(case, state, "done", Decimal(0))
    if reading.sight == "above" or (seen and reading.position > gauge.target):
        return _over(case, gauge, state, reading)
    ml, why = _safe(case, gauge, state)
    return _advise(case, state, "pour", max(ml, Decimal(STEP)), why)


def _can_be_read_again(case: FillCase, state: State, unused: LevelReading) -> bool:
    """Without a run first: one that was called wrong was taken as it should be; or it may run on what is
    in."""
    return unused.valid or state.before_start or case.start == Start.NONE or _enough(case, state)


@guarded
def coach(case: FillCase, events: Sequence[FillEvent]) -> Advice:
    """What to do next, given everything poured and read so far (oldest first).

    *pour* and *remove* name ml; *look*: at the gauge, before the first start; *read*: run it where its
    sheet says so, and read it; *done* is within an eighth of a glass of the target; *stop* lists what
    may be wrong (contradiction between gauge and book). Raises CoreError ``fill.no_capacity``.
    """
    if case.edge:
        return _advise_at_edge(case, known_at_edge(case, events))
    case = known_marks(case, events)
    state = known(case, events)
    if state.drains and state.added > 0:
        why = Reason("old oil left", said.DRAIN_AGAIN, Source.TRADE)
        return _advise(case, state, "remove", _floor(state.added) or Decimal(STEP), why)
    if case.gauge is None:
        return _advise_exact(case, state)
    if state.contradiction and not state.flowed_since:
        return _advise(case, state, "stop", Decimal(0))
    if state.unused is not None and _can_be_read_again(case, state, state.unused):
        return _advise(case, state, "look" if state.before_start else "read", Decimal(0))
    if state.last is None or state.flowed_since:
        return _more(case, case.gauge, state)
    return _after(case, case.gauge, state, state.last)

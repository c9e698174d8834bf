"""The fill coach: an estimator of how much new oil the gauge will take.

It believes ``x ~ N(μ, σ²)`` ml brings the level to the target, pours as much as it safely can, and
learns from each valid reading. Amounts are ml; a reading r is 0 at the low mark and 1 at the high.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from math import sqrt
from typing import Literal

from ..codes.fill import Acts, Cause, Contradiction
from ..guard import Sound, guarded, whole_table
from ..reasons import Reason, Source
from ..said import fill as said
from .belief import Belief, combine, prior, truncate_above, truncate_below
from .case import CauseFound, FillCase, FillEvent, Gauge, LevelReading, Poured

Action = Literal["pour", "remove", "read", "done", "stop"]

SAFE = 2.33  # one-sided 99 % quantile: at most 1 % of pours pass the high mark
IN_TOLERANCE = Decimal("0.125")  # of a glass
STEP = 10  # ml, as fine as anybody pours
RIGHT_WITHIN = Decimal(5)  # ml of an exact quantity, or 1 % of it [def]
FULL_EARLY, LOW_LATE, OFF = 0.85, 1.05, 4.0


@dataclass(frozen=True, kw_only=True)
class Advice(Sound):
    """What to do now. ``ml`` to pour or remove, ``added`` so far, ``causes`` when it stops; ``again``:
    all of it comes out, and old oil with it."""

    action: Action
    ml: Decimal
    added: Decimal
    belief: Belief
    causes: tuple[Cause, ...]
    reasons: tuple[Reason, ...]
    again: bool = False


# what each cause does, once somebody has named it
ACTS: dict[Cause, Acts] = whole_table(
    Cause,
    {
        Cause.OLD_OIL: Acts.DRAIN_AGAIN,
        Cause.ATTITUDE: Acts.READ_AGAIN,
        Cause.TOO_SOON: Acts.READ_AGAIN,
        Cause.LEAK: Acts.BELIEVE,
        Cause.CAPACITY: Acts.BELIEVE,
        Cause.NOT_COUNTED: Acts.CORRECT,
        Cause.AMOUNT: Acts.CORRECT,
        Cause.MISREAD: Acts.READ_AGAIN,
        Cause.NOT_AS_ASKED: Acts.READ_AGAIN,
        Cause.ELSE: Acts.BELIEVE,
    },
)
CAUSES: dict[Contradiction, tuple[Cause, ...]] = whole_table(
    Contradiction,
    {
        Contradiction.FULL_EARLY: (Cause.OLD_OIL, Cause.ATTITUDE, Cause.TOO_SOON),
        Contradiction.LOW_LATE: (Cause.LEAK, Cause.CAPACITY, Cause.NOT_COUNTED),
        Contradiction.OFF: (Cause.AMOUNT, Cause.MISREAD, Cause.NOT_AS_ASKED),
    },
)


def _measure(gauge: Gauge, added: float, position: float) -> tuple[float, float]:
    """A reading as a measurement of x, ml: ``z = A + (t − r)·V`` and its spread."""
    between, gap = float(gauge.between_marks), float(gauge.target) - position
    return added + gap * between, sqrt((0.06 * between) ** 2 + (0.1 * abs(gap) * between) ** 2)


@dataclass(frozen=True, kw_only=True)
class _State:
    """``before``: as it was before the last reading; ``drains``: old oil is left, it is drained again."""

    belief: Belief
    added: float
    reasons: tuple[Reason, ...]
    trust_book: bool = True
    last: LevelReading | None = None
    poured_since: bool = False
    contradiction: Contradiction | None = None
    before: "_State | None" = None
    drains: bool = False


def _contradiction(
    case: FillCase, gauge: Gauge, state: _State, reading: LevelReading
) -> Contradiction | None:
    position = {"below": -0.01, "above": 1.01}.get(reading.sight, float(reading.position))
    low = position < float(gauge.target - IN_TOLERANCE)
    if state.trust_book and not low and state.added < FULL_EARLY * float(case.capacity):
        return Contradiction.FULL_EARLY
    if state.trust_book and low and state.added > LOW_LATE * float(case.capacity):
        return Contradiction.LOW_LATE
    measured, spread = _measure(gauge, state.added, position)
    off = measured - state.belief.mean
    beyond = {"below": off > 0, "above": off < 0, "seen": True}[reading.sight]
    # against what could be expected of this reading: its own scatter and the belief's together
    far = beyond and abs(off) > OFF * sqrt(spread**2 + state.belief.sd**2)
    return Contradiction.OFF if far else None


def _learn(gauge: Gauge, state: _State, reading: LevelReading) -> tuple[Belief, Reason]:
    between, target = float(gauge.between_marks), float(gauge.target)
    if reading.sight == "below":
        belief = truncate_below(state.belief, state.added + target * between)
        text = said.BELOW
    elif reading.sight == "above":
        belief = truncate_above(state.belief, state.added + (target - 1) * between)
        text = said.ABOVE
    else:
        position = float(reading.position)
        measured, spread = _measure(gauge, state.added, position)
        belief = combine(state.belief, measured, spread)
        text = said.reading(position, state.added, between, measured, spread)
    return belief, Reason("valid reading", text, Source.DEFINED)


def _fold_reading(case: FillCase, state: _State, reading: LevelReading) -> _State:
    if not reading.valid or case.gauge is None:
        return state
    contradiction = _contradiction(case, case.gauge, state, reading)
    belief, reason = state.belief, Reason("contradiction", contradiction or "", Source.DEFINED)
    if contradiction is None:
        belief, reason = _learn(case.gauge, state, reading)
    return replace(
        state,
        belief=belief,
        last=reading,
        poured_since=False,
        contradiction=contradiction,
        reasons=(*state.reasons, reason),
        before=replace(state, before=None),
        drains=state.drains and contradiction is not None,
    )


def _believe_gauge(case: FillCase, state: _State, why: Reason) -> _State:
    """Start again from the last reading alone, with the book no longer trusted."""
    fresh = _State(
        belief=Belief(state.added, float(case.capacity)),
        added=state.added,
        trust_book=False,
        poured_since=state.poured_since,
        reasons=(why,),
    )
    return _fold_reading(case, fresh, state.last) if state.last else fresh


def _found(case: FillCase, state: _State, event: CauseFound) -> _State:
    """What a cause does, where gauge and book still disagree."""
    if state.contradiction is None:
        return state
    why = Reason("cause found", said.cause_found(event.cause, event.words), Source.HISTORY)
    acts = ACTS[event.cause]
    if acts == Acts.BELIEVE:
        return _believe_gauge(case, state, why)
    if acts == Acts.READ_AGAIN and state.before is not None:
        # it is as if it had never been read, but for what was poured meanwhile
        known = state.before
        return replace(known, added=state.added, poured_since=True, reasons=(*known.reasons, why))
    return replace(
        state, drains=state.drains or acts == Acts.DRAIN_AGAIN, reasons=(*state.reasons, why)
    )


def _fold_flow(case: FillCase, state: _State, event: Poured) -> _State:
    """The sum of what went in. Drained again, with the old oil that was left, the fill begins anew."""
    added = state.added + float(event.ml)
    if state.drains and event.ml < 0 and added < STEP:
        return _State(belief=prior(case)[0], added=max(0.0, added), reasons=state.reasons)
    return replace(state, added=added, poured_since=state.poured_since or not event.prefill)


def _fold(case: FillCase, events: Sequence[FillEvent]) -> _State:
    belief, reason = prior(case)
    state = _State(belief=belief, added=0.0, reasons=(reason,))
    for event in events:
        if isinstance(event, Poured):
            state = _fold_flow(case, state, event)
        elif isinstance(event, LevelReading):
            state = _fold_reading(case, state, event)
        else:
            state = _found(case, state, event)
    return state


def _floor(ml: float | Decimal) -> Decimal:
    return Decimal(int(ml // STEP) * STEP)


def _pour(case: FillCase, gauge: Gauge, state: _State) -> tuple[Decimal, Reason]:
    between, target = float(gauge.between_marks), float(gauge.target)
    gap = state.belief.mean - state.added
    safe = gap + (1 - target) * between - SAFE * state.belief.sd
    amount = min(gap, safe)
    initial = ""
    if state.last is None and case.initial is not None:
        amount = min(amount, float(case.initial) - state.added)
        initial = f"{case.initial:f}"
    if state.last and state.last.sight == "below":
        amount = max(amount, target * between)
    text = said.gap(gap, safe, initial)
    return max(_floor(amount), Decimal(STEP)), Reason("safe pour", text, Source.DEFINED)


def _excess(gauge: Gauge, state: _State, reading: LevelReading) -> Decimal:
    if reading.sight == "seen":
        excess = _floor((reading.position - gauge.target) * gauge.between_marks)
    else:
        to_high_mark = _floor((1 - gauge.target) * gauge.between_marks)
        excess = max(_floor(state.added - state.belief.mean), to_high_mark)
    return max(excess, Decimal(STEP))


def _removable(case: FillCase, gauge: Gauge, state: _State) -> Decimal:
    """How much may come out: never below the low mark by the sum, whatever the gauge says."""
    low = prior(case)[0].mean - float(gauge.target * gauge.between_marks)
    return _floor(state.added - low)


def _advise(state: _State, action: Action, ml: Decimal, why: Reason | None = None) -> Advice:
    causes = CAUSES[state.contradiction] if action == "stop" and state.contradiction else ()
    reasons = (*state.reasons, why) if why else state.reasons
    return Advice(
        action=action,
        ml=ml,
        added=Decimal(round(state.added)),
        belief=state.belief,
        causes=causes,
        reasons=reasons,
        again=action == "remove" and state.drains,
    )


def _advise_exact(case: FillCase, state: _State) -> Advice:
    rest = case.capacity - Decimal(str(round(state.added, 3)))
    why = Reason(
        "exact quantity",
        said.exact(f"{case.capacity:.0f}"),
        Source.MANUAL,
    )
    if abs(rest) <= max(case.capacity / 100, RIGHT_WITHIN):
        return _advise(state, "done", Decimal(0), why)
    return _advise(state, "pour" if rest > 0 else "remove", Decimal(abs(round(rest))), why)


@guarded
def coach(case: FillCase, events: Sequence[FillEvent]) -> Advice:
    """What to do next, given everything poured and read so far (oldest first).

    *pour* and *remove* name ml; *read* waits for a valid reading; *done* is within an eighth of a
    glass of the target; *stop* lists what may be wrong (contradiction between gauge and book).
    Raises CoreError ``fill.no_capacity``.
    """
    state = _fold(case, events)
    if case.gauge is None:
        return _advise_exact(case, state)
    if state.drains and state.added > 0:
        why = Reason("old oil left", said.DRAIN_AGAIN, Source.TRADE)
        return _advise(state, "remove", _floor(state.added) or Decimal(STEP), why)
    if state.contradiction and not state.poured_since:
        return _advise(state, "stop", Decimal(0))
    reading = state.last
    if state.poured_since:
        return _advise(state, "read", Decimal(0))
    if reading is None:
        return _advise(state, "pour", *_pour(case, case.gauge, state))
    if reading.sight == "seen" and abs(reading.position - case.gauge.target) <= IN_TOLERANCE:
        return _advise(state, "done", Decimal(0))
    if reading.sight == "above" or (
        reading.sight == "seen" and reading.position > case.gauge.target
    ):
        ml = min(_excess(case.gauge, state, reading), _removable(case, case.gauge, state))
        if ml <= 0:
            return _advise(replace(state, contradiction=Contradiction.OFF), "stop", Decimal(0))
        why = Reason("overfilled", said.OVERFILLED, Source.TRADE)
        return _advise(state, "remove", ml, why)
    return _advise(state, "pour", *_pour(case, case.gauge, state))

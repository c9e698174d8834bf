"""The fill coach: an estimator of how much new oil the gauge will take.

It believes ``x ~ N(μ, σ²)`` ml brings the level to the target, pours as much as it safely can, and
learns from each valid reading. Amounts are ml; a reading r is 0 at the low mark and 1 at the high.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from math import erf, exp, pi, sqrt
from statistics import median, stdev
from typing import Literal

from .codes.fill import Cause, Contradiction
from .errors import CoreError
from .guard import Sound, guarded, whole_table
from .quantity import bottle_words, convert, show
from .reasons import Reason, Source
from .said import fill as said

Sight = Literal["seen", "below", "above"]
Action = Literal["pour", "remove", "read", "done", "stop"]

BOOK_SHARE = 0.97  # 3 % of the book capacity is old oil that stays
BOOK_SPREAD = 0.035
LEARNED_SPREAD = 0.012
ONE_TAKE_SPREAD = 0.02
SAFE = 2.33  # one-sided 99 % quantile: at most 1 % of pours pass the high mark
IN_TOLERANCE = Decimal("0.125")  # of a glass
STEP = 10  # ml, as fine as anybody pours
FULL_EARLY, LOW_LATE, OFF = 0.85, 1.05, 4.0


@dataclass(frozen=True)
class Gauge(Sound):
    """A sight glass or dipstick: ml between its marks, and the target as a share of them."""

    between_marks: Decimal
    target: Decimal


@dataclass(frozen=True, kw_only=True)
class FillCase(Sound):
    """What is to be filled: book ``capacity`` of the variant, gauge (None: exact quantity), the
    sheet's ``initial`` amount if it names one, and what this bike ``took`` before, newest last."""

    capacity: Decimal
    gauge: Gauge | None
    initial: Decimal | None = None
    took: tuple[Decimal, ...] = ()


@dataclass(frozen=True)
class Poured(Sound):
    """Oil put in (above zero) or taken out (below zero), ml. A pre-filled filter counts too, but
    nothing is read after it."""

    ml: Decimal
    prefill: bool = False


@dataclass(frozen=True)
class LevelReading(Sound):
    """A reading of the gauge. ``position`` counts only when ``sight`` is *seen*; a reading that is
    not ``valid`` (wrong attitude, too soon) is kept and not used."""

    sight: Sight
    position: Decimal
    valid: bool


@dataclass(frozen=True)
class CauseFound:
    """The technician found why gauge and book disagree, in ``words`` of their own where no code says
    it: from here the gauge is believed alone."""

    cause: Cause
    words: str = ""


FillEvent = Poured | LevelReading | CauseFound


@dataclass(frozen=True)
class Belief(Sound):
    """What the gauge is expected to take in all: mean and standard deviation, ml."""

    mean: float
    sd: float


@dataclass(frozen=True, kw_only=True)
class Advice(Sound):
    """What to do now. ``ml`` to pour or remove, ``added`` so far, ``causes`` when it stops."""

    action: Action
    ml: Decimal
    added: Decimal
    belief: Belief
    causes: tuple[Cause, ...]
    reasons: tuple[Reason, ...]


CAUSES: dict[Contradiction, tuple[Cause, ...]] = whole_table(
    Contradiction,
    {
        Contradiction.FULL_EARLY: (Cause.OLD_OIL, Cause.ATTITUDE, Cause.TOO_SOON),
        Contradiction.LOW_LATE: (Cause.LEAK, Cause.CAPACITY, Cause.NOT_COUNTED),
        Contradiction.OFF: (Cause.AMOUNT, Cause.MISREAD, Cause.NOT_AS_ASKED),
    },
)


def _density(value: float) -> float:
    return exp(-value * value / 2) / sqrt(2 * pi)


def _below(value: float) -> float:
    return (1 + erf(value / sqrt(2))) / 2


@guarded
def truncate_below(belief: Belief, bound: float) -> Belief:
    """The belief once x > ``bound`` is known (moments of a truncated normal)."""
    alpha = (bound - belief.mean) / belief.sd
    tail = 1 - _below(alpha)
    hazard = _density(alpha) / tail if tail > 1e-12 else alpha + 1 / alpha
    variance = belief.sd**2 * max(1 + alpha * hazard - hazard**2, 1e-4)
    return Belief(belief.mean + belief.sd * hazard, sqrt(variance))


@guarded
def truncate_above(belief: Belief, bound: float) -> Belief:
    """The belief once x < ``bound`` is known: the mirror image of `truncate_below`."""
    mirrored = truncate_below(Belief(-belief.mean, belief.sd), -bound)
    return Belief(-mirrored.mean, mirrored.sd)


@guarded
def combine(belief: Belief, measured: float, spread: float) -> Belief:
    """Belief and measurement joined by precision weights (conjugate normal update)."""
    own, its = 1 / belief.sd**2, 1 / spread**2
    return Belief((belief.mean * own + measured * its) / (own + its), sqrt(1 / (own + its)))


@guarded
def prior(case: FillCase) -> tuple[Belief, Reason]:
    """What to believe before anything is read [def].

    Learned: median of the last three takes, spread at least 1.2 % of capacity (2 % from one take).
    Book: 97 % of capacity, spread 3.5 %. Raises CoreError ``fill.no_capacity``.
    """
    if case.capacity <= 0:
        raise CoreError("fill.no_capacity")
    capacity = float(case.capacity)
    if case.took:
        last = [float(take) for take in case.took[-3:]]
        spread = stdev(last) if len(last) > 1 else ONE_TAKE_SPREAD * capacity
        learned = Belief(median(last), max(spread, LEARNED_SPREAD * capacity))
        return learned, Reason("learned capacity", said.learned(last), Source.HISTORY)
    book = Belief(BOOK_SHARE * capacity, BOOK_SPREAD * capacity)
    return book, Reason("book capacity", said.book(capacity), Source.DEFINED)


@guarded
def expected(capacity: Decimal, took: tuple[Decimal, ...]) -> Belief:
    """What a reservoir is expected to take, ml: learned where it was filled before, else by the
    book (`prior`). Raises CoreError ``fill.no_capacity``."""
    belief, _ = prior(FillCase(capacity=capacity, gauge=None, initial=None, took=took))
    return belief


def _measure(gauge: Gauge, added: float, position: float) -> tuple[float, float]:
    """A reading as a measurement of x, ml: ``z = A + (t − r)·V`` and its spread."""
    between, gap = float(gauge.between_marks), float(gauge.target) - position
    return added + gap * between, sqrt((0.06 * between) ** 2 + (0.1 * abs(gap) * between) ** 2)


@dataclass(frozen=True, kw_only=True)
class _State:
    belief: Belief
    added: float
    trust_book: bool
    last: LevelReading | None
    poured_since: bool
    contradiction: Contradiction | None
    reasons: tuple[Reason, ...]


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
    )


def _believe_gauge(case: FillCase, state: _State, event: CauseFound) -> _State:
    """Start again from the last reading alone, with the book no longer trusted."""
    wide = Belief(state.added, float(case.capacity))
    reason = Reason(
        "cause found", said.cause_found(said.cause(event.cause, event.words)), Source.HISTORY
    )
    fresh = _State(
        belief=wide,
        added=state.added,
        trust_book=False,
        last=None,
        poured_since=state.poured_since,
        contradiction=None,
        reasons=(reason,),
    )
    return _fold_reading(case, fresh, state.last) if state.last else fresh


def _fold(case: FillCase, events: Sequence[FillEvent]) -> _State:
    belief, reason = prior(case)
    state = _State(
        belief=belief,
        added=0.0,
        trust_book=True,
        last=None,
        poured_since=False,
        contradiction=None,
        reasons=(reason,),
    )
    for event in events:
        if isinstance(event, Poured):
            state = replace(
                state,
                added=state.added + float(event.ml),
                poured_since=state.poured_since or not event.prefill,
            )
        elif isinstance(event, LevelReading):
            state = _fold_reading(case, state, event)
        else:
            state = _believe_gauge(case, state, event)
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
    )


def _advise_exact(case: FillCase, state: _State) -> Advice:
    rest = case.capacity - Decimal(str(round(state.added, 3)))
    why = Reason(
        "exact quantity",
        said.exact(f"{case.capacity:.0f}"),
        Source.MANUAL,
    )
    if abs(rest) <= case.capacity / 100:
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
        ml = _excess(case.gauge, state, reading)
        why = Reason("overfilled", said.OVERFILLED, Source.TRADE)
        return _advise(state, "remove", ml, why)
    return _advise(state, "pour", *_pour(case, case.gauge, state))


def say(advice: Advice, unit: str, bottle_ml: Decimal | None = None) -> str:
    """The advice in words: ml, the person's ``unit``, and how much of the bottle in hand.

    ``Pour 330 ml (11.2 fl oz): 330 ml of a 1 l bottle.``
    """
    if advice.action == "done":
        return said.done(show(advice.added, "ml"))
    if advice.action == "read":
        return said.read(show(advice.added, "ml"))
    if advice.action == "stop":
        return said.DISAGREE
    pours = advice.action == "pour"
    own = show(advice.ml, unit) if unit != "ml" else ""
    of_bottle = bottle_words(advice.ml, bottle_ml) if bottle_ml and pours else ""
    return said.move(pours, show(advice.ml, "ml"), own, of_bottle)


def say_belief(belief: Belief, unit: str) -> str:
    """The belief in words: ``I expect 2.62 ± 0.06 l in all.``"""
    shown = "l" if unit == "ml" else unit
    mean, sd = (convert(Decimal(round(value)), shown) for value in (belief.mean, belief.sd))
    return said.belief(f"{mean:.2f}", f"{sd:.2f}", shown)

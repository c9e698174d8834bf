"""What is known of a fill by what happened so far: readings learned from, causes acted on, sums kept.

Amounts are ml; a reading r is 0 at the low mark and 1 at the high.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from math import hypot, sqrt

from ..codes.fill import Acts, Cause, Contradiction, Start
from ..guard import Sound, guarded, whole_table
from ..reasons import Reason, Source
from ..said import fill as said
from .belief import Belief, Joint, combine, prior, truncate_above, truncate_below
from .case import (
    CauseFound,
    Fell,
    FillCase,
    FillEvent,
    FilterAnew,
    Gauge,
    Left,
    LevelReading,
    Lost,
    Poured,
    Ran,
    WrongOil,
)

IN_TOLERANCE = Decimal("0.125")  # of a glass
STEP = 10  # ml, as fine as anybody pours
STAYS = 0.06  # of the book: so much may stay in a case that was drained again [our definition]
FULL_EARLY, LOW_LATE, OFF = 0.85, 1.05, 4.0

# what each cause does, once somebody has named it
ACTS: dict[Cause, Acts] = whole_table(
    Cause,
    {
        Cause.OLD_OIL: Acts.DRAIN_AGAIN,
        Cause.ATTITUDE: Acts.READ_AGAIN,
        Cause.TOO_SOON: Acts.READ_AGAIN,
        Cause.LEAK: Acts.COUNT,
        Cause.CAPACITY: Acts.LOOK_UP,
        Cause.NOT_COUNTED: Acts.CORRECT,
        Cause.AMOUNT: Acts.CORRECT,
        Cause.MISREAD: Acts.READ_AGAIN,
        Cause.NOT_AS_ASKED: Acts.READ_AGAIN,
        Cause.GAUGE: Acts.BELIEVE,
        Cause.UNREADABLE: Acts.BY_THE_BOOK,
        Cause.ELSE: Acts.READ_AGAIN,
    },
)


@dataclass(frozen=True, kw_only=True)
class State(Sound):
    """What is known. ``joint``: of what it takes, and of the drop at the first start; ``before_start``:
    filter and galleries are empty still; ``last``: the last reading, until oil flows ``since``;
    ``stood``: where a reading stood, with what was in by then; ``before``: as it was before the last
    reading; ``unused``: a reading that is not used, and is to be read again; ``drains``: old oil is
    left, it is drained again; ``drawn``: what flowed last was taken out;
    ``left``: it stands inside its marks, and is to stay there."""

    joint: Joint
    added: float
    reasons: tuple[Reason, ...]
    before_start: bool
    trust_book: bool = True
    last: LevelReading | None = None
    flowed_since: bool = False
    stood: tuple[float, float] | None = None
    contradiction: Contradiction | None = None
    before: "State | None" = None
    unused: LevelReading | None = None
    drains: bool = False
    drawn: bool = False
    left: bool = False

    @property
    def belief(self) -> Belief:
        """What it is believed to take in all, as long as nothing is rounded up to a floor."""
        return self.joint.x


def measured(
    gauge: Gauge, added: float, position: float, unsure: Decimal = Decimal(0)
) -> tuple[float, float]:
    """A reading as a measurement of what brings the level to the target, ml: ``z = A + (t − r)·V`` and
    its spread: 6 % of the marks by eye, 10 % of the way from the target, 40 % where marks are assumed;
    and how ``unsure`` it is besides, of the marks."""
    between, gap = float(gauge.between_marks), float(gauge.target) - position
    apart = 0.4 if gauge.assumed else 0.1
    return added + gap * between, hypot(0.06, apart * gap, float(unsure)) * between


APART = 0.2  # of the glass: so far apart two readings tell how much is between the marks [our definition]
LIKELY = (0.2, 5.0)  # of what was assumed: beyond, one of them was misread


def _is_sure(reading: LevelReading) -> bool:
    """Whether it tells how far marks are apart: read as it should be, not on a lift."""
    return reading.valid and not reading.unsure


@guarded
def marks_seen(gauge: Gauge, events: Sequence[FillEvent]) -> Decimal | None:
    """How much is between the marks, ml, by the first two readings far enough apart with oil poured or
    drawn between them, and nothing else; None where none are."""
    since, from_there = 0.0, None
    for event in events:
        if isinstance(event, Poured):
            since += float(event.ml)
        elif isinstance(event, LevelReading) and event.sight == "seen" and _is_sure(event):
            moved = 0.0 if from_there is None else float(event.position) - from_there
            if abs(moved) >= APART and since:
                between = since / moved
                least, most = (share * float(gauge.between_marks) for share in LIKELY)
                if least <= between <= most:
                    return Decimal(max(round(between / STEP) * STEP, STEP))
            since, from_there = 0.0, float(event.position)
        elif not isinstance(event, Left | LevelReading):
            since, from_there = 0.0, None
    return None


@guarded
def known_marks(case: FillCase, events: Sequence[FillEvent]) -> FillCase:
    """The case with its marks as two readings told, where they were only assumed."""
    if case.gauge is None or not case.gauge.assumed:
        return case
    between = marks_seen(case.gauge, events)
    if between is None:
        return case
    return replace(case, gauge=Gauge(between, case.gauge.target))


def _drop(case: FillCase) -> Belief:
    if case.drop is None:
        return Belief(0.0, 1e-3)
    return Belief(float(case.drop.mean), max(float(case.drop.sd), 1e-3))


def _position(reading: LevelReading) -> float:
    return {"below": -0.01, "above": 1.01}.get(reading.sight, float(reading.position))


def _contradiction(
    case: FillCase, gauge: Gauge, state: State, reading: LevelReading
) -> Contradiction | None:
    position = _position(reading)
    low = position < float(gauge.target - IN_TOLERANCE)
    drop = state.joint.d.mean if state.before_start else 0.0
    if state.trust_book and not low and state.added + drop < FULL_EARLY * float(case.capacity):
        return Contradiction.FULL_EARLY
    if state.trust_book and low and state.added > LOW_LATE * float(case.capacity):
        return Contradiction.LOW_LATE
    belief = state.joint.before if state.before_start else state.joint.x
    found, spread = measured(gauge, state.added, position, reading.unsure)
    off = found - belief.mean
    beyond = {"below": off > 0, "above": off < 0, "seen": True}[reading.sight]
    # against what could be expected of this reading: its own scatter and the belief's together
    far = beyond and abs(off) > OFF * sqrt(spread**2 + belief.sd**2)
    return Contradiction.OFF if far else None


def _update(
    gauge: Gauge, added: float, reading: LevelReading
) -> tuple[Callable[[Belief], Belief], str]:
    """What a reading does to the belief it is about, and in words."""
    between, target = float(gauge.between_marks), float(gauge.target)
    if reading.sight == "below":
        return lambda was: truncate_below(was, added + target * between), said.BELOW
    if reading.sight == "above":
        return lambda was: truncate_above(was, added + (target - 1) * between), said.ABOVE
    position = float(reading.position)
    found, spread = measured(gauge, added, position, reading.unsure)
    text = said.reading(position, added, between, found, spread)
    return lambda was: combine(was, found, spread), text


def _learn(case: FillCase, gauge: Gauge, state: State, reading: LevelReading) -> State:
    update, text = _update(gauge, state.added, reading)
    joint = state.joint
    if not state.before_start:
        joint = joint.seen(update)
    elif case.drop is not None or reading.sight == "below":
        # without a filter nobody knows how far it falls: only what is not even there yet is sure
        joint = joint.seen_before(update)
        text = f"{text} {said.BEFORE_START}"
    why = Reason("valid reading", text, Source.DEFINED)
    position = _position(reading)
    return replace(
        state,
        joint=joint,
        stood=(position, state.added) if position >= 0 else None,
        reasons=(*state.reasons, why),
        drains=False,
    )


def _fold_reading(case: FillCase, state: State, reading: LevelReading) -> State:
    if case.gauge is None:
        return state
    if not reading.valid:
        # a tank tells nothing before it has run: there is nothing to be read again
        tells = not state.before_start or case.start == Start.SUMP
        return replace(state, unused=reading) if tells else state
    kept = replace(state, before=None)
    contradiction = _contradiction(case, case.gauge, state, reading)
    if contradiction is None:
        known = _learn(case, case.gauge, state, reading)
    else:
        why = Reason("contradiction", contradiction, Source.DEFINED)
        known = replace(state, reasons=(*state.reasons, why))
    return replace(
        known,
        last=reading,
        unused=None,
        left=False,
        flowed_since=False,
        contradiction=contradiction,
        before=kept,
    )


def begun(
    case: FillCase, *, before_start: bool, added: float = 0.0, reasons: tuple[Reason, ...] = ()
) -> State:
    """Before anything was read: the book, or what it took before."""
    belief, reason = prior(case)
    return State(
        joint=Joint(x=belief, d=_drop(case)),
        added=added,
        before_start=before_start,
        trust_book=not case.part,
        reasons=reasons or (reason, *_seen_to_fall(case)),
    )


def _seen_to_fall(case: FillCase) -> tuple[Reason, ...]:
    drop = case.drop
    if drop is None or not drop.starts:
        return ()
    text = said.falls(f"{drop.mean:.0f}", f"{drop.sd:.0f}", drop.starts)
    return (Reason("first start", text, Source.HISTORY),)


def _believe_gauge(case: FillCase, state: State, why: Reason) -> State:
    """Start again from the last reading alone, with the book no longer trusted."""
    wide = Joint(x=Belief(state.added, float(case.capacity)), d=_drop(case))
    fresh = State(
        joint=wide,
        added=state.added,
        before_start=state.before_start,
        trust_book=False,
        flowed_since=state.flowed_since,
        reasons=(why,),
    )
    return _fold_reading(case, fresh, state.last) if state.last else fresh


def _found(case: FillCase, state: State, event: CauseFound) -> State:
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
        return replace(
            known,
            before_start=state.before_start,
            added=state.added,
            flowed_since=True,
            unused=None if state.flowed_since else state.last,
            reasons=(*known.reasons, why),
        )
    return replace(
        state, drains=state.drains or acts == Acts.DRAIN_AGAIN, reasons=(*state.reasons, why)
    )


def may_stay(state: State) -> bool:
    """Whether it was last seen inside its marks, once the engine had run, and nothing flowed since."""
    last = state.last
    if last is None or state.flowed_since or state.unused is not None:
        return False
    if state.before_start or state.contradiction is not None:
        return False
    return last.sight == "seen" and 0 <= last.position <= 1


def _fold_flow(case: FillCase, state: State, event: Poured) -> State:
    """The sum of what went in. Drained again, with the old oil that was left, the fill begins anew; what
    is pre-filled is no longer missing at the first start."""
    added = state.added + float(event.ml)
    if state.drains and event.ml < 0 and added < max(STEP, STAYS * float(case.capacity)):
        return begun(
            case,
            before_start=state.before_start,
            added=max(0.0, added),
            reasons=state.reasons,
        )
    if not event.prefill:
        drawn = event.ml < 0
        return replace(state, added=added, flowed_since=True, unused=None, drawn=drawn, left=False)
    drop = Belief(max(state.joint.d.mean - float(event.ml), 0.0), state.joint.d.sd)
    return replace(state, added=added, joint=replace(state.joint, d=drop))


def _filter_anew(case: FillCase, state: State, event: FilterAnew) -> State:
    """The old filter took along what it had filled itself with, as much as the level falls while the new
    one fills: so much more goes in, in all."""
    drop, book = _drop(case), state.joint.x
    more = max(drop.mean - float(event.was), 0.0)
    return replace(
        state,
        added=state.added + float(event.ml),
        joint=Joint(
            x=Belief(book.mean + more, sqrt(book.sd**2 + drop.sd**2)),
            d=Belief(max(drop.mean - float(event.ml), 0.0), drop.sd),
        ),
        before_start=case.start != Start.NONE,
        last=None,
        stood=None,
        flowed_since=True,
        unused=None,
        drawn=False,
        left=False,
    )


def _started(state: State) -> State:
    """Filter and galleries are full: what stood in the glass before stands there no more."""
    if not state.before_start:
        return state
    return replace(state, before_start=False, flowed_since=True, unused=None, left=False)


def known(case: FillCase, events: Sequence[FillEvent]) -> State:
    """All that is known by what happened, oldest first. Raises CoreError ``fill.no_capacity``."""
    state = begun(case, before_start=case.start != Start.NONE)
    for event in events:
        if isinstance(event, Poured):
            state = _fold_flow(case, state, event)
        elif isinstance(event, LevelReading):
            state = _fold_reading(case, state, event)
        elif isinstance(event, Left):
            state = replace(state, left=event.stays and may_stay(state))
        elif isinstance(event, Ran):
            state = _started(state)
        elif isinstance(event, WrongOil):
            state = replace(state, drains=True)
        elif isinstance(event, Lost):
            added = max(0.0, state.added - float(event.ml))
            state = replace(
                state, added=added, flowed_since=True, unused=None, drawn=False, left=False
            )
        elif isinstance(event, FilterAnew):
            state = _filter_anew(case, state, event)
        elif isinstance(event, CauseFound):
            state = _found(case, state, event)
    return state


@guarded
def fell(case: FillCase, events: Sequence[FillEvent]) -> Fell | None:
    """How far the level fell at the first start, by what was seen before and after it, a pre-filled
    filter counted as empty; None where it was not seen, or where anything else came between."""
    if case.gauge is None or case.start != Start.SUMP:
        return None
    added = prefilled = 0.0
    looks: list[tuple[float, float]] = []
    ran = False
    for event in events:
        if isinstance(event, Poured):
            added += float(event.ml)
            prefilled += float(event.ml) if event.prefill else 0.0
        elif isinstance(event, Ran):
            ran = True
        elif isinstance(event, LevelReading):
            if not (event.valid and event.sight == "seen"):
                continue
            seen = measured(case.gauge, added, float(event.position), event.unsure)
            if ran:
                return _fell(looks, seen, prefilled)
            looks.append(seen)
        elif not isinstance(event, Left):
            return None
    return None


def _fell(
    looks: Sequence[tuple[float, float]], after: tuple[float, float], prefilled: float
) -> Fell | None:
    if not looks:
        return None
    weight = sum(1 / sd**2 for _, sd in looks)
    looked = sum(ml / sd**2 for ml, sd in looks) / weight
    ml, sd = after[0] - looked + prefilled, sqrt(after[1] ** 2 + 1 / weight)
    return Fell(Decimal(round(ml)), Decimal(max(1, round(sd))))

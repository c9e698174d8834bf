"""Whether the fill coach of the first description asked for oil to be taken out: that was not written
down then, and a visit of then is read by what it was told then. It never changes."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from math import sqrt

from ...fill import (
    Belief,
    FillCase,
    FillEvent,
    Gauge,
    LevelReading,
    Poured,
    combine,
    prior,
    truncate_above,
    truncate_below,
)

_NEAR = Decimal("0.125")
_FULL_EARLY, _LOW_LATE, _OFF = 0.85, 1.05, 4.0


@dataclass(frozen=True)
class _Then:
    belief: Belief
    added: float = 0.0
    by_the_book: bool = True
    last: LevelReading | None = None
    poured: bool = False
    against: bool = False


def _measured(gauge: Gauge, added: float, position: float) -> tuple[float, float]:
    between, gap = float(gauge.between_marks), float(gauge.target) - position
    return added + gap * between, sqrt((0.06 * between) ** 2 + (0.1 * abs(gap) * between) ** 2)


def _against(case: FillCase, gauge: Gauge, then: _Then, reading: LevelReading) -> bool:
    """Whether gauge and book disagreed."""
    position = {"below": -0.01, "above": 1.01}.get(reading.sight, float(reading.position))
    low, share = position < float(gauge.target - _NEAR), then.added / float(case.capacity)
    if then.by_the_book and (share > _LOW_LATE if low else share < _FULL_EARLY):
        return True
    found, spread = _measured(gauge, then.added, position)
    off = found - then.belief.mean
    beyond = {"below": off > 0, "above": off < 0}.get(reading.sight, True)
    return beyond and abs(off) > _OFF * sqrt(spread**2 + then.belief.sd**2)


def _learned(gauge: Gauge, then: _Then, reading: LevelReading) -> Belief:
    between, target = float(gauge.between_marks), float(gauge.target)
    if reading.sight == "below":
        return truncate_below(then.belief, then.added + target * between)
    if reading.sight == "above":
        return truncate_above(then.belief, then.added + (target - 1) * between)
    return combine(then.belief, *_measured(gauge, then.added, float(reading.position)))


def _read(case: FillCase, then: _Then, reading: LevelReading) -> _Then:
    if not reading.valid or case.gauge is None:
        return then
    against = _against(case, case.gauge, then, reading)
    belief = then.belief if against else _learned(case.gauge, then, reading)
    return replace(then, belief=belief, last=reading, poured=False, against=against)


def _gauge_alone(case: FillCase, then: _Then) -> _Then:
    wide = Belief(then.added, float(case.capacity))
    fresh = _Then(wide, then.added, by_the_book=False, poured=then.poured)
    return _read(case, fresh, then.last) if then.last else fresh


def _after(case: FillCase, then: _Then, event: FillEvent) -> _Then:
    if isinstance(event, Poured):
        poured = then.poured or not event.prefill
        return replace(then, added=then.added + float(event.ml), poured=poured)
    return _read(case, then, event) if isinstance(event, LevelReading) else _gauge_alone(case, then)


def asked_to_take_out(case: FillCase, events: Sequence[FillEvent]) -> bool:
    """By what had happened so far, oldest first."""
    then = _Then(prior(case)[0])
    for event in events:
        then = _after(case, then, event)
    if case.gauge is None:
        over = Decimal(str(round(then.added, 3))) - case.capacity
        return over > case.capacity / 100
    if then.poured or then.against or then.last is None or then.last.sight == "below":
        return False
    return then.last.sight == "above" or then.last.position - case.gauge.target > _NEAR

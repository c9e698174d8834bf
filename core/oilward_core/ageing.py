"""What of an answer runs with the calendar alone, so that it can be said on another day without working
it out anew: distance and hours stand still until somebody reads the counters again."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from decimal import Decimal
from math import ceil, floor
from typing import NamedTuple

from .due import SOON_BELOW, Due, DueLimits, DueState, Meter, age_span
from .guard import Sound, guarded
from .quantity import show
from .said import due as say

_TIME = "time"
_PLACE = {"distance": 0, _TIME: 1, "hours": 2}
_PLACES, _HUNDREDTH = Decimal("0.001"), Decimal("0.01")


@dataclass(frozen=True, kw_only=True)
class Clock(Sound):
    """A reservoir's answer as it runs. ``shares``: what is left by distance and hours, by rule, which
    stands still; ``over``: what of them is over, in words. The time limit runs from ``since`` to
    ``due_on`` (None: time limits nothing), the oil ages from ``changed`` over ``span`` days (None:
    nobody knows when it was changed). ``look``: what runs out is the time to the next look."""

    shares: tuple[tuple[str, Decimal], ...]
    over: tuple[str, ...] = ()
    since: date | None = None
    due_on: date | None = None
    changed: date | None = None
    span: int = 1
    look: bool = False


@guarded
def clock_of(answer: Due, limits: DueLimits, last: Meter | None, now: Meter, unit: str) -> Clock:
    """What runs of an answer given at ``now``. ``last``: the meter it counts from."""
    span, day = age_span(limits, last), last.on if last else None
    if last is None or answer.state in (DueState.BASELINE, DueState.UNLIMITED):
        return Clock(shares=(("stands", answer.left),), changed=day, span=span)
    shares, over = [], []
    if answer.due_km is not None:
        left = answer.due_km - now.km
        shares.append(("distance", left / (answer.due_km - last.km)))
        over += [show(-left, unit)] if left < 0 else []
    if answer.due_hours is not None and now.hours is not None and last.hours is not None:
        left = answer.due_hours - now.hours
        shares.append(("hours", left / (answer.due_hours - last.hours)))
        over += [f"{-left:.0f} h"] if left < 0 else []
    since = last.on if answer.due_on else None
    return Clock(
        shares=tuple(shares),
        over=tuple(over),
        since=since,
        due_on=answer.due_on,
        changed=day,
        span=span,
    )


def _by_time(clock: Clock, day: date) -> Decimal | None:
    if clock.due_on is None or clock.since is None:
        return None
    return Decimal((clock.due_on - day).days) / max((clock.due_on - clock.since).days, 1)


def _shares(clock: Clock, day: date) -> list[tuple[Decimal, int, str]]:
    """Share, place and rule, the least first, as an answer lists its reasons."""
    found = [(share, _PLACE.get(rule, 0), rule) for rule, share in clock.shares]
    by_time = _by_time(clock, day)
    if by_time is not None:
        found.append((by_time, _PLACE[_TIME], _TIME))
    found.sort()
    return found


def _age(clock: Clock, day: date) -> Decimal:
    if clock.changed is None:
        return Decimal(1)
    gone = Decimal((day - clock.changed).days) / max(clock.span, 1)
    return min(max(gone, Decimal(0)), Decimal(1)).quantize(_HUNDREDTH)


def _when(clock: Clock, day: date, before: str) -> str:
    if clock.due_on is None or clock.due_on > day:
        return before
    days = (day - clock.due_on).days
    over = [*clock.over, say.days(days)] if days else clock.over
    words = say.over(over) if over else say.DUE_NOW
    return say.look(words) if clock.look else words


class Said(NamedTuple):
    """An answer as said on a day: what is ``left`` (1 fresh, 0 due, negative overdue), how old the oil is
    (0 fresh, 1 spent), when it is due, the ``rules`` that count, the one nearest its end first, and how
    much of the time limit is ``used``, in words."""

    left: Decimal
    age: Decimal
    when: str
    rules: tuple[str, ...]
    used: str


@guarded
def said_on(clock: Clock, day: date, before: str) -> Said:
    """The answer as it is on a day on which its state is still the same. ``before``: how it is said when
    it is due, while its day is still to come."""
    shares = _shares(clock, day)
    used = ""
    if clock.due_on is not None and clock.since is not None:
        span = (clock.due_on - clock.since).days
        used = say.used(str((day - clock.since).days), say.days(span))
    return Said(
        shares[0][0].quantize(_PLACES) if shares else Decimal(1),
        _age(clock, day),
        _when(clock, day, before),
        tuple(say.look(rule) if clock.look else rule for _, _, rule in shares),
        say.look(used) if clock.look and used else used,
    )


@guarded
def changes_after(clock: Clock, day: date) -> date | None:
    """The first day after ``day`` on which the state is another; None: never by the calendar alone."""
    if clock.due_on is None or clock.since is None:
        return None
    # soon: fewer days left than that share of all
    fewer = ceil(SOON_BELOW * (clock.due_on - clock.since).days) - 1
    soon = clock.due_on - timedelta(days=max(fewer, 0))
    return next((one for one in (soon, clock.due_on) if one > day), None)


@dataclass(frozen=True)
class Line(Sound):
    """The share of life left of something, falling by ``falls`` a day from ``left`` on the day asked."""

    left: Decimal
    falls: Decimal


def _lines(clock: Clock, day: date) -> list[Line]:
    found = [Line(share, Decimal(0)) for _, share in clock.shares]
    by_time = _by_time(clock, day)
    if by_time is not None and clock.due_on and clock.since:
        found.append(Line(by_time, Decimal(1) / max((clock.due_on - clock.since).days, 1)))
    return found


@guarded
def least(clocks: Iterable[Clock], day: date) -> tuple[Line, date | None]:
    """What is left of the most urgent of several, as it falls, and the first day on which another one is
    more urgent. Of none: nothing left, for ever."""
    lines = [line for clock in clocks for line in _lines(clock, day)]
    if not lines:
        return Line(Decimal(0), Decimal(0)), None
    first = min(lines, key=lambda line: (line.left, -line.falls))
    faster = [line for line in lines if line.falls > first.falls]
    meets = [floor((line.left - first.left) / (line.falls - first.falls)) + 1 for line in faster]
    return first, day + timedelta(days=min(meets)) if meets else None

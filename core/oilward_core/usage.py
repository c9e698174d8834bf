"""How fast a bike is used, and when that makes something due."""

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from decimal import Decimal
from math import sqrt
from statistics import median

from .due import USE_CLASSES, Due, DueLimits, Meter
from .guard import Sound, guarded
from .quantity import show
from .reasons import Reason, Source
from .said import due as words

WINDOW_DAYS, LEAST_SPAN_DAYS = 365, 14
_Z95 = 1.959963984540054
_FEW, _FEW_SPREAD, _CLASS_SPREAD = 4, 0.4, 0.6  # of the rate; our definition
_FARTHEST_DAYS = 40 * 365


@dataclass(frozen=True, kw_only=True)
class Line(Sound):
    """A robust line: slope with its 95 % interval, and intercept."""

    slope: float
    intercept: float
    low: float
    high: float


@guarded
def theil_sen(x: Sequence[float], y: Sequence[float]) -> Line:
    """Theil–Sen: slope is the median of all pair slopes with different x, the intercept
    ``median(y) − slope·median(x)``; the interval by Sen's rank method (normal, tie-corrected).

    Needs at least one pair with different x; raises ValueError otherwise.
    """
    slopes = sorted(
        (y[j] - y[i]) / (x[j] - x[i])
        for i in range(len(x))
        for j in range(i + 1, len(x))
        if x[i] != x[j]
    )
    if not slopes:
        raise ValueError("all x alike")
    slope = median(slopes)
    low, high = _interval(slopes, x, y)
    return Line(slope=slope, intercept=median(y) - slope * median(x), low=low, high=high)


def _ties(values: Sequence[float]) -> float:
    counts = (n for n in Counter(values).values() if n > 1)
    return sum(n * (n - 1) * (2 * n + 5) for n in counts)


def _interval(
    slopes: Sequence[float], x: Sequence[float], y: Sequence[float]
) -> tuple[float, float]:
    n, pairs = len(y), len(slopes)
    spread = sqrt(max(0.0, (n * (n - 1) * (2 * n + 5) - _ties(x) - _ties(y)) / 18))
    upper = min(round((pairs + _Z95 * spread) / 2), pairs - 1)
    lower = max(round((pairs - _Z95 * spread) / 2) - 1, 0)
    return slopes[lower], slopes[upper]


@dataclass(frozen=True, kw_only=True)
class Rate(Sound):
    """Distance (km) or hours a day, with an interval that holds 95 of 100 times, and its why."""

    a_day: float
    low: float
    high: float
    reason: Reason


def _by_class(use_class: str, unit: str) -> Rate:
    a_year = USE_CLASSES.get(use_class, USE_CLASSES["mixed"])
    a_day = float(a_year) / 365
    text = words.by_class(use_class, show(a_year, unit))
    why = Reason("use class", text, Source.TRADE)
    return Rate(
        a_day=a_day, low=a_day * (1 - _CLASS_SPREAD), high=a_day * (1 + _CLASS_SPREAD), reason=why
    )


def _measured(
    days: Sequence[float], values: Sequence[float], say: Callable[[float], str]
) -> Rate | None:
    if len(days) < 2 or max(days) - min(days) < LEAST_SPAN_DAYS:
        return None
    line = theil_sen(days, values)
    slope, low, high = max(0.0, line.slope), max(0.0, line.low), max(0.0, line.high)
    if len(days) < _FEW:
        low, high = min(low, slope * (1 - _FEW_SPREAD)), max(high, slope * (1 + _FEW_SPREAD))
    text = words.by_readings(say(slope * 30), len(days))
    return Rate(a_day=slope, low=low, high=high, reason=Reason("usage rate", text, Source.HISTORY))


@guarded
def usage_rate(readings: Sequence[Meter], today: date, use_class: str, unit: str = "km") -> Rate:
    """Km a day: Theil–Sen slope of the last 365 days' readings (two at least 14 days apart), else
    the use class's usual distance. Its reason is said in ``unit``."""

    def say(km: float) -> str:
        return show(Decimal(km), unit)

    recent = [r for r in readings if 0 <= (today - r.on).days <= WINDOW_DAYS]
    days = [float((r.on - today).days) for r in recent]
    return _measured(days, [float(r.km) for r in recent], say) or _by_class(use_class, unit)


@guarded
def rate_until(readings: Sequence[Meter], today: date) -> date | None:
    """The day on which the rate is another one though nobody has read the counters: the oldest reading
    it is taken from is more than a year old. None where it is not taken from readings."""
    recent = [r.on for r in readings if 0 <= (today - r.on).days <= WINDOW_DAYS]
    return min(recent) + timedelta(days=WINDOW_DAYS + 1) if len(recent) > 1 else None


@guarded
def measured_use(readings: Sequence[Meter], today: date) -> float | None:
    """Km a day as the last year's readings show them; None before it was read often enough."""
    recent = [r for r in readings if 0 <= (today - r.on).days <= WINDOW_DAYS]
    days = [float((r.on - today).days) for r in recent]
    rate = _measured(days, [float(r.km) for r in recent], lambda km: f"{km:.0f} km")
    return rate.a_day if rate else None


@guarded
def hours_rate(readings: Sequence[Meter], today: date) -> Rate | None:
    """Hours a day, where an hour meter was read often enough."""
    recent = [
        r for r in readings if r.hours is not None and 0 <= (today - r.on).days <= WINDOW_DAYS
    ]
    days = [float((r.on - today).days) for r in recent]
    return _measured(days, [float(r.hours or 0) for r in recent], lambda h: f"{h:.0f} h")


@dataclass(frozen=True, kw_only=True)
class Forecast:
    """When a reservoir will be due: the expected day and an interval around it, and why."""

    on: date
    early: date
    late: date
    reasons: tuple[Reason, ...]


def _days_until(gap: Decimal, a_day: float) -> int:
    if gap <= 0:
        return 0
    return min(_FARTHEST_DAYS, int(float(gap) / a_day)) if a_day > 0 else _FARTHEST_DAYS


def _reaches(read: Meter, gap: Decimal, rate: Rate) -> tuple[date, date, date]:
    days = (_days_until(gap, rate.a_day), _days_until(gap, rate.high), _days_until(gap, rate.low))
    on, early, late = (read.on + timedelta(days=n) for n in days)
    return on, early, late


@guarded
def forecast(answer: Due, read: Meter, rate: Rate, hours: Rate | None = None) -> Forecast | None:
    """The earliest of distance, time and hours, each carried on at its rate from the last reading.

    ``read`` is that reading. None where nothing limits; the day itself where it is due already.
    """
    reached: list[tuple[tuple[date, date, date], Reason]] = []
    if answer.due_km is not None:
        reached.append((_reaches(read, answer.due_km - read.km, rate), rate.reason))
    if answer.due_hours is not None and hours is not None and read.hours is not None:
        reached.append((_reaches(read, answer.due_hours - read.hours, hours), hours.reason))
    if answer.due_on is not None:
        why = Reason("time", words.by_time(answer.due_on), Source.MANUAL)
        reached.append(((answer.due_on,) * 3, why))
    if not reached:
        return None
    days = [min(one[0][n] for one in reached) for n in range(3)]
    first = min(reached, key=lambda one: one[0][0])
    return Forecast(on=days[0], early=days[1], late=days[2], reasons=(first[1],))


@guarded
def left_from(left: float, ahead: date, today: date, days: int) -> float:
    """The share of life left after so many days, falling evenly to the day it is expected; 0–1."""
    until = (ahead - today).days
    return 0.0 if until <= days else max(0.0, min(1.0, left * (1 - days / until)))


def say_forecast(ahead: Forecast, today: date) -> str:
    """``about Mar 2027 (Feb–May 2027)``; a day certain is said as such."""
    return words.forecast(ahead.on, ahead.early, ahead.late)


_DAYS_A_MONTH = 30.44


@guarded
def interval_days(
    limits: DueLimits, severity: Decimal, rate: Rate, hours: Rate | None = None
) -> int | None:
    """How long a whole repeat interval lasts this bike, days: the shortest of distance, time and
    hours at its rates; None where nothing limits."""
    days: list[float] = []
    if limits.repeat_km is not None and rate.a_day > 0:
        days.append(float(limits.repeat_km * severity) / rate.a_day)
    if limits.repeat_hours is not None and hours is not None and hours.a_day > 0:
        days.append(float(limits.repeat_hours * severity) / hours.a_day)
    if limits.repeat_months is not None:
        days.append(float(limits.repeat_months * severity) * _DAYS_A_MONTH)
    return max(1, round(min(days))) if days else None

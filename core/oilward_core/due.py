"""When a reservoir is due: whichever comes first of distance, time and hours."""

import calendar
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from enum import StrEnum

from .errors import CoreError
from .guard import Sound, guarded
from .quantity import show
from .reasons import Reason, Source
from .said import due as say


class DueState(StrEnum):
    """How a reservoir stands. ``baseline``: history unknown, so do it now and count from there."""

    FINE = "fine"
    SOON = "soon"
    DUE = "due"
    BASELINE = "baseline"
    UNLIMITED = "no interval"


NO_INTERVAL = Reason("no interval", say.NO_INTERVAL, Source.MANUAL)
SOON_BELOW = Decimal("0.15")


@dataclass(frozen=True, kw_only=True)
class DueLimits(Sound):
    """Limits of a task: km, months and hours, for the first service and for each one after it."""

    first_km: Decimal | None = None
    first_months: int | None = None
    repeat_km: Decimal | None = None
    repeat_months: int | None = None
    repeat_hours: Decimal | None = None


@dataclass(frozen=True)
class Meter(Sound):
    """Where a bike's counters stand on a day: km and, where it has an hour meter, hours."""

    on: date
    km: Decimal
    hours: Decimal | None = None


@dataclass(frozen=True, kw_only=True)
class Due(Sound):
    """The answer: ``left`` is the share of life left (1 fresh, 0 due, negative overdue).

    ``due_on`` and ``due_km``/``due_hours`` are where each limit falls; the earliest counts.
    """

    state: DueState
    left: Decimal
    due_on: date | None
    due_km: Decimal | None
    due_hours: Decimal | None
    reasons: tuple[Reason, ...]


# km a year of a bike nobody has read often enough, by what it is used for [trade]
USE_CLASSES = {
    "commuting": Decimal(6000),
    "touring": Decimal(9000),
    "delivery": Decimal(18000),
    "mixed": Decimal(5000),
    "off-road": Decimal(2500),
    "track": Decimal(3000),
    "vintage": Decimal(1500),
}


@guarded
def add_months(day: date, months: int) -> date:
    """The same day ``months`` later; the 31st of a short month is its last day."""
    years, month = divmod(day.month - 1 + months, 12)
    year, month = day.year + years, month + 1
    return date(year, month, min(day.day, calendar.monthrange(year, month)[1]))


_AGES_IN = 24  # months an oil without a limit in time is counted old in [trade: common practice]


def age_span(limits: DueLimits, last: Meter | None) -> int:
    """The days an oil ages in: what its sheet allows, two years where it names nothing."""
    if last is None:
        return 1
    return (add_months(last.on, limits.repeat_months or _AGES_IN) - last.on).days


@guarded
def oil_age(limits: DueLimits, last: Meter | None, now: Meter) -> Decimal:
    """How old the oil itself is, by the calendar alone: 0 fresh, 1 at the months its sheet allows (two
    years where it names none) or older. ``last``: when it was last changed; None: nobody knows, so
    it counts as old. Raises nothing."""
    if last is None:
        return Decimal(1)
    span = age_span(limits, last)
    gone = (now.on - last.on).days
    return min(max(Decimal(gone) / max(span, 1), Decimal(0)), Decimal(1)).quantize(Decimal("0.01"))


HALF = Decimal("0.5")
WATCHED = Reason("watch", say.WATCHED, Source.TRADE)


def _limits_for(
    limits: DueLimits, first: bool, severity: Decimal, watched: bool
) -> tuple[Decimal | None, int | None, Decimal | None]:
    """km, months, hours that count now. Severity and a plug to be watched scale the repeat limits
    only."""
    if first and (limits.first_km is not None or limits.first_months is not None):
        return limits.first_km, limits.first_months, None
    severity = severity * HALF if watched else severity
    km = None if limits.repeat_km is None else limits.repeat_km * severity
    hours = None if limits.repeat_hours is None else limits.repeat_hours * severity
    months = limits.repeat_months
    return km, months if months is None else max(1, int(months * severity)), hours


@guarded
def due(
    limits: DueLimits,
    last: Meter | None,
    now: Meter,
    *,
    first: bool = False,
    severity: Decimal = Decimal(1),
    unit: str = "km",
    watched: bool = False,
) -> Due:
    """How a reservoir stands at ``now``: ``left = min over limits of (limit − used)/limit``.

    ``last`` is the actual last service (an early or late one rebases), or the day the bike was new
    with ``first`` set; None means unknown history: *baseline*, due now. ``severity`` 0.5–1 shortens
    the repeat limits [trade], and ``watched``, that the last finding asks for another look, halves them
    once more; reasons are said in ``unit``. Raises CoreError ``due.severity``
    outside 0.5–1.
    """
    if not Decimal("0.5") <= severity <= 1:
        raise CoreError("due.severity")
    if last is None:
        return Due(
            state=DueState.BASELINE,
            left=Decimal(0),
            due_on=now.on,
            due_km=now.km,
            due_hours=None,
            reasons=(Reason("unknown history", say.NO_RECORD, Source.TRADE),),
        )
    km, months, hours = _limits_for(limits, first, severity, watched)
    shares: list[tuple[Decimal, Reason]] = []
    due_km = due_on = due_hours = None

    def count(rule: str, share: Decimal, text: str) -> None:
        shares.append((share, Reason(rule, text, Source.MANUAL)))

    if km:
        due_km, used = last.km + km, now.km - last.km
        count("distance", (km - used) / km, say.used(show(used, unit), show(km, unit)))
    if months:
        due_on = add_months(last.on, months)
        span, gone = (due_on - last.on).days, (now.on - last.on).days
        count("time", Decimal(span - gone) / span, say.used(str(gone), say.days(span)))
    if hours and last.hours is not None and now.hours is not None:
        due_hours, run = last.hours + hours, now.hours - last.hours
        count("hours", (hours - run) / hours, say.used(f"{run:.0f}", say.hours(hours)))
    if not shares:
        return Due(
            state=DueState.UNLIMITED,
            left=Decimal(1),
            due_on=None,
            due_km=None,
            due_hours=None,
            reasons=(NO_INTERVAL,),
        )
    shares.sort(key=lambda pair: pair[0])
    left = shares[0][0]
    state = DueState.DUE if left <= 0 else DueState.SOON if left < SOON_BELOW else DueState.FINE
    reasons = tuple(reason for _, reason in shares)
    if watched and not first:
        reasons = (*reasons, WATCHED)
    return Due(
        state=state,
        left=left.quantize(Decimal("0.001")),
        due_on=due_on,
        due_km=due_km,
        due_hours=due_hours,
        reasons=reasons,
    )


@guarded
def say_due(answer: Due, now: Meter, unit: str) -> str:
    """When it is due, in the bike's ``unit``: ``in 1240 km or by 14 Mar 2027``, ``320 km over``."""
    if answer.state == DueState.BASELINE:
        return say.DO_IT_NOW
    if answer.state == DueState.UNLIMITED:
        return say.UNLIMITED
    gaps: list[tuple[Decimal | int, str]] = []  # what is left of each limit, and its size in words
    until = ""
    if answer.due_km is not None:
        km = answer.due_km - now.km
        gaps.append((km, show(abs(km), unit)))
    if answer.due_hours is not None and now.hours is not None:
        hours = answer.due_hours - now.hours
        gaps.append((hours, f"{abs(hours):.0f} h"))
    if answer.due_on is not None:
        left = (answer.due_on - now.on).days
        until = say.by(answer.due_on) if left > 0 else ""
        gaps.append((left, until or say.days(-left)))
    over = [words for gap, words in gaps if gap < 0]
    if over:
        return say.over(over)
    if any(gap == 0 for gap, _ in gaps):
        return say.DUE_NOW
    amounts = [words for _, words in gaps]
    return say.ahead(amounts[:-1], until) if until else say.ahead(amounts, "")

"""How one reservoir of a bike stands today: what is due, when that will be, and why."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal

from .ageing import Clock, changes_after, clock_of
from .due import Due, DueState, Meter, due, oil_age, say_due
from .guard import Sound, guarded
from .reasons import Reason, Source
from .renewals import Seals, renewals
from .said import standing as said
from .schools import INTERVAL, Chosen, Schools, interval_reason, severity_with
from .spec.sheet import ReservoirSpec
from .usage import (
    Forecast,
    Rate,
    forecast,
    hours_rate,
    interval_days,
    left_from,
    rate_until,
    say_forecast,
    usage_rate,
)

NOTCH_DAYS = 30
BY_WORD = Reason("owner's word", said.BY_WORD, Source.TRADE)
# what has to be done whatever else is
NEEDS_OIL = (DueState.DUE, DueState.BASELINE)


@dataclass(frozen=True, kw_only=True)
class Running(Sound):
    """A bike as it runs: its counters ``now`` and as last ``read``, when it was ``new`` (None: not known
    from new), how hard it is used (``severity``, 1 is the book's) and how far a day, and until when that
    ``rate`` may be counted on."""

    now: Meter
    read: Meter
    new: Meter | None
    severity: Decimal
    unit: str
    rate: Rate
    hours: Rate | None
    rate_until: date | None


@dataclass(frozen=True)
class LastDone(Sound):
    """The last service of a reservoir: where the counters stood, whether only the owner's word stands
    for it, and whether what its plug showed asks to be ``watched``."""

    at: Meter
    by_word: bool = False
    watched: bool = False


@dataclass(frozen=True, kw_only=True)
class Standing:
    """How a reservoir stands: ``level`` (0 to 1) is what is left of it, ``age`` how far through its time
    the oil is, ``when`` and ``expected`` say so; ``notch`` is the level a month before it is due,
    ``lasts_days`` how long an interval lasts as the bike is used."""

    due: Due
    ahead: Forecast | None
    clock: Clock
    lasts_days: int | None
    level: float
    age: float
    when: str
    expected: str
    notch: float | None
    reasons: tuple[Reason, ...]


@guarded
def running(
    readings: Sequence[Meter],
    today: date,
    use_class: str,
    unit: str,
    severity: Decimal,
    new: Meter | None,
) -> Running:
    """A bike as it runs. ``readings``: every reading of its counters, oldest first."""
    read = readings[-1] if readings else Meter(today, Decimal(0))
    return Running(
        now=Meter(today, read.km, read.hours),
        read=read,
        new=new,
        severity=severity,
        unit=unit,
        rate=usage_rate(readings, today, use_class, unit),
        hours=hours_rate(readings, today),
        rate_until=rate_until(readings, today),
    )


def _due(
    spec: ReservoirSpec, bike: Running, interval: Chosen, severity: Decimal, last: LastDone | None
) -> Due:
    answer = due(
        spec.limits,
        last.at if last else bike.new,
        bike.now,
        first=last is None,
        severity=severity,
        unit=bike.unit,
        watched=last is not None and last.watched,
    )
    why = [BY_WORD] if last and last.by_word else []
    chosen = interval_reason(interval)
    return replace(answer, reasons=(*answer.reasons, *why, *([chosen] if chosen else [])))


@guarded
def standing(
    spec: ReservoirSpec,
    bike: Running,
    schools: Schools,
    last: LastDone | None,
    done: Sequence[str],
    seals: Seals = (),
) -> Standing:
    """How a reservoir stands. ``last``: its last service, None where none is known; ``done``: the
    variants of all of them, oldest first; ``seals`` what went on where with them."""
    interval = schools.of(spec.kind, INTERVAL)
    severity = severity_with(bike.severity, interval)
    answer = _due(spec, bike, interval, severity, last)
    ahead = forecast(answer, bike.read, bike.rate, bike.hours)
    changed = last.at if last else bike.new
    along = tuple(
        Reason("renewed with it", said.along(str(one)), Source.MANUAL)
        for one in renewals(spec, schools, done, seals)
    )
    left, today = float(answer.left), bike.now.on
    return Standing(
        due=answer,
        ahead=ahead,
        clock=clock_of(answer, spec.limits, changed, bike.now, bike.unit),
        lasts_days=interval_days(spec.limits, severity, bike.rate, bike.hours),
        level=min(max(left, 0.0), 1.0),
        age=float(oil_age(spec.limits, changed, bike.now)),
        when=say_due(answer, bike.now, bike.unit),
        expected=say_forecast(ahead, today) if ahead and answer.left > 0 else "",
        notch=left_from(left, ahead.on, today, NOTCH_DAYS) if ahead else None,
        reasons=(*answer.reasons, *(ahead.reasons if ahead else ()), *along),
    )


def changes_on(bike: Running, clocks: Sequence[Clock]) -> date | None:
    """The next day on which a bike has to be worked out anew though nobody wrote anything: a reservoir's
    state is another, or a reading is too old for the rate."""
    changes = [changes_after(clock, bike.now.on) for clock in clocks]
    return min((day for day in (*changes, bike.rate_until) if day is not None), default=None)

"""How one reservoir of a bike stands today: what is due, when that will be, and why."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal

from .ageing import Clock, changes_after, clock_of, least
from .due import Due, DueLimits, DueState, Meter, due, oil_age, say_due
from .guard import Sound, guarded
from .quantity import show
from .reasons import Reason, Source
from .renewals import Seals, renewals
from .said import due as said_due
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
NO_LOOK = Reason("no look", said_due.NOT_LOOKED_AT, Source.TRADE)


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
    ``lasts_days`` how long an interval lasts as the bike is used. Of a change and a look that are due the
    more urgent one is said, until ``turns_on``, when the other one is."""

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
    turns_on: date | None = None


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


def _look_due(spec: ReservoirSpec, bike: Running, looked: Meter | None) -> Due | None:
    """How the next look stands; None where the sheet asks for none. Hard use shortens an oil's life, not
    the time to a look."""
    looks = spec.looks
    if looks.repeat_km is None and looks.repeat_months is None:
        return None
    answer = due(looks, looked or bike.new, bike.now, unit=bike.unit)
    if answer.state == DueState.BASELINE:
        return replace(answer, reasons=(NO_LOOK,))
    words = tuple(
        Reason(said_due.look(one.rule), said_due.look(one.text), one.source)
        for one in answer.reasons
    )
    return replace(answer, reasons=words)


@dataclass(frozen=True, kw_only=True)
class _Side:
    """A change or a look as it is due: what it counts by, and what of it runs with the calendar."""

    due: Due
    limits: DueLimits
    severity: Decimal
    clock: Clock

    def urgency(self, day: date) -> tuple[Decimal, Decimal]:
        """The less, the more urgent: what is left, and of two as near their end what falls faster."""
        line, _ = least([self.clock], day)
        return line.left, -line.falls


def _change(
    spec: ReservoirSpec, bike: Running, answer: Due, last: Meter | None, severity: Decimal
) -> _Side:
    clock = clock_of(answer, spec.limits, last, bike.now, bike.unit)
    return _Side(due=answer, limits=spec.limits, severity=severity, clock=clock)


def _look(spec: ReservoirSpec, bike: Running, looked: Meter | None, change: Clock) -> _Side | None:
    """The next look; the oil ages from its change, whatever is due first."""
    answer = _look_due(spec, bike, looked)
    if answer is None:
        return None
    own = clock_of(answer, spec.looks, looked or bike.new, bike.now, bike.unit)
    clock = replace(own, changed=change.changed, span=change.span, look=True)
    return _Side(due=answer, limits=spec.looks, severity=Decimal(1), clock=clock)


def _in_order(change: _Side, look: _Side | None, day: date) -> tuple[_Side, ...]:
    """What is said first: a change that has to be done goes before any look, else what is more urgent."""
    if look is None:
        return (change,)
    if change.due.state in NEEDS_OIL or change.urgency(day) < look.urgency(day):
        return change, look
    return look, change


@guarded
def standing(
    spec: ReservoirSpec,
    bike: Running,
    schools: Schools,
    last: LastDone | None,
    done: Sequence[str],
    seals: Seals = (),
    looked: Meter | None = None,
) -> Standing:
    """How a reservoir stands. ``last``: its last change, None where none is known; ``done``: the
    variants of all of them, oldest first; ``seals`` what went on where with them; ``looked``: when it
    was last looked at, topped up or changed."""
    interval = schools.of(spec.kind, INTERVAL)
    severity = severity_with(bike.severity, interval)
    changed = last.at if last else bike.new
    change = _change(spec, bike, _due(spec, bike, interval, severity, last), changed, severity)
    today = bike.now.on
    first, *others = _in_order(change, _look(spec, bike, looked, change.clock), today)
    answer = first.due
    ahead = forecast(answer, bike.read, bike.rate, bike.hours)
    when = say_due(answer, bike.now, bike.unit)
    along = tuple(
        Reason("renewed with it", said.along(str(one)), Source.MANUAL)
        for one in renewals(spec, schools, done, seals)
    )
    beside = tuple(_beside(one, bike) for one in others)
    left = float(answer.left)
    return Standing(
        due=answer,
        ahead=ahead,
        clock=first.clock,
        lasts_days=interval_days(first.limits, first.severity, bike.rate, bike.hours),
        level=min(max(left, 0.0), 1.0),
        age=float(oil_age(spec.limits, changed, bike.now)),
        when=said_due.look(when) if first.clock.look else when,
        expected=say_forecast(ahead, today) if ahead and answer.left > 0 else "",
        notch=left_from(left, ahead.on, today, NOTCH_DAYS) if ahead else None,
        reasons=(*answer.reasons, *beside, *(ahead.reasons if ahead else ()), *along),
        turns_on=_turns_on(first, others, today),
    )


def _beside(side: _Side, bike: Running) -> Reason:
    """The other of a change and a look, in words that are true on any later day as well."""
    if side.due.state == DueState.BASELINE:
        return side.due.reasons[0]
    at = "" if side.due.due_km is None else show(side.due.due_km, bike.unit)
    what = said_due.LOOK if side.clock.look else said_due.CHANGE
    return Reason(f"then {what}", said_due.then(what, side.due.due_on, at), Source.MANUAL)


def _turns_on(first: _Side, others: Sequence[_Side], today: date) -> date | None:
    """The first day on which the other of a change and a look may be the more urgent one."""
    if not others or (first.due.state in NEEDS_OIL and not first.clock.look):
        return None
    clocks = [one.clock for one in (first, *others)]
    changes = [changes_after(clock, today) for clock in clocks]
    _, crossing = least(clocks, today)
    return min((day for day in (*changes, crossing) if day is not None), default=None)


def changes_on(bike: Running, clocks: Sequence[Clock]) -> date | None:
    """The next day on which a bike has to be worked out anew though nobody wrote anything: a reservoir's
    state is another, or a reading is too old for the rate."""
    changes = [changes_after(clock, bike.now.on) for clock in clocks]
    return min((day for day in (*changes, bike.rate_until) if day is not None), default=None)

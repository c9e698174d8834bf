"""Reading odometers: a life of distance, whatever unit and however many odometers counted it."""

from collections.abc import Collection, Iterator
from dataclasses import dataclass
from datetime import date
from decimal import ROUND_FLOOR, ROUND_HALF_UP, Decimal
from fractions import Fraction

from .errors import CoreError, Question
from .expected import COMMAS, as_said, as_typed
from .guard import Sound, guarded
from .quantity import UNITS, Kind, Measure, convert, parse, show
from .quantity.display import to_decimal

# a bike that did more than this since its last reading is asked about [our definition]
_MOST_A_DAY, _ALWAYS_FINE = Decimal(600), Decimal(3000)
_TIMES_ITS_USE = 4  # of what this bike usually does in the time
_MOST_HOURS = Decimal(150)  # more between two readings is asked about [our definition]
_OTHER = {"km": "mi", "mi": "km"}


@dataclass(frozen=True)
class LastReading(Sound):
    """Where the bike stood: ``km`` over its whole life, on that day."""

    km: Decimal
    on: date


@dataclass(frozen=True)
class Odometer(Sound):
    """The odometer fitted now: the unit it counts in, and what earlier ones had run, km."""

    unit: str
    offset: Decimal = Decimal(0)


def _most(last: LastReading, on: date, a_day: float | None) -> Decimal:
    most = _MOST_A_DAY if a_day is None else Decimal(str(a_day)) * _TIMES_ITS_USE
    return max(_ALWAYS_FINE, most * max(0, (on - last.on).days))


def _meant(said: Measure, odometer: Odometer) -> Iterator[tuple[Decimal, str]]:
    """Km and text of what the same digits may have been meant as: the other unit, another place of
    the comma."""
    number = convert(said.low, said.unit)
    other = _OTHER[said.unit if said.unit in _OTHER else odometer.unit]
    for digits, unit in ((number, other), *((number * shift, said.unit) for shift in COMMAS)):
        km = to_decimal(Fraction(digits) * UNITS[unit].factor)
        yield km + odometer.offset, as_typed(digits, unit)


def _read(text: str, odometer: Odometer) -> Measure:
    """A single distance; nought is one, a new odometer shows it."""
    if not text.strip():
        raise CoreError("odometer.empty")
    said = parse(text, Kind.DISTANCE, odometer.unit)
    if said.form != "single":
        raise CoreError("quantity.one_value", text=said.text)
    return said


def _again(said: Measure, odometer: Odometer, last: LastReading) -> bool:
    """Whether it shows what it showed last time, at the digits it was typed with."""
    number = convert(said.low, said.unit).normalize()
    exponent = number.as_tuple().exponent
    digit = Decimal(1).scaleb(min(0, exponent if isinstance(exponent, int) else 0))
    before = convert(last.km - odometer.offset, said.unit)
    return number in (before.quantize(digit, ROUND_FLOOR), before.quantize(digit, ROUND_HALF_UP))


@guarded
def read_odometer(
    text: str,
    odometer: Odometer,
    last: LastReading | None,
    on: date,
    a_day: float | None = None,
    sure: Collection[str] = (),
) -> Decimal:
    """What the odometer shows, as km over the bike's whole life.

    A bare number takes the odometer's unit. It is held against the last reading and what the bike
    usually does, ``a_day`` km; ``sure`` are the texts that were answered “it is right”. Raises
    CoreError as `quantity.parse` does, ``odometer.below_last``, and the questions
    ``odometer.which_unit`` (the other unit, or another comma, would fit) and ``odometer.jump``.
    """
    said = _read(text, odometer)
    km = said.low + odometer.offset
    if last is None:
        return km
    if _again(said, odometer, last):
        return last.km
    most = last.km + _most(last, on, a_day)
    own = as_said(said)
    if last.km <= km <= most or (own in sure and km >= last.km):
        return km
    options = [text for meant, text in _meant(said, odometer) if last.km <= meant <= most]
    shown = last.km - odometer.offset
    facts = {"last": show(shown, odometer.unit), "said": show(said.low, odometer.unit)}
    if options and own not in sure:
        answers = [options[0], own] if km >= last.km else options[:1]
        raise Question("odometer.which_unit", options=answers, sure=own, **facts)
    if km < last.km:
        raise CoreError("odometer.below_last", **facts)
    raise Question("odometer.jump", options=[own], sure=own, **facts)


@guarded
def corrected_odometer(
    text: str,
    odometer: Odometer,
    before: LastReading | None,
    after: LastReading | None,
    on: date,
    sure: Collection[str] = (),
) -> Decimal:
    """What the odometer really showed ``on`` that day, as km over the bike's whole life: between the
    readings ``before`` and ``after``. Raises as `read_odometer` does, and CoreError
    ``odometer.above_next``."""
    km = read_odometer(text, odometer, before, on, None, sure)
    if after is not None and km > after.km:
        facts = {"next": shown(after.km, odometer), "said": shown(km, odometer)}
        raise CoreError("odometer.above_next", **facts)
    return km


@guarded
def new_odometer(km: Decimal, shows: str, old: Odometer) -> Odometer:
    """The odometer fitted in place of ``old`` when the bike had run ``km``; the new one shows
    ``shows`` then. Raises CoreError as `quantity.parse` does."""
    return Odometer(old.unit, km - _read(shows, old).low)


@guarded
def shown(km: Decimal, odometer: Odometer) -> str:
    """A bike's km as its odometer shows them."""
    return show(km - odometer.offset, odometer.unit)


@guarded
def engine_run(now_km: Decimal, fitted_at: Decimal, had: Decimal | None) -> Decimal:
    """Km an engine itself has run, in a bike that has run ``now_km``: what it ``had`` run before it
    was fitted at ``fitted_at``, and since."""
    return (had or Decimal(0)) + max(now_km - fitted_at, Decimal(0))


@guarded
def check_engine_fitted(fitted_at: Decimal, now_km: Decimal, odometer: Odometer) -> None:
    """An engine is not fitted at a distance the bike has not run yet. Raises CoreError
    ``garage.engine_later`` at ``engine_at``."""
    if fitted_at > now_km:
        last = shown(now_km, odometer)
        raise CoreError("garage.engine_later", field="engine_at", last=last)


@guarded
def read_hours(text: str, before: Decimal | None, sure: Collection[str] = ()) -> Decimal:
    """What the hour meter shows, to the tenth.

    Raises CoreError as `quantity.parse` does, ``garage.hours`` for less than ``before``, and the
    question ``hours.jump`` for far more: another place of the comma, or is it right (``sure``)?
    """
    said = parse(text, Kind.TIME, "h")
    hours = convert(said.low, "h").quantize(Decimal("0.1"))
    if said.form != "single" or hours < (before or 0):
        raise CoreError("garage.hours", last="none" if before is None else f"{before:.0f} h")
    own = as_typed(hours, "h")
    if before is None or hours <= before + _MOST_HOURS or own in sure:
        return hours
    meant = [as_typed(hours * s, "h") for s in COMMAS if 0 <= hours * s - before <= _MOST_HOURS]
    raise Question(
        "hours.jump", said=own, last=f"{before:.0f} h", options=[*meant[:1], own], sure=own
    )

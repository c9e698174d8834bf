"""Reading odometers: a life of distance, whatever unit and however many odometers counted it."""

from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from .errors import CoreError
from .guard import Sound, guarded
from .quantity import Kind, parse_single, show

# a bike that did more than this since its last reading is asked about [our definition]
_MOST_A_DAY, _ALWAYS_FINE = Decimal(600), Decimal(3000)
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


def _plausible(km: Decimal, last: LastReading, on: date) -> bool:
    most = max(_ALWAYS_FINE, _MOST_A_DAY * max(0, (on - last.on).days))
    return last.km <= km <= last.km + most


def _ask_for_slip(text: str, odometer: Odometer, last: LastReading, on: date) -> None:
    """Ask when a bare number does not fit in the odometer's unit but does in the other."""
    other = _OTHER[odometer.unit]
    number = text.strip().lower().removesuffix(odometer.unit).strip()
    meant = parse_single(number, Kind.DISTANCE, other)
    if meant.unit == other and _plausible(meant.low + odometer.offset, last, on):
        options = [f"{number} {other}", f"{number} {odometer.unit}"]
        raise CoreError("odometer.which_unit", options=options)


@guarded
def read_odometer(text: str, odometer: Odometer, last: LastReading | None, on: date) -> Decimal:
    """What the odometer shows, as km over the bike's whole life.

    A bare number takes the odometer's unit. Raises CoreError as `quantity.parse` does,
    ``odometer.which_unit`` when a jump or a step back fits a km/mi slip, ``odometer.below_last``
    and ``odometer.jump`` (a jump nothing explains; adding the unit confirms it).
    """
    said = parse_single(text, Kind.DISTANCE, odometer.unit)
    km = said.low + odometer.offset
    if last is None or _plausible(km, last, on):
        return km
    bare = not any(letter.isalpha() for letter in text)
    if bare:
        _ask_for_slip(text, odometer, last, on)
    shown = last.km - odometer.offset
    facts = {"last": show(shown, odometer.unit), "said": show(said.low, odometer.unit)}
    if km < last.km:
        raise CoreError("odometer.below_last", **facts)
    if bare:
        raise CoreError("odometer.jump", options=[f"{text.strip()} {odometer.unit}"], **facts)
    return km


@guarded
def new_odometer(km: Decimal, shows: str, old: Odometer) -> Odometer:
    """The odometer fitted in place of ``old`` when the bike had run ``km``; the new one shows
    ``shows`` then. Raises CoreError as `quantity.parse` does."""
    return Odometer(old.unit, km - parse_single(shows, Kind.DISTANCE, old.unit).low)


@guarded
def shown(km: Decimal, odometer: Odometer) -> str:
    """A bike's km as its odometer shows them."""
    return show(km - odometer.offset, odometer.unit)

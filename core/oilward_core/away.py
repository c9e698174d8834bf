"""A part that only a specialist opens: out under a tag, waited for, back with what was done. Only what
was opened, or exchanged for one that was, counts as a rebuild. Common practice, no source."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import date, timedelta
from decimal import Decimal
from hashlib import sha256

from .codes.away import Came, Part
from .codes.bench import Basis
from .codes.debris import Rule
from .codes.suspension import LegKind
from .errors import CoreError
from .expected import as_said, hold_against, hold_inside, within
from .guard import Sound, guarded
from .quantity import Kind, parse, show
from .said import away as said
from .spec import Recipe, ReservoirSpec
from .suspension import pressure_at

LONGEST = timedelta(days=366)
GAS_WITHIN = Decimal(50)  # kPa, of today's figure [trade: common practice, no source]
CHARGED_AT = 20.0  # °C, of a pressure on a sheet
WARMTHS = Decimal(-30), Decimal(80)  # °C, of a shock in a workshop [our definition]
_LETTERS = "23456789ABCDEFGHJKMNPQRSTVWXYZ"  # none that is taken for another
_TAG_LENGTH = 4
_OPENED = (Came.REBUILT, Came.EXCHANGED)


@guarded
def part_of(spec: ReservoirSpec) -> Part | None:
    """What of a reservoir is a specialist's to open; None: nothing is."""
    if spec.facts.recipe == Recipe.SHOCK:
        return Part.SHOCK
    sealed = spec.facts.recipe == Recipe.FORK and spec.leg.kind == LegKind.SEALED_CARTRIDGE
    return Part.CARTRIDGE if sealed else None


@guarded
def tag_of(handed_out: str) -> str:
    """What is written on the part: four letters and digits made from the id of its leaving."""
    digest = sha256(handed_out.encode(errors="replace")).digest()
    number, found = int.from_bytes(digest), ""
    for _ in range(_TAG_LENGTH):
        number, place = divmod(number, len(_LETTERS))
        found += _LETTERS[place]
    return found


@guarded
def check_back_by(back_by: date, today: date) -> None:
    """Raises CoreError ``away.past`` for a day that is over, ``away.far`` beyond a year."""
    if back_by < today:
        raise CoreError("away.past", field="back_by")
    if back_by - today > LONGEST:
        raise CoreError("away.far", field="back_by")


@guarded
def is_overdue(back_by: date, today: date) -> bool:
    """Whether it should have been back before today."""
    return back_by < today


@guarded
def is_rebuild(part: Part, came: Came) -> bool:
    """Whether a shock's clock begins anew; a cartridge's oil is not the one its leg is changed by."""
    return part == Part.SHOCK and came in _OPENED


@dataclass(frozen=True, kw_only=True)
class Gas(Sound):
    """A gauge pressure as it was read, kPa, at which temperature, °C."""

    pressure: Decimal
    celsius: Decimal


@guarded
def todays(charged: Decimal, celsius: Decimal) -> Decimal:
    """What a gas charged to a gauge pressure (kPa) at 20 °C reads at another temperature, kPa."""
    bar = pressure_at(float(charged) / 100, CHARGED_AT, float(celsius))
    return round(Decimal(bar) * 100, 1)


def _celsius(text: str, sure: Collection[str]) -> Decimal:
    measure = parse(text, Kind.TEMPERATURE, "°C")
    hold_inside(measure, *WARMTHS, sure)
    return measure.low


@guarded
def read_gas(
    pressure: str, temperature: str, charged: Decimal | None, sure: Collection[str] = ()
) -> Gas | None:
    """A gas pressure as typed, held against what the sheet's is at that temperature; None where none was
    read.

    Raises CoreError at ``pressure`` or ``temperature``, ``away.temperature_missing`` where only one was
    said; the questions ``measure.unlikely``, and ``expected.slip``, ``expected.far`` beyond 0.5 bar.
    """
    if not pressure.strip():
        return None
    if not temperature.strip():
        raise CoreError("away.temperature_missing", field="temperature")
    try:
        celsius = _celsius(temperature, sure)
    except CoreError as error:
        raise error.at("temperature") from error
    try:
        measure = parse(pressure, Kind.PRESSURE, "bar")
        if measure.low < 0:
            raise CoreError("suspension.pressure")
        if charged:
            now = todays(charged, celsius)
            expected = within(now, show(now, "bar"), Basis.SHEET, said.NOT_TODAYS, GAS_WITHIN)
            own = as_said(measure)
            hold_against(measure, expected, own if own in sure else "")
    except CoreError as error:
        raise error.at("pressure") from error
    return Gas(pressure=measure.low, celsius=celsius)


@guarded
def is_answered(rule: Rule, came: Came) -> bool:
    """Whether what was done to a part answers what a look at it asked for: a charge its gas alone, what
    was opened or exchanged all of it, and nothing where it came as it went."""
    return came in _OPENED or (came == Came.CHARGED and rule == Rule.GAS_OFF)


@guarded
def check_looked(by: str, looked: str, alone: bool) -> None:
    """Raises CoreError ``second.same`` where whoever fitted it is the one who looks, unless that is the
    only person there is."""
    if by == looked and not alone:
        raise CoreError("second.same", field="username")


@guarded
def check_came(part: Part, came: Came, oil: str, paper: str) -> None:
    """Raises CoreError ``away.paper`` or ``away.oil`` where something was opened and nothing says so."""
    if came == Came.AS_IT_WENT:
        return
    if not paper.strip():
        raise CoreError("away.paper", field="paper")
    if came == Came.REBUILT and not oil.strip():
        raise CoreError("away.oil", field="oil", part=said.PARTS[part])

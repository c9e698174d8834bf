"""What a laboratory's report says of a used oil: rates above fresh oil, viscosity, water, fuel.

Usual sources of the elements: common practice, elements as in ASTM D5185; from memory. Trend and rate say
more than a single value; additives contain some of these too.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal

from ..codes.laboratory import Element
from ..debris import Level
from ..errors import CoreError
from ..fluid import read_grades
from ..guard import Sound, guarded
from ..said import laboratory as say

WARN, ACT = Decimal(10), Decimal(20)  # % of viscosity, either way [common practice]
WATER_WATCH, WATER_ACT = Decimal("0.1"), Decimal("0.2")  # % [common practice, no source]
FUEL_WATCH, FUEL_ACT = Decimal(2), Decimal(4)  # % [common practice, no source]
LEAST_KM = Decimal(200)


@guarded
def wear_rate(used: Decimal, fresh: Decimal, km: Decimal) -> Decimal:
    """An element above fresh oil, mg/kg per 1000 km; below it counts as none. Raises CoreError
    ``lab.distance`` on a distance too short to say."""
    if km < LEAST_KM:
        raise CoreError("lab.distance", field="km")
    return max(used - fresh, Decimal(0)) / km * 1000


@guarded
def viscosity_change(new: Decimal, used: Decimal) -> Decimal:
    """In per cent of fresh oil, both at one temperature. Raises CoreError ``lab.viscosity`` for a fresh
    oil that has none."""
    if new <= 0 or used <= 0:
        raise CoreError("lab.viscosity", field="kv100")
    return (used - new) / new * 100


@guarded
def change_level(percent: Decimal, warn: Decimal = WARN, act: Decimal = ACT) -> Level:
    """Watch from ±10 %, investigate from ±20 %."""
    size = abs(percent)
    return Level.INVESTIGATE if size >= act else Level.WATCH if size >= warn else Level.ROUTINE


@dataclass(frozen=True, kw_only=True)
class Analysis(Sound):
    """A report: elements in mg/kg, viscosity at 100 °C in cSt, water and fuel in %, the distance the oil
    ran; of the ``fresh`` oil the same, as far as known, and the ``grade`` on its bottle."""

    km: Decimal
    elements: Mapping[Element, Decimal]
    kv100: Decimal | None = None
    water: Decimal | None = None
    fuel: Decimal | None = None
    fresh: Mapping[Element, Decimal] | None = None
    fresh_kv100: Decimal | None = None
    grade: str = ""


@dataclass(frozen=True)
class Remark(Sound):
    """What a value means, and how grave it is."""

    level: Level
    text: str


def _over(
    value: Decimal | None, watch: Decimal, act: Decimal, what: str, means: str
) -> Remark | None:
    if value is None or value < watch:
        return None
    level = Level.INVESTIGATE if value >= act else Level.WATCH
    return Remark(level, say.share(what, value, means))


def _viscosity(one: Analysis) -> Remark | None:
    if one.kv100 is None or one.fresh_kv100 is None:
        return None
    change = viscosity_change(one.fresh_kv100, one.kv100)
    level = change_level(change)
    if level == Level.ROUTINE:
        return None
    return Remark(level, say.viscosity(change))


def _out_of_grade(one: Analysis) -> Remark | None:
    """An oil whose viscosity at 100 °C lies outside its grade's band (SAE J300 or J306, recalled)."""
    bands = [(grade, grade.band) for grade in read_grades(one.grade)]
    known = [(grade, band) for grade, band in bands if band is not None]
    if one.kv100 is None or not known:
        return None
    if any(low <= float(one.kv100) < high for _, (low, high) in known):
        return None
    grade, (low, high) = known[0]
    return Remark(Level.WATCH, say.left_its_grade(one.kv100, grade, low, high))


def _together(one: Analysis) -> Remark | None:
    """Sodium, potassium and boron that come together are coolant."""
    fresh = one.fresh or {}
    gained = [
        name
        for name in (Element.NA, Element.K, Element.B)
        if one.elements.get(name, Decimal(0)) - fresh.get(name, Decimal(0)) >= 20
    ]
    if len(gained) < 3:
        return None
    return Remark(Level.INVESTIGATE, say.TOGETHER)


@guarded
def rates(one: Analysis) -> dict[Element, Decimal]:
    """Every element above fresh oil, mg/kg per 1000 km; empty on a distance too short to say."""
    if one.km < LEAST_KM:
        return {}
    fresh = one.fresh or {}
    return {
        name: wear_rate(value, fresh.get(name, Decimal(0)), one.km)
        for name, value in one.elements.items()
    }


@guarded
def remarks(one: Analysis) -> tuple[Remark, ...]:
    """What a report says by its rules, the gravest first; trends speak beside it."""
    found = [
        _viscosity(one),
        _out_of_grade(one),
        _over(one.water, WATER_WATCH, WATER_ACT, say.WATER, say.FROM_WATER),
        _over(one.fuel, FUEL_WATCH, FUEL_ACT, say.FUEL, say.FROM_FUEL),
        _together(one),
    ]
    said = [remark for remark in found if remark is not None]
    return tuple(sorted(said, key=lambda remark: -remark.level))

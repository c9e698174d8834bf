"""The units the trade speaks, with every spelling people print and type.

Factors come from ``pint`` (exact where NIST SP 811:2008 App. B is exact) and are kept as
fractions, so that 15.5 lbf·ft and 186 lbf·in are the same number, not nearly the same.
"""

import itertools
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum
from fractions import Fraction

import pint

from ..guard import Sound


class Kind(StrEnum):
    """What is measured. The value is the word used in sentences."""

    VOLUME = "volume"
    TORQUE = "torque"
    DISTANCE = "distance"
    LENGTH = "length"
    PRESSURE = "pressure"
    TEMPERATURE = "temperature"
    VISCOSITY = "viscosity"
    TIME = "time"
    MASS = "mass"
    SPRING_RATE = "spring rate"
    DENSITY = "density"


CANONICAL = {
    Kind.VOLUME: "ml",
    Kind.TORQUE: "N·m",
    Kind.DISTANCE: "km",
    Kind.LENGTH: "mm",
    Kind.PRESSURE: "kPa",
    Kind.TEMPERATURE: "°C",
    Kind.VISCOSITY: "cSt",
    Kind.TIME: "min",
    Kind.MASS: "g",
    Kind.SPRING_RATE: "N/mm",
    Kind.DENSITY: "kg/m³",
}
_PINT_CANONICAL = {
    Kind.VOLUME: "milliliter",
    Kind.TORQUE: "newton * meter",
    Kind.DISTANCE: "kilometer",
    Kind.LENGTH: "millimeter",
    Kind.PRESSURE: "kilopascal",
    Kind.VISCOSITY: "centistokes",
    Kind.TIME: "minute",
    Kind.MASS: "gram",
    Kind.SPRING_RATE: "newton / millimeter",
    Kind.DENSITY: "kilogram / meter ** 3",
}


@dataclass(frozen=True, kw_only=True)
class Unit(Sound):
    """A unit: canonical = value · ``factor`` + ``offset``.

    ``places`` is how many decimals a person wants to see. ``fine`` units are so small that
    nobody writes three decimals of them: there ``2,750`` can only mean 2750, and ``2.750`` is
    asked about. ``system`` is the family of units that are added up side by side (``1 qt 6 oz``).
    ``us_word`` marks words that an imperial reader would take for another size.
    """

    name: str
    kind: Kind
    factor: Fraction
    offset: Fraction
    places: int
    fine: bool
    system: str
    us_word: bool

    def difference(self, value: Fraction) -> Fraction:
        """A difference of so many units (18 °F are 10 °C), canonical: the offset falls away."""
        return value * self.factor


def _joined(*parts: tuple[str, ...]) -> Iterator[str]:
    """Every order of the parts, each part in each of its words: ft lb, lb ft, foot pounds …"""
    for order in itertools.permutations(parts):
        yield from (" ".join(words) for words in itertools.product(*order))


def _lever(forces: str, arms: str) -> str:
    """A force and an arm in either order, apart (``ft lb``) and, where short, run together."""
    force, arm = tuple(forces.split()), tuple(arms.split())
    apart = list(_joined(force, arm))
    return "|".join([*apart, *(words.replace(" ", "") for words in apart if len(words) <= 7)])


_SYSTEM_WORDS = {"us": ("us", "usa", "american"), "imp": ("imp", "imperial", "uk", "british")}


def _of_system(system: str, words: str) -> str:
    """``us qt`` and ``qt us``: words that say whose quart they mean."""
    return "|".join(_joined(_SYSTEM_WORDS[system], tuple(words.split("|"))))


_FORCE_LB, _FORCE_KG = "lbf lb lbs pound pounds", "kgf kg kgs kp kilogram kilograms"
_FOOT, _INCH = "ft foot feet", "in ins inch inches"
_METRE, _CENTIMETRE = "m metre metres meter meters", "cm centimetre centimetres centimeter"
_QT, _PT, _GAL = "qt|qts|quart|quarts", "pt|pts|pint|pints", "gal|gals|gallon|gallons"
_OZ = "oz|ozs|fl oz|fl ozs|floz|fluid oz|fluid ounce|fluid ounces|fl ounce|fl ounces"
_OUNCES = "ounce|ounces"
_CM2, _IN2 = ("cm²", "cm2", "sq cm"), ("in²", "in2", "sq in", "sq inch", "square inch")

_VOLUMES = (
    # name, pint expression, decimals shown, fine, system, spellings ("|" between)
    ("ml", "milliliter", 0, True, "metric", "ml|mls|cc|ccm|ccs|cm³|cm3|cu cm|millilitre"
     "|millilitres|milliliter|milliliters"),
    ("cl", "centiliter", 1, False, "metric", "cl|centilitre|centilitres|centiliter|centiliters"),
    ("dl", "deciliter", 2, False, "metric", "dl|decilitre|decilitres|deciliter|deciliters"),
    ("l", "liter", 2, False, "metric", "l|lt|lts|ltr|ltrs|lit|litre|litres|liter|liters|dm³|dm3"),
    ("m³", "meter ** 3", 3, False, "metric", "m³|m3|cubic metre|cubic metres|cubic meters"),
    ("in³", "inch ** 3", 1, False, "inch", "in³|in3|cu in|cuin|cu inch|cu inches|cubic inch"
     "|cubic inches"),
    ("qt", "quart", 2, False, "us", f"{_QT}|{_of_system('us', _QT)}|usqt"),
    ("pt", "pint", 2, False, "us", f"{_PT}|{_of_system('us', _PT)}"),
    ("gal", "gallon", 2, False, "us", f"{_GAL}|{_of_system('us', _GAL)}"),
    ("fl oz", "fluid_ounce", 1, False, "us", f"{_OZ}|{_OUNCES}|"
     + _of_system("us", f"{_OZ}|{_OUNCES}")),
    ("imp qt", "imperial_quart", 2, False, "imp", _of_system("imp", _QT)),
    ("imp pt", "imperial_pint", 2, False, "imp", _of_system("imp", _PT)),
    ("imp gal", "imperial_gallon", 2, False, "imp", _of_system("imp", _GAL)),
    ("imp fl oz", "imperial_fluid_ounce", 1, False, "imp", _of_system("imp", f"{_OZ}|{_OUNCES}")),
)  # fmt: skip
_TORQUES = (
    ("N·m", "newton * meter", 1, False, "metric", _lever("n newton newtons", _METRE)),
    ("N·cm", "newton * centimeter", 0, False, "metric", _lever("n newton newtons", _CENTIMETRE)
     + "|cn m|cnm|c n m"),
    ("daN·m", "decanewton * meter", 2, False, "metric", _lever("dan decanewton", _METRE)),
    ("lbf·ft", "force_pound * foot", 1, False, "foot", _lever(_FORCE_LB, _FOOT)
     + "|pound force foot|foot pound force|foot pounds force|ft lb f|ft/lb|ft/lbs|lb/ft|lbs/ft"),
    ("lbf·in", "force_pound * inch", 0, False, "foot", _lever(_FORCE_LB, _INCH)
     + "|pound force inch|inch pound force|inch pounds force|in lb f|in/lb|in/lbs"),
    ("kgf·m", "force_kilogram * meter", 2, False, "kgf", _lever(_FORCE_KG, _METRE)
     + "|kilogram force metre|kilogram force meter"),
    ("kgf·cm", "force_kilogram * centimeter", 0, False, "kgf", _lever(_FORCE_KG, _CENTIMETRE)),
)  # fmt: skip
_DISTANCES = (
    ("km", "kilometer", 0, True, "metric", "km|kms|kilometre|kilometres|kilometer|kilometers"),
    ("mi", "mile", 0, True, "mile", "mi|mis|mile|miles"),
)  # fmt: skip
_LENGTHS = (
    ("mm", "millimeter", 1, False, "metric", "mm|mms|millimetre|millimetres|millimeter|millimeters"),
    ("cm", "centimeter", 2, False, "metric", "cm|cms|centimetre|centimetres|centimeter|centimeters"),
    ("m", "meter", 3, False, "metric", "m|metre|metres|meter|meters"),
    ("µm", "micrometer", 0, False, "metric", "µm|um|micron|microns|micrometre|micrometer"),
    ("in", "inch", 3, False, "foot", 'in|ins|inch|inches|"'),
    ("ft", "foot", 2, False, "foot", "ft|foot|feet|'"),
    ("thou", "inch / 1000", 0, False, "thou", "thou|thous|mil|mils|thousandths"),
)  # fmt: skip
_PRESSURES = (
    ("kPa", "kilopascal", 0, False, "metric", "kpa|kilopascal|kilopascals"),
    ("Pa", "pascal", 0, False, "metric", "pa|pascal|pascals"),
    ("MPa", "megapascal", 3, False, "metric", "mpa|megapascal|megapascals"),
    ("bar", "bar", 2, False, "metric", "bar|bars"),
    ("mbar", "millibar", 0, False, "metric", "mbar|mbars|millibar|millibars|hpa"),
    ("psi", "psi", 0, False, "foot", "psi|psig|pounds per square inch|"
     + "|".join(f"{lb}/{sq}" for lb in ("lb", "lbs", "lbf") for sq in _IN2)),
    ("kgf/cm²", "kgf/cm**2", 2, False, "metric", "|".join(
        f"{kg}/{sq}" for kg in ("kg", "kgs", "kgf", "kp") for sq in _CM2) + "|at"),
    ("atm", "atm", 2, False, "metric", "atm|atmosphere|atmospheres"),
)  # fmt: skip
_OTHERS = (
    (Kind.VISCOSITY, ("cSt", "centistokes", 1, False, "metric", "cst|centistoke|centistokes"
                      "|mm²/s|mm2/s|mm²/sec|mm2/sec")),
    (Kind.VISCOSITY, ("St", "stokes", 3, False, "metric", "st|stoke|stokes|cm²/s|cm2/s")),
    (Kind.TIME, ("min", "minute", 0, True, "time", "min|mins|minute|minutes")),
    (Kind.TIME, ("s", "second", 0, True, "time", "s|sec|secs|second|seconds")),
    (Kind.TIME, ("h", "hour", 1, True, "time", "h|hr|hrs|hour|hours")),
    (Kind.TIME, ("days", "day", 0, True, "time", "d|day|days")),
    (Kind.TIME, ("weeks", "week", 1, True, "time", "wk|wks|week|weeks")),
    (Kind.TIME, ("months", "year / 12", 1, True, "time",
                 "mo|mos|mth|mths|month|months|mois|monat|monate")),
    (Kind.TIME, ("years", "year", 2, True, "time", "yr|yrs|year|years|an|ans|jahr|jahre")),
    (Kind.MASS, ("g", "gram", 0, True, "metric", "g|gr|gm|gms|gram|grams|gramme|grammes")),
    (Kind.MASS, ("kg", "kilogram", 3, False, "metric", "kg|kgs|kilo|kilos|kilogram|kilograms")),
    (Kind.MASS, ("lb", "pound", 2, False, "pound", "lb|lbs|pound|pounds")),
    (Kind.MASS, ("oz (mass)", "ounce", 1, False, "pound", "oz|ozs|ounce|ounces|oz av|oz mass")),
    (Kind.SPRING_RATE, ("N/mm", "newton / millimeter", 2, False, "metric", "n/mm")),
    (Kind.SPRING_RATE, ("kgf/mm", "force_kilogram / millimeter", 3, False, "metric",
                        "kgf/mm|kg/mm|kp/mm")),
    (Kind.SPRING_RATE, ("lbf/in", "force_pound / inch", 1, False, "foot",
                        "lbf/in|lb/in|lbs/in|lbf/inch|lb/inch|lbs/inch")),
    (Kind.DENSITY, ("kg/m³", "kilogram / meter ** 3", 0, False, "metric", "kg/m³|kg/m3|g/l")),
    (Kind.DENSITY, ("kg/l", "kilogram / liter", 3, False, "metric",
                    "kg/l|kg/dm³|kg/dm3|g/ml|g/cc|g/cm³|g/cm3")),
)  # fmt: skip
_ROWS = (
    *((Kind.VOLUME, row) for row in _VOLUMES),
    *((Kind.TORQUE, row) for row in _TORQUES),
    *((Kind.DISTANCE, row) for row in _DISTANCES),
    *((Kind.LENGTH, row) for row in _LENGTHS),
    *((Kind.PRESSURE, row) for row in _PRESSURES),
    *_OTHERS,
)
# name, factor, offset, spellings
_TEMPERATURES = (
    ("°C", Fraction(1), Fraction(0), "°c|c|° c|deg c|degc|degrees c|celsius|centigrade"
     "|degrees celsius|degree celsius|deg celsius"),
    ("°F", Fraction(5, 9), Fraction(-160, 9), "°f|f|° f|deg f|degf|degrees f|fahrenheit"
     "|degrees fahrenheit|degree fahrenheit|deg fahrenheit"),
    ("K", Fraction(1), Fraction("-273.15"), "k|°k|kelvin|kelvins"),
)  # fmt: skip

_registry: pint.UnitRegistry[Decimal] = pint.UnitRegistry(non_int_type=Decimal)


def _pint_factor(expression: str, canonical: str) -> Fraction:
    return Fraction(_registry.parse_expression(expression).to(canonical).magnitude)


_US_WORDS = ("qt", "pt", "gal", "fl oz")
_ZERO = Fraction(0)
UNITS: dict[str, Unit] = {
    name: Unit(
        name=name,
        kind=kind,
        factor=_pint_factor(expression, _PINT_CANONICAL[kind]),
        offset=_ZERO,
        places=places,
        fine=fine,
        system=system,
        us_word=name in _US_WORDS,
    )
    for kind, (name, expression, places, fine, system, _) in _ROWS
} | {
    name: Unit(
        name=name,
        kind=Kind.TEMPERATURE,
        factor=factor,
        offset=offset,
        places=0,
        fine=False,
        system="",
        us_word=False,
    )
    for name, factor, offset, _ in _TEMPERATURES
}

# a spelling in its plain form (lower case, one space between words): the units it can mean
SPELLINGS: dict[str, tuple[Unit, ...]] = {}
for _name, _words in (
    *((row[0], row[-1]) for _, row in _ROWS),
    *((row[0], row[-1]) for row in _TEMPERATURES),
):
    for _spelling in dict.fromkeys((_name.lower().replace("·", " "), *_words.split("|"))):
        _known = SPELLINGS.get(_spelling, ())
        if UNITS[_name] not in _known:
            SPELLINGS[_spelling] = (*_known, UNITS[_name])
SPELLINGS.pop("mn")  # nobody writes newton metres so, and thousandths of a newton are no torque
MOST_WORDS = max(spelling.count(" ") for spelling in SPELLINGS) + 1

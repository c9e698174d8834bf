"""The units the trade speaks, with every spelling people type.

Factors come from ``pint`` (exact where NIST SP 811:2008 App. B is exact) and are kept as
fractions, so that 15.5 lbf·ft and 186 lbf·in are the same number, not nearly the same.
"""

from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum
from fractions import Fraction

import pint


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
}


@dataclass(frozen=True)
class Unit:
    """A unit: canonical = value · ``factor`` + ``offset``.

    ``places`` is how many decimals a person wants to see. ``fine`` units are so small that
    nobody writes three decimals of them: there ``2,750`` can only mean 2750.
    ``us_word`` marks words that an imperial reader would take for another size.
    """

    name: str
    kind: Kind
    factor: Fraction
    offset: Fraction
    places: int
    fine: bool
    us_word: bool
    spellings: tuple[str, ...]


_registry: pint.UnitRegistry[Decimal] = pint.UnitRegistry(non_int_type=Decimal)


def _pint_factor(expression: str, canonical: str) -> Fraction:
    return Fraction(_registry.Quantity(Decimal(1), expression).to(canonical).magnitude)


_PINT_CANONICAL = {
    Kind.VOLUME: "milliliter",
    Kind.TORQUE: "newton * meter",
    Kind.DISTANCE: "kilometer",
    Kind.LENGTH: "millimeter",
    Kind.PRESSURE: "kilopascal",
    Kind.VISCOSITY: "centistokes",
    Kind.TIME: "minute",
    Kind.MASS: "gram",
}


def _turned(force: str, arm: str) -> tuple[str, ...]:
    """All the ways people write a lever arm and a force: ft-lb, lb ft, lbf·ft, foot-pounds."""
    spellings = []
    for first, second in ((force, arm), (arm, force)):
        spellings += [first + join + second for join in ("·", "-", " ", ".", "*", "")]
    return tuple(spellings)


# name, kind, pint expression, decimals shown, fine, US word, spellings
_TABLE: tuple[tuple[str, Kind, str, int, bool, bool, tuple[str, ...]], ...] = (
    (
        "ml",
        Kind.VOLUME,
        "milliliter",
        0,
        True,
        False,
        ("ml", "cc", "ccm", "cm³", "cm3", "millilitre", "millilitres", "milliliter", "milliliters"),
    ),
    ("cl", Kind.VOLUME, "centiliter", 1, False, False, ("cl",)),
    ("dl", Kind.VOLUME, "deciliter", 2, False, False, ("dl",)),
    (
        "l",
        Kind.VOLUME,
        "liter",
        2,
        False,
        False,
        ("l", "lt", "ltr", "litre", "litres", "liter", "liters"),
    ),
    (
        "qt",
        Kind.VOLUME,
        "quart",
        2,
        False,
        True,
        ("qt", "qts", "us qt", "us quart", "us quarts", "quart", "quarts"),
    ),
    (
        "pt",
        Kind.VOLUME,
        "pint",
        2,
        False,
        True,
        ("pt", "pts", "us pt", "us pint", "us pints", "pint", "pints"),
    ),
    ("gal", Kind.VOLUME, "gallon", 2, False, True, ("gal", "us gal", "us gallon", "gallon")),
    (
        "fl oz",
        Kind.VOLUME,
        "fluid_ounce",
        1,
        False,
        True,
        ("fl oz", "fl. oz", "fl.oz", "floz", "us fl oz", "us oz", "oz", "fluid ounce"),
    ),
    (
        "imp qt",
        Kind.VOLUME,
        "imperial_quart",
        2,
        False,
        False,
        ("imp qt", "imperial qt", "imperial quart", "uk qt"),
    ),
    (
        "imp pt",
        Kind.VOLUME,
        "imperial_pint",
        2,
        False,
        False,
        ("imp pt", "imperial pt", "imperial pint", "uk pt"),
    ),
    (
        "imp gal",
        Kind.VOLUME,
        "imperial_gallon",
        2,
        False,
        False,
        ("imp gal", "imperial gal", "imperial gallon", "uk gal"),
    ),
    (
        "imp fl oz",
        Kind.VOLUME,
        "imperial_fluid_ounce",
        1,
        False,
        False,
        ("imp fl oz", "imp oz", "imperial fl oz", "imperial oz", "uk fl oz", "uk oz"),
    ),
    (
        "N·m",
        Kind.TORQUE,
        "newton * meter",
        1,
        False,
        False,
        (*_turned("n", "m"), "newton metre", "newton metres", "newton meter"),
    ),
    (
        "lbf·ft",
        Kind.TORQUE,
        "force_pound * foot",
        1,
        False,
        False,
        (
            *_turned("lbf", "ft"),
            *_turned("lb", "ft"),
            *_turned("lbs", "ft"),
            "foot-pound",
            "foot-pounds",
            "foot pounds",
        ),
    ),
    (
        "lbf·in",
        Kind.TORQUE,
        "force_pound * inch",
        0,
        False,
        False,
        (
            *_turned("lbf", "in"),
            *_turned("lb", "in"),
            *_turned("lbs", "in"),
            "inch-pound",
            "inch-pounds",
            "inch pounds",
        ),
    ),
    (
        "kgf·m",
        Kind.TORQUE,
        "force_kilogram * meter",
        2,
        False,
        False,
        (*_turned("kgf", "m"), *_turned("kg", "m")),
    ),
    (
        "kgf·cm",
        Kind.TORQUE,
        "force_kilogram * centimeter",
        0,
        False,
        False,
        (*_turned("kgf", "cm"), *_turned("kg", "cm")),
    ),
    (
        "km",
        Kind.DISTANCE,
        "kilometer",
        0,
        True,
        False,
        ("km", "kms", "kilometre", "kilometres", "kilometer", "kilometers"),
    ),
    ("mi", Kind.DISTANCE, "mile", 0, True, False, ("mi", "mile", "miles")),
    (
        "mm",
        Kind.LENGTH,
        "millimeter",
        1,
        False,
        False,
        ("mm", "millimetre", "millimetres", "millimeter"),
    ),
    ("cm", Kind.LENGTH, "centimeter", 2, False, False, ("cm",)),
    ("in", Kind.LENGTH, "inch", 3, False, False, ("in", "inch", "inches", '"', "″")),
    ("kPa", Kind.PRESSURE, "kilopascal", 0, False, False, ("kpa",)),
    ("bar", Kind.PRESSURE, "bar", 2, False, False, ("bar",)),
    ("psi", Kind.PRESSURE, "psi", 0, False, False, ("psi", "lbf/in²", "lb/in²")),
    ("kgf/cm²", Kind.PRESSURE, "kgf/cm**2", 2, False, False, ("kgf/cm²", "kg/cm²", "kgf/cm2")),
    ("cSt", Kind.VISCOSITY, "centistokes", 1, False, False, ("cst", "mm²/s", "mm2/s")),
    ("min", Kind.TIME, "minute", 0, True, False, ("min", "mins", "minute", "minutes")),
    ("s", Kind.TIME, "second", 0, True, False, ("s", "sec", "secs", "second", "seconds")),
    ("h", Kind.TIME, "hour", 1, True, False, ("h", "hr", "hrs", "hour", "hours")),
    ("g", Kind.MASS, "gram", 0, True, False, ("g", "gram", "grams")),
    ("kg", Kind.MASS, "kilogram", 3, False, False, ("kg", "kilo", "kilos")),
    ("lb", Kind.MASS, "pound", 2, False, False, ("lb", "lbs", "pound", "pounds")),
    ("oz (mass)", Kind.MASS, "ounce", 1, False, False, ("oz (mass)", "oz", "ounce", "ounces")),
)

_ZERO = Fraction(0)

UNITS: dict[str, Unit] = {
    name: Unit(
        name,
        kind,
        _pint_factor(expression, _PINT_CANONICAL[kind]),
        _ZERO,
        places,
        fine,
        us_word,
        spellings,
    )
    for name, kind, expression, places, fine, us_word, spellings in _TABLE
} | {
    "°C": Unit(
        "°C",
        Kind.TEMPERATURE,
        Fraction(1),
        _ZERO,
        0,
        False,
        False,
        ("°c", "degc", "c", "celsius", "deg c"),
    ),
    "°F": Unit(
        "°F",
        Kind.TEMPERATURE,
        Fraction(5, 9),
        Fraction(-160, 9),
        0,
        False,
        False,
        ("°f", "degf", "f", "fahrenheit", "deg f"),
    ),
}

SPELLINGS: dict[str, tuple[Unit, ...]] = {}
for _unit in UNITS.values():
    for _spelling in dict.fromkeys(_unit.spellings):
        SPELLINGS[_spelling] = (*SPELLINGS.get(_spelling, ()), _unit)

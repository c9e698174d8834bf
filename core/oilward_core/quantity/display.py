"""Amounts written for people: exactly, rounded, and in bottle words."""

from decimal import ROUND_HALF_EVEN, Context, Decimal
from fractions import Fraction

from ..errors import CoreError
from ..guard import guarded, remembered
from ..said import kit as say
from .units import UNITS, Kind, Unit

QUANTUM = Decimal("0.000001")
GROUP = "\u00a0"  # stands between thousands and never breaks over a line
_EXACT = Context(prec=120, rounding=ROUND_HALF_EVEN)


def unit_named(name: str) -> Unit:
    """A unit by its name. Raises CoreError ``quantity.unknown_unit``."""
    unit = UNITS.get(name)
    if unit is None:
        raise CoreError("quantity.unknown_unit", word=name)
    return unit


def to_decimal(value: Fraction) -> Decimal:
    """A fraction as a decimal, to the sixth place (a thousandth of a drop of oil)."""
    exact = _EXACT.divide(Decimal(value.numerator), Decimal(value.denominator))
    return exact.quantize(QUANTUM, context=_EXACT).normalize(_EXACT) + 0


def to_canonical(value: Fraction, unit: Unit) -> Fraction:
    """``value`` of ``unit`` in its kind's canonical unit, exactly."""
    return value * unit.factor + unit.offset


@guarded
@remembered
def convert(value: Decimal, unit: str) -> Decimal:
    """``value`` in the canonical unit of ``unit``'s kind, as a number of ``unit`` (6 decimals)."""
    target = unit_named(unit)
    return to_decimal((Fraction(value) - target.offset) / target.factor)


@guarded
def difference(value: Decimal, unit: str) -> Decimal:
    """A difference of so many ``unit`` in the canonical unit: 18 °F apart are 10 °C apart."""
    return to_decimal(unit_named(unit).difference(Fraction(value)))


@guarded
def format_exact(value: Decimal, unit: str) -> str:
    """``value`` (canonical) in ``unit`` with as many digits as parsing it back needs."""
    target = unit_named(unit)
    exact = (Fraction(value) - target.offset) / target.factor
    for digits in range(28):
        text = f"{Decimal(exact.numerator) / Decimal(exact.denominator):.{digits}f}"
        back = Fraction(text) * target.factor + target.offset
        if abs(back - Fraction(value)) < Fraction(QUANTUM) / 2:
            return f"{text} {unit}"
    raise CoreError("number.unusable", name="value")


@guarded
def grouped(number: Decimal) -> str:
    """A number with its thousands apart from five digits on: ``61 240``, ``1005``. The space never
    breaks a line. Source: SI Brochure, 9th ed., 5.4.4 (four digits customarily stand together)."""
    return f"{number:,f}".replace(",", GROUP) if abs(number) >= 10_000 else f"{number:f}"


@guarded
@remembered
def show(value: Decimal, unit: str, places: int | None = None) -> str:
    """``value`` (canonical) in ``unit``, rounded as a person wants it: ``330 ml``, ``17.5 lbf·ft``,
    ``61 240 mi``."""
    target = unit_named(unit)
    digits = target.places if places is None else places
    exact = convert(value, unit)
    if target.kind == Kind.VOLUME and places is None and exact == exact.to_integral_value():
        digits = 0  # a quart is a quart, not 1.00
    number = exact.quantize(Decimal(1).scaleb(-digits), rounding=ROUND_HALF_EVEN)
    one = target.kind == Kind.TIME and number == 1 and len(unit) > 1
    name = unit.removesuffix("s") if one else unit
    return f"{grouped(number)} {name}"


@guarded
def show_precise(value: Decimal, unit: str) -> str:
    """Like `show`, but a small number keeps three significant digits: ``0.005 qt``, ``1.61 km``."""
    digits = unit_named(unit).places
    number = convert(value, unit)
    needed = 2 - number.adjusted() if number else 0
    if needed <= digits:
        return show(value, unit)
    text = f"{round(number, min(needed, 6)):f}".rstrip("0")
    whole, _, decimals = text.partition(".")
    return (
        f"{whole}.{decimals.ljust(digits, '0')} {unit}" if decimals or digits else f"{whole} {unit}"
    )


@guarded
def show_range(low: Decimal, high: Decimal, unit: str, places: int | None = None) -> str:
    """``19.0–28.5 N·m``; a single value is shown once."""
    if low == high:
        return show(low, unit, places)
    return f"{show(low, unit, places).removesuffix(' ' + unit)}–{show(high, unit, places)}"


@guarded
def quarts_and_ounces(ml: Decimal) -> str:
    """US bottle talk: 1123.8 ml is ``1 qt 6 fl oz``, 946 ml is ``1 qt``."""
    ounces = round(Fraction(ml) / UNITS["fl oz"].factor * 2) / Fraction(2)
    quarts, rest = divmod(ounces, 32)
    parts = [f"{quarts} qt"] if quarts else []
    if rest or not parts:
        parts.append(f"{float(rest):g} fl oz")
    return " ".join(parts)


@guarded
def bottle_words(ml: Decimal, bottle_ml: Decimal) -> str:
    """How much of the bottle in hand: ``2 whole 1 l bottles and 420 ml``, ``330 ml of a 1 l bottle``."""
    size = (
        show(bottle_ml, "l", 0 if bottle_ml % 1000 == 0 else 2)
        if bottle_ml >= 1000
        else show(bottle_ml, "ml")
    )
    whole, rest = divmod(ml, bottle_ml)
    if not whole:
        return say.of_one_bottle(show(rest, "ml"), size)
    return say.whole_bottles(int(whole), size, "" if rest < 1 else show(rest, "ml"))

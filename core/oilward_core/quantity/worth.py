"""What an amount is worth, and whether two printed ones can be the same."""

from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Literal

from ..errors import CoreError, Question
from .display import to_canonical, to_decimal
from .numbers import SIXTEENTHS, Number, half_digit
from .syntax import LEAST_ROUNDING, SUMMED, Amount, Side, Tolerance
from .units import Kind, Unit

Form = Literal["single", "range", "tolerance"]
LARGEST = Fraction(10_000_000)  # of any canonical unit: no workshop quantity is near it
ABSOLUTE_ZERO = Fraction("-273.15")
_DASHED_APART = Fraction(3, 100)  # 10 N·m - 7.4 lbf·ft: the same, said with a dash
_NO_SIXTEENTHS = (Kind.TORQUE, Kind.PRESSURE)


@dataclass(frozen=True, kw_only=True)
class Worth:
    """An amount worked out: canonical ends, each with how far its printed rounding reaches."""

    unit: Unit
    low: Fraction
    high: Fraction
    low_slack: Fraction
    high_slack: Fraction
    form: Form


_DOUBTS = {
    "comma": "quantity.doubtful_comma",
    "dot": "quantity.doubtful_dot",
    "slash": "quantity.slash",
    "improper": "quantity.improper",
    "nought": "quantity.nought",
    "space": "quantity.space",
}


def _slash_options(number: Number, unit: Unit) -> list[str]:
    """``18–25 N·m``, and the two as alternatives."""
    one, two = number.others
    ends = [f"{to_decimal(end):f}" for end in (one, two)]
    between = [f"{ends[0]}–{ends[1]} {unit.name}"] if one < two else []
    return [*between, *(f"{end} {unit.name}" for end in ends)]


def _space_options(number: Number, unit: Unit) -> list[str]:
    """``100–110 ml``, or a hundred thousand and so many."""
    one, two, whole = (f"{to_decimal(other):f}" for other in number.others)
    between = [f"{one}–{two} {unit.name}"] if number.others[0] < number.others[1] else []
    return [*between, f"{whole} {unit.name}"]


def _never_a_fraction(number: Number, unit: Unit) -> bool:
    """Torques and pressures come in no sixteenths, nor in bare quarters: ``6/8`` is 6 to 8."""
    bare = number.over > 1 and number.value < 1
    sixteenths = number.over in SIXTEENTHS and (
        unit.kind in _NO_SIXTEENTHS or unit.system in ("metric", "kgf")
    )
    return bare and (sixteenths or unit.kind == Kind.TORQUE)


def _resolve(number: Number, unit: Unit) -> tuple[Fraction, Fraction]:
    """A number's value by its unit, and half of its last digit. Raises the questions of `_DOUBTS`."""
    doubt, others = number.doubt, number.others
    if doubt == "comma" and unit.fine:
        return others[1], half_digit(others[1], 0)
    if not doubt and _never_a_fraction(number, unit):
        top, under = number.said.split("/")
        others, doubt = (Fraction(top), Fraction(under)), "slash"
        number = Number(
            value=others[0], end=number.end, said=number.said, doubt=doubt, others=others
        )
    if doubt == "space" and unit.kind == Kind.DISTANCE:
        doubt = ""  # an odometer's
    if not doubt or (doubt == "dot" and not unit.fine):
        return number.value, number.half_digit
    options = [f"{to_decimal(other):f} {unit.name}" for other in others]
    if doubt == "improper":
        whole, part = divmod(number.value, 1)
        options[0] = f"{whole} {part.numerator}/{part.denominator} {unit.name}"
    if doubt == "slash":
        options = _slash_options(number, unit)
    if doubt == "space":
        options = _space_options(number, unit)
    raise Question(_DOUBTS[doubt], said=number.said, options=options)


def _worth_of_side(side: Side, borrowed: Unit | None) -> tuple[Fraction, Fraction, Unit]:
    """Canonical total of a side, how far its rounding reaches, and its first unit."""
    total = slack = Fraction(0)
    first: Unit | None = None
    for term in side.terms:
        unit = term.unit or (borrowed if len(side.terms) == 1 else None)
        if unit is None:
            number = f"{to_decimal(term.number.value):f}"
            raise CoreError("quantity.unit_missing", number=number)
        if first and (unit.kind != first.kind or unit.kind not in SUMMED):
            raise CoreError("quantity.too_much", text="")
        first = first or unit
        value, half = _resolve(term.number, unit)
        total += to_canonical(-value if term.negative else value, unit)
        slack = unit.difference(half)
    assert first is not None
    return total, slack, first


def _within(centre: Fraction, tolerance: Tolerance, unit: Unit) -> tuple[Fraction, Fraction]:
    if tolerance.percent:
        scale = abs(centre) / 100
        return centre - tolerance.down * scale, centre + tolerance.up * scale
    by = tolerance.unit or unit  # 20 ± 2 °F is ± 1.11 °C: a tolerance is a difference
    return centre - by.difference(tolerance.down), centre + by.difference(tolerance.up)


def read_as(amount: Amount, place: int) -> Amount:
    """An amount with each doubtful comma or dot read one way (0: as a point, 1: as thousands)."""

    def settled(number: Number) -> Number:
        if number.doubt not in ("comma", "dot"):
            return number
        decimals = number.decimals if place == 0 else 0
        return replace(number, value=number.others[place], decimals=decimals, doubt="", others=())

    sides = tuple(
        Side(tuple(replace(term, number=settled(term.number)) for term in side.terms))
        for side in amount.sides
    )
    return replace(amount, sides=sides)


def worth(amount: Amount, shown: Unit | None) -> Worth:
    """An amount in its kind's canonical unit; ``shown`` is the field's unit, for bare numbers.

    Raises CoreError ``quantity.unit_missing``, ``.too_much``, ``.two_kinds`` and the questions about
    numbers (`_DOUBTS`).
    """
    sides, tolerance = amount.sides, amount.tolerance
    if len(sides) > 1 and sides[0].unit and sides[1].unit:
        one, two = sides[0].unit, sides[1].unit
        if (one.kind, one.system) != (two.kind, two.system):
            return _dashed(amount)
    behind = tolerance.unit if tolerance else None
    units = [side.unit for side in sides if side.unit]
    borrowed = units[0] if units else (behind or (shown if _all_bare(sides) else None))
    worths = [_worth_of_side(side, borrowed) for side in sides]
    low, low_slack, unit = worths[0]
    high, high_slack, last = worths[-1]
    if last.kind != unit.kind or (behind and behind.kind != unit.kind):
        raise CoreError("quantity.two_kinds", said=unit.kind.value, other=last.kind.value)
    if len(sides) > 1 and low > high and last != unit and last.system == unit.system:
        left = to_decimal((low - high) / last.factor)
        options = [f"{left.normalize():f} {last.name}"]
        raise Question("quantity.minus", one=unit.name, other=last.name, options=options)
    said = last if len(sides) > 1 and not sides[0].unit else unit
    if tolerance:
        low, high = _within(low, tolerance, unit)
        return Worth(
            unit=said,
            low=low,
            high=high,
            low_slack=low_slack,
            high_slack=low_slack,
            form="tolerance",
        )
    return Worth(
        unit=said,
        low=low,
        high=high,
        low_slack=low_slack,
        high_slack=high_slack,
        form="range" if len(sides) > 1 else "single",
    )


def _dashed(amount: Amount) -> Worth:
    """``10 N·m - 7.4 lbf·ft``: no range runs from one system into another; it is said twice."""
    one, two = (worth(replace(amount, sides=(side,)), None) for side in amount.sides)
    apart = abs(one.low - two.low)
    if one.unit.kind != two.unit.kind or apart > one.low * _DASHED_APART:
        raise CoreError("quantity.too_much", text="")
    return one


def _all_bare(sides: tuple[Side, ...]) -> bool:
    return all(term.unit is None for side in sides for term in side.terms)


_Ends = tuple[Fraction, Fraction]


def _touch(one: _Ends, two: _Ends) -> bool:
    return one[0] <= two[1] and two[0] <= one[1]


MOST_ROUNDING = Fraction(12, 100)  # nor any for coarser than 12 % of the first


def _reach(value: Fraction, slack: Fraction, most: Fraction) -> _Ends:
    """How far a printed value's rounding carries it: never less than 1 %, never more than ``most``."""
    by = min(max(slack, abs(value) * LEAST_ROUNDING), most)
    return value - by, value + by


def _alike(a: Fraction, slack_a: Fraction, b: Fraction, slack_b: Fraction) -> bool:
    """Whether two printed values can be the same, the first being the measure of what may be rounded."""
    most = abs(a) * MOST_ROUNDING
    return abs(a - b) <= most and _touch(_reach(a, slack_a, most), _reach(b, slack_b, most))


def agree(one: Worth, two: Worth) -> bool:
    """Whether two printed amounts can be the same, each taken with its printed rounding; of two
    ranges both ends must be, of a tolerance and one value its middle, and of one unit nothing but the
    same number is. A value somewhere inside a range says nothing of the range."""
    if one.unit == two.unit:
        return (one.low, one.high) == (two.low, two.high)
    single = [worth.form == "single" for worth in (one, two)]
    if any(single) and not all(single):
        spread = two if single[0] else one
        if spread.form != "tolerance":
            return False
        middles = ((each.low + each.high) / 2 for each in (one, two))
        return _alike(next(middles), one.low_slack, next(middles), two.low_slack)
    return _alike(one.low, one.low_slack, two.low, two.low_slack) and _alike(
        one.high, one.high_slack, two.high, two.high_slack
    )


def check(worth: Worth, text: str) -> None:
    """Refuse an amount that cannot be. Raises CoreError ``quantity.too_large``, ``.range_reversed``,
    ``.too_cold``, ``.negative``."""
    if max(abs(worth.low), abs(worth.high)) > LARGEST:
        raise CoreError("quantity.too_large")
    if worth.low > worth.high:
        raise CoreError("quantity.range_reversed", text=text)
    if worth.unit.kind == Kind.TEMPERATURE:
        if worth.low < ABSOLUTE_ZERO:
            raise CoreError("quantity.too_cold")
    elif worth.low < 0:
        raise CoreError("quantity.negative", kind=worth.unit.kind.value)

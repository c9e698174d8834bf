"""From what people say to a canonical amount. Asks instead of guessing; never shows an exception."""

import re
from dataclasses import dataclass
from decimal import ROUND_HALF_EVEN, Context, Decimal
from fractions import Fraction
from typing import Literal

from ..errors import CoreError
from .numbers import Number, scan_number
from .units import SPELLINGS, UNITS, Kind, Unit

Form = Literal["single", "range", "tolerance"]
Preference = Literal["us", "imperial"]

QUANTUM = Decimal("0.000001")
LARGEST = Fraction(10_000_000)  # of any canonical unit: no workshop quantity is near it
LONGEST = 80  # characters
_EXACT = Context(prec=120, rounding=ROUND_HALF_EVEN)

_PLAIN = str.maketrans(
    {"−": "-", "\u00a0": " ", "\u2009": " ", "\u202f": " ", "’": "'", "⋅": "·", "•": "·"}
)
_OPERATOR = re.compile(r"\s*(?P<op>\+/-|±|\bto\b|\+|-|–|—)\s*")
_UNIT = re.compile(
    "(?:"
    + "|".join(re.escape(word) for word in sorted(SPELLINGS, key=len, reverse=True))
    + r")(?![a-z³²°])",
)
_WORD = re.compile(r"[^\s\d]+")


@dataclass(frozen=True)
class Measure:
    """What was said, canonical.

    ``low`` and ``high`` are in the kind's canonical unit (ml, N·m, km, mm, kPa, °C, cSt, min, g),
    equal for a single value; ``unit`` is the unit as said; ``text`` the words themselves.
    """

    kind: Kind
    low: Decimal
    high: Decimal
    unit: str
    form: Form
    text: str

    @property
    def value(self) -> Decimal:
        """The value, or the middle of a range, in the canonical unit."""
        return (self.low + self.high) / 2


@dataclass(frozen=True)
class _Term:
    number: Number
    unit: Unit | None


@dataclass(frozen=True)
class _Side:
    negative: bool
    terms: tuple[_Term, ...]


def to_decimal(value: Fraction) -> Decimal:
    """A fraction as a decimal, to the sixth place (a thousandth of a drop of oil)."""
    exact = _EXACT.divide(Decimal(value.numerator), Decimal(value.denominator))
    return exact.quantize(QUANTUM, context=_EXACT).normalize(_EXACT) + 0


def to_canonical(value: Fraction, unit: Unit) -> Fraction:
    """``value`` of ``unit`` in its kind's canonical unit, exactly."""
    return value * unit.factor + unit.offset


def choose_unit(word: str, kind: Kind | None, preference: Preference) -> Unit:
    """The unit a word means in a field of this kind.

    Raises CoreError ``quantity.wrong_kind`` or, for a US word said by an imperial reader,
    ``quantity.which_size`` (a question).
    """
    meanings = SPELLINGS[word]
    fitting = [unit for unit in meanings if kind in (None, unit.kind)]
    if not fitting:
        raise CoreError(
            "quantity.wrong_kind", said=meanings[0].kind.value, wanted=kind.value if kind else ""
        )
    unit = fitting[0]
    if unit.us_word and preference == "imperial" and not word.startswith("us "):
        raise CoreError("quantity.which_size", options=[f"US {unit.name}", f"imp {unit.name}"])
    return unit


def _scan_term(text: str, at: int, kind: Kind | None, preference: Preference) -> tuple[_Term, int]:
    number = scan_number(text, at)
    if number is None:
        word = _WORD.match(text, at)
        raise CoreError("quantity.not_a_number", word=word.group() if word else text[at:])
    end = number.end
    while text[end : end + 1] == " ":
        end += 1
    match = _UNIT.match(text, end)
    if match:
        return _Term(number, choose_unit(match.group(), kind, preference)), match.end()
    word = re.match(r"[a-z°³²/·*]+", text[end:])
    if word and not _OPERATOR.match(text, end):
        raise CoreError("quantity.unknown_unit", word=word.group())
    return _Term(number, None), end


def _scan(text: str, kind: Kind | None, preference: Preference) -> tuple[list[_Side], str | None]:
    """Sides of a range or tolerance, and the operator between them (None: one side only)."""
    sides: list[list[_Term]] = [[]]
    negative = [False]
    between: str | None = None
    at = 0
    while at < len(text):
        if text[at] == " ":
            at += 1
            continue
        operator = _OPERATOR.match(text, at)
        if operator:
            at = operator.end()
            word = operator["op"]
            if not sides[-1]:
                if word != "-" or negative[-1]:
                    raise CoreError("quantity.not_a_number", word=word)
                negative[-1] = True
            elif word != "+":
                if between:
                    raise CoreError("quantity.too_much", text=text)
                between = word
                sides.append([])
                negative.append(False)
            continue
        term, at = _scan_term(text, at, kind, preference)
        sides[-1].append(term)
    if not all(sides):
        raise CoreError("quantity.unfinished", text=text)
    return [_Side(*pair) for pair in zip(negative, map(tuple, sides), strict=True)], between


def _resolve(number: Number, unit: Unit) -> Fraction:
    if number.thousands is None:
        return number.value
    if unit.fine:
        return number.thousands
    raise CoreError(
        "quantity.doubtful_comma",
        options=[
            f"{to_decimal(number.value):f} {unit.name}",
            f"{to_decimal(number.thousands):f} {unit.name}",
        ],
    )


def _sum_side(side: _Side, shown: Unit | None, borrowed: Unit | None) -> tuple[Fraction, Unit]:
    total = Fraction(0)
    first: Unit | None = None
    for index, term in enumerate(side.terms):
        unit = term.unit or (borrowed or shown if len(side.terms) == 1 else None)
        if unit is None:
            raise CoreError("quantity.unit_missing", number=f"{to_decimal(term.number.value):f}")
        if index and (unit.kind != (first or unit).kind or unit.kind == Kind.TEMPERATURE):
            raise CoreError("quantity.too_much", text="")
        first = first or unit
        total += to_canonical(_resolve(term.number, unit) * (-1 if side.negative else 1), unit)
    if first is None:
        raise CoreError("quantity.empty")
    return total, first


def _tolerance(centre: Fraction, spread: Fraction, unit: Unit) -> tuple[Fraction, Fraction]:
    half = spread - unit.offset  # a tolerance is a difference: 20 ± 2 °F is ± 1.11 °C
    return centre - half, centre + half


def parse(
    text: str,
    kind: Kind | None,
    unit: str | None = None,
    preference: Preference = "us",
) -> Measure:
    """What somebody typed, as a canonical amount.

    ``kind`` is what the field wants (None: whatever the unit says), ``unit`` the name of the unit
    the field shows, taken by a bare number, and ``preference`` the reader's idea of an ounce.

    Raises CoreError with codes ``quantity.empty``, ``.negative``, ``.wrong_kind``, ``.not_a_number``,
    ``.unknown_unit``, ``.unit_missing``, ``.unfinished``, ``.too_much``, ``.too_large``,
    ``.range_reversed`` and the questions ``.doubtful_comma`` and ``.which_size``.
    """
    plain = " ".join(text.translate(_PLAIN).lower().split())
    if not plain:
        raise CoreError("quantity.empty")
    if len(plain) > LONGEST:
        raise CoreError("quantity.too_large")
    shown = UNITS[unit] if unit else None
    sides, operator = _scan(plain, kind, preference)
    units = [term.unit for side in sides for term in side.terms if term.unit]
    borrowed = units[-1] if units else None
    values = [_sum_side(side, shown, borrowed) for side in sides]
    low, said = values[0]
    high = low
    form: Form = "single"
    if operator:
        other, said = values[1]
        if said.kind != values[0][1].kind:
            raise CoreError("quantity.too_much", text=plain)
        tolerance = operator in ("±", "+/-")
        form = "tolerance" if tolerance else "range"
        low, high = _tolerance(low, other, said) if tolerance else (low, other)
    if max(abs(low), abs(high)) > LARGEST:
        raise CoreError("quantity.too_large")
    if low > high:
        raise CoreError("quantity.range_reversed", text=plain)
    if low < 0 and said.kind != Kind.TEMPERATURE:
        raise CoreError("quantity.negative", kind=said.kind.value)
    return Measure(said.kind, to_decimal(low), to_decimal(high), said.name, form, text.strip())


def parse_single(
    text: str, kind: Kind, unit: str | None = None, preference: Preference = "us"
) -> Measure:
    """Like `parse`, for a field that wants one value above zero (temperatures may be below).

    Raises CoreError as `parse` does, and ``quantity.one_value`` or ``quantity.zero``.
    """
    measure = parse(text, kind, unit, preference)
    if measure.form != "single":
        raise CoreError("quantity.one_value", text=measure.text)
    if measure.low == 0 and kind != Kind.TEMPERATURE:
        raise CoreError("quantity.zero", kind=kind.value)
    return measure

"""Sums as one says them at the bench: ``2.7 l - 2.5 qt``, ``38 oz in qt``, ``3 x 946 ml + 1 qt``.

sum     := product (("+" | "-") product)*          from left to right
product := factor (("x" | "*") factor | "/" number)*
factor  := "mid" factor | "(" sum ")" | number | amount (`grammar`)
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction

from ..errors import CoreError
from ..guard import Sound
from .display import show, show_precise, show_range, to_decimal
from .grammar import LONGEST, parse
from .numbers import scan_number
from .plain import plain
from .tokens import Preference, choose_unit
from .units import CANONICAL, SPELLINGS, UNITS, Kind
from .worth import LARGEST

_INTO = re.compile(r" (?:in|into|to|as|=)(?= )")
_NUMBER = r"(?:\d+(?:[.,]\d+)?|\d+/\d+|[.,]\d+)"
_ENDS_AMOUNT = re.compile(r"[a-zµ°³²\"'.)\]]$")
_BARE = re.compile(rf"^{_NUMBER}$")
_BARE_BEHIND = re.compile(rf" ?{_NUMBER} ?(?:$|[-+)x×*/÷])")
_STARTS_AMOUNT = re.compile(r" ?[\d.,(]")
_MID = re.compile(r"^mid(?:dle)?(?: of)? ?(?=[\d(.,])")
MOST_DEPTH = 8  # brackets in brackets


@dataclass(frozen=True, kw_only=True)
class SumAnswer(Sound):
    """The answer of a quick sum: canonical ``low``/``high`` of ``kind``, the unit and words shown."""

    kind: Kind
    low: Decimal
    high: Decimal
    unit: str
    words: str


@dataclass(frozen=True, kw_only=True)
class _Value:
    """A number (no kind) or an amount, canonical, with the unit it was said in."""

    kind: Kind | None
    low: Fraction
    high: Fraction
    unit: str = ""
    middle: bool = False


def _operator(text: str, at: int, held: str, last: str) -> bool:
    """Whether the sign at ``at``, behind an amount ``held`` or the piece ``last``, is arithmetic and
    not part of the amount."""
    sign, behind, said = text[at], text[at + 1 :], held or (last if last == ")" else "")
    if not said:
        return False
    if sign in "x×*/÷" and _BARE.match(said) and last and last in "x×*/÷":
        return True
    if sign in "+÷":
        return bool(_STARTS_AMOUNT.match(behind))
    if sign == "-":
        return bool(_ENDS_AMOUNT.search(said) and _STARTS_AMOUNT.match(behind))
    if sign in "x×*":
        apart = not text[at - 1].isalpha() and bool(_STARTS_AMOUNT.match(behind))
        return apart and bool(_BARE.match(said) or _ENDS_AMOUNT.search(said))
    return sign == "/" and bool(_ENDS_AMOUNT.search(said) and _BARE_BEHIND.match(behind))


def _pieces(text: str) -> list[str]:
    """A line cut into amounts, numbers, operators and the brackets around sums."""
    pieces: list[str] = []
    said = ""
    aside = 0
    for at, char in enumerate(text):
        held = said.strip()
        if not aside and not held and char == "(":
            pieces.append("(")
        elif not aside and char == ")":
            pieces += [held, ")"] if held else [")"]
            said = ""
        elif not aside and _operator(text, at, held, pieces[-1] if pieces else ""):
            pieces += [held, char] if held else [char]
            said = ""
        else:
            aside += (char in "([{") - (char in ")]}")
            said += char
    return [*pieces, said.strip()] if said.strip() else pieces


def _amount(text: str, preference: Preference) -> _Value:
    if _BARE.match(text):
        number = scan_number(text)
        if number is not None and not number.doubt:
            return _Value(kind=None, low=number.value, high=number.value)
    measure = parse(text, None, None, preference)
    return _Value(
        kind=measure.kind, low=Fraction(measure.low), high=Fraction(measure.high), unit=measure.unit
    )


class _Sum:
    """Reads the pieces of a line, products before sums, from left to right."""

    def __init__(self, pieces: Sequence[str], text: str, preference: Preference) -> None:
        self.pieces, self.text, self.preference = pieces, text, preference
        self.at = self.depth = 0

    def peek(self) -> str:
        return self.pieces[self.at] if self.at < len(self.pieces) else ""

    def take(self) -> str:
        piece = self.peek()
        self.at += 1
        return piece

    def factor(self) -> _Value:
        piece = self.take()
        middle = _MID.match(f"{piece}(" if piece in ("mid", "middle") else piece)
        if middle:
            rest = piece[middle.end() :]
            value = _amount(rest, self.preference) if rest else self.factor()
            mid = (value.low + value.high) / 2
            return _Value(kind=value.kind, low=mid, high=mid, unit=value.unit, middle=True)
        if piece == "(" and self.depth < MOST_DEPTH:
            self.depth += 1
            value = self.sum()
            self.depth -= 1
            if self.take() != ")":
                raise CoreError("quantity.unfinished", text=self.text)
            return value
        if not piece or piece in "()+-x×*/÷":
            raise CoreError("quantity.unfinished", text=self.text)
        return _amount(piece, self.preference)

    def product(self) -> _Value:
        value = self.factor()
        while self.peek() and self.peek() in "x×*/÷":
            sign, other = self.take(), self.factor()
            value = _times(value, other) if sign in "x×*" else _divided(value, other)
        return value

    def sum(self) -> _Value:
        value = self.product()
        while self.peek() and self.peek() in "+-":
            sign, other = self.take(), self.product()
            value = _added(value, other, 1 if sign == "+" else -1)
        return value


def _times(one: _Value, two: _Value) -> _Value:
    number, amount = (one, two) if one.kind is None else (two, one)
    if number.kind is not None or amount.kind == Kind.TEMPERATURE:
        raise CoreError("quantity.times")
    factor = number.low
    return _Value(
        kind=amount.kind, low=amount.low * factor, high=amount.high * factor, unit=amount.unit
    )


def _divided(one: _Value, two: _Value) -> _Value:
    if two.kind is not None or two.low == 0 or one.kind == Kind.TEMPERATURE:
        raise CoreError("quantity.times")
    return _Value(kind=one.kind, low=one.low / two.low, high=one.high / two.low, unit=one.unit)


def _added(one: _Value, two: _Value, sign: int) -> _Value:
    for value in (one, two):
        if value.kind is None:
            raise CoreError("quantity.unit_missing", number=f"{to_decimal(value.low):f}")
    if one.kind != two.kind or one.kind == Kind.TEMPERATURE:
        raise CoreError("quantity.mixed_kinds", said=str(one.kind), other=str(two.kind))
    low, high = (two.low, two.high) if sign > 0 else (-two.high, -two.low)
    assert one.kind is not None
    unit = one.unit if one.unit == two.unit else CANONICAL[one.kind]
    return _Value(kind=one.kind, low=one.low + low, high=one.high + high, unit=unit)


def _target(text: str) -> tuple[str, str]:
    """The sum and the unit it is wanted in (``38 oz in qt``); empty where none is named."""
    for match in _INTO.finditer(text):
        word = text[match.end() + 1 :].rstrip(".").replace("-", " ").replace("·", " ")
        if word in SPELLINGS:
            return text[: match.start()], word
    return text, ""


def quick_sum(text: str, preference: Preference = "us") -> SumAnswer:
    """Answer a line of bench arithmetic.

    Knows sums, differences, multiples (``3 x 946 ml``), parts (``2.7 l / 3``), brackets, ``mid`` of a
    range and a wanted unit after ``in``; multiples before sums, from left to right. Raises CoreError
    as `quantity.parse` does, and ``quantity.mixed_kinds``, ``quantity.times``.
    """
    said = plain(text).rstrip("= ")
    if len(said) > LONGEST:
        raise CoreError("quantity.too_large")
    body, word = _target(said)
    reader = _Sum(_pieces(body), said, preference)
    value = reader.sum()
    if reader.peek():
        raise CoreError("quantity.unfinished", text=said)
    if value.kind is None:
        raise CoreError("quantity.unit_missing", number=f"{to_decimal(value.low):f}")
    if max(abs(value.low), abs(value.high)) > LARGEST:
        raise CoreError("quantity.too_large")
    unit = choose_unit(word, value.kind, preference).name if word else value.unit
    low, high = to_decimal(value.low), to_decimal(value.high)
    words = show_range(low, high, unit) if low != high else show_precise(low, unit)
    if value.middle and low == high:
        words = show(low, unit, max(UNITS[unit].places, 1))
    return SumAnswer(kind=value.kind, low=low, high=high, unit=unit, words=words)

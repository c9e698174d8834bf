"""The sentence structure of an entry: amounts, their sides, terms and tolerances (see `grammar`)."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from ..errors import CoreError, Question
from .display import to_decimal
from .numbers import Number
from .tokens import Joint, Token
from .units import Kind, Unit

Bound = Literal["", "at least", "at most"]
SUMMED = (Kind.VOLUME, Kind.DISTANCE, Kind.LENGTH, Kind.TIME, Kind.MASS)
LEAST_ROUNDING = Fraction(1, 100)  # no printed equivalent is taken for finer than 1 %


@dataclass(frozen=True)
class Term:
    """A number with its unit, if it has one."""

    number: Number
    unit: Unit | None
    negative: bool = False


@dataclass(frozen=True, kw_only=True)
class Tolerance:
    """How far a value may lie up and down from what is said, in a unit or in per cent of it."""

    up: Fraction
    down: Fraction
    unit: Unit | None
    percent: bool


@dataclass(frozen=True)
class Side:
    """One end of a range, or the whole of a single value; several terms are a sum."""

    terms: tuple[Term, ...]

    @property
    def unit(self) -> Unit | None:
        """The unit another side may borrow: never part of a sum's."""
        return self.terms[0].unit if len(self.terms) == 1 else None


@dataclass(frozen=True, kw_only=True)
class Amount:
    """One amount as it stands in the text, from ``start`` to ``end``."""

    sides: tuple[Side, ...]
    tolerance: Tolerance | None
    start: int
    end: int


class Cursor:
    """The tokens of an entry, read from left to right."""

    def __init__(self, found: Sequence[Token], text: str) -> None:
        self.tokens, self.text, self.at = found, text, 0

    def peek(self, ahead: int = 0) -> Token | None:
        """The token so many places on, without reading it."""
        place = self.at + ahead
        return self.tokens[place] if place < len(self.tokens) else None

    def joint(self, ahead: int = 0) -> Joint | None:
        """The joint so many places on, if a joint stands there."""
        token = self.peek(ahead)
        return token.joint if token else None

    def take(self, *joints: Joint) -> bool:
        """Whether the next token is one of these; it is read over."""
        taken = self.joint() in joints
        self.at += taken
        return taken

    def words(self, amount: "Amount") -> str:
        """An amount as it stands in the text, its units by their names."""
        own = [token for token in self.tokens if amount.start <= token.start < amount.end]
        return " ".join(
            token.unit.name if token.unit else self.text[token.start : token.end] for token in own
        )

    def unfinished(self) -> CoreError:
        """What is said of a text that breaks off."""
        return CoreError("quantity.unfinished", text=self.text)


def _term(cursor: Cursor) -> Term:
    negative = cursor.take(Joint.MINUS)
    token = cursor.peek()
    if token is None:
        raise cursor.unfinished()
    if token.number is None:
        word = cursor.text[token.start : token.end]
        raise CoreError("quantity.not_a_number", word=word)
    cursor.at += 1
    follower = cursor.peek()
    unit = follower.unit if follower else None
    cursor.at += unit is not None
    return Term(token.number, unit, negative)


def _system_of(term: Term) -> tuple[Kind, str] | None:
    return (term.unit.kind, term.unit.system) if term.unit else None


def _adds_up(first: Term, then: Term, text: str) -> bool:
    """Whether two amounts side by side are a sum: one system, the larger unit first and without
    decimals, and less than one of it behind (``1 qt 6 oz``).

    Raises CoreError ``quantity.sum_or_same`` where that is doubtful (``1 qt 32 oz``).
    """
    one, two = first.unit, then.unit
    if one is None or two is None or _system_of(first) != _system_of(then):
        return False
    if one.kind not in SUMMED or one.factor <= two.factor or first.number.decimals:
        return False
    behind = then.number.value * two.factor
    whole = first.number.value * one.factor
    alike = abs(whole - behind) <= max(whole, behind) * LEAST_ROUNDING
    if behind >= one.factor or alike:
        readings = whole / one.factor, (whole + behind) / one.factor
        options = [f"{to_decimal(reading):f} {one.name}" for reading in readings]
        raise Question("quantity.sum_or_same", text=text, options=options)
    return True


def _side(cursor: Cursor) -> Side:
    cursor.take(Joint.PLUS)  # +10 °C
    terms = [_term(cursor)]
    while True:
        if cursor.take(Joint.PLUS):
            terms.append(_term(cursor))
            continue
        skip = 1 if cursor.joint() in (Joint.COMMA, Joint.AND) else 0
        ahead, follower = cursor.peek(skip), cursor.peek(skip + 1)
        if ahead is None or ahead.number is None or follower is None or follower.unit is None:
            return Side(tuple(terms))
        if not _adds_up(terms[-1], Term(ahead.number, follower.unit), cursor.text):
            return Side(tuple(terms))
        cursor.at += skip
        terms.append(_term(cursor))


def _tolerance(cursor: Cursor) -> Tolerance | None:
    token = cursor.peek()
    if token and token.up is not None and token.down is not None:
        cursor.at += 1
        return Tolerance(
            up=token.up, down=token.down, unit=_unit_behind(cursor), percent=token.percent
        )
    if not cursor.take(Joint.PLUS_MINUS):
        return None
    term = _term(cursor)
    if term.number.doubt == "nought":
        options = [f"±{to_decimal(other):f}" for other in term.number.others]
        raise Question("quantity.nought", said=term.number.said, options=options)
    if term.negative or term.number.doubt:
        raise cursor.unfinished()
    percent = cursor.take(Joint.PERCENT)
    unit = term.unit or (_unit_behind(cursor) if percent else None)
    return Tolerance(up=term.number.value, down=term.number.value, unit=unit, percent=percent)


def _unit_behind(cursor: Cursor) -> Unit | None:
    token = cursor.peek()
    unit = token.unit if token else None
    cursor.at += unit is not None
    return unit


def _amount(cursor: Cursor) -> Amount:
    cursor.take(Joint.ABOUT)
    first = cursor.peek()
    sides = [_side(cursor)]
    tolerance = _tolerance(cursor)
    if tolerance is None and cursor.take(Joint.RANGE, Joint.MINUS):
        cursor.take(Joint.ABOUT)
        sides.append(_side(cursor))
        if cursor.joint() in (Joint.RANGE, Joint.MINUS, Joint.PLUS_MINUS):
            raise CoreError("quantity.too_much", text=cursor.text)
    start = first.start if first else 0
    return Amount(
        sides=tuple(sides), tolerance=tolerance, start=start, end=cursor.tokens[cursor.at - 1].end
    )


_APART = (Joint.COMMA, Joint.OR, Joint.OPEN, Joint.CLOSE)


def _bound(cursor: Cursor) -> Bound:
    if cursor.take(Joint.AT_LEAST):
        return "at least"
    return "at most" if cursor.take(Joint.AT_MOST) else ""


def _brackets_close(found: Sequence[Token]) -> bool:
    depth = 0
    for token in found:
        depth += (token.joint == Joint.OPEN) - (token.joint == Joint.CLOSE)
        if depth not in (0, 1):
            return False
    return depth == 0


def entry(cursor: Cursor) -> tuple[list[Amount], Bound]:
    """Every amount of an entry in turn, and whether it is a limit."""
    if not _brackets_close(cursor.tokens):
        raise cursor.unfinished()
    bounds: list[Bound] = [_bound(cursor)]
    amounts = [_amount(cursor)]
    while cursor.peek():
        bounds.append(_bound(cursor))
        apart = False
        while cursor.peek():
            comma = cursor.joint() == Joint.COMMA
            if not cursor.take(*_APART):
                break
            if comma and cursor.joint() == Joint.COMMA:
                raise CoreError("quantity.comma", text=cursor.text)
            apart = True
        bounds.append(_bound(cursor))
        if cursor.peek() is None:
            if apart and cursor.joint(-1) != Joint.CLOSE:
                raise cursor.unfinished()
            break
        amounts.append(_amount(cursor))
    said = {bound for bound in bounds if bound}
    if len(said) > 1:
        raise CoreError("quantity.too_much", text=cursor.text)
    return amounts, said.pop() if said else ""

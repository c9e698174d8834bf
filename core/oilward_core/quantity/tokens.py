"""A plain text cut into numbers, units and the words between them."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from typing import Literal

from ..errors import CoreError, Question
from .numbers import Number, scan_number
from .units import MOST_WORDS, SPELLINGS, Kind, Unit

Preference = Literal["us", "imperial"]


class Joint(StrEnum):
    """What stands between numbers."""

    RANGE = "range"
    PLUS = "plus"
    MINUS = "minus"
    AND = "and"
    COMMA = "comma"
    OR = "or"
    OPEN = "open"
    CLOSE = "close"
    PLUS_MINUS = "plus or minus"
    PERCENT = "percent"
    ABOUT = "about"
    AT_LEAST = "at least"
    AT_MOST = "at most"


# every word and sign the grammar knows besides numbers and units
JOINTS: dict[Joint, str] = {
    Joint.RANGE: "to|till|until|thru|through|...|..|÷",
    Joint.MINUS: "-",  # between two numbers a range, before one a sign
    Joint.PLUS: "+|plus",
    Joint.AND: "and|&",
    Joint.COMMA: ",",
    Joint.OR: "or|/|;|=|i.e|ie|equals|resp|respectively",
    Joint.OPEN: "(|[|{",
    Joint.CLOSE: ")|]|}",
    Joint.PLUS_MINUS: "±",
    Joint.PERCENT: "%|percent|per cent",
    Joint.ABOUT: "~|about|approx|approximately|ca|circa|around|abt|roughly",
    Joint.AT_LEAST: "min|minimum|≥|>|at least|not less than|no less than|more than|over|above"
    "|or more|and up",
    Joint.AT_MOST: "max|maximum|≤|<|at most|not more than|no more than|less than|up to|under|below"
    "|or less|not exceeding",
}
_JOINT_OF = {word: joint for joint, words in JOINTS.items() for word in words.split("|")}
_JOINT = re.compile(
    "|".join(
        re.escape(word) + (r"\b\.?" if word[-1].isalpha() else "")
        for word in sorted(_JOINT_OF, key=len, reverse=True)
    )
)
_N = r"(?:(?!0\d)\d+(?:[.,]\d+)?|[.,]\d+)"
_UNEQUAL = re.compile(rf"([+-])({_N}) ?(%?) ?[/,]? ?([+-])({_N}) ?(%?)(?![\d.,]*\d)")
_WORD = re.compile(
    r"[\"']|[a-zµ°]+(?:[²³]|[23](?!\d|[.,]\d))?(?:/(?:sq\.? )?[a-z]+(?:[²³]|[23](?!\d|[.,]\d))?)?"
)
_BETWEEN_WORDS = re.compile(r"\.? ?[-·*×] ?|\. ?| ")
_UNKNOWN = re.compile(r"[^\s\d]+")
_TURNED_ROUND = "mn"  # newton metres the wrong way round, or thousandths of a newton
_LETTERS = re.compile(r"[a-zµ°²³/·*]+")


# behind these a comma begins no number: a digit is missing, or a comma is too many
_NO_COMMA = (Joint.COMMA, Joint.ABOUT, Joint.AND, Joint.OR, Joint.AT_LEAST, Joint.AT_MOST)


@dataclass(frozen=True, kw_only=True)
class Token:
    """A number, a unit, a joint, or an unequal tolerance (``up``, ``down``, ``percent``)."""

    start: int
    end: int
    number: Number | None = None
    unit: Unit | None = None
    joint: Joint | None = None
    up: Fraction | None = None
    down: Fraction | None = None
    percent: bool = False


def unit_words(text: str, at: int) -> tuple[str, int] | None:
    """The longest spelling of a unit that begins at ``at``, and where it ends."""
    found: list[tuple[str, int]] = []
    words: list[str] = []
    match = _WORD.match(text, at)
    while match and len(words) < MOST_WORDS:
        words.append(match.group().replace(".", ""))
        key = " ".join(words)
        if key in SPELLINGS:
            found.append((key, match.end()))
        between = _BETWEEN_WORDS.match(text, match.end())
        match = _WORD.match(text, between.end()) if between else None
    if not found:
        return None
    key, end = found[-1]
    dot = text[end : end + 1] == "." and not text[end + 1 : end + 2].isdigit()
    return key, end + dot


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
    if unit.us_word and preference == "imperial" and not {"us", "usa"} & set(word.split()):
        raise Question("quantity.which_size", options=[f"US {unit.name}", f"imp {unit.name}"])
    return unit


def _unequal(text: str, at: int) -> Token | None:
    match = _UNEQUAL.match(text, at)
    if match is None or match[1] == match[4]:
        return None
    one, two = (Fraction(match[group].replace(",", ".")) for group in (2, 5))
    up, down = (one, two) if match[1] == "+" else (two, one)
    return Token(start=at, end=match.end(), up=up, down=down, percent=bool(match[6] or match[3]))


def _joint(text: str, at: int, last: Token | None) -> Token | None:
    match = _JOINT.match(text, at)
    if match is None:
        return None
    joint = _JOINT_OF[match.group().rstrip(".") or match.group()]
    after_amount = last is not None and (last.number or last.unit)
    if match.group() == "~" and after_amount:
        joint = Joint.RANGE
    return Token(start=at, end=match.end(), joint=joint)


class _Reader:
    """Reads one token after the other; knows the kind wanted, or the first one said."""

    def __init__(self, text: str, kind: Kind | None, preference: Preference) -> None:
        self.text, self.kind, self.preference = text, kind, preference
        self.last: Token | None = None
        self.units = 0

    def _number(self, at: int) -> Token | None:
        if self.last is not None and self.last.unit and self.text[at] in ",.":
            return None  # a mark behind a unit stands between two amounts: 10 N·m,7 lbf·ft
        if self.text[at] == "," and self.last is not None and self.last.joint in _NO_COMMA:
            raise CoreError("quantity.comma", text=self.text)
        number = scan_number(self.text, at)
        if number is None and self.text[at].isdigit():
            raise CoreError("quantity.digits", text=self.text[at:].split(" ")[0])
        return Token(start=at, end=number.end, number=number) if number else None

    def _unit(self, at: int) -> Token | None:
        last = self.last
        if last is None or not (last.number or last.up is not None or last.joint == Joint.PERCENT):
            return None
        bracket = self.text[at] in "(["  # a table's 25 [N·m]
        words = unit_words(self.text, at + bracket)
        if words is None or (bracket and self.text[words[1] : words[1] + 1] not in (")", "]")):
            return None
        meant = [unit.kind for unit in SPELLINGS[words[0]]]
        if self.units and self.kind not in meant:
            raise CoreError("quantity.two_kinds", said=str(self.kind), other=meant[0].value)
        unit = choose_unit(words[0], self.kind, self.preference)
        self.kind, self.units = unit.kind, self.units + 1
        return Token(start=at, end=words[1] + bracket, unit=unit)

    def _refuse(self, at: int) -> CoreError:
        word = _LETTERS.match(self.text, at)
        number = self.last.number if self.last is not None else None
        if word and number and word.group() == _TURNED_ROUND and self.kind in (Kind.TORQUE, None):
            meant = f"{number.said} N·m"
            return Question("quantity.turned_round", said=word.group(), options=[meant])
        if word and self.last is not None and self.last.number:
            return CoreError("quantity.unknown_unit", word=word.group())
        other = _UNKNOWN.match(self.text, at)
        return CoreError("quantity.not_a_number", word=other.group() if other else self.text[at:])

    def tokens(self) -> Iterator[Token]:
        at = 0
        while at < len(self.text):
            if self.text[at] == " ":
                at += 1
                continue
            token = (
                (_unequal(self.text, at) if self.last is not None else None)
                or self._number(at)
                or self._unit(at)
                or _joint(self.text, at, self.last)
            )
            if token is None:
                raise self._refuse(at)
            self.last, at = token, token.end
            yield token


def tokens(text: str, kind: Kind | None, preference: Preference) -> list[Token]:
    """A plain text (`plain.plain`) as tokens.

    Raises CoreError ``quantity.digits``, ``.unknown_unit``, ``.not_a_number``, ``.wrong_kind`` and
    the question ``.which_size``.
    """
    return list(_Reader(text, kind, preference).tokens())

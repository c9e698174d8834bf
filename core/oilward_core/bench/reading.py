"""How amounts, ticks, codes and words are read, whatever kind of entry they belong to."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal, InvalidOperation
from enum import StrEnum
from typing import TypeVar

from ..codes.bench import Basis
from ..errors import CoreError
from ..expected import Asked, Expected, hold_against, hold_in
from ..quantity import Kind, Measure, parse_single
from ..runsheet import Option
from ..said import expected as said
from .acts import Hearing

MOST_WORDS = 500
MOST_PIECES = 1000
Word = TypeVar("Word", bound=StrEnum)


def words(text: str, at: str, most: int = MOST_WORDS) -> str:
    """A sentence somebody has to give. Raises CoreError ``sheet.reason`` at its field."""
    told = text.strip()
    if not told:
        raise CoreError("sheet.reason", field=at)
    return told[:most]


def one_of(text: str, codes: type[Word], at: str) -> Word:
    """One of a list of codes. Raises CoreError ``sheet.choose``."""
    try:
        return codes(text)
    except ValueError as error:
        raise CoreError("sheet.choose", field=at, options=[str(code) for code in codes]) from error


def offered(text: str, options: Sequence[Option], at: str) -> str:
    """One of what a step offers. Raises CoreError ``sheet.choose`` with what it is called."""
    if all(text != option.code for option in options):
        raise CoreError("sheet.choose", field=at, options=[option.words for option in options])
    return text


def ticked(items: Sequence[Option], given: Sequence[str]) -> tuple[str, ...]:
    """Everything that is to be ticked. Raises CoreError ``sheet.not_ticked`` with what is not."""
    missing = next((item for item in items if item.code not in given), None)
    if missing is not None:
        raise CoreError("sheet.not_ticked", field="items", item=missing.words)
    return tuple(item.code for item in items)


def number(text: str, at: str, code: str) -> Decimal:
    """A number nobody typed (a drag in the glass). Raises CoreError ``code`` at its field."""
    try:
        value = Decimal(text)
    except InvalidOperation as error:
        raise CoreError(code, field=at) from error
    if not value.is_finite():
        raise CoreError(code, field=at)
    return value


@dataclass(frozen=True, kw_only=True)
class Stood:
    """A question about an amount that was answered “it stands”: which, and what was expected, of which
    ``amount`` in words."""

    code: str
    basis: Basis
    amount: str

    @property
    def words(self) -> str:
        """``it stands, though 2650 ml went in last time``."""
        return said.it_stands(self.basis, self.amount)


def stood(asked: Asked | None) -> Stood | None:
    """What was asked, to be kept with the entry."""
    if asked is None:
        return None
    return Stood(code=asked.code, basis=asked.expected.basis, amount=asked.expected.amount)


@dataclass(frozen=True, kw_only=True)
class Volume:
    """An amount: ``ml`` of it, as it was ``said``, in which ``unit``."""

    ml: Decimal
    said: str
    unit: str
    asked: Stood | None = None


def held(
    measure: Measure, sure: str, expected: Expected | None, vessel: tuple[str, Decimal] | None
) -> Stood | None:
    """An amount held against what is expected, and against its vessel."""
    asked = stood(hold_against(measure, expected, sure))
    if vessel is not None and measure.kind == Kind.VOLUME:
        hold_in(vessel, measure.low, measure.unit, sure)
    return asked


def volume(
    text: str, sure: str, hearing: Hearing, vessel: tuple[str, Decimal] | None = None
) -> Volume:
    """An amount as typed, in ml. Raises the codes of `quantity`, and the questions ``expected.slip``,
    ``expected.far`` and ``expected.vessel``."""
    speaks = hearing.speaker
    measure = parse_single(text, Kind.VOLUME, speaks.volume, speaks.preference)
    asked = held(measure, sure, hearing.expected, vessel)
    return Volume(ml=measure.low, said=measure.text, unit=measure.unit, asked=asked)

"""Values as found and as left."""

from dataclasses import dataclass, field
from decimal import Decimal
from typing import ClassVar

from ...codes.entries import Ask, EntryKind
from ...errors import CoreError
from ...quantity import Kind, parse
from ...runsheet import Measured
from ...said import bench as said
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.taking import Taking
from ..typed import Typed
from .room import Room

MOST_VALUE = 60
_KINDS = {"length": (Kind.LENGTH, "mm"), "pressure": (Kind.PRESSURE, "kPa")}


@dataclass(frozen=True, kw_only=True)
class Value:
    """A value as it was ``said``, and its ends in canonical units."""

    said: str
    low: Decimal
    high: Decimal


@dataclass(frozen=True, kw_only=True)
class Taken(Data):
    """Values by name, as found and as left."""

    kind: ClassVar[EntryKind] = EntryKind.MEASURE
    found: dict[str, Value] = field(default_factory=dict)
    left: dict[str, Value] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class TakenTyped(Typed):
    """Values by name as typed; an empty one was not taken."""

    found: dict[str, str] = field(default_factory=dict)
    left: dict[str, str] = field(default_factory=dict)


def _value(one: Measured, when: str, text: str, speaker: Speaker) -> Value:
    family, unit = _KINDS[one.kind]
    try:
        found = parse(text, family, unit, speaker.preference)
    except CoreError as error:
        raise error.at(f"{when}.{one.name}") from error
    return Value(said=text, low=found.low, high=found.high)


def _values(hearing: Hearing, when: str, typed: dict[str, str]) -> dict[str, Value]:
    told = {one: typed.get(one.name, "").strip()[:MOST_VALUE] for one in hearing.step.measured}
    return {
        one.name: _value(one, when, text, hearing.speaker) for one, text in told.items() if text
    }


def _read(hearing: Hearing, typed: TakenTyped) -> Taken:
    """An empty one was not taken, and one is enough."""
    found = _values(hearing, "found", typed.found)
    left = _values(hearing, "left", typed.left)
    if not found and not left:
        first = hearing.step.measured[0].name if hearing.step.measured else ""
        raise CoreError("sheet.measure", field=f"found.{first}")
    return Taken(found=found, left=left)


def _take(taking: Taking, entry: Entry, data: Taken) -> None:
    taking.complete(entry)


def _say(data: Taken, speaker: Speaker) -> str:
    found = {name: value.said for name, value in data.found.items()}
    return said.measured(found, {name: value.said for name, value in data.left.items()})


MEASURE = Act(typed=TakenTyped, data=Taken, field="found", read=_read, take=_take, says=_say)
ROOM = Room(ask=Ask.MEASURE, acts=(MEASURE,))

"""What a closed visit answered: kept as a document when it is closed, read back and never folded anew."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal, InvalidOperation
from typing import Any, TypeVar

from cattrs import BaseValidationError
from cattrs.errors import StructureHandlerNotFoundError
from cattrs.preconf.json import make_converter

from ..codes.fill import Acts, LeftFor
from ..codes.options import Lost, Stayed
from ..codes.steps import Name
from ..errors import CoreError
from ..fill import ACTS
from ..guard import Sound, guarded
from ..runsheet import StepId, TaskPlan
from ..said import bench as said
from ..said import fill as said_fill
from ..spec import Path
from .asks.choice import Chosen
from .asks.level import CauseNamed, LeftHere
from .asks.ran_out import RanOut
from .entries import Entry
from .fold.state import Sheet
from .stored import entry_document, entry_from
from .then.closings import FORMAT_1, FORMAT_2, as_third, closing_1

FORMAT = "oilward-closing/3"


def _entry_document(entry: Entry) -> dict[str, Any]:
    return {
        "id": entry.id,
        "step": entry.step,
        "kind": entry.kind.value,
        "data": entry_document(entry),
        "at": entry.at.isoformat(),
        "by": entry.by,
        "who": entry.who,
        "supersedes": entry.supersedes,
    }


def _entry(document: Mapping[str, Any], _: type[Entry]) -> Entry:
    return entry_from(
        document["data"],
        entry_id=document["id"],
        step=document["step"],
        kind=document["kind"],
        at=datetime.fromisoformat(document["at"]),
        by=document["by"],
        who=document["who"],
        supersedes=document["supersedes"],
    )


_converter = make_converter(detailed_validation=False)
_converter.register_unstructure_hook(Decimal, str)
_converter.register_structure_hook(Decimal, lambda text, _: Decimal(text))
_converter.register_unstructure_hook(Path, str)
_converter.register_structure_hook(Path, lambda text, _: Path.of(text))
_converter.register_unstructure_hook(StepId, str)
_converter.register_structure_hook(StepId, lambda text, _: StepId.of(text))
_converter.register_unstructure_hook(Entry, _entry_document)
_converter.register_structure_hook(Entry, _entry)


@dataclass(frozen=True, kw_only=True)
class TaskClosing(Sound):
    """One reservoir of a closed visit: the plan it stood on, the fluid that went in, its ``label`` where
    it is none of the shelf's, its bottle in ml, and what is printed on those it came out of
    (``batch``). ``not_learned`` says why what it took is not to be learned from, if so."""

    plan: TaskPlan
    fluid: str
    bottle_ml: Decimal | None
    not_learned: str = ""
    batch: str = ""
    label: str = ""


@dataclass(frozen=True)
class Closing(Sound):
    """A visit as it stood, with all it stands on, and what the bike had run, km."""

    tasks: tuple[TaskClosing, ...]
    sheet: Sheet
    km: Decimal


@guarded
def keep(closing: Closing) -> dict[str, Any]:
    """A closing as a JSON document; `kept` is its way back. Raises CoreError ``number.no_answer`` for an
    amount that is no number."""
    return {"format": FORMAT, **_converter.unstructure(closing)}


_Kept = TypeVar("_Kept")
# what a document raises that somebody else wrote
_FOREIGN = (AttributeError, InvalidOperation, LookupError, TypeError, ValueError)


def read_kept(document: Mapping[str, Any], kind: type[_Kept], named: str = "") -> _Kept:
    """A part of a closing, of a ``kind`` of value, as `keep` writes it. Raises CoreError
    ``closing.unreadable`` for what it did not write."""
    try:
        return _converter.structure(document, kind)
    except (BaseValidationError, CoreError, StructureHandlerNotFoundError, *_FOREIGN) as error:
        raise CoreError("closing.unreadable", format=named) from error


def kept(document: Mapping[str, Any]) -> Closing:
    """The closing a document holds, of this format or an earlier one, without folding anything. Raises
    CoreError ``closing.unreadable`` for what `keep` did not write."""
    named = str(document.get("format"))
    if named not in (FORMAT, FORMAT_2, FORMAT_1):
        raise CoreError("closing.unreadable", format=named)
    try:
        wanted = closing_1(document) if named == FORMAT_1 else dict(document)
        third = wanted if named == FORMAT else as_third(wanted)
    except _FOREIGN as error:
        raise CoreError("closing.unreadable", format=named) from error
    return read_kept(third, Closing, named)


@guarded
def as_kept(value: Sound) -> dict[str, Any]:
    """A part of a closing as a document; `read_kept` is its way back. Raises CoreError
    ``closing.unreadable`` for what holds nothing to be kept."""
    document = _converter.unstructure(value)
    if not isinstance(document, dict):
        raise CoreError("closing.unreadable", format=type(value).__name__)
    return document


@guarded
def left_for(key: str, entries: list[Entry]) -> LeftFor | None:
    """Why its level was left where it stands, if it was. ``entries``: those that count (`in_order`)."""
    left = [
        entry.data.reason
        for entry in entries
        if isinstance(entry.data, LeftHere) and StepId.of(entry.step).reservoir == key
    ]
    return left[-1] if left else None


@guarded
def why_not_learned(key: str, entries: list[Entry]) -> str:
    """Why what a reservoir took is not to be learned from; empty if it is: gauge and book must not
    have disagreed, and nothing have run out. ``entries``: those that count (`in_order`)."""
    causes = [
        entry.data
        for entry in entries
        if isinstance(entry.data, CauseNamed) and StepId.of(entry.step).reservoir == key
    ]
    if causes:
        last = causes[-1]
        by_the_book = ACTS[last.cause] == Acts.BY_THE_BOOK
        return last.said if by_the_book else said.disagreed(last.said)
    stayed = [
        entry.data.value
        for entry in entries
        if isinstance(entry.data, Chosen) and entry.step == str(StepId(key, Name.LEG_STAYED))
    ]
    if Stayed.OLD_OIL in stayed[-1:]:
        return said.OLD_OIL_STAYED
    lost = any(
        isinstance(entry.data, RanOut) and entry.data.how in (Lost.SOME, Lost.ALL)
        for entry in entries
        if StepId.of(entry.step).reservoir == key
    )
    if lost:
        return said.RAN_OUT
    left = [
        entry.data.reason
        for entry in entries
        if isinstance(entry.data, LeftHere) and StepId.of(entry.step).reservoir == key
        if entry.data.reason is not None
    ]
    return said.left_here(said_fill.LEFT[left[-1]]) if left else ""

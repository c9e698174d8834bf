"""Entries: the append-only things somebody recorded, and which of them count."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any, ClassVar, Protocol, TypeVar

from ..codes.entries import EntryKind
from ..guard import guarded
from ..quantity import Preference


@dataclass(frozen=True, kw_only=True)
class Data:
    """What an entry says, canonical and in codes: one class a kind of entry, in the room of the kind of
    step that takes it."""

    kind: ClassVar[EntryKind]


@dataclass(frozen=True, kw_only=True)
class Entry:
    """Something recorded: ``id`` is made by the client, ``at`` is when it happened, ``supersedes``
    the id of the entry it corrects. ``by`` is what whoever wrote it is called, ``who`` the person;
    ``against`` the codes of what it went against when it was written down, ``remembered``: later than it
    happened."""

    id: str
    step: str
    data: Data
    at: datetime
    by: str
    who: str
    supersedes: str | None = None
    against: tuple[str, ...] = ()
    remembered: bool = False

    @property
    def kind(self) -> EntryKind:
        """What kind of thing it is."""
        return self.data.kind


@dataclass(frozen=True)
class Speaker:
    """Who types: units taken by bare numbers and used in words, and their idea of an ounce."""

    volume: str = "ml"
    torque: str = "N·m"
    preference: Preference = "us"


class Happened(Protocol):
    """Something that was written down once, and may correct something written down before."""

    __dataclass_fields__: ClassVar[dict[str, Any]]

    @property
    def id(self) -> str:
        """Made by whoever wrote it down."""

    @property
    def at(self) -> datetime:
        """When it happened."""

    @property
    def supersedes(self) -> str | None:
        """What it corrects, if anything."""


One = TypeVar("One", bound=Happened)


def ordered(entries: Iterable[One]) -> list[One]:
    """What happened, in the order it happened: each thing once, as last corrected, at the time it was
    first written down with.

    Whatever order and repetition the entries arrive in, the same list comes out.
    """
    unique = {entry.id: entry for entry in entries}
    corrections: dict[str, One] = {}
    for entry in sorted(unique.values(), key=lambda one: (one.at, one.id)):
        if entry.supersedes in unique and entry.supersedes != entry.id:
            corrections[entry.supersedes] = entry
    corrected = {entry.id for entry in corrections.values()}
    happened = []
    for first in unique.values():
        if first.id in corrected:
            continue
        last, seen = first, {first.id}
        while (later := corrections.get(last.id)) is not None and later.id not in seen:
            last = later
            seen.add(last.id)
        now = last if last is first else replace(last, at=first.at)
        happened.append((first.at, first.id, now))
    return [entry for _, _, entry in sorted(happened, key=lambda one: one[:2])]


in_order = guarded(ordered)

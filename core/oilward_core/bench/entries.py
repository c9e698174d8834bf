"""Entries: the append-only things somebody recorded, and which of them count."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from decimal import Decimal
from typing import Any

from ..debris import Form, Matter, Part, Place
from ..guard import guarded
from ..quantity import Preference

Data = Mapping[str, Any]
DRY = "dry"
# what a correction may never turn into anything else
SKIP, ANSWERED = "skip", "answered"
# how a plug was read: by whoever did it, and by a second pair of eyes, whose reading then counts
REGRADE = "regrade"
GRADINGS = ("finding", REGRADE)


@dataclass(frozen=True, kw_only=True)
class Entry:
    """Something recorded: ``id`` is made by the client, ``at`` is when it happened, ``supersedes``
    the id of the entry it corrects. ``data`` is canonical and JSON-able (numbers as strings)."""

    id: str
    step: str
    kind: str
    data: Data
    at: datetime
    by: str
    supersedes: str | None = None


@dataclass(frozen=True)
class Speaker:
    """Who types: units taken by bare numbers and used in words, and their idea of an ounce."""

    volume: str = "ml"
    torque: str = "N·m"
    preference: Preference = "us"


def ordered(entries: Iterable[Entry]) -> list[Entry]:
    """What happened, in the order it happened: each thing once, as last corrected, at the time and
    of the kind it was first written down with.

    Whatever order and repetition the entries arrive in, the same list comes out.
    """
    unique = {entry.id: entry for entry in entries}
    corrections: dict[str, Entry] = {}
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
        kind = last.kind if SKIP in (first.kind, last.kind) else first.kind
        same = last is first
        happened.append(
            (first.at, first.id, last if same else replace(last, at=first.at, kind=kind))
        )
    return [entry for _, _, entry in sorted(happened, key=lambda one: one[:2])]


in_order = guarded(ordered)


@guarded
def part_data(part: Part) -> dict[str, Any]:
    """A part as JSON-able data; `part_from` is its way back."""
    return {
        "form": part.form.value,
        "matter": part.matter.value,
        "share": str(part.share),
        "largest_mm": None if part.largest_mm is None else str(part.largest_mm),
        "count": part.count,
        "magnetic": part.magnetic,
        "place": part.place.value,
        "pile_mm": None if part.pile_mm is None else str(part.pile_mm),
    }


@guarded
def part_from(data: Data) -> Part:
    """A part from stored data."""
    largest, pile = data.get("largest_mm"), data.get("pile_mm")
    return Part(
        form=Form(data["form"]),
        matter=Matter(data["matter"]),
        share=Decimal(data["share"]),
        largest_mm=None if largest is None else Decimal(largest),
        count=data.get("count"),
        magnetic=data.get("magnetic"),
        place=Place(data.get("place", Place.PLUG)),
        pile_mm=None if pile is None else Decimal(pile),
    )

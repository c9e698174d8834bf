"""A look for leaks, and where one is."""

from dataclasses import dataclass
from datetime import datetime
from typing import ClassVar

from ...codes.bench import Stands
from ...codes.entries import Ask, EntryKind
from ...codes.steps import Name
from ...debris import Verdict
from ...errors import CoreError
from ...runsheet import Step, of_bike
from ...said import bench as said
from ...said import steps as words
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.known import Known
from ..fold.taking import Taking
from ..typed import Typed
from .room import Room

DRY = "dry"


@dataclass(frozen=True, kw_only=True)
class Looked(Data):
    """Dry everywhere, or a leak at a ``part`` of a ``reservoir``; ``place`` as an earlier release called
    it. ``counts``: what ran out there is asked for, as earlier releases did not."""

    kind: ClassVar[EntryKind] = EntryKind.LEAKS
    dry: bool
    reservoir: str = ""
    part: str = ""
    place: str = ""
    counts: bool = False


@dataclass(frozen=True, kw_only=True)
class LookedTyped(Typed):
    """``dry``, or the code of a place."""

    result: str = ""


def _read(hearing: Hearing, typed: LookedTyped) -> Looked:
    if typed.result == DRY:
        return Looked(dry=True)
    places = hearing.step.places
    place = next((place for place in places if place.code == typed.result), None)
    if place is None:
        labels = [place.label for place in places]
        raise CoreError("sheet.choose", field="result", options=[said.DRY, *labels])
    return Looked(dry=False, reservoir=place.reservoir, part=place.part, counts=True)


def _take(taking: Taking, entry: Entry, data: Looked) -> None:
    taking.complete(entry)
    if data.counts:
        taking.let_oil_out(entry, data.part, data.reservoir)
    elif not data.dry:
        taking.reopen(entry, data.part, Stands.LEAKING, data.reservoir)


def _say(data: Looked, speaker: Speaker) -> str:
    return said.DRY if data.dry else data.place or words.leak_place(data.part, data.reservoir, True)


LEAKS = Act(typed=LookedTyped, data=Looked, field="result", read=_read, take=_take, says=_say)


def stands_since(known: Known) -> datetime | None:
    """When it began to stand after the first look: it was dry then."""
    entry = known.facts.last.get(str(of_bike(Name.LEAKS)))
    return entry.at if entry and isinstance(entry.data, Looked) and entry.data.dry else None


def stood_until(known: Known) -> datetime | None:
    """From when on a second look tells more than the first."""
    since, stood = stands_since(known), known.steps.get(of_bike(Name.STANDS))
    if since is None or stood is None or stood.minutes is None:
        return None
    return since + known.bench.length(stood.minutes)


def _dry(step: Step, entry: Entry, known: Known) -> bool:
    dry = isinstance(entry.data, Looked) and entry.data.dry
    if step.name != Name.LEAKS_AGAIN:
        return dry
    stood = stood_until(known)
    return dry and stood is not None and entry.at >= stood


def _remarks(step: Step, entry: Entry, known: Known, finding: Verdict | None) -> str:
    data = entry.data
    if not isinstance(data, Looked):
        return ""
    if data.dry:
        again = step.name == Name.LEAKS_AGAIN and not known.complete[step.id]
        return said.LOOKED_TOO_SOON if again else ""
    here = (p.label for p in step.places if (p.reservoir, p.part) == (data.reservoir, data.part))
    return said.leak(data.place or next(here, words.leak_place(data.part, data.reservoir, True)))


ROOM = Room(ask=Ask.LEAKS, acts=(LEAKS,), completes=_dry, remarks=_remarks)

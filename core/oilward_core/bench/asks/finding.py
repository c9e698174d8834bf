"""What a plug and its oil show; read by whoever did it, and by a second pair of eyes."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any, ClassVar

from ...codes.debris import Form, Matter, OilLook, Place
from ...codes.entries import Ask, EntryKind
from ...debris import Part, Verdict
from ...errors import CoreError
from ...quantity import Kind, parse_single, read_count, read_number
from ...runsheet import Step
from ...said import bench as said
from ...said import debris as said_debris
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.known import Known
from ..fold.taking import Taking
from ..reading import MOST_PIECES, number, one_of
from ..typed import Typed
from .room import Room

MOST_PICTURES, MOST_SAID, MOST_NOTE = 6, 200, 2000


@dataclass(frozen=True, kw_only=True)
class Pictured:
    """A picture by its id, with the spot marked on it as shares of its width and height."""

    id: str
    x: Decimal | None = None
    y: Decimal | None = None


@dataclass(frozen=True, kw_only=True)
class Graded(Data):
    """What somebody saw; ``pan_clean``: None where nobody said; ``kept``: where debris and sample are;
    ``no_magnet``: there was none to be read."""

    kind: ClassVar[EntryKind] = EntryKind.FINDING
    parts: tuple[Part, ...] = ()
    oil: tuple[OilLook, ...] = ()
    note: str = ""
    pan_clean: bool | None = None
    dipstick_flakes: bool = False
    seal_missing: bool = False
    kept: str = ""
    pictures: tuple[Pictured, ...] = ()
    no_magnet: bool = False


@dataclass(frozen=True, kw_only=True)
class Regraded(Graded):
    """What a second pair of eyes saw of it."""

    kind: ClassVar[EntryKind] = EntryKind.REGRADE


@dataclass(frozen=True, kw_only=True)
class AlsoSeen(Data):
    """Bits that were seen after the plug was read: in the filter, in the pan, on the screen."""

    kind: ClassVar[EntryKind] = EntryKind.ALSO_SEEN
    parts: tuple[Part, ...]
    note: str = ""


@dataclass(frozen=True, kw_only=True)
class PartTyped(Typed):
    """One kind of debris as typed: share in percent, largest piece and pile with or without a unit
    (mm)."""

    form: str = ""
    matter: str = ""
    share_percent: str = "0"
    largest: str = ""
    count: str = ""
    magnetic: bool | None = None
    place: str = ""
    pile: str = ""


@dataclass(frozen=True, kw_only=True)
class PictureTyped(Typed):
    """A picture and the spot on it."""

    id: str = ""
    x: str = ""
    y: str = ""


@dataclass(frozen=True, kw_only=True)
class GradedTyped(Typed):
    """A plug as read."""

    parts: tuple[PartTyped, ...] = ()
    oil: tuple[str, ...] = ()
    note: str = ""
    pan_clean: bool | None = None
    dipstick_flakes: bool = False
    seal_missing: bool = False
    kept: str = ""
    pictures: tuple[PictureTyped, ...] = ()


def _count(text: str) -> int | None:
    if not text.strip():
        return None
    try:
        return read_count(text, MOST_PIECES)
    except CoreError as error:
        raise CoreError("finding.count", field="count") from error


def _share(text: str) -> Decimal:
    try:
        return read_number(text.strip().removesuffix("%"), Decimal(0), Decimal(100)) / 100
    except CoreError as error:
        raise CoreError("finding.share", field="share") from error


def _length(text: str, at: str, speaker: Speaker) -> Decimal | None:
    told = text.strip()
    try:
        return parse_single(told, Kind.LENGTH, "mm", speaker.preference).low if told else None
    except CoreError as error:
        raise error.at(at) from error


def _place(text: str, step: Step) -> Place:
    """Where it was, among where bits can be there; in the usual place where nobody says."""
    there = step.found_in or tuple(Place)
    place = one_of(text or there[0], Place, "place")
    if place not in there:
        raise CoreError("sheet.choose", field="place", options=[str(one) for one in there])
    return place


def _part(typed: PartTyped, hearing: Hearing) -> Part:
    speaker = hearing.speaker
    return Part(
        form=one_of(typed.form, Form, "form"),
        matter=one_of(typed.matter, Matter, "matter"),
        share=_share(typed.share_percent),
        largest_mm=_length(typed.largest, "largest", speaker),
        count=_count(typed.count),
        magnetic=typed.magnetic,
        place=_place(typed.place, hearing.step),
        pile_mm=_length(typed.pile, "pile", speaker),
    )


def _spot(text: str) -> Decimal | None:
    if not text:
        return None
    place = number(text, "pictures", "finding.picture")
    if not 0 <= place <= 1:
        raise CoreError("finding.picture", field="pictures")
    return place


def _picture(typed: PictureTyped) -> Pictured:
    if not typed.id:
        raise CoreError("finding.picture", field="pictures")
    return Pictured(id=typed.id[:40], x=_spot(typed.x), y=_spot(typed.y))


def _seen(hearing: Hearing, typed: GradedTyped) -> Mapping[str, Any]:
    parts = tuple(_part(part, hearing) for part in typed.parts)
    if sum(part.share for part in parts if part.place == Place.PLUG) > 1:
        raise CoreError("finding.share_sum", field="share")
    return {
        "parts": parts,
        "oil": tuple(one_of(look, OilLook, "oil") for look in typed.oil),
        "note": typed.note[:MOST_NOTE],
        "pan_clean": typed.pan_clean,
        "dipstick_flakes": typed.dipstick_flakes,
        "seal_missing": typed.seal_missing,
        "kept": typed.kept.strip()[:MOST_SAID],
        "pictures": tuple(_picture(one) for one in typed.pictures[:MOST_PICTURES]),
        "no_magnet": hearing.step.no_magnet,
    }


def _take(taking: Taking, entry: Entry, data: Graded) -> None:
    taking.complete(entry)


def _say(data: Graded, speaker: Speaker) -> str:
    return said.finding(
        parts=[said.part(part) for part in data.parts],
        oil=data.oil,
        pan_dirty=data.pan_clean is False,
        dipstick=data.dipstick_flakes,
        seal=data.seal_missing,
        kept=data.kept,
        no_magnet=data.no_magnet,
    )


FINDING = Act(
    typed=GradedTyped,
    data=Graded,
    field="parts",
    read=lambda hearing, typed: Graded(**_seen(hearing, typed)),
    take=_take,
    says=_say,
)
REGRADE = Act(
    typed=GradedTyped,
    data=Regraded,
    field="parts",
    read=lambda hearing, typed: Regraded(**_seen(hearing, typed)),
    take=_take,
    says=_say,
)


@dataclass(frozen=True, kw_only=True)
class AlsoTyped(Typed):
    """More bits as typed, and where they were."""

    parts: tuple[PartTyped, ...] = ()
    note: str = ""


def _also(hearing: Hearing, typed: AlsoTyped) -> AlsoSeen:
    parts = tuple(_part(part, hearing) for part in typed.parts)
    if not parts:
        raise CoreError("finding.nothing_more", field="parts")
    if any(part.place == Place.PLUG for part in parts):
        raise CoreError("finding.on_the_plug", field="parts")
    return AlsoSeen(parts=parts, note=typed.note[:MOST_NOTE])


def with_more(seen: Graded, more: AlsoSeen) -> Graded:
    """A reading with what was seen after it."""
    note = "\n".join(text for text in (seen.note, more.note) if text)
    return replace(seen, parts=(*seen.parts, *more.parts), note=note[:MOST_NOTE])


def _take_also(taking: Taking, entry: Entry, data: AlsoSeen) -> None:
    """It is added to the reading that counts; what was said of that one before is said anew."""
    was = taking.facts.last.get(entry.step)
    if was is None or not isinstance(was.data, Graded):
        return
    taking.facts.last[entry.step] = replace(was, data=with_more(was.data, data))
    taking.facts.answered.pop(was.id, None)


ALSO = Act(
    typed=AlsoTyped,
    data=AlsoSeen,
    field="parts",
    read=_also,
    take=_take_also,
    says=lambda data, speaker: said.finding(
        parts=[said.part(part) for part in data.parts],
        oil=(),
        pan_dirty=False,
        dipstick=False,
        seal=False,
        kept="",
        no_magnet=True,
    ),
)


def _remarks(step: Step, entry: Entry, known: Known, finding: Verdict | None) -> str:
    return said_debris.in_short(finding.level.word, finding.action) if finding else ""


ROOM = Room(ask=Ask.FINDING, acts=(FINDING, REGRADE, ALSO), remarks=_remarks)

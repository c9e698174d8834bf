"""A value the sheet lacks, looked up in a document."""

from dataclasses import dataclass
from typing import ClassVar

from ...codes.entries import Ask, EntryKind
from ...errors import CoreError
from ...spec import field_of, read_value
from ..acts import Act, Hearing
from ..entries import Data
from ..typed import Typed
from .room import Room

MOST_DOCUMENT, MOST_PAGE = 120, 20


@dataclass(frozen=True, kw_only=True)
class LookedUp(Data):
    """What stands written at a ``path`` of the sheet, in which document and on which page."""

    kind: ClassVar[EntryKind] = EntryKind.LOOK_UP
    path: str
    written: str
    document: str
    page: str = ""


@dataclass(frozen=True, kw_only=True)
class LookedUpTyped(Typed):
    """The value as it stands there, and where."""

    written: str = ""
    document: str = ""
    page: str = ""


def _read(hearing: Hearing, typed: LookedUpTyped) -> LookedUp:
    path = hearing.step.path
    if path is None:
        raise CoreError("sheet.wrong_kind", step=hearing.step.title)
    written, document = typed.written.strip(), typed.document.strip()[:MOST_DOCUMENT]
    read_value(field_of(path), written)
    if not document:
        raise CoreError("spec.no_source", field="document")
    return LookedUp(
        path=str(path), written=written, document=document, page=typed.page.strip()[:MOST_PAGE]
    )


LOOK_UP = Act(
    typed=LookedUpTyped,
    data=LookedUp,
    field="written",
    read=_read,
    take=lambda taking, entry, data: taking.complete(entry),
    says=lambda data, speaker: data.written,
)
ROOM = Room(ask=Ask.LOOK_UP, acts=(LOOK_UP,))

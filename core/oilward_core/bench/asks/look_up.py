"""A value the sheet lacks, looked up in a document."""

from dataclasses import dataclass
from typing import ClassVar

from ...codes.entries import Ask, EntryKind
from ...errors import CoreError
from ...guard import guarded
from ...runsheet import Step
from ...spec import Path, field_of, read_value, same_value
from ..acts import Act, Hearing
from ..entries import Data
from ..typed import Typed
from .room import Room

MOST_DOCUMENT, MOST_PAGE = 120, 20


@dataclass(frozen=True, kw_only=True)
class LookedUp(Data):
    """What stands written at a ``path`` of the sheet, in which document and on which page; ``stands``:
    it is the bike's own value that waited for a second person, and a lead said that it stands."""

    kind: ClassVar[EntryKind] = EntryKind.LOOK_UP
    path: str
    written: str
    document: str
    page: str = ""
    stands: bool = False


@dataclass(frozen=True, kw_only=True)
class LookedUpTyped(Typed):
    """The value as it stands there, and where; or that the bike's own, which waits, ``stands``."""

    written: str = ""
    document: str = ""
    page: str = ""
    stands: bool = False


def _read(hearing: Hearing, typed: LookedUpTyped) -> LookedUp:
    path = hearing.step.path
    if path is None:
        raise CoreError("sheet.wrong_kind", step=hearing.step.title)
    if typed.stands:
        return _stands(hearing.step, path)
    written, document = typed.written.strip(), typed.document.strip()[:MOST_DOCUMENT]
    read_value(field_of(path), written)
    if not document:
        raise CoreError("spec.no_source", field="document")
    return LookedUp(
        path=str(path), written=written, document=document, page=typed.page.strip()[:MOST_PAGE]
    )


def _stands(step: Step, path: Path) -> LookedUp:
    """The bike's own value, word for word. Raises CoreError ``spec.none_waits`` where none does."""
    own = step.waiting
    if own is None:
        raise CoreError("spec.none_waits", step=step.title)
    return LookedUp(
        path=str(path), written=own.written, document=own.document, page=own.page, stands=True
    )


@guarded
def own_words_again(step: Step, data: LookedUp, who: str) -> bool:
    """Whether somebody looked up what they wrote for this bike themselves, in whatever words: that is no
    second person. Raises CoreError as `read_value` does."""
    own = step.waiting
    if own is None or data.stands or own.entered_by_who != who:
        return False
    return same_value(Path.of(data.path), own.written, data.written)


LOOK_UP = Act(
    typed=LookedUpTyped,
    data=LookedUp,
    field="written",
    read=_read,
    take=lambda taking, entry, data: taking.complete(entry),
    says=lambda data, speaker: data.written,
)
ROOM = Room(ask=Ask.LOOK_UP, acts=(LOOK_UP,))

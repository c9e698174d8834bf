"""What a visit waits for, and that it goes on."""

from dataclasses import dataclass
from typing import ClassVar

from ...codes.entries import EntryKind
from ...codes.steps import WaitsFor
from ...said import bench as said
from ..acts import Act, Hearing
from ..entries import Data, Entry
from ..fold.taking import Taking
from ..reading import MOST_WORDS, one_of, words
from ..typed import Typed
from .silent import silent


@dataclass(frozen=True, kw_only=True)
class WaitsUntil(Data):
    """It waits for something, in words as well."""

    kind: ClassVar[EntryKind] = EntryKind.WAITS
    what: WaitsFor
    words: str = ""


@dataclass(frozen=True, kw_only=True)
class WaitsTyped(Typed):
    """For what, by its code, and in words."""

    what: str = ""
    words: str = ""


@dataclass(frozen=True, kw_only=True)
class GoesOn(Data):
    """It waits no longer."""

    kind: ClassVar[EntryKind] = EntryKind.GOES_ON


def _read(hearing: Hearing, typed: WaitsTyped) -> WaitsUntil:
    what = one_of(typed.what, WaitsFor, "what")
    told = typed.words.strip()[:MOST_WORDS]
    return WaitsUntil(
        what=what, words=words(typed.words, "words") if what == WaitsFor.ELSE else told
    )


def _waits(taking: Taking, entry: Entry, data: WaitsUntil) -> None:
    taking.facts.waits = entry


def _goes_on(taking: Taking, entry: Entry, data: Data) -> None:
    taking.facts.waits = None


ACTS = (
    Act(
        typed=WaitsTyped,
        data=WaitsUntil,
        field="words",
        read=_read,
        take=_waits,
        says=lambda data, speaker: said.DONE,
    ),
    silent(GoesOn(), _goes_on),
)

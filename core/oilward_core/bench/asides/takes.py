"""Who has a step in hand, and who took the visit over."""

from dataclasses import dataclass
from typing import ClassVar

from ...codes.entries import EntryKind
from ...said import bench as said
from ..acts import Act, Hearing
from ..entries import Data, Entry
from ..fold.taking import Taking
from ..typed import Typed
from .silent import does_nothing, silent

MOST_HANDS, MOST_CODE = 1000, 200


@dataclass(frozen=True, kw_only=True)
class Takes(Data):
    """Somebody has the step in hand."""

    kind: ClassVar[EntryKind] = EntryKind.TAKES


@dataclass(frozen=True, kw_only=True)
class GivesUp(Data):
    """Nobody has it in hand any more."""

    kind: ClassVar[EntryKind] = EntryKind.GIVES_UP


@dataclass(frozen=True, kw_only=True)
class TakesOver(Data):
    """Somebody took the visit over, with a ``hand`` put on what is only finger-tight, by its codes."""

    kind: ClassVar[EntryKind] = EntryKind.TAKES_OVER
    hands: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class TakesOverTyped(Typed):
    """What a hand was put on, by its codes."""

    hands: tuple[str, ...] = ()


def _takes(taking: Taking, entry: Entry, data: Data) -> None:
    taking.facts.taken[entry.step] = entry


def _gives_up(taking: Taking, entry: Entry, data: Data) -> None:
    taking.facts.taken.pop(entry.step, None)


def _took_over(hearing: Hearing, typed: TakesOverTyped) -> TakesOver:
    return TakesOver(hands=tuple(code[:MOST_CODE] for code in typed.hands[:MOST_HANDS]))


ACTS = (
    silent(Takes(), _takes),
    silent(GivesUp(), _gives_up),
    Act(
        typed=TakesOverTyped,
        data=TakesOver,
        field="hands",
        read=_took_over,
        take=does_nothing,
        says=lambda data, speaker: said.DONE,
    ),
)

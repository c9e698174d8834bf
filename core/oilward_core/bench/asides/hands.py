"""A second pair of hands: called for, lent, let go."""

from dataclasses import dataclass
from typing import ClassVar

from ...codes.entries import EntryKind
from ..entries import Data, Entry
from ..fold.facts import Hands
from ..fold.taking import Taking
from .silent import silent


@dataclass(frozen=True, kw_only=True)
class Calls(Data):
    """Somebody needs a second pair of hands."""

    kind: ClassVar[EntryKind] = EntryKind.CALLS


@dataclass(frozen=True, kw_only=True)
class Lends(Data):
    """Somebody lends them."""

    kind: ClassVar[EntryKind] = EntryKind.LENDS


@dataclass(frozen=True, kw_only=True)
class LetsGo(Data):
    """They are not needed any more."""

    kind: ClassVar[EntryKind] = EntryKind.LETS_GO


def _calls(taking: Taking, entry: Entry, data: Data) -> None:
    taking.facts.hands = Hands(step=entry.step, by=entry.by, who=entry.who, since=entry.at)


def _lends(taking: Taking, entry: Entry, data: Data) -> None:
    """Nobody lends them to themselves."""
    called = taking.facts.hands
    if called is not None and called.who != entry.who:
        taking.lent(entry)


def _lets_go(taking: Taking, entry: Entry, data: Data) -> None:
    taking.calls_over()


ACTS = (silent(Calls(), _calls), silent(Lends(), _lends), silent(LetsGo(), _lets_go))

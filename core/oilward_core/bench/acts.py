"""What a kind of entry is: how it is read, what it does, how it is said."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Generic, TypeVar

from ..codes.entries import EntryKind
from ..expected import Expected
from ..runsheet import Step
from .entries import Data, Entry, Speaker
from .fold.taking import Taking
from .typed import Typed

T = TypeVar("T", bound=Typed)
D = TypeVar("D", bound=Data)


@dataclass(frozen=True)
class Hearing:
    """What an entry is heard with: at which step, by whom it is typed, what is expected."""

    step: Step
    speaker: Speaker
    expected: Expected | None = None


@dataclass(frozen=True, kw_only=True)
class Act(Generic[T, D]):
    """A kind of entry: the shape it is ``typed`` in and the ``data`` it is kept as; ``read`` makes
    the one of the other, ``take`` tells the facts, ``says`` it in short. ``field`` is where an error
    of reading belongs; ``keeps``: what a correction that does not speak of it leaves as it was, what
    belongs together as one."""

    typed: type[T]
    data: type[D]
    field: str
    read: Callable[[Hearing, T], D]
    take: Callable[[Taking, Entry, D], None]
    says: Callable[[D, Speaker], str]
    keeps: tuple[tuple[str, ...], ...] = ()

    @property
    def kind(self) -> EntryKind:
        """Which kind it is."""
        return self.data.kind

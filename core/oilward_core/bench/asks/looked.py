"""A second person who looked."""

from dataclasses import dataclass
from typing import ClassVar

from ...codes.entries import EntryKind
from ...said import bench as said
from ..acts import Act
from ..entries import Data
from ..typed import Typed


@dataclass(frozen=True, kw_only=True)
class SecondLooked(Data):
    """A second person stands for it: what they are called (``name``) and who they are (``person``);
    ``alone``: the same one, later, where there is nobody else."""

    kind: ClassVar[EntryKind] = EntryKind.SECOND
    name: str
    person: str
    alone: bool = False


@dataclass(frozen=True, kw_only=True)
class SecondTyped(Typed):
    """Who looked, as the server knows it."""

    name: str = ""
    person: str = ""
    alone: bool = False


SECOND = Act(
    typed=SecondTyped,
    data=SecondLooked,
    field="name",
    read=lambda hearing, typed: SecondLooked(
        name=typed.name[:80], person=typed.person, alone=typed.alone
    ),
    take=lambda taking, entry, data: taking.complete(entry),
    says=lambda data, speaker: said.looked_second(data.name, alone=data.alone),
)

"""How the bike stands now. Common practice, no source."""

from dataclasses import dataclass
from typing import ClassVar

from ...codes.entries import EntryKind
from ...codes.poses import Pose
from ...said import bench as said
from ..acts import Act, Hearing
from ..entries import Data, Entry
from ..fold.taking import Taking
from ..reading import one_of
from ..typed import Typed


@dataclass(frozen=True, kw_only=True)
class StandsSo(Data):
    """How it stands, and whether it is strapped down."""

    kind: ClassVar[EntryKind] = EntryKind.STANDS
    pose: Pose
    strapped: bool = False


@dataclass(frozen=True, kw_only=True)
class StandsTyped(Typed):
    """How it stands, by its code, and whether it is strapped down."""

    pose: str = ""
    strapped: bool = False


def _read(hearing: Hearing, typed: StandsTyped) -> StandsSo:
    """Nothing that is tilted is strapped."""
    pose = one_of(typed.pose, Pose, "pose")
    return StandsSo(pose=pose, strapped=typed.strapped and pose.straps)


def _take(taking: Taking, entry: Entry, data: StandsSo) -> None:
    taking.stand(entry, data.pose, data.strapped)


ACTS = (
    Act(
        typed=StandsTyped,
        data=StandsSo,
        field="pose",
        read=_read,
        take=_take,
        says=lambda data, speaker: said.DONE,
    ),
)

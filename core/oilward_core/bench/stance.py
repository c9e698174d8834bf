"""How the bike stands and whose hands are on it. Common practice, no source."""

from dataclasses import dataclass, replace
from datetime import datetime

from ..cautions import STRAPPED, TILTED
from ..runsheet import Aside, Name, Pose, StepId
from .entries import Entry


@dataclass(frozen=True, kw_only=True)
class Stance:
    """How the bike stands, whether it is strapped down, since when and who said so."""

    pose: Pose
    strapped: bool
    by: str
    at: datetime

    @property
    def words(self) -> str:
        """``upright, strapped down``."""
        return f"{self.pose.words}, {'strapped down' if self.strapped else 'not strapped'}"


def caution_of(pose: Pose) -> str:
    """What to be careful of where a bike is not strapped down."""
    return TILTED if pose == Pose.TILTED else STRAPPED


@dataclass(frozen=True, kw_only=True)
class Hands:
    """A second pair of hands: at which step, who called for it and when, and who lends it."""

    step: str
    by: str
    since: datetime
    lent_by: str = ""


def stance_after(before: Stance | None, entry: Entry, step: StepId) -> Stance | None:
    """How the bike stands after an entry. Read in another attitude, it was unstrapped for it."""
    if entry.kind == Aside.STANDS:
        pose, strapped = _pose(entry.data.get("pose")), entry.data.get("strapped") is True
        return Stance(pose=pose, strapped=strapped, by=entry.by, at=entry.at) if pose else before
    if entry.kind == "confirm" and step.name == Name.SUPPORT:
        return Stance(pose=Pose.UPRIGHT, strapped=True, by=entry.by, at=entry.at)
    if entry.kind == "confirm" and step.name == Name.WHEEL_OUT:
        return Stance(pose=Pose.LIFTED, strapped=True, by=entry.by, at=entry.at)
    read = _pose(entry.data.get("attitude")) if entry.kind == "level" else None
    if read is None or (before and before.pose == read):
        return before
    return Stance(pose=read, strapped=False, by=entry.by, at=entry.at)


def _pose(said: object) -> Pose | None:
    return next((pose for pose in Pose if pose == said), None)


def hands_after(before: Hands | None, entry: Entry) -> Hands | None:
    """Whose hands are called for or lent after an entry. Nobody lends them to themselves, and with
    the step they are needed for they are let go."""
    if entry.kind == Aside.CALLS:
        return Hands(step=entry.step, by=entry.by, since=entry.at)
    if before is None or entry.kind == Aside.LETS_GO:
        return None
    if entry.kind == Aside.LENDS and entry.by != before.by:
        return replace(before, lent_by=entry.by)
    return before

"""How a bike can stand: one list, for sheets and for the bench."""

from enum import StrEnum


class Pose(StrEnum):
    """How a bike can stand. Codes: what they are called stands in `said`."""

    UPRIGHT = "upright"
    SIDE_STAND = "side stand"
    LIFTED = "lifted"
    TILTED = "tilted"

    @property
    def straps(self) -> bool:
        """Whether a bike can be strapped down so."""
        return self != Pose.TILTED


# how a level can be read: nobody reads one on a tilted bike
ATTITUDES = tuple(pose for pose in Pose if pose.straps)

"""Words of the suspension: what a sag tells, and how a bike is ridden."""

from enum import StrEnum


class Ridden(StrEnum):
    """What a bike's windows are for where its sheet has none."""

    ROAD = "road"
    OFF_ROAD = "off road"


class SagSays(StrEnum):
    """What to do about a sag."""

    RIGHT = "right"
    STICTION = "stiction"
    PRELOAD = "preload"
    SOFTER = "spring too stiff"
    STIFFER = "spring too soft"


class LegKind(StrEnum):
    """How a fork leg is built, which is how its oil is set."""

    DAMPER_ROD = "damper rod"
    OPEN_CARTRIDGE = "open cartridge"
    SEALED_CARTRIDGE = "sealed cartridge"
    AIR = "air"


class LegFunction(StrEnum):
    """What a fork leg does where the two do not do the same."""

    ALL = "all of it"
    SPRING = "spring"
    DAMPING = "damping"
    COMPRESSION = "compression"
    REBOUND = "rebound"


class GapSpring(StrEnum):
    """Whether the spring is in while the gap is read."""

    OUT = "spring out"
    IN = "spring in"


class GapRod(StrEnum):
    """Where the rod is while the gap is read."""

    DOWN = "rod down"
    UP = "rod up"


class LegPart(StrEnum):
    """What of a leg stands beside the same of the other one, in the order of the work."""

    SPRING = "spring"
    OIL = "oil"
    GAP = "gap"
    AIR = "air"

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

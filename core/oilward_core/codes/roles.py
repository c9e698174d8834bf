"""What a fastener of a sheet can be. Codes: kept as they are, whatever they are called some day."""

from enum import StrEnum


class Role(StrEnum):
    """What a plug, filter or screw is there for."""

    DRAIN_PLUG = "drain plug"
    FILL_PLUG = "fill plug"
    LEVEL_PLUG = "level plug"
    FILTER = "filter"
    SECOND_FILTER = "second filter"
    SCREEN = "screen"
    COVER_SCREW = "cover screw"
    BLEED_SCREW = "bleed screw"
    LEVEL_SCREW = "level screw"
    BANJO_BOLT = "banjo bolt"
    FORK_CAP = "fork cap"
    CAP = "cap"
    PINCH_BOLT = "pinch bolt"
    AXLE_NUT = "axle nut"


PLUGS = (Role.DRAIN_PLUG, Role.FILL_PLUG, Role.LEVEL_PLUG)
FILTERS = (Role.FILTER, Role.SECOND_FILTER, Role.SCREEN)

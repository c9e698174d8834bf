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
    UPPER_PINCH = "upper pinch bolt"
    LOWER_PINCH = "lower pinch bolt"
    AXLE_PINCH = "axle pinch bolt"
    AXLE = "axle"
    CALLIPER_BOLT = "calliper bolt"
    DAMPER_BOLT = "damper bolt"
    ROD_NUT = "rod nut"


PLUGS = (Role.DRAIN_PLUG, Role.FILL_PLUG, Role.LEVEL_PLUG)
FILTERS = (Role.FILTER, Role.SECOND_FILTER, Role.SCREEN)
# what holds a fork leg, in the order in which it is torqued: the cap while the lower bridge holds the leg
LEG_HELD_BY = (Role.LOWER_PINCH, Role.PINCH_BOLT, Role.FORK_CAP, Role.CAP, Role.UPPER_PINCH)
# what holds the wheel in it, before the fork is stroked and after
WHEEL_HELD_BY, PINCHED_LAST = (Role.AXLE, Role.AXLE_NUT, Role.CALLIPER_BOLT), (Role.AXLE_PINCH,)

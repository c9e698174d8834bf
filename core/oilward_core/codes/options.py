"""What can be chosen and ticked at a step. Codes: what they are called stands in `said.options`."""

from enum import StrEnum


class Opens(StrEnum):
    """Whether a filler opens."""

    OPEN = "open"
    SEIZED = "seized"


class Thread(StrEnum):
    """What a thread looks like that was pulled too far."""

    GOOD = "good"
    HURT = "hurt"


class Lamp(StrEnum):
    """What the oil lamp did as the engine was started."""

    WENT_OUT = "went out"
    NOT_LIT = "not lit"
    STAYED_ON = "stayed on"
    LEVEL_ONLY = "level only"
    NO_LAMP = "no lamp"


class Emptied(StrEnum):
    """Whether a case that gave little is empty."""

    ALL_OUT = "all out"
    CLOSED_EARLY = "closed early"


class Lost(StrEnum):
    """How much is gone of a case that was opened again: nothing, where it was only tightened, was not out
    after all, or stood above the oil."""

    TIGHTENED = "only tightened"
    NOT_OUT = "not out"
    NOTHING = "nothing"
    SOME = "some"
    ALL = "all"


class Stage(StrEnum):
    """Of a ring of screws: once round to half, once round to full."""

    HALF = "half"
    FULL = "full"


class Seal(StrEnum):
    """What goes on a plug."""

    NEW = "new"
    TURNED = "turned"
    REUSED_GOOD = "reused good"
    REUSED_ONLY = "reused only"


class Tube(StrEnum):
    """What a fork tube looks like, looked along and rolled on V-blocks."""

    SMOOTH = "smooth"
    POLISHED = "polished"
    NEW = "new tube"
    SCORED = "scored"
    BENT = "bent"


class LegSeals(StrEnum):
    """What was done to a leg's seals and bushes."""

    RENEWED = "renewed"
    BUSHES_TOO = "bushes too"
    STAY = "stay"


class Stayed(StrEnum):
    """Why the oil in a leg does not go with its gap."""

    AIR = "air"
    SPRING_IN = "spring in"
    OLD_OIL = "old oil"
    BORE = "bore"
    RIGHT_SO = "right so"


WASHERS = (Seal.NEW, Seal.TURNED)
RINGS = (Seal.NEW, Seal.REUSED_GOOD, Seal.REUSED_ONLY)


class Look(StrEnum):
    """What a look at a shock, or at what stands between two marks, shows."""

    FIRM = "firm"
    OILY = "oily"
    SOFT = "soft"
    LOOSE = "loose"
    GAS_OFF = "gas off"
    UNSEEN = "unseen"
    BETWEEN = "between"
    TOPPED_UP = "topped up"
    LOW_LEFT = "low left"
    ABOVE = "above"


SHOCK_LOOKS = (Look.FIRM, Look.OILY, Look.SOFT, Look.UNSEEN)
MARK_LOOKS = (Look.BETWEEN, Look.TOPPED_UP, Look.LOW_LEFT, Look.ABOVE, Look.UNSEEN)


class Did(StrEnum):
    """What was done to a reservoir in a service. Only a change makes what is in it younger; a look moves
    the next look, and what could not be seen moves nothing."""

    CHANGED = "changed"
    TOPPED_UP = "topped up"
    LOOKED = "looked"
    UNSEEN = "not seen"


class Draw(StrEnum):
    """Where oil is taken out again."""

    TOP = "top"
    PLUG = "plug"


class Tick(StrEnum):
    """What is ticked off at a step."""

    NO_LEAK = "no leak"
    LAID_OUT = "laid out"
    PAN_CLEAN = "pan clean"
    UPRIGHT = "upright"
    STRAPPED = "strapped"
    BOTTLE = "bottle"
    BY_HAND = "by hand"
    NEW_ONE = "new one"
    TIGHTENED = "tightened"
    GASKET = "gasket"
    SCREEN = "screen"
    LOCKER = "locker"
    NEW_SCREWS = "new screws"
    WIRE = "wire"
    SPRING = "spring"
    WAY_ROUND = "way round"
    COVER = "cover"
    JOINT = "joint"
    FILLER = "filler"
    FILLER_TORQUED = "filler torqued"
    WASTE = "waste"
    WIPED = "wiped"
    FRONT_HELD = "front held"
    WHEEL_OUT = "wheel out"
    UPPER_LOOSE = "upper loose"
    CAP_LOOSE = "cap loose"
    LOWER_LOOSE = "lower loose"
    PRELOAD_OFF = "preload off"
    LEG_OUT = "leg out"
    LEG_IN = "leg in"
    LEG_TORQUED = "leg torqued"
    SETTINGS_BACK = "settings back"
    HEIGHT_BACK = "height back"
    AXLE = "axle"
    WHEEL_FREE = "wheel free"
    STROKED = "stroked"
    LEVER = "lever"
    SECOND_PERSON = "second person"


class Stood(StrEnum):
    """How a level stood as the bike came; ``TOPPED_UP``: below low, until somebody topped it up."""

    LOW = "below low"
    BELOW_HALF = "lower half"
    ABOVE_HALF = "upper half"
    HIGH = "above high"
    TOPPED_UP = "topped up first"


# how it is looked at as it is opened, and before the engine is started at all: the usual one first
AS_OPENED = (Stood.LOW, Stood.BELOW_HALF, Stood.ABOVE_HALF, Stood.HIGH)
BEFORE_WARM = (Stood.ABOVE_HALF, Stood.BELOW_HALF, Stood.HIGH, Stood.TOPPED_UP, Stood.LOW)

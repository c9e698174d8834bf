"""What workshops do differently, and how."""

from enum import StrEnum


class SchoolTopic(StrEnum):
    """Where schools part."""

    TORQUE = "torque"
    WASHER = "washer"
    RING = "o-ring"
    SEALANT = "sealant"
    FILTER = "filter"
    FLUID = "fluid"
    INTERVAL = "interval"
    FEEL = "by feel"


class Practice(StrEnum):
    """What a workshop may choose."""

    MIDDLE = "middle"
    LOWER_THIRD = "lower third"
    NEW_EACH_TIME = "new each time"
    TURNED_OVER = "turned over once"
    ON_CONDITION = "on condition"
    NO_SEALANT = "none"
    PTFE_PASTE = "PTFE paste"
    TAPE = "tape"
    EACH_CHANGE = "each change"
    EVERY_THIRD = "every third change"
    AS_THE_SHEET = "as the sheet says"
    AS_THE_MANUAL = "as the manual says"
    ONE_OIL = "one engine oil for all cases"
    MINERAL = "mineral only"
    HALF_THE_BOOK = "half the book"
    ON_THE_RECORD = "said on the record"
    SECOND_PERSON = "a second person looks"

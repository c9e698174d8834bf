"""What a first start does to a level, why it may be left, and why gauge and book disagree. Codes."""

from enum import StrEnum


class Start(StrEnum):
    """What the first start does to a level: nothing; it falls by what filter and galleries take; or it
    tells nothing before, as a tank's."""

    NONE = "none"
    SUMP = "sump"
    TANK = "tank"


class LeftFor(StrEnum):
    """Why a level inside its marks is left where it stands."""

    BETWEEN = "between the marks"
    HOT = "hot"
    RIDE = "after the ride"
    OWNER = "owner"


class Contradiction(StrEnum):
    """How gauge and book disagree."""

    FULL_EARLY = "full early"
    LOW_LATE = "low late"
    OFF = "off"


class Acts(StrEnum):
    """What a cause does once it is named: the reading it is about is not used and read again; an amount
    is corrected first; the oil is drained again; what the sheet says is looked up; somebody says what
    ran out; or, where a lead says so, the gauge is believed from here, or it is filled by the book."""

    READ_AGAIN = "read again"
    CORRECT = "correct"
    DRAIN_AGAIN = "drain again"
    LOOK_UP = "look up"
    COUNT = "count"
    BELIEVE = "believe"
    BY_THE_BOOK = "by the book"


class Cause(StrEnum):
    """What can be behind it; ``GAUGE``: nothing, it takes what it takes, and a lead stands by it;
    ``UNREADABLE``: it cannot be read at all, and a lead says why; ``ELSE``: something else, in somebody's
    own words."""

    OLD_OIL = "old oil"
    ATTITUDE = "attitude"
    TOO_SOON = "too soon"
    LEAK = "leak"
    CAPACITY = "capacity"
    NOT_COUNTED = "not counted"
    AMOUNT = "amount"
    MISREAD = "misread"
    NOT_AS_ASKED = "not as asked"
    GAUGE = "gauge"
    UNREADABLE = "unreadable"
    ELSE = "else"

"""Why gauge and book can disagree. Codes."""

from enum import StrEnum


class Contradiction(StrEnum):
    """How gauge and book disagree."""

    FULL_EARLY = "full early"
    LOW_LATE = "low late"
    OFF = "off"


class Cause(StrEnum):
    """What can be behind it; ``ELSE``: something else, in somebody's own words."""

    OLD_OIL = "old oil"
    ATTITUDE = "attitude"
    TOO_SOON = "too soon"
    LEAK = "leak"
    CAPACITY = "capacity"
    NOT_COUNTED = "not counted"
    AMOUNT = "amount"
    MISREAD = "misread"
    NOT_AS_ASKED = "not as asked"
    ELSE = "else"

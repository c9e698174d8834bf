"""What a step can need. Codes."""

from enum import StrEnum


class Fact(StrEnum):
    """What a step can need; ``EARLIER``: what an earlier release called a need, in words nobody knows
    any more."""

    DONE = "done"
    PROVEN = "proven"
    PLUG_OUT = "plug out"
    SHUT = "shut"
    FULL = "full"
    FILLERS_SHUT = "fillers shut"
    RAN = "ran"
    POURED = "poured"
    RIGHT = "right"
    STRAPPED = "strapped"
    WHEEL_IN = "wheel in"
    EARLIER = "earlier"

"""What leaves the workshop to be worked on: which part, how its bike waits, how it came back."""

from enum import StrEnum


class Part(StrEnum):
    """What may only be opened by a specialist."""

    SHOCK = "shock"
    CARTRIDGE = "cartridge"


class Waits(StrEnum):
    """How a bike waits without it."""

    LIFTED = "on the lift"
    STAND = "on a stand"


class Came(StrEnum):
    """What was done to a part while it was away."""

    REBUILT = "rebuilt"
    EXCHANGED = "exchanged"
    CHARGED = "charged"
    AS_IT_WENT = "as it went"

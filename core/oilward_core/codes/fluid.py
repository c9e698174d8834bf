"""How a fluid lies beside what is asked for. Codes."""

from enum import StrEnum


class Thickness(StrEnum):
    """Where a fluid's viscosity at 100 °C lies in the grade asked for."""

    UNKNOWN = "unknown"
    AS_THICK = "as thick"
    THINNER = "thinner"
    THICKER = "thicker"

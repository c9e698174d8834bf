"""Fork legs and shocks: oil and its level, air as a spring, steel springs, gas, sag."""

from .air import AirSpring, Leg, air_pressure, force, pressure_at, stroke_for
from .leg import (
    Apart,
    Bore,
    Filled,
    apart,
    gap_after,
    height_of,
    off_book,
    over_filled,
    surface,
    to_draw,
    volume_of,
)
from .sag import (
    Advice,
    Lengths,
    Sag,
    Turns,
    Window,
    advised,
    at_the_wheel,
    rate_for,
    rider_window,
    sag_of,
    static_window,
)
from .spring import FreeLength, renew_both, worn

__all__ = [
    "Advice", "AirSpring", "Apart", "Bore", "Filled", "FreeLength", "Leg", "Lengths", "Sag", "Turns",
    "Window", "advised", "air_pressure", "apart", "at_the_wheel", "force", "gap_after", "height_of",
    "off_book", "over_filled", "pressure_at", "rate_for", "renew_both", "rider_window", "sag_of",
    "static_window", "stroke_for", "surface", "to_draw", "volume_of", "worn",
]  # fmt: skip

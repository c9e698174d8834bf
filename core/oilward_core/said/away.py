"""What is said of parts that are with a specialist."""

from ..codes.away import Came, Part, Waits
from ..guard import whole_table

PARTS = whole_table(Part, {Part.SHOCK: "shock", Part.CARTRIDGE: "cartridge"})
WAITS = whole_table(
    Waits,
    {
        Waits.LIFTED: "on the lift, strapped, nothing resting where it was",
        Waits.STAND: "on a stand under its frame, strapped, moved by nobody",
    },
)
CAME = whole_table(
    Came,
    {
        Came.REBUILT: "rebuilt: opened, new oil and seals",
        Came.EXCHANGED: "exchanged for a rebuilt one",
        Came.CHARGED: "charged anew, not opened",
        Came.AS_IT_WENT: "as it went",
    },
)
NOT_TODAYS = (
    "More than 0.5 bar off today's figure it goes back to the specialist: nobody charges it here."
)


def out(label: str, part: str, to: str, tag: str) -> str:
    """``shock is away, at a specialist's, tag K7QD.``"""
    what = label if part in label else f"{label}, its {part},"
    return f"{what} is away, at {to}, tag {tag}"


def not_fitted(label: str, part: str) -> str:
    """Back, and not on the bike yet."""
    what = label if part in label else f"{label}, its {part},"
    return f"{what} is back and not fitted"


def until(what: str, day: str, late: bool) -> str:
    """``…, back by Fri 4 Dec``, or that it is overdue."""
    return f"{what}, {'overdue: due back' if late else 'back by'} {day}"


def gas(pressure: str, celsius: str) -> str:
    """``10.00 bar at 20 °C``."""
    return f"{pressure} at {celsius} °C"


def fitted(torqued: str, by: str, looked: str) -> str:
    """How it was fitted, and who looked; nobody else was there where ``looked`` is empty."""
    return f"{torqued}; {by}, {f'{looked} looked' if looked else 'alone'}"


def stands_without(what: str) -> str:
    """Acknowledged by whoever runs or signs all the same."""
    return f"{what}: the bike stays where it stands, strapped, and is ridden by nobody"

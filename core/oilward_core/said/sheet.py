"""What is said of a spec sheet: what changed, what nobody has written yet."""

from decimal import Decimal

ADDED, TAKEN_OUT = "added", "taken out"
PLACED, MOVED, TAKEN_OFF = "placed", "moved", "taken off"
NO_SOURCE = "no source"
ON_THE_MAP = "on the map"
NO_DRAIN_PLUG = "The spec sheet has no drain plug."
WHICH_OIL = "the oil that goes in"
WHICH_INTERVAL = "an interval: without one it is never due"
WHICH_MARKS = "how many ml are between its marks"
HOW_DIPPED = "the dipstick: read resting on its threads, or screwed in?"
WHICH_AIR_GAP = "the air gap the leg is set by"
WHICH_FRICTION = "the friction class, or that this oil wets no clutch"


def way_up(share: Decimal) -> str:
    """How high a target lies between two marks."""
    return f"{share:.0%} of the way up"


def which_plug(role: str) -> str:
    """A plug nobody has written down."""
    return f"the {role}: which one is it, and where?"


def _from(source: str) -> str:
    return f" ({source})" if source else ""


def was_missing(name: str, now: str, source: str) -> str:
    """A value that was not there before."""
    return f"{name}: now {now}{_from(source)}, was missing."


def gone(name: str, was: str) -> str:
    """A value that is there no more."""
    return f"{name}: {was} taken out."


def other_source(name: str, still: str, source: str) -> str:
    """The same value from somewhere else."""
    return f"{name}: still {still}, now from {source or NO_SOURCE}."


def other_value(name: str, was: str, now: str, source: str) -> str:
    """Another value."""
    return f"{name}: was {was}, now {now}{_from(source)}."


def on_the_map(reservoir: str, part: str, verb: str) -> str:
    """A fastener placed, moved or taken off."""
    return f"{reservoir}, {part}: {verb} on the map."


def whole_reservoir(reservoir: str, verb: str, values: int) -> str:
    """A reservoir or part that came or went as a whole."""
    return f"{reservoir}: {verb}, with {values} values."

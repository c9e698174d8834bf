"""What is measured of a reservoir and kept for the next time: by name, in canonical units."""

from decimal import Decimal
from statistics import median

from ..guard import guarded
from ..runsheet.recipes.look import TIMES
from .asks.values import Taken
from .fold.state import Sheet

FREE_LENGTH, AIR_GAP, BUSH_PLAY, GAS, REBOUND = (
    "free length", "air gap", "bush play", "gas", "rebound",
)  # fmt: skip
# what each is said in
UNITS = {FREE_LENGTH: "mm", AIR_GAP: "mm", BUSH_PLAY: "mm", GAS: "bar", REBOUND: "s"}


@guarded
def rebound(taken: Taken) -> Decimal | None:
    """The median of how long a shock took to come back up, min; None where it was not timed."""
    timed = [value.low for name, value in taken.stands.items() if name in TIMES]
    return median(timed) if timed else None


@guarded
def measures(sheet: Sheet, key: str) -> dict[str, Decimal]:
    """What a visit measured of a reservoir that its next one is held against."""
    found: dict[str, Decimal] = {}
    for state in sheet.steps:
        data = state.entry.data if state.entry else None
        if state.step.id.reservoir != key or not isinstance(data, Taken):
            continue
        found |= {name: one.low for name, one in data.stands.items() if name in UNITS}
        if (took := rebound(data)) is not None:
            found[REBOUND] = took
    return found

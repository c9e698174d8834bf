"""What is measured of a reservoir and kept for the next time, in canonical units: of a spring its free
length, of a shock how long it takes to come back up."""

from decimal import Decimal
from statistics import median

from ..codes.steps import Name
from ..guard import guarded
from ..runsheet.recipes.look import TIMES
from .asks.values import Taken
from .fold.state import Sheet

FREE_LENGTH, REBOUND = "free length", "rebound"
# what each is said in
UNITS = {FREE_LENGTH: "mm", REBOUND: "s"}


@guarded
def rebound(taken: Taken) -> Decimal | None:
    """The median of how long a shock took to come back up, min; None where it was not timed."""
    timed = [value.low for name, value in taken.stands.items() if name in TIMES]
    return median(timed) if timed else None


@guarded
def measures(sheet: Sheet, key: str) -> dict[str, Decimal]:
    """What a visit measured of a reservoir that its next one is held against."""
    of_it = {one.step.name: one.entry for one in sheet.steps if one.step.id.reservoir == key}
    spring, felt = (
        entry.data if (entry := of_it.get(name)) and isinstance(entry.data, Taken) else None
        for name in (Name.LEG_SPRING, Name.SHOCK_FELT)
    )
    length = next((value.low for value in spring.stands.values()), None) if spring else None
    found = {FREE_LENGTH: length, REBOUND: rebound(felt) if felt else None}
    return {name: value for name, value in found.items() if value is not None}

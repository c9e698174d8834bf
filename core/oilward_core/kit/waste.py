"""Used oil: what lies in the container until a recycler takes it. The container is the sum of its lines.

Used oil stays apart from coolant, brake fluid, filters and rags, each by local rules [trade].
"""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum

from ..errors import CoreError
from ..guard import Sound, guarded

NEARLY_FULL = Decimal("0.85")  # of a container: it is to be collected [our definition]
LARGEST = Decimal(2_000_000)  # ml: no workshop's container holds more (common practice, no source)


class WasteKind(StrEnum):
    """What can happen to the container of used oil."""

    CONTAINER = "container"
    DRAINED = "drained"
    ADDED = "added"
    COLLECTED = "collected"
    COUNTED = "counted"


@dataclass(frozen=True, kw_only=True)
class WasteLine(Sound):
    """So many ``ml`` that ran in (``drained`` at a visit, ``added`` by hand), were ``collected``, or that
    a ``container`` holds which was put there; ``counted``: so many were found in it, whatever the
    lines before say."""

    kind: WasteKind
    ml: Decimal


@dataclass(frozen=True, kw_only=True)
class WasteLevel(Sound):
    """How much lies in it, ml; what it holds, and which share of that, where that is known."""

    ml: Decimal
    holds: Decimal | None = None
    share: Decimal | None = None

    @property
    def nearly_full(self) -> bool:
        """Whether it is time to have it collected."""
        return self.share is not None and self.share >= NEARLY_FULL


@guarded
def waste_level(lines: Sequence[WasteLine]) -> WasteLevel:
    """What lies in the container after ``lines``, oldest first. Whoever collects takes all of it,
    whatever their meter says."""
    ml, holds = Decimal(0), None
    for line in lines:
        if line.kind == WasteKind.CONTAINER:
            holds = line.ml
        elif line.kind == WasteKind.COUNTED:
            ml = line.ml
        else:
            ml = Decimal(0) if line.kind == WasteKind.COLLECTED else ml + line.ml
    return WasteLevel(ml=ml, holds=holds, share=ml / holds if holds else None)


@guarded
def waste_line(kind: WasteKind, ml: Decimal, level: WasteLevel) -> WasteLine:
    """A line to be written. Raises CoreError ``shelf.waste`` at ``amount`` for an amount that cannot be,
    ``shelf.waste_empty`` where there is nothing to collect."""
    if not 0 < ml <= LARGEST:
        raise CoreError("shelf.waste", field="amount")
    if kind == WasteKind.COLLECTED and level.ml <= 0:
        raise CoreError("shelf.waste_empty", field="amount")
    return WasteLine(kind=kind, ml=ml)

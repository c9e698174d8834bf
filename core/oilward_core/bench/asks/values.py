"""What was measured: values as found and as left."""

from dataclasses import dataclass, field
from decimal import Decimal
from typing import ClassVar

from ...codes.entries import EntryKind
from ..entries import Data


@dataclass(frozen=True, kw_only=True)
class Value:
    """A value as it was ``said``, and its ends in canonical units; ``asked``: it stands, though it was
    asked about."""

    said: str
    low: Decimal
    high: Decimal
    asked: bool = False


@dataclass(frozen=True, kw_only=True)
class Taken(Data):
    """Values by name, as found and as left. ``drawn``: the oil that was drawn out between the two, ml,
    or with a minus poured in, where a leg's bore is known."""

    kind: ClassVar[EntryKind] = EntryKind.MEASURE
    found: dict[str, Value] = field(default_factory=dict)
    left: dict[str, Value] = field(default_factory=dict)
    drawn: Decimal = Decimal(0)

    @property
    def stands(self) -> dict[str, Value]:
        """As it is now: as left, else as found."""
        return {**self.found, **self.left}

"""What is said of used oil."""

from ..guard import whole_table
from ..kit.waste import WasteKind

KINDS: dict[WasteKind, str] = whole_table(
    WasteKind,
    {
        WasteKind.CONTAINER: "container put there",
        WasteKind.DRAINED: "drained",
        WasteKind.ADDED: "poured in",
        WasteKind.COLLECTED: "collected",
        WasteKind.COUNTED: "found in it",
    },
)
NEARLY_FULL = "Nearly full: have it collected."
APART = (
    "Used lubricating oil, kept apart from coolant, brake fluid, solvents, filters and rags. Local rules "
    "come first."
)
MEASURED_BY = "by the recycler's meter"
NOT_MEASURED = "not measured, by the book"


def level(amount: str, holds: str) -> str:
    """What lies in the container."""
    return f"{amount} of {holds}" if holds else f"{amount}, in a container nobody has named"


def from_visit(bike: str, reservoirs: str) -> str:
    """Where it was drained."""
    return f"{bike}: {reservoirs}"


def unmeasured(label: str) -> str:
    """A case whose oil nobody measured."""
    return f"{label} ({NOT_MEASURED})"

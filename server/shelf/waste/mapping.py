"""Between rows, the core's lines and the API."""

from collections.abc import Iterable

from oilward_core.kit import WasteKind, WasteLevel, WasteLine
from oilward_core.quantity import show
from oilward_core.said import waste as said

from shelf.models import WasteRow as Row

from .shapes import Waste, WasteRow


def line(row: Row) -> WasteLine:
    return WasteLine(kind=WasteKind(row.kind), ml=row.ml)


def shown(row: Row, unit: str) -> WasteRow:
    return WasteRow(
        id=str(row.id),
        on=row.on.isoformat(),
        kind=said.KINDS[WasteKind(row.kind)],
        amount=show(row.ml, unit),
        note=row.note,
        by=row.by.name,
        slip=row.kind == WasteKind.COLLECTED,
    )


def waste(level: WasteLevel, rows: Iterable[Row], unit: str) -> Waste:
    """The latest of ``rows``, newest first."""
    holds = show(level.holds, unit) if level.holds is not None else ""
    return Waste(
        level=said.level(show(level.ml, unit), holds),
        share=float(level.share) if level.share is not None else None,
        full=said.NEARLY_FULL if level.nearly_full else "",
        rows=[shown(row, unit) for row in rows],
    )

"""Between the ledger's rows, the core's lines and the API."""

from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from oilward_core.kit import Bottle, Line, LineKind
from oilward_core.quantity import show
from oilward_core.said import kit as said

from shelf.models import StockLine

from .shapes import BottleLine, LedgerLine


@dataclass(frozen=True, kw_only=True)
class Standing:
    """A bottle that stands there, of a fluid and a ``batch``, where that is known; ``version`` counts its
    lines, ``by`` wrote the last."""

    bottle: Bottle
    fluid: int
    version: int
    by: str
    batch: str


def line(row: StockLine) -> Line:
    return Line(LineKind(row.kind), row.change, row.on)


def bottle_line(standing: Standing, unit: str) -> BottleLine:
    one = standing.bottle
    return BottleLine(
        id=one.id,
        fluid=standing.fluid,
        version=standing.version,
        size=show(one.size, "ml"),
        left=show(one.left, unit),
        share=float(one.left / one.size),
        opened_on=one.opened_on.isoformat() if one.opened_on else "",
        batch=standing.batch,
    )


def _change(row: StockLine, unit: str) -> str:
    if not row.change:
        return ""
    sign = "+" if row.change > 0 else "−"
    amount = abs(row.change)
    return f"{sign}{show(amount, unit) if row.bottle else f'{amount:.0f}'}"


def ledger_line(row: StockLine, unit: str) -> LedgerLine:
    what = f"{row.fluid.name}, {show(row.size_ml or Decimal(0), 'ml')}" if row.fluid else row.part
    if row.batch:
        what = said.of_batch(what, row.batch)
    return LedgerLine(
        id=row.pk,
        kind=row.kind,
        what=what,
        change=_change(row, unit),
        on=row.on.isoformat(),
        by=row.by.name,
    )


def day(text: str) -> date | None:
    return date.fromisoformat(text) if text else None


def of_bottle(bottle: str, fluid: int, size: Decimal, batch: str = "") -> dict[str, object]:
    """The columns that say which bottle a line is about."""
    return {
        "batch": batch,
        "bottle": bottle,
        "fluid_id": fluid,
        "size_ml": size,
    }

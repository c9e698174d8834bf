from collections.abc import Iterable
from decimal import Decimal
from uuid import UUID

from django.db.models import Sum
from oilward_core.kit import bottle_of
from oilward_core.quantity import show
from workshop.mapping import speaker
from workshop.models import Person

from shelf.models import StockLine

from . import mapping
from .mapping import Standing
from .shapes import Ledger, SealCount, Stock

LATEST = 200


def _summed(rows: Iterable[StockLine]) -> list[Standing]:
    """The bottles these lines, oldest first, leave standing."""
    lines: dict[UUID, list[StockLine]] = {}
    for row in rows:
        if row.bottle:
            lines.setdefault(row.bottle, []).append(row)
    found = []
    for key, of_one in lines.items():
        last = of_one[-1]
        assert last.size_ml is not None and last.fluid_id is not None
        bottle = bottle_of(str(key), last.size_ml, map(mapping.line, of_one))
        if bottle is not None:
            batch = next((row.batch for row in reversed(of_one) if row.batch), "")
            found.append(
                Standing(
                    bottle=bottle,
                    fluid=last.fluid_id,
                    version=len(of_one),
                    by=last.by.name,
                    batch=batch,
                )
            )
    return found


def standing(bottle_id: UUID) -> Standing | None:
    rows = StockLine.objects.filter(bottle=bottle_id).select_related("by")
    return next(iter(_summed(rows)), None)


def bottles() -> list[Standing]:
    """Every bottle that stands there: sealed ones last, the longest open first."""
    thrown = StockLine.objects.filter(kind=StockLine.Kind.THROWN, bottle__isnull=False)
    rows = StockLine.objects.filter(bottle__isnull=False).select_related("by")
    found = _summed(rows.exclude(bottle__in=thrown.values("bottle")))
    found.sort(
        key=lambda one: (one.bottle.opened_on is None, str(one.bottle.opened_on), one.bottle.id)
    )
    return found


def batches(bottle_ids: Iterable[UUID]) -> dict[str, list[str]]:
    """What is printed on these bottles, by the name of their fluid, each batch once."""
    rows = StockLine.objects.filter(bottle__in=list(bottle_ids)).exclude(batch="")
    last = {row.bottle: row for row in rows.select_related("fluid").order_by("id")}
    found: dict[str, list[str]] = {}
    for row in last.values():
        of_fluid = found.setdefault(row.fluid.name if row.fluid else "", [])
        if row.batch not in of_fluid:
            of_fluid.append(row.batch)
    return found


def stock_words(unit: str) -> dict[int, str]:
    """How much of each fluid stands there, in a person's unit."""
    left: dict[int, Decimal] = {}
    for one in bottles():
        left[one.fluid] = left.get(one.fluid, Decimal(0)) + one.bottle.left
    return {fluid: f"{show(ml, unit)} on the shelf" for fluid, ml in left.items()}


def drawer() -> dict[str, int]:
    """How many of each seal and filter there are, by name."""
    sums = StockLine.objects.exclude(part="").values_list("part").annotate(Sum("change"))
    return {name: int(count) for name, count in sums.order_by("part")}


def stock(person: Person) -> Stock:
    """Every bottle and every seal there is."""
    unit = speaker(person).volume
    return Stock(
        [mapping.bottle_line(one, unit) for one in bottles()],
        [SealCount(name, count) for name, count in drawer().items()],
    )


def ledger(fluid: int | None, part: str, person: Person) -> Ledger:
    """What happened last to a fluid's bottles, to a part, or to everything."""
    rows = StockLine.objects.select_related("by", "fluid").order_by("-id")
    if fluid is not None:
        rows = rows.filter(fluid=fluid)
    if part:
        rows = rows.filter(part=part)
    unit = speaker(person).volume
    return Ledger([mapping.ledger_line(row, unit) for row in rows[:LATEST]])

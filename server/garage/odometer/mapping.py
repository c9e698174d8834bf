"""Between rows of odometer readings and what the API says of them."""

from collections.abc import Iterable
from uuid import UUID

from oilward_core.odometer import shown
from workshop.access import leads
from workshop.models import Person

from garage import mapping as garage
from garage.models import Bike, OdometerReading

from .shapes import ReadingLine, Readings


def _line(row: OdometerReading, bike: Bike, earlier: list[OdometerReading]) -> ReadingLine:
    fitted = garage.odometer_at(bike, row)
    return ReadingLine(
        id=str(row.pk),
        read_on=row.read_on.isoformat(),
        odometer=shown(row.km, fitted),
        hours="" if row.hours is None else f"{row.hours:f} h",
        by=row.read_by.name,
        replaced=row.replaced,
        reason=row.reason,
        before=[f"{shown(old.km, fitted)}, {old.read_by.name}" for old in earlier],
    )


def readings(bike: Bike, rows: Iterable[OdometerReading], person: Person) -> Readings:
    """``rows``: newest first, corrections before what they correct."""
    chains: dict[UUID, list[OdometerReading]] = {}
    for row in rows:
        chains.setdefault(row.corrects_id or row.pk, []).append(row)
    lines = [_line(stands, bike, earlier) for stands, *earlier in chains.values()]
    furthest = max((row.km for row, *_ in chains.values()), default=bike.offset_km)
    now = shown(furthest, garage.odometer(bike))
    may_correct = leads(person)
    return Readings(
        bike=bike.name,
        unit=bike.odometer_unit,
        counts_hours=bike.counts_hours,
        now=now,
        lines=lines,
        may_correct=may_correct,
    )

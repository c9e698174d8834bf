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
        str(row.pk),
        row.read_on.isoformat(),
        shown(row.km, fitted),
        "" if row.hours is None else f"{row.hours:f} h",
        row.read_by.name,
        row.replaced,
        row.reason,
        [f"{shown(old.km, fitted)}, {old.read_by.name}" for old in earlier],
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
    return Readings(bike.name, bike.odometer_unit, bike.counts_hours, now, lines, may_correct)

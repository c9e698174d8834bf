from collections.abc import Iterable
from uuid import UUID

from garage.odometer.selectors import corrections, follow

from .models import Finding


def last_findings(bike_ids: Iterable[UUID]) -> dict[tuple[UUID, str], Finding]:
    """The latest finding of each reservoir of each bike."""
    rows = (
        Finding.objects.filter(bike_id__in=list(bike_ids))
        .order_by("bike_id", "reservoir", "-found_on", "-reading__km")
        .distinct("bike_id", "reservoir")
    )
    return {(row.bike_id, row.reservoir): row for row in rows}


def of_bike(bike_id: UUID) -> list[Finding]:
    """All findings of a bike, newest first."""
    rows = list(Finding.objects.filter(bike_id=bike_id).select_related("reading"))
    follow(rows, corrections([bike_id]))
    return sorted(rows, key=lambda row: (row.found_on, row.reading.km), reverse=True)

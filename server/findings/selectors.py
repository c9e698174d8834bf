from collections.abc import Iterable
from uuid import UUID

from .models import Finding


def last_findings(bike_ids: Iterable[UUID]) -> dict[tuple[UUID, str], Finding]:
    """The latest finding of each reservoir of each bike."""
    rows = (
        Finding.objects.filter(bike_id__in=list(bike_ids))
        .order_by("bike_id", "reservoir", "-found_on", "-km")
        .distinct("bike_id", "reservoir")
    )
    return {(row.bike_id, row.reservoir): row for row in rows}


def of_bike(bike_id: UUID) -> list[Finding]:
    """All findings of a bike, newest first."""
    return list(Finding.objects.filter(bike_id=bike_id).order_by("-found_on", "-km"))

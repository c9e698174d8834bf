from collections.abc import Iterable
from datetime import date
from functools import lru_cache
from uuid import UUID

from django.db.models import Count, Max
from garage.odometer.selectors import corrections, follow
from oilward_core.debris import Cohort, Found, cohort_of, fine_steel, quarter_start
from oilward_core.spec import ReservoirKind, ReservoirSpec

from . import mapping
from .models import Finding


def last_findings(bike_ids: Iterable[UUID]) -> dict[tuple[UUID, str], Finding]:
    """The latest finding of each reservoir of each bike."""
    rows = (
        Finding.objects.filter(bike_id__in=list(bike_ids))
        .order_by("bike_id", "reservoir", "-found_on", "-reading__km")
        .distinct("bike_id", "reservoir")
        .prefetch_related("debris")
    )
    return {(row.bike_id, row.reservoir): row for row in rows}


def of_bike(bike_id: UUID) -> list[Finding]:
    """All findings of a bike, newest first."""
    found = Finding.objects.filter(bike_id=bike_id).select_related("reading")
    rows = list(found.prefetch_related("debris"))
    follow(rows, corrections([bike_id]))
    return sorted(rows, key=lambda row: (row.found_on, row.reading.km), reverse=True)


def fine_last_time(bike_id: UUID, reservoir: ReservoirSpec) -> bool:
    """Whether the last finding there showed more fine steel than usual."""
    row = last_findings([bike_id]).get((bike_id, reservoir.key))
    if row is None:
        return False
    return bool(fine_steel(mapping.seen(row, reservoir.kind, row.km_since_wiped, row.run_in)))


def history_of(bike_id: UUID, reservoir: str) -> list[Found]:
    """A reservoir's findings as the growth filter reads them; a regrade counts instead of the first."""
    rows = Finding.objects.filter(bike_id=bike_id, reservoir=reservoir).prefetch_related("debris")
    return [mapping.found(row) for row in mapping.counting(rows)]


def cohort_at(kind: ReservoirKind, day: date) -> Cohort:
    """What healthy reservoirs of this kind show in this workshop, as known at the start of the day's
    quarter."""
    before = quarter_start(day)
    used = Finding.objects.filter(kind=kind.value, found_on__lt=before)
    counted = used.aggregate(Count("pk"), Max("reading__written_at"))
    return _cohort(kind, before, *counted.values())


@lru_cache(maxsize=256)
def _cohort(kind: ReservoirKind, before: date, number: int, newest: object) -> Cohort:
    rows = Finding.objects.filter(kind=kind.value, found_on__lt=before).prefetch_related("debris")
    histories: dict[str, list[Found]] = {}
    for row in mapping.counting(rows):
        histories.setdefault(f"{row.bike_id}/{row.reservoir}", []).append(mapping.found(row))
    return cohort_of(histories, before)

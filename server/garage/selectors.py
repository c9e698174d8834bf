from collections.abc import Iterable
from uuid import UUID

from django.db.models import Prefetch, Q, QuerySet

from .models import Bike, FastenerRow, OdometerReading, ReservoirRow, SpecSheet, SpecValue


def reservoirs() -> QuerySet[ReservoirRow]:
    """Reservoirs with everything the core's spec needs, in two further queries."""
    people = ("entered_by", "checked_by")
    return ReservoirRow.objects.prefetch_related(
        Prefetch("values", queryset=SpecValue.objects.select_related(*people).order_by("id")),
        Prefetch("fasteners", queryset=FastenerRow.objects.select_related(*people)),
    )


_SEARCHED = (
    "name",
    "owner",
    "use_class",
    "model__make",
    "model__name",
    "model__layout",
    "model__year",
)


def bikes(typed: str = "") -> QuerySet[Bike]:
    """Bikes in which every typed word is found somewhere."""
    found = Bike.objects.filter(archived=False).select_related("model")
    for word in typed.split()[:8]:
        anywhere = Q()
        for field in _SEARCHED:
            anywhere |= Q(**{f"{field}__icontains": word})
        found = found.filter(anywhere)
    return found


def approved_sheets(model_ids: Iterable[int]) -> dict[int, SpecSheet]:
    """The newest approved sheet of each model, with its reservoirs."""
    sheets = (
        SpecSheet.objects.filter(model_id__in=list(model_ids), state=SpecSheet.State.APPROVED)
        .order_by("model_id", "-version")
        .distinct("model_id")
        .prefetch_related(Prefetch("reservoirs", queryset=reservoirs()))
        .select_related("approved_by")
    )
    return {sheet.model_id: sheet for sheet in sheets}


def last_odometer(bike_ids: Iterable[UUID]) -> dict[UUID, OdometerReading]:
    """The latest reading of each bike."""
    rows = (
        OdometerReading.objects.filter(bike_id__in=list(bike_ids))
        .order_by("bike_id", "-read_on", "-km")
        .distinct("bike_id")
    )
    return {row.bike_id: row for row in rows}

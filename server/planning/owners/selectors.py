from datetime import date
from typing import Any
from uuid import UUID

from django.db.models import Count
from django.http import Http404
from findings.models import Finding
from garage.mapping import model_words
from garage.models import Bike, BikePhoto, OdometerReading
from visits.models import Service
from workshop.access import require_lead
from workshop.models import Person, Workshop

from .shapes import Owner, OwnersData

FORMAT = "oil-ward/owner/1"
_CARD = (
    "name",
    "owner",
    "plate",
    "frame_number",
    "engine_number",
    "year_built",
    "use_class",
    "notes",
)


def owners(actor: Person) -> list[Owner]:
    """Whose bikes are here. A lead's to see."""
    require_lead(actor)
    rows = Bike.objects.exclude(owner="").values("owner").annotate(n=Count("pk"))
    return [Owner(row["owner"], row["n"]) for row in rows.order_by("owner")]


def _services(bike: UUID) -> list[dict[str, Any]]:
    rows = Service.objects.filter(bike=bike).select_related("reading").order_by("done_on")
    return [
        {
            "on": row.done_on.isoformat(),
            "reservoir": row.reservoir,
            "did": row.did,
            "km": f"{row.reading.km.normalize():f}",
            "fluid": row.fluid,
            "filled_ml": None if row.took_ml is None else f"{row.took_ml.normalize():f}",
            "by": row.done_by,
        }
        for row in rows
    ]


def _bike(row: Bike) -> dict[str, Any]:
    read = OdometerReading.objects.filter(bike=row).order_by("read_on")
    found = Finding.objects.filter(bike=row).order_by("found_on")
    return {
        **{name: getattr(row, name) for name in _CARD},
        "model": model_words(row.model),
        "readings": [
            {"on": one.read_on.isoformat(), "km": f"{one.km.normalize():f}"} for one in read
        ],
        "services": _services(row.pk),
        "findings": [
            {"on": one.found_on.isoformat(), "reservoir": one.reservoir, "level": one.level}
            for one in found
        ],
        "photos": BikePhoto.objects.filter(bike=row).count(),
    }


def owners_data(name: str, actor: Person, today: date) -> OwnersData:
    """Everything held about an owner. A lead's to give out. Raises Http404 for a name on no bike."""
    require_lead(actor)
    rows = list(Bike.objects.filter(owner=name).select_related("model").order_by("name"))
    if not name or not rows:
        raise Http404
    workshop = Workshop.objects.first()
    return OwnersData(
        format=FORMAT,
        workshop=workshop.name if workshop else "",
        owner=name,
        given_out_on=today.isoformat(),
        bikes=[_bike(row) for row in rows],
    )

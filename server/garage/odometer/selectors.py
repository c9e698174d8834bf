from collections.abc import Iterable, Sequence
from datetime import date, timedelta
from typing import Protocol
from uuid import UUID

from django.db.models import Exists, OuterRef, Q, QuerySet
from django.db.models.functions import Coalesce
from django.http import Http404
from oilward_core.usage import WINDOW_DAYS
from workshop.models import Person

from garage.models import Bike, OdometerReading

from . import mapping
from .shapes import Readings


def standing_readings() -> QuerySet[OdometerReading]:
    """Readings that no correction has superseded."""
    root = Coalesce("corrects_id", "pk")
    later = OdometerReading.objects.filter(
        Q(corrects=OuterRef("pk")) | Q(written_at__gt=OuterRef("written_at")),
        corrects=OuterRef("root"),
    )
    return OdometerReading.objects.annotate(root=root).filter(~Exists(later))


def standing(bike_id: UUID) -> list[OdometerReading]:
    """The readings of a bike that stand, oldest first."""
    found = standing_readings().filter(bike_id=bike_id).select_related("read_by")
    return list(found.order_by("read_on", "km"))


def last_odometer(bike_ids: Iterable[UUID]) -> dict[UUID, OdometerReading]:
    """The latest reading of each bike."""
    rows = (
        standing_readings()
        .filter(bike_id__in=list(bike_ids))
        .order_by("bike_id", "-read_on", "-km")
        .distinct("bike_id")
    )
    return {row.bike_id: row for row in rows}


def recent_odometer(bike_ids: Iterable[UUID], today: date) -> dict[UUID, list[OdometerReading]]:
    """The readings of the last year of each bike, and its last one, oldest first."""
    ids = list(bike_ids)
    since = today - timedelta(days=WINDOW_DAYS)
    found: dict[UUID, list[OdometerReading]] = {
        bike: [row] for bike, row in last_odometer(ids).items() if row.read_on < since
    }
    recent = standing_readings().filter(bike_id__in=ids, read_on__gte=since)
    for row in recent.order_by("read_on", "km"):
        found.setdefault(row.bike_id, []).append(row)
    return found


def corrections(bike_ids: Iterable[UUID]) -> dict[UUID, OdometerReading]:
    """By the id of each corrected reading of these bikes, its corrections among them: the one that
    stands now."""
    found: dict[UUID, OdometerReading] = {}
    chains: dict[UUID, list[UUID]] = {}
    rows = OdometerReading.objects.filter(bike_id__in=list(bike_ids), corrects__isnull=False)
    for row in rows.order_by("written_at"):
        assert row.corrects_id is not None
        chain = chains.setdefault(row.corrects_id, [row.corrects_id])
        chain.append(row.pk)
        found.update(dict.fromkeys(chain, row))
    return found


class Read(Protocol):
    """Something that was done at a reading of the odometer."""

    reading: OdometerReading


def follow(rows: Sequence[Read], corrected: dict[UUID, OdometerReading]) -> None:
    """Let these rows refer to the reading that stands now."""
    for row in rows:
        row.reading = corrected.get(row.reading.pk, row.reading)


def readings_page(bike_id: UUID, person: Person) -> Readings:
    """Everything ever read on a bike, newest first, with what it was corrected to and why."""
    bike = Bike.objects.filter(pk=bike_id).first()
    if bike is None:
        raise Http404
    rows = OdometerReading.objects.filter(bike_id=bike_id).select_related("read_by")
    return mapping.readings(bike, rows.order_by("-read_on", "-written_at"), person)

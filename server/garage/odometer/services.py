"""Every reading of an odometer, and its correction. What was read stays; each is safe to repeat."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from uuid import UUID, uuid5

from config.problems import Conflict
from django.db import transaction
from django.http import Http404
from oilward_core.errors import CoreError, at
from oilward_core.odometer import (
    Odometer,
    corrected_odometer,
    new_odometer,
    read_hours,
    read_odometer,
    shown,
)
from oilward_core.usage import measured_use
from workshop.access import as_id, require_lead
from workshop.models import Person
from workshop.touched import touch

from garage import mapping
from garage.locks import lock_bike
from garage.models import Bike, OdometerReading

from .selectors import last_odometer, standing
from .shapes import NewReading, ReadingCorrection


def _hours(
    text: str, bike: Bike, last: OdometerReading | None, sure: Sequence[str]
) -> Decimal | None:
    """The hour meter, for bikes that have one; what it showed last time if nothing is typed."""
    before = last.hours if last else None
    if not text.strip() or not bike.counts_hours:
        return before
    with at("hours"):
        return read_hours(text, before, sure)


def _use(bike: Bike, on: date) -> float | None:
    """How far this bike usually goes, km a day; None before it was read often enough."""
    meters = [mapping.meter(row) for row in standing(bike.pk)]
    return measured_use(meters, on)


def record_odometer(
    bike: Bike,
    text: str,
    *,
    reading_id: UUID,
    read_on: date,
    actor: Person,
    hours: str = "",
    new_shows: str = "",
    sure: Sequence[str] = (),
) -> OdometerReading:
    """Write down what the odometer shows, as typed in the bike's unit or any other. With
    ``new_shows`` it was the old one's last word, and a new one was fitted that shows this; ``sure``
    are the answers to questions whether it is right.

    Raises CoreError at field ``odometer``, ``new_shows`` or ``hours``.
    """
    last = last_odometer([bike.pk]).get(bike.pk)
    known = mapping.last_reading(last) if last else None
    fitted = mapping.odometer(bike)
    with at("odometer"):
        km = read_odometer(text, fitted, known, read_on, _use(bike, read_on), sure)
    offset = fitted.offset
    if new_shows.strip():
        with at("new_shows"):
            fitted = new_odometer(km, new_shows, fitted)
        bike.offset_km = fitted.offset
        bike.save(update_fields=["offset_km"])
    return OdometerReading.objects.create(
        id=reading_id,
        bike=bike,
        km=km,
        hours=_hours(hours, bike, last, sure),
        as_written=text.strip()[:40],
        replaced=bool(new_shows.strip()),
        read_on=read_on,
        read_by=actor,
        offset_km=offset,
    )


def _written_already(bike: Bike, reading_id: UUID, text: str) -> OdometerReading | None:
    """The reading with this id, if it was sent before. Raises Conflict ``visit.id_taken`` where the id
    stands for another reading."""
    row = OdometerReading.objects.filter(pk=reading_id).first()
    if row and (row.bike_id, row.as_written) != (bike.pk, text.strip()[:40]):
        raise Conflict("visit.id_taken")
    return row


@transaction.atomic
def add_reading(bike_id: UUID, new: NewReading, *, actor: Person, today: date) -> OdometerReading:
    """An odometer reading between visits. The same id again gives the same reading."""
    bike = lock_bike(bike_id)
    existing = _written_already(bike, as_id(new.id), new.odometer)
    if existing:
        return existing
    reading = record_odometer(
        bike,
        new.odometer,
        reading_id=as_id(new.id),
        read_on=today,
        actor=actor,
        hours=new.hours,
        new_shows=new.new_shows,
        sure=new.sure,
    )
    touch(bike.pk)
    return reading


@dataclass(frozen=True)
class _Neighbours:
    """A reading that stands, with those before and after it, oldest first."""

    before: list[OdometerReading]
    reading: OdometerReading
    after: list[OdometerReading]


def _neighbours(bike: Bike, reading_id: UUID) -> _Neighbours:
    named, rows = bike.odometer.filter(pk=reading_id).first(), standing(bike.pk)
    root = named and (named.corrects_id or named.pk)
    for number, row in enumerate(rows):
        if root in (row.pk, row.corrects_id):
            return _Neighbours(rows[:number], row, rows[number + 1 :])
    raise Http404


def _corrected_km(bike: Bike, found: _Neighbours, new: ReadingCorrection) -> Decimal:
    reading = found.reading
    if reading.offset_km is None:
        raise CoreError("odometer.long_gone", field="odometer")
    fitted = Odometer(bike.odometer_unit, reading.offset_km)
    before = mapping.last_reading(found.before[-1]) if found.before else None
    # a replaced odometer takes what was read after it along
    after = found.after[0] if found.after and not reading.replaced else None
    with at("odometer"):
        return corrected_odometer(
            new.odometer,
            fitted,
            before,
            mapping.last_reading(after) if after else None,
            reading.read_on,
            new.sure,
        )


def _supersede(
    row: OdometerReading,
    *,
    reading_id: UUID,
    km: Decimal,
    reason: str,
    actor: Person,
    **more: object,
) -> None:
    kept = {"hours": row.hours, "as_written": row.as_written, "offset_km": row.offset_km, **more}
    OdometerReading.objects.create(
        id=reading_id,
        bike_id=row.bike_id,
        km=km,
        replaced=row.replaced,
        read_on=row.read_on,
        read_by=actor,
        corrects_id=row.corrects_id or row.pk,
        reason=reason,
        **kept,
    )


def _take_along(bike: Bike, found: _Neighbours, by: Decimal, reason: str, actor: Person) -> None:
    """A corrected last word of an old odometer moves all that was read on the new ones."""
    for row in found.after:
        offset = None if row.offset_km is None else row.offset_km + by
        moved = uuid5(row.pk, f"{reason}/{by}/{row.km}")
        _supersede(
            row, reading_id=moved, km=row.km + by, reason=reason, actor=actor, offset_km=offset
        )
    bike.offset_km += by
    bike.save(update_fields=["offset_km"])


@transaction.atomic
def correct_reading(
    bike_id: UUID, reading_id: UUID, new: ReadingCorrection, *, actor: Person
) -> None:
    """What the odometer really showed: a reading that supersedes an earlier one. A lead's to do, with
    a reason. The same id again changes nothing.

    Raises Conflict ``odometer.corrected`` when somebody corrected it meanwhile; CoreError at
    ``odometer``, ``hours`` or ``reason``.
    """
    require_lead(actor)
    bike, mine = lock_bike(bike_id), as_id(new.id)
    if _written_already(bike, mine, new.odometer):
        return
    found, reason = _neighbours(bike, reading_id), new.reason.strip()
    if str(found.reading.pk) != new.seen:
        stands = shown(found.reading.km, mapping.odometer(bike))
        raise Conflict("odometer.corrected", by=found.reading.read_by.name, said=stands)
    if not reason:
        raise CoreError("sheet.reason", field="reason")
    km = _corrected_km(bike, found, new)
    hours = found.reading.hours
    if new.hours.strip() and bike.counts_hours:
        with at("hours"):
            hours = read_hours(
                new.hours, found.before[-1].hours if found.before else None, new.sure
            )
    by, written = km - found.reading.km, new.odometer.strip()[:40]
    _supersede(
        found.reading, reading_id=mine, km=km, reason=reason, actor=actor, hours=hours,
        as_written=written,
    )  # fmt: skip
    if found.reading.replaced and by:
        _take_along(bike, found, by, reason, actor)
    touch(bike.pk)

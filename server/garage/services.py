"""Every write to a bike. Each is safe to repeat; a change names the version it saw."""

from collections.abc import Iterable, Sequence
from datetime import date
from decimal import Decimal
from typing import Any
from uuid import UUID

from config.problems import Conflict
from django.db import transaction
from django.forms.models import model_to_dict
from django.http import Http404
from oilward_core.errors import CoreError, at
from oilward_core.odometer import Odometer, new_odometer, read_hours, read_odometer
from oilward_core.quantity import read_number
from oilward_core.schools import check_choice
from oilward_core.spec import Cell, Path, field_of, read_value
from oilward_core.usage import measured_use
from workshop.access import as_id, require_lead
from workshop.models import Person, SchoolRow
from workshop.pictures import clean_picture
from workshop.touched import leave, touch

from . import mapping
from .models import Bike, BikeModel, BikePhoto, OdometerReading, OwnCell, OwnSchool
from .selectors import approved_sheets, last_odometer
from .shapes import BikeForm, NewReading, SchoolChoice
from .sheets.shapes import CellWrite

LEAST_SEVERITY = Decimal("0.5")


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
    meters = [mapping.meter(row) for row in bike.odometer.all()]
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
    fitted = Odometer(bike.odometer_unit, bike.offset_km)
    with at("odometer"):
        km = read_odometer(text, fitted, known, read_on, _use(bike, read_on), sure)
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
    )


@transaction.atomic
def add_reading(bike_id: UUID, new: NewReading, *, actor: Person, today: date) -> OdometerReading:
    """An odometer reading between visits. The same id again gives the same reading."""
    bike = Bike.objects.select_for_update().filter(pk=bike_id).first()
    if bike is None:
        raise Http404
    existing = OdometerReading.objects.filter(pk=as_id(new.id)).first()
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


def _new_on(form: BikeForm, today: date) -> date | None:
    if form.records != Bike.Records.FROM_NEW or not form.new_on.strip():
        return None
    try:
        day = date.fromisoformat(form.new_on.strip())
    except ValueError as error:
        raise CoreError("garage.date", field="new_on") from error
    if day > today:
        raise CoreError("garage.date", field="new_on")
    return day


def _severity(text: str) -> Decimal:
    try:
        value = read_number(text.strip() or "1", LEAST_SEVERITY, Decimal(1))
    except CoreError as error:
        raise CoreError("garage.severity", field="severity") from error
    return value.quantize(Decimal("0.01"))


def _one_of(field: str, value: str, options: list[str]) -> str:
    if value not in options:
        raise CoreError("sheet.choose", field=field, options=options)
    return value


def _fill(bike: Bike, form: BikeForm, today: date) -> None:
    if not form.name.strip():
        raise CoreError("garage.name_it", field="name")
    model = BikeModel.objects.filter(pk=form.model).first()
    if model is None:
        raise CoreError("garage.no_model", field="model")
    bike.model, bike.name = model, form.name.strip()[:60]
    bike.owner, bike.notes = form.owner.strip()[:80], form.notes.strip()
    bike.use_class = _one_of("use_class", form.use_class, mapping.USE_CLASSES)
    bike.odometer_unit = _one_of("odometer_unit", form.odometer_unit, ["km", "mi"])
    bike.records = _one_of("records", form.records, list(Bike.Records.values))
    bike.new_on, bike.severity = _new_on(form, today), _severity(form.severity)
    bike.counts_hours, bike.archived = form.counts_hours, form.archived


@transaction.atomic
def create_bike(form: BikeForm, *, actor: Person, today: date) -> Bike:
    """A bike with its first odometer reading. The same id again gives the same bike."""
    existing = Bike.objects.filter(pk=as_id(form.id)).first()
    if existing:
        return existing
    bike = Bike(pk=as_id(form.id))
    _fill(bike, form, today)
    bike.save(force_insert=True)
    record_odometer(
        bike,
        form.odometer,
        reading_id=as_id(form.id),
        read_on=today,
        actor=actor,
        hours=form.hours,
    )
    touch(bike.pk)
    return bike


@transaction.atomic
def change_bike(bike_id: UUID, form: BikeForm, *, actor: Person, today: date) -> Bike:
    """Change a bike; what stands already is no change. Raises Conflict ``garage.edited`` if
    somebody else did meanwhile, and ``visit.still_open`` if it is to leave with a visit open."""
    bike = Bike.objects.select_for_update().filter(pk=bike_id).first()
    if bike is None:
        raise Http404
    stood, leaves = model_to_dict(bike), form.archived and not bike.archived
    _fill(bike, form, today)
    if model_to_dict(bike) == stood:
        return bike
    if bike.version != form.version:
        raise Conflict("garage.edited", by=bike.changed_by or "Somebody")
    if leaves:
        leave(bike.pk)
    bike.version, bike.changed_by = bike.version + 1, actor.name
    bike.save()
    touch(bike.pk)
    return bike


@transaction.atomic
def write_own(bike_id: UUID, write: CellWrite, *, actor: Person, today: date) -> None:
    """A value that differs on this bike from its model's sheet; empty goes back to the sheet's."""
    bike = Bike.objects.select_for_update().filter(pk=bike_id).first()
    if bike is None:
        raise Http404
    path, written = Path.of(write.path), write.written.strip()
    sheet = approved_sheets([bike.model_id]).get(bike.model_id)
    if sheet is None:
        raise CoreError("visit.no_sheet")
    place: dict[str, Any] = {"reservoir": path.reservoir, "part": path.part, "field": path.field}
    row = OwnCell.objects.filter(bike=bike, **place).first()
    if row and row.written == written:
        return
    if write.revision != (row.revision if row else 0):
        raise Conflict("garage.edited", by=row.entered_by if row else "Somebody")
    if not written:
        if row:
            row.delete()
            touch(bike.pk)
        return
    with at("written"):
        value = read_value(field_of(path), written)
    cell = Cell(written, write.document.strip(), write.page.strip(), actor.name, today)
    OwnCell.objects.update_or_create(
        bike=bike,
        **place,
        defaults={**mapping.cell_fields(path, cell, value), "revision": write.revision + 1},
    )
    touch(bike.pk)


@transaction.atomic
def choose_school(choice: SchoolChoice, *, actor: Person, today: date) -> None:
    """Choose a practice for the workshop (a lead's to do) or for one bike; an empty choice goes
    back to what counts without it."""
    if not choice.bike:
        require_lead(actor)
    if choice.choice:
        check_choice(choice.kind, choice.topic, choice.choice)
    place: dict[str, Any] = {"kind": choice.kind, "topic": choice.topic}
    touched: Iterable[UUID]
    rows: Any
    if choice.bike:
        bike = Bike.objects.filter(pk=as_id(choice.bike)).first()
        if bike is None:
            raise Http404
        rows, place, touched = OwnSchool.objects, {**place, "bike": bike}, [bike.pk]
    else:
        rows, touched = SchoolRow.objects, Bike.objects.values_list("pk", flat=True)
    row = rows.select_for_update().filter(**place).first()
    stands = row.choice if row else ""
    if stands == choice.choice:
        return
    if stands != choice.seen:
        raise Conflict("school.edited", by=row.chosen_by if row else "Somebody", choice=stands)
    if choice.choice:
        made = {"choice": choice.choice, "chosen_by": actor.name, "chosen_on": today}
        rows.update_or_create(**place, defaults=made)
    else:
        rows.filter(**place).delete()
    touch(*touched)


@transaction.atomic
def add_photo(
    bike_id: UUID, photo_id: UUID, raw: bytes, caption: str, *, actor: Person, today: date
) -> None:
    """Keep a picture, cleaned. The same id again keeps the first."""
    if not Bike.objects.filter(pk=bike_id).exists():
        raise Http404
    BikePhoto.objects.get_or_create(
        pk=photo_id,
        defaults={
            "bike_id": bike_id,
            "jpeg": clean_picture(raw),
            "caption": caption.strip()[:120],
            "taken_on": today,
            "taken_by": actor.name,
        },
    )


def remove_photo(photo_id: UUID, *, actor: Person) -> None:
    BikePhoto.objects.filter(pk=photo_id).delete()

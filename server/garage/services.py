"""Every write to a bike. Each is safe to repeat; a change names the version it saw."""

from datetime import date
from decimal import Decimal
from typing import Any
from uuid import UUID

from config.problems import Conflict
from django.db import transaction
from django.forms.models import model_to_dict
from django.http import Http404
from oilward_core.errors import CoreError, at
from oilward_core.odometer import check_engine_fitted, read_odometer
from oilward_core.quantity import Kind, parse_single, read_count, read_number
from oilward_core.schools import IN_THE_GLASS, check_choice
from oilward_core.spec import (
    Cell,
    Path,
    field_of,
    hold_against_sheet,
    read_value,
    sourced,
    what,
)
from workshop.access import as_id, only_one, require_lead, stands_alone, with_one_pair
from workshop.days import day_typed
from workshop.models import Person, SchoolRow
from workshop.pictures import clean_picture
from workshop.repeated import unchanged
from workshop.touched import leave, touch, touch_all
from workshop.traces import stood, trace

from . import mapping
from .locks import lock_bike
from .models import Bike, BikeModel, BikePhoto, OwnCell, OwnSchool
from .odometer.selectors import last_odometer
from .odometer.services import record_odometer
from .selectors import approved_sheets
from .shapes import BikeForm, SchoolChoice
from .sheets.shapes import CellWrite

LEAST_SEVERITY = Decimal("0.5")


def _new_on(bike: Bike, form: BikeForm, today: date) -> date | None:
    if form.records != Bike.Records.FROM_NEW:
        return None
    if not form.new_on.strip():
        if bike.records == Bike.Records.FROM_NEW and bike.new_on is None and not bike._state.adding:
            return None  # nobody knew when the card was written, and nothing has changed
        raise CoreError("garage.new_on", field="new_on")
    return day_typed(form.new_on, "new_on", latest=today)


def _severity(text: str) -> Decimal:
    try:
        value = read_number(text.strip() or "1", LEAST_SEVERITY, Decimal(1))
    except CoreError as error:
        raise CoreError("garage.severity", field="severity") from error
    return value.quantize(Decimal("0.01"))


def _year_built(form: BikeForm, today: date) -> int | None:
    if not form.year_built.strip():
        return None
    try:
        return read_count(form.year_built, today.year + 1, 1900)
    except CoreError as error:
        raise CoreError("garage.year", field="year_built") from error


def _engine(bike: Bike, form: BikeForm) -> tuple[Decimal | None, Decimal | None]:
    """When an engine that is not the first one was fitted, km of the bike's life, and what it had run."""
    if not form.engine_at.strip():
        if form.engine_had.strip():
            raise CoreError("garage.engine_at", field="engine_at")
        return None, None
    with at("engine_at"):
        fitted = read_odometer(form.engine_at, mapping.odometer(bike), None, date.max, None)
    if not form.engine_had.strip():
        return fitted, Decimal(0)
    with at("engine_had"):
        measure = parse_single(form.engine_had, Kind.DISTANCE, bike.odometer_unit)
    return fitted, measure.low


def _check_engine(bike: Bike) -> None:
    last = last_odometer([bike.pk]).get(bike.pk)
    if last and bike.engine_at_km is not None:
        check_engine_fitted(bike.engine_at_km, last.km, mapping.odometer(bike))


def _one_of(field: str, value: str, options: list[str]) -> str:
    if value not in options:
        raise CoreError("sheet.choose", field=field, options=options)
    return value


def _fill(bike: Bike, form: BikeForm, today: date) -> None:
    if not form.name.strip():
        raise CoreError("garage.name_it", field="name")
    model = BikeModel.objects.filter(pk=form.model, gone_by="").first()
    if model is None:
        raise CoreError("garage.no_model", field="model")
    bike.model, bike.name = model, form.name.strip()
    bike.owner, bike.notes = form.owner.strip(), form.notes.strip()
    bike.use_class = _one_of("use_class", form.use_class, mapping.USE_CLASSES)
    bike.odometer_unit = _one_of("odometer_unit", form.odometer_unit, ["km", "mi"])
    records = _one_of("records", form.records, list(Bike.Records.values))
    bike.new_on, bike.severity = _new_on(bike, form, today), _severity(form.severity)
    bike.records = records
    bike.counts_hours, bike.archived = form.counts_hours, form.archived
    bike.plate, bike.frame_number = form.plate.strip(), form.frame_number.strip()
    bike.year_built, bike.engine_number = _year_built(form, today), form.engine_number.strip()
    bike.engine_at_km, bike.engine_had_km = _engine(bike, form)


@transaction.atomic
def create_bike(form: BikeForm, *, actor: Person, today: date) -> Bike:
    """A bike with its first odometer reading. The same id again gives the same bike."""
    existing = Bike.objects.filter(pk=as_id(form.id)).first()
    if existing:
        return existing
    bike = Bike(pk=as_id(form.id))
    _fill(bike, form, today)
    bike.changed_by = actor.name
    bike.save(force_insert=True)
    record_odometer(
        bike,
        form.odometer,
        reading_id=as_id(form.id),
        read_on=today,
        actor=actor,
        hours=form.hours,
    )
    _check_engine(bike)
    touch(bike.pk)
    return bike


@transaction.atomic
def change_bike(bike_id: UUID, form: BikeForm, *, actor: Person, today: date) -> Bike:
    """Change a bike; what stands already is no change. Raises Conflict ``garage.edited`` if
    somebody else did meanwhile, and ``visit.still_open`` if it is to leave with a visit open."""
    bike = lock_bike(bike_id)
    before, told, leaves = model_to_dict(bike), stood(bike), form.archived and not bike.archived
    _fill(bike, form, today)
    _check_engine(bike)
    if model_to_dict(bike) == before:
        return bike
    unchanged(bike, form.version, by=bike.changed_by or "Somebody")
    if leaves:
        leave(bike.pk)
    trace("bike changed", f"bike/{bike.pk}", actor=actor, was=told)
    bike.version, bike.changed_by = bike.version + 1, actor.name
    bike.save()
    touch(bike.pk)
    return bike


@transaction.atomic
def write_own(bike_id: UUID, write: CellWrite, *, actor: Person, today: date) -> None:
    """A value that differs on this bike from its model's sheet; empty goes back to the sheet's."""
    bike = lock_bike(bike_id)
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
            trace("own value removed", f"bike/{bike.pk}/{path}", actor=actor, was=stood(row))
            row.delete()
            touch(bike.pk)
        return
    with at("written"):
        value = read_value(field_of(path), written)
        if stands := mapping.model_spec(sheet).cells.get(path):
            hold_against_sheet(path, written, stands.written, write.sure)
    cell = Cell(
        written=written,
        document=write.document.strip(),
        page=write.page.strip(),
        entered_by=actor.name,
        entered_on=today,
        entered_by_who=str(actor.pk),
    )
    OwnCell.objects.update_or_create(
        bike=bike,
        **place,
        defaults={**mapping.cell_fields(path, cell, value), "revision": write.revision + 1},
    )
    touch(bike.pk)


@transaction.atomic
def check_own(bike_id: UUID, path: str, revision: int, *, actor: Person, today: date) -> None:
    """A second person compared a bike's own value with what it was taken from: from now on it counts. In
    a workshop of one the same person may, where document and page are named: with one pair of eyes.
    Checked twice, it is checked. Raises Conflict ``garage.edited`` where it is another value by now, and
    ``spec.apprentice``; CoreError ``spec.second_person`` and ``spec.own_unsourced``."""
    bike, place = lock_bike(bike_id), Path.of(path)
    row = OwnCell.objects.filter(bike=bike, **place._asdict()).first()
    if row is None:
        raise Http404
    if row.revision != revision:
        raise Conflict("garage.edited", by=row.entered_by)
    alone = row.entered_who_id == actor.pk
    if row.checked_by and (alone or not mapping.cell(row).one_pair):
        return
    if not stands_alone(actor):
        raise Conflict("spec.apprentice")
    if alone and not only_one(actor):
        raise CoreError("spec.second_person", field="path", what=what(place))
    if alone and not sourced(mapping.cells([row])[place]):
        raise CoreError("spec.own_unsourced", field="path", count=1)
    row.checked_by = with_one_pair(actor) if alone else actor.name
    row.checked_who, row.checked_on = actor, today
    row.save(update_fields=["checked_by", "checked_who", "checked_on"])
    touch(bike.pk)


@transaction.atomic
def choose_school(choice: SchoolChoice, *, actor: Person, today: date) -> None:
    """Choose a practice for the workshop (a lead's to do) or for one bike; an empty choice goes
    back to what counts without it. What a workshop's choice changes for each bike is worked out in
    the background."""
    if not choice.bike:
        require_lead(actor)
    if choice.choice:
        check_choice(choice.kind, choice.topic, choice.choice)
    place: dict[str, Any] = {"kind": choice.kind, "topic": choice.topic}
    rows: Any
    if choice.bike:
        bike = Bike.objects.filter(pk=as_id(choice.bike)).first()
        if bike is None:
            raise Http404
        rows, place = OwnSchool.objects, {**place, "bike": bike}
    else:
        rows = SchoolRow.objects
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
    chosen = choice.choice or "as everywhere"
    about = f"{choice.bike or 'workshop'}/{choice.kind}/{choice.topic}/{chosen}"
    trace("school chosen", about, actor=actor, was={"choice": stands})
    if choice.bike:
        touch(as_id(choice.bike))
    elif choice.topic in IN_THE_GLASS:
        touch_all()


@transaction.atomic
def add_photo(
    bike_id: UUID, photo_id: UUID, raw: bytes, caption: str, *, actor: Person, today: date
) -> None:
    """Keep a picture, cleaned. The same id again keeps the first; of another bike it is refused. Raises
    Conflict ``garage.photo_taken``."""
    if not Bike.objects.filter(pk=bike_id).exists():
        raise Http404
    if BikePhoto.objects.filter(pk=photo_id).exclude(bike_id=bike_id).exists():
        raise Conflict("garage.photo_taken")
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


@transaction.atomic
def remove_photo(photo_id: UUID, *, actor: Person) -> None:
    photo = BikePhoto.objects.filter(pk=photo_id).defer("jpeg").first()
    if photo is not None:
        was = {"caption": photo.caption, "taken_on": str(photo.taken_on), "by": photo.taken_by}
        trace("photo removed", f"bike/{photo.bike_id}", actor=actor, was=was)
        photo.delete()

"""Writes that make or end a whole sheet: a model, its draft, one that is imported or thrown away."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import date
from typing import Any

from config.problems import Conflict, Fault
from django.db import transaction
from django.db.models import Max
from django.http import Http404
from oilward_core.errors import CoreError
from oilward_core.exchange import from_document
from oilward_core.quantity import Kind, parse_single, read_count
from oilward_core.spec import (
    LAYOUTS,
    Cell,
    Path,
    in_writing,
    taken_in,
)
from workshop.access import require_lead
from workshop.models import Person
from workshop.people.names import bearers
from workshop.traces import stood, trace

from garage.mapping import cell, cells, path_of
from garage.models import Bike, BikeModel, SpecSheet

from .services import draft_of, new_cells, remove_cells
from .shapes import NewModel

LEAST_CC, MOST_CC = 20, 10_000
DRAFT, APPROVED = SpecSheet.State.DRAFT, SpecSheet.State.APPROVED


def _year(text: str) -> int:
    try:
        return read_count(text, 2100, 1900)
    except CoreError as error:
        raise CoreError("garage.year", field="year") from error


def _displacement(text: str) -> int:
    try:
        cc = parse_single(text, Kind.VOLUME, "ml").low
    except CoreError as error:
        raise CoreError("garage.displacement", field="displacement_cc") from error
    if not LEAST_CC <= cc <= MOST_CC:
        raise CoreError("garage.displacement", field="displacement_cc")
    return round(cc)


@transaction.atomic
def create_model(new: NewModel, *, actor: Person) -> SpecSheet:
    """A model with its first, empty draft. The same model again gives the draft it has."""
    if new.layout not in LAYOUTS:
        raise CoreError("sheet.choose", field="layout", options=list(LAYOUTS))
    if not (new.make.strip() and new.name.strip()):
        raise CoreError("garage.name_it", field="name" if new.make.strip() else "make")
    year, cc = _year(new.year), _displacement(new.displacement_cc)
    model, _ = BikeModel.objects.get_or_create(
        make=new.make.strip(),
        name=new.name.strip(),
        year=year,
        defaults={"layout": new.layout, "displacement_cc": cc},
    )
    if model.gone_by:
        model.gone_by = ""
        model.save(update_fields=["gone_by"])
    return start_draft(model.pk, actor=actor)


@transaction.atomic
def start_draft(model_id: int, *, actor: Person) -> SpecSheet:
    """The model's draft; a new one begins with the values of the newest approved version."""
    model = BikeModel.objects.select_for_update().filter(pk=model_id).first()
    if model is None:
        raise Http404
    draft = model.sheets.filter(state=DRAFT).first()
    if draft is not None:
        return draft
    newest = model.sheets.aggregate(newest=Max("version"))["newest"] or 0
    base = model.sheets.filter(state=APPROVED).order_by("-version").first()
    draft = SpecSheet.objects.create(model=model, version=newest + 1, entered_by=actor)
    if base is not None:
        new_cells(draft, cells(base.cells.all()))
    return draft


@transaction.atomic
def discard(sheet_id: int, *, actor: Person) -> None:
    """Throw a draft away. A lead's to do; doing it twice changes nothing."""
    require_lead(actor)
    if SpecSheet.objects.filter(pk=sheet_id).exists():
        draft = draft_of(sheet_id)
        remove_cells(draft, draft.cells.all(), actor)
        draft.delete()


@transaction.atomic
def delete_model(model_id: int, *, actor: Person) -> None:
    """Take a model without bikes out of the lists, with its drafts; approved sheets stay, and are there
    again when the model comes back. A lead's to do."""
    require_lead(actor)
    model = BikeModel.objects.select_for_update().filter(pk=model_id, gone_by="").first()
    if model is None:
        return
    if model.bikes.exists():
        raise Conflict("spec.has_bikes", count=model.bikes.count())
    trace("model removed", model, actor=actor, was=stood(model))
    model.sheets.filter(state=DRAFT).delete()
    if model.sheets.exists():
        model.gone_by = actor.name
        model.save(update_fields=["gone_by"])
    else:
        model.delete()


@transaction.atomic
def import_document(document: Any, *, actor: Person, today: date) -> SpecSheet:
    """Take a sheet document in as a draft: all of it, or nothing and every fault with its place. Its
    own second checks count only in an installation that has no bikes yet."""
    name, found, faults = from_document(document)
    if faults or name is None:
        listed = [Fault(f.place, f.code, dict(f.fields)) for f in faults]
        raise CoreError("document.faults", count=len(faults), faults=listed)
    new = NewModel(**{key: str(v) for key, v in vars(name).items()})
    sheet = draft_of(create_model(new, actor=actor).pk)
    standing = {path_of(row): cell(row) for row in sheet.cells.all()}
    approved = sheet.model.sheets.filter(state=APPROVED).order_by("-version").first()
    untouched = approved is not None and standing == cells(approved.cells.all())
    if standing and in_writing(standing) != found and not untouched:
        raise Conflict("spec.draft_stands", version=sheet.version)
    sheet.cells.all().delete()
    empty = not Bike.objects.exists()
    taken = taken_in(found, standing, actor.name, str(actor.pk), today, trusted=empty)
    new_cells(sheet, _with_persons(taken))
    return sheet


def _with_persons(taken: Mapping[Path, Cell]) -> dict[Path, Cell]:
    """Cells of a document, which knows names alone: as the persons they were, where that is known."""
    known = bearers(name for one in taken.values() for name in (one.entered_by, one.checked_by))

    def who(stands: str, name: str) -> str:
        return stands or str(known.get(name, ""))

    return {
        path: replace(
            one,
            entered_by_who=who(one.entered_by_who, one.entered_by),
            checked_by_who=who(one.checked_by_who, one.checked_by),
        )
        for path, one in taken.items()
    }


@transaction.atomic
def note_looked_up(model_id: int, found: Mapping[Path, Cell], *, actor: Person) -> None:
    """Values looked up at the bench: into the model's draft, where nothing stands there yet, or still
    what the approved sheet says and the bench found wrong. What somebody else changed there stays."""
    draft = draft_of(start_draft(model_id, actor=actor).pk)
    approved = draft.model.sheets.filter(state=APPROVED).order_by("-version").first()
    said = cells(approved.cells.all()) if approved else {}
    rows = {path_of(row): row for row in draft.cells.all()}
    wrong = {
        path: row
        for path, row in rows.items()
        if path in found and found[path].written != row.written and said.get(path) == cell(row)
    }
    if wrong:
        remove_cells(draft, wrong.values(), actor)
        draft.cells.filter(pk__in=[row.pk for row in wrong.values()]).delete()
    new_cells(draft, {p: one for p, one in found.items() if p not in rows or p in wrong})

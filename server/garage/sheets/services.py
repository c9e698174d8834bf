"""Every write to a spec sheet. Each is safe to repeat; a write names the revision it saw."""

from collections.abc import Collection, Iterable, Mapping
from dataclasses import replace
from datetime import date, datetime
from typing import Any

from config.problems import Conflict, Fault
from django.db import transaction
from django.db.models import Max
from django.http import Http404
from oilward_core.errors import CoreError, at
from oilward_core.exchange import from_document
from oilward_core.quantity import Kind, parse_single, read_count
from oilward_core.spec import (
    LAYOUTS,
    Cell,
    Path,
    ReservoirKind,
    Role,
    check_approval,
    field_of,
    in_writing,
    read_value,
    taken_in,
    unused_key,
    what,
)
from workshop.access import require_lead, stands_alone
from workshop.models import Person
from workshop.people.names import bearers
from workshop.touched import touch
from workshop.traces import stood, trace

from garage.mapping import cell, cell_fields, cells, path_of
from garage.models import AnsweredDoubt, Bike, BikeModel, SheetCell, SpecSheet

from .selectors import doubt_lines
from .shapes import Answer, CellWrite, NewModel, NewPart

LEAST_CC, MOST_CC = 20, 10_000
DRAFT, APPROVED = SpecSheet.State.DRAFT, SpecSheet.State.APPROVED


def _draft(sheet_id: int) -> SpecSheet:
    """The sheet, locked, if it is a draft: writes to one sheet queue up."""
    sheet = SpecSheet.objects.select_for_update().filter(pk=sheet_id).first()
    if sheet is None:
        raise Http404
    if sheet.state != DRAFT:
        raise Conflict("spec.approved")
    return sheet


def _new_cells(sheet: SpecSheet, many: Mapping[Path, Cell]) -> None:
    SheetCell.objects.bulk_create(
        SheetCell(sheet=sheet, **cell_fields(path, one, read_value(field_of(path), one.written)))
        for path, one in many.items()
    )


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
        _new_cells(draft, cells(base.cells.all()))
    return draft


def _clash(path: Path, write: CellWrite, row: SheetCell | None) -> Fault | None:
    """What somebody else did to this cell since the writer saw it, if that matters."""
    stands = row.written if row else ""
    seen = row.revision if row else 0
    same = row and (row.written, row.document, row.page) == (
        write.written.strip(),
        write.document.strip(),
        write.page.strip(),
    )
    if same or write.revision == seen or (row is None and not write.written.strip()):
        return None
    by = row.entered_by if row else "Somebody"
    facts = {"what": what(path), "by": by, "theirs": stands or "nothing", "mine": write.written}
    return Fault(f"/{path}", "spec.edited", {**facts, "options": [stands, write.written]})


def _read(path: Path, written: str) -> Any:
    with at(str(path)):
        return read_value(field_of(path), written)


def _gone(sheet: SpecSheet, rows: Iterable[SheetCell], actor: Person) -> None:
    was = {str(path_of(row)): f"{row.written}, by {row.entered_by}" for row in rows}
    trace("values removed", f"sheet/{sheet.pk}", actor=actor, was=was)


def _write(
    sheet: SpecSheet, row: SheetCell | None, write: CellWrite, who: Person, on: date
) -> None:
    path, written = Path.of(write.path), write.written.strip()
    if not written:
        if row is not None:
            _gone(sheet, [row], who)
            row.delete()
        return
    document, page = write.document.strip(), write.page.strip()
    if row is not None and (row.written, row.document, row.page) == (written, document, page):
        return
    cell = Cell(
        written=written,
        document=document,
        page=page,
        entered_by=who.name,
        entered_on=on,
        entered_by_who=str(who.pk),
    )
    fields = cell_fields(path, cell, _read(path, written))
    if row is None:
        SheetCell.objects.create(sheet=sheet, **fields)
    else:
        SheetCell.objects.filter(pk=row.pk).update(**fields, revision=row.revision + 1)


@transaction.atomic
def write_cells(
    sheet_id: int, writes: Iterable[CellWrite], *, actor: Person, today: date
) -> SpecSheet:
    """Write values into a draft, all or none. A changed value wants a new second check.

    Raises Conflict ``spec.edited`` with every value somebody else changed meanwhile; CoreError at
    the path for what cannot be read.
    """
    sheet, listed = _draft(sheet_id), list(writes)
    rows = {path_of(row): row for row in sheet.cells.all()}
    paths = [Path.of(write.path) for write in listed]
    for path in paths:
        field_of(path)
    clashes = [
        clash
        for path, write in zip(paths, listed, strict=True)
        if (clash := _clash(path, write, rows.get(path)))
    ]
    if clashes:
        raise Conflict(clashes[0].code, clashes, **clashes[0].fields)
    for path, write in zip(paths, listed, strict=True):
        _write(sheet, rows.get(path), write, actor, today)
    return sheet


@transaction.atomic
def check_cells(sheet_id: int, paths: Iterable[str], *, actor: Person, today: date) -> SpecSheet:
    """Second check: these values were compared with the manual by another person."""
    sheet = _draft(sheet_id)
    rows = {str(path_of(row)): row for row in sheet.cells.all()}
    for text in paths:
        row = rows.get(text)
        if row is None:
            raise Http404
        if not stands_alone(actor):
            raise Conflict("spec.apprentice")
        if row.entered_who_id == actor.pk:
            raise CoreError("spec.second_person", field=text, what=what(path_of(row)))
        if not row.checked_by:
            row.checked_by, row.checked_who, row.checked_on = actor.name, actor, today
            row.save(update_fields=["checked_by", "checked_who", "checked_on"])
    return sheet


@transaction.atomic
def add_part(sheet_id: int, new: NewPart, *, actor: Person, today: date) -> tuple[SpecSheet, str]:
    """A new reservoir of a kind, or a part of a role in one; its key comes back with it. One that was
    named and stands there already is no second one."""
    sheet, kind, reservoir = _draft(sheet_id), new.kind, new.reservoir
    known = [path_of(row) for row in sheet.cells.all()]
    choices: list[str] = list(Role) if reservoir else [k.value for k in ReservoirKind]
    if kind not in choices:
        raise CoreError("sheet.choose", field="kind", options=choices)
    taken = {p.part for p in known if p.reservoir == reservoir and p.part}
    if not reservoir:
        taken = {p.reservoir for p in known}
    named = new.key.strip().replace("/", " ")
    if named in taken:
        return sheet, named
    key = named or unused_key(kind, taken)
    if reservoir:
        made = {Path(reservoir, key, "role"): kind}
    else:
        made = {Path(key, "", "kind"): kind, Path(key, "", "label"): new.label.strip() or key}
    _new_cells(
        sheet,
        {
            p: Cell(
                written=w, entered_by=actor.name, entered_on=today, entered_by_who=str(actor.pk)
            )
            for p, w in made.items()
        },
    )
    return sheet, key


@transaction.atomic
def remove_part(sheet_id: int, reservoir: str, part: str, *, actor: Person) -> SpecSheet:
    """Take a reservoir (``part`` empty) or a part out of a draft, with all its values."""
    sheet = _draft(sheet_id)
    found = sheet.cells.filter(reservoir=reservoir)
    going = found.filter(part=part) if part else found
    if going.exists():
        _gone(sheet, going, actor)
    going.delete()
    return sheet


@transaction.atomic
def copy_missing(
    sheet_id: int, other_id: int, reservoirs: list[str], *, actor: Person, today: date
) -> SpecSheet:
    """Copy what this draft lacks from another sheet. Copies are entered by whoever copies, and
    nobody has checked them for this model."""
    sheet = _draft(sheet_id)
    known = {path_of(row) for row in sheet.cells.all()}
    copied = {
        path_of(row): Cell(
            written=row.written,
            document=row.document,
            page=row.page,
            entered_by=actor.name,
            entered_on=today,
            entered_by_who=str(actor.pk),
        )
        for row in SheetCell.objects.filter(sheet_id=other_id)
        if path_of(row) not in known and (not reservoirs or row.reservoir in reservoirs)
    }
    _new_cells(sheet, copied)
    return sheet


@transaction.atomic
def note_looked_up(model_id: int, found: Mapping[Path, Cell], *, actor: Person) -> None:
    """Values looked up at the bench: into the model's draft, where nothing stands there yet."""
    draft = _draft(start_draft(model_id, actor=actor).pk)
    known = {path_of(row) for row in draft.cells.all()}
    _new_cells(draft, {path: one for path, one in found.items() if path not in known})


@transaction.atomic
def answer_doubt(sheet_id: int, answer: Answer, *, actor: Person, today: date) -> SpecSheet:
    """Say that the manual really says so, and where it was looked up."""
    sheet, reason = _draft(sheet_id), answer.reason.strip()
    if not reason:
        raise CoreError("sheet.reason", field="reason")
    AnsweredDoubt.objects.get_or_create(
        sheet=sheet,
        rule=answer.rule,
        reservoir=answer.reservoir,
        text=answer.text,
        defaults={"reason": reason, "answered_by": actor.name, "answered_on": today},
    )
    return sheet


def _named(sheet: SpecSheet, unchecked: Collection[str], actor: Person) -> list[str]:
    """The unchecked numbers that matter, each named by whoever approves. Raises Conflict with a fault
    for each that is not."""
    try:
        left = check_approval(cells(sheet.cells.all()), unchecked, str(actor.pk))
    except CoreError as error:
        faults = [Fault(f"/{path}", error.code, {**error.fields, "what": what(path)})
                  for path in error.fields["paths"]]  # fmt: skip
        raise Conflict(error.code, faults, count=error.fields["count"]) from error
    return [str(path) for path in left]


@transaction.atomic
def approve(
    sheet_id: int, *, actor: Person, now: datetime, unchecked: Collection[str] = ()
) -> SpecSheet:
    """Make a draft the sheet that counts. A lead's to do, once every doubt has an answer; numbers that
    matter and that nobody has checked have to be named, each, as ``unchecked``."""
    require_lead(actor)
    if SpecSheet.objects.filter(pk=sheet_id, state=APPROVED).exists():
        return SpecSheet.objects.get(pk=sheet_id)
    sheet = _draft(sheet_id)
    left = sum(not line.answered_by for line in doubt_lines(sheet))
    if left:
        raise Conflict("spec.doubts_left", count=left)
    if not sheet.cells.filter(field="kind").exists():
        raise Conflict("spec.empty")
    sheet.unchecked = _named(sheet, unchecked, actor)
    sheet.state, sheet.approved_by, sheet.approved_at = APPROVED, actor, now
    sheet.save(update_fields=["state", "approved_by", "approved_at", "unchecked"])
    touch(*sheet.model.bikes.values_list("pk", flat=True))
    return sheet


@transaction.atomic
def discard(sheet_id: int, *, actor: Person) -> None:
    """Throw a draft away. A lead's to do; doing it twice changes nothing."""
    require_lead(actor)
    if SpecSheet.objects.filter(pk=sheet_id).exists():
        draft = _draft(sheet_id)
        _gone(draft, draft.cells.all(), actor)
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
    sheet = _draft(create_model(new, actor=actor).pk)
    standing = {path_of(row): cell(row) for row in sheet.cells.all()}
    approved = sheet.model.sheets.filter(state=APPROVED).order_by("-version").first()
    untouched = approved is not None and standing == cells(approved.cells.all())
    if standing and in_writing(standing) != found and not untouched:
        raise Conflict("spec.draft_stands", version=sheet.version)
    sheet.cells.all().delete()
    empty = not Bike.objects.exists()
    taken = taken_in(found, standing, actor.name, str(actor.pk), today, trusted=empty)
    _new_cells(sheet, _with_persons(taken))
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

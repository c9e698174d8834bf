"""Every write to a spec sheet. Each is safe to repeat; a write names the revision it saw."""

from collections.abc import Collection, Iterable, Mapping
from dataclasses import replace
from datetime import date, datetime
from typing import Any

from config.problems import Conflict, Fault
from django.db import transaction
from django.http import Http404
from oilward_core.errors import CoreError, at
from oilward_core.spec import (
    Cell,
    Path,
    ReservoirKind,
    Role,
    check_approval,
    field_of,
    lent,
    read_value,
    unused_key,
    what,
)
from workshop.access import only_one, require_lead, stands_alone, with_one_pair
from workshop.days import day_of
from workshop.models import Person
from workshop.touched import touch
from workshop.traces import trace

from garage.mapping import cell, cell_fields, cells, path_of
from garage.models import AnsweredDoubt, SheetCell, SpecSheet

from .selectors import doubt_lines
from .shapes import Answer, CellWrite, NewPart

DRAFT, APPROVED = SpecSheet.State.DRAFT, SpecSheet.State.APPROVED


def draft_of(sheet_id: int) -> SpecSheet:
    """The sheet, locked, if it is a draft: writes to one sheet queue up."""
    sheet = SpecSheet.objects.select_for_update().filter(pk=sheet_id).first()
    if sheet is None:
        raise Http404
    if sheet.state != DRAFT:
        raise Conflict("spec.approved")
    return sheet


def new_cells(sheet: SpecSheet, many: Mapping[Path, Cell]) -> None:
    SheetCell.objects.bulk_create(
        SheetCell(sheet=sheet, **cell_fields(path, one, read_value(field_of(path), one.written)))
        for path, one in many.items()
    )


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


def remove_cells(sheet: SpecSheet, rows: Iterable[SheetCell], actor: Person) -> None:
    was = {str(path_of(row)): f"{row.written}, by {row.entered_by}" for row in rows}
    trace("values removed", f"sheet/{sheet.pk}", actor=actor, was=was)


def _write(
    sheet: SpecSheet, row: SheetCell | None, write: CellWrite, who: Person, on: date
) -> None:
    path, written = Path.of(write.path), write.written.strip()
    if not written:
        if row is not None:
            remove_cells(sheet, [row], who)
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
    sheet, listed = draft_of(sheet_id), list(writes)
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
    sheet = draft_of(sheet_id)
    rows = {str(path_of(row)): row for row in sheet.cells.all()}
    for text in paths:
        row = rows.get(text)
        if row is None:
            raise Http404
        if not stands_alone(actor):
            raise Conflict("spec.apprentice")
        if row.entered_who_id == actor.pk:
            raise CoreError("spec.second_person", field=text, what=what(path_of(row)))
        if not row.checked_by or cell(row).one_pair:
            row.checked_by, row.checked_who, row.checked_on = actor.name, actor, today
            row.save(update_fields=["checked_by", "checked_who", "checked_on"])
    return sheet


@transaction.atomic
def add_part(sheet_id: int, new: NewPart, *, actor: Person, today: date) -> tuple[SpecSheet, str]:
    """A new reservoir of a kind, or a part of a role in one; its key comes back with it. One that was
    named and stands there already is no second one."""
    sheet, kind, reservoir = draft_of(sheet_id), new.kind, new.reservoir
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
    new_cells(
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
    sheet = draft_of(sheet_id)
    found = sheet.cells.filter(reservoir=reservoir)
    going = found.filter(part=part) if part else found
    if going.exists():
        remove_cells(sheet, going, actor)
    going.delete()
    return sheet


@transaction.atomic
def copy_missing(
    sheet_id: int, other_id: int, reservoirs: list[str], *, actor: Person, today: date
) -> SpecSheet:
    """Copy what this draft lacks from another sheet. Copies are entered by whoever copies, and
    nobody has checked them for this model."""
    sheet = draft_of(sheet_id)
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
    new_cells(sheet, copied)
    return sheet


@transaction.atomic
def copy_leg(sheet_id: int, leg: str, to: str, *, actor: Person, today: date) -> SpecSheet:
    """Copy what one fork leg lacks from the other one. Raises CoreError ``spec.no_leg``."""
    sheet = draft_of(sheet_id)
    found = lent(cells(sheet.cells.all()), leg, to)
    copied = {
        path: replace(one, entered_by=actor.name, entered_on=today, entered_by_who=str(actor.pk))
        for path, one in found.items()
    }
    new_cells(sheet, copied)
    return sheet


@transaction.atomic
def answer_doubt(sheet_id: int, answer: Answer, *, actor: Person, today: date) -> SpecSheet:
    """Say that the manual really says so, and where it was looked up."""
    sheet, reason = draft_of(sheet_id), answer.reason.strip()
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
        told = cells(sheet.cells.all())
        left = check_approval(told, unchecked, str(actor.pk), only_one(actor))
    except CoreError as error:
        faults = [Fault(f"/{path}", error.code, {**error.fields, "what": what(path)})
                  for path in error.fields["paths"]]  # fmt: skip
        raise Conflict(error.code, faults, count=error.fields["count"]) from error
    return [str(path) for path in left]


def _compared_alone(sheet: SpecSheet, actor: Person, now: datetime) -> None:
    """What the only one here wrote and approves from its named page is marked so, until somebody else
    compares it."""
    named = set(sheet.unchecked) if only_one(actor) else set()
    for row in sheet.cells.filter(entered_who=actor, checked_by=""):
        if str(path_of(row)) in named:
            row.checked_by, row.checked_who = with_one_pair(actor), actor
            row.checked_on = day_of(now)
            row.save(update_fields=["checked_by", "checked_who", "checked_on"])


@transaction.atomic
def approve(
    sheet_id: int, *, actor: Person, now: datetime, unchecked: Collection[str] = ()
) -> SpecSheet:
    """Make a draft the sheet that counts. A lead's to do, once every doubt has an answer; numbers that
    matter and that nobody has checked have to be named, each, as ``unchecked``."""
    require_lead(actor)
    if SpecSheet.objects.filter(pk=sheet_id, state=APPROVED).exists():
        return SpecSheet.objects.get(pk=sheet_id)
    sheet = draft_of(sheet_id)
    left = sum(not line.answered_by for line in doubt_lines(sheet))
    if left:
        raise Conflict("spec.doubts_left", count=left)
    if not sheet.cells.filter(field="kind").exists():
        raise Conflict("spec.empty")
    sheet.unchecked = _named(sheet, unchecked, actor)
    _compared_alone(sheet, actor, now)
    sheet.state, sheet.approved_by, sheet.approved_at = APPROVED, actor, now
    sheet.save(update_fields=["state", "approved_by", "approved_at", "unchecked"])
    touch(*sheet.model.bikes.values_list("pk", flat=True))
    return sheet

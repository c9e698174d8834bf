import csv
import io
from collections import Counter
from collections.abc import Mapping
from typing import Any

from config.sentences import sentence_of
from django.db.models import Count, Prefetch, QuerySet
from django.http import Http404
from oilward_core.errors import CoreError
from oilward_core.exchange import to_document
from oilward_core.spec import (
    COLUMNS,
    LAYOUTS,
    Path,
    ReservoirKind,
    Role,
    changes,
    check_approval,
    doubts,
    field_of,
    guess_columns,
    overlay,
    part_fields_for,
    propose,
    read_table,
    sheet_of,
    what,
)
from workshop.access import leads, may_work, only_one
from workshop.mapping import speaker
from workshop.models import Person
from workshop.spreadsheet import as_text

from garage.mapping import cells, model_name, path_of
from garage.models import BikeModel, SheetCell, SpecSheet

from . import mapping
from .shapes import (
    DoubtLine,
    ModelLine,
    Models,
    Reading,
    SheetLine,
    SheetPage,
    Table,
    TableLine,
    TableReading,
)

UNKNOWN_UNIT = "km"


def _models() -> QuerySet[BikeModel]:
    newest_first = SpecSheet.objects.order_by("-version").select_related(
        "entered_by", "approved_by"
    )
    return (
        BikeModel.objects.filter(gone_by="")
        .annotate(bike_count=Count("bikes"))
        .prefetch_related(Prefetch("sheets", queryset=newest_first))
        .order_by("make", "name", "year")
    )


def _model_line(model: BikeModel) -> ModelLine:
    return ModelLine(
        id=model.pk,
        make=model.make,
        name=model.name,
        year=model.year,
        layout=model.layout,
        displacement_cc=model.displacement_cc,
        bikes=getattr(model, "bike_count", 0),
        sheets=[
            SheetLine(
                id=sheet.pk,
                version=sheet.version,
                state=sheet.state,
                entered_by=sheet.entered_by.name,
                approved_by=sheet.approved_by.name if sheet.approved_by else "",
            )
            for sheet in model.sheets.all()
        ],
    )


def models() -> Models:
    return Models([_model_line(model) for model in _models()], list(LAYOUTS))


def sheet_or_404(sheet_id: int) -> SpecSheet:
    sheet = (
        SpecSheet.objects.select_related("approved_by", "model")
        .prefetch_related("cells", "answers")
        .filter(pk=sheet_id)
        .first()
    )
    if sheet is None:
        raise Http404
    return sheet


def doubt_lines(sheet: SpecSheet) -> list[DoubtLine]:
    """Every doubt on a sheet, with its answer where somebody gave one."""
    answered = {(a.rule, a.reservoir, a.text): a for a in sheet.answers.all()}
    found = doubts(sheet_of(cells(sheet.cells.all())), sheet.model.displacement_cc)
    lines = []
    for doubt in found:
        answer = answered.get((doubt.rule, doubt.reservoir, doubt.text))
        by, reason = (answer.answered_by, answer.reason) if answer else ("", "")
        lines.append(
            DoubtLine(
                rule=doubt.rule,
                reservoir=doubt.reservoir,
                place=doubt.place,
                text=doubt.text,
                answered_by=by,
                reason=reason,
            )
        )
    return lines


def _compared(sheet: SpecSheet) -> tuple[int, list[str]]:
    """The version before this one, and every difference from it in a sentence."""
    before = (
        SpecSheet.objects.filter(
            model=sheet.model, state=SpecSheet.State.APPROVED, version__lt=sheet.version
        )
        .order_by("-version")
        .first()
    )
    if before is None:
        return 0, []
    found = changes(cells(before.cells.all()), cells(sheet.cells.all()))
    return before.version, [change.text for change in found]


def _own_numbers(rows: Mapping[Path, SheetCell], person: Person) -> str:
    """Why a lead cannot approve numbers of their own; empty where they can: nobody else is here, and each
    names its document and page."""
    try:
        told = cells(rows.values())
        check_approval(told, [str(path) for path in told], str(person.pk), only_one(person))
    except CoreError as error:
        return sentence_of(error)
    return ""


def sheet_page(sheet_id: int, person: Person) -> SheetPage:
    """A version of a sheet, field by field, with its doubts and what changed."""
    sheet = sheet_or_404(sheet_id)
    model = _models().get(pk=sheet.model_id)
    rows = {path_of(row): row for row in sheet.cells.all()}
    blocks = mapping.blocks(rows, speaker(person))
    lines = doubt_lines(sheet)
    compared_with, changed = _compared(sheet)
    draft = sheet.state == SpecSheet.State.DRAFT
    left = sum(not line.answered_by for line in lines)
    why_not = "" if rows else "Nothing written yet."
    if left:
        why_not = f"{left} doubt{'s' * (left > 1)} to look at first."
    numbers = mapping.unchecked_numbers(rows) if draft else []
    why_not = why_not or _own_numbers(rows, person)
    return SheetPage(
        id=sheet.pk,
        model=_model_line(model),
        version=sheet.version,
        state=sheet.state,
        approved_by=sheet.approved_by.name if sheet.approved_by else "",
        reservoirs=blocks,
        doubts=lines,
        changes=changed,
        compared_with=compared_with,
        unchecked=mapping.unchecked(rows),
        missing=mapping.missing_lines(sheet_of(cells(rows.values()))),
        offered=mapping.offered(sheet.model.layout, rows) if draft else [],
        kinds=[kind.value for kind in ReservoirKind],
        roles=list(Role),
        may_edit=draft and may_work(person),
        may_approve=draft and leads(person),
        not_approvable=why_not,
        unchecked_numbers=numbers,
    )


def reading(sheet_id: int, path_text: str, written: str, person: Person) -> Reading:
    """What a value being typed means, and what would look wrong with it. CoreErrors go through."""
    sheet, path = sheet_or_404(sheet_id), Path.of(path_text)
    field, now = field_of(path), cells(sheet.cells.all())
    value, meant = mapping.understood(field, written, speaker(person), UNKNOWN_UNIT)
    typed = mapping.typed_cell(written)
    cc = sheet.model.displacement_cc
    laid = overlay(now, {path: typed}) if value is not None else now
    before, after = doubts(sheet_of(now), cc), doubts(sheet_of(laid), cc)
    standing = Counter((d.rule, d.reservoir, d.text) for d in before)
    place = f"{path.part}/{path.field}"
    new = [
        d.text
        for d in after
        if (d.reservoir, d.place) == (path.reservoir, place)
        or (d.rule, d.reservoir, d.text) not in standing
    ]
    return Reading(meant, list(dict.fromkeys(new)))


def document(sheet_id: int) -> dict[str, Any]:
    """The sheet as an open document."""
    sheet = sheet_or_404(sheet_id)
    return to_document(model_name(sheet.model), cells(sheet.cells.all()))


def fasteners_csv(sheet_id: int) -> str:
    """Every plug, filter and screw, one a line, as the manual gives them."""
    sheet = sheet_or_404(sheet_id)
    fields = part_fields_for("")
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["reservoir", "part", *(field.name for field in fields), "document", "page"])
    rows = {path_of(row): row for row in sheet.cells.all()}
    parts = dict.fromkeys((p.reservoir, p.part) for p in sorted(rows) if p.part)
    for reservoir, part in parts:
        own = {name: rows.get(Path(reservoir, part, name)) for name in (f.name for f in fields)}
        torque = own["torque"]
        source = [torque.document, torque.page] if torque else ["", ""]
        said_words = [row.written if row else "" for row in own.values()]
        writer.writerow(map(as_text, [reservoir, part, *said_words, *source]))
    return out.getvalue()


def table(sheet_id: int, given: Table, person: Person) -> TableReading:
    """What a pasted table would write, row by row, before anything is written."""
    sheet = sheet_or_404(sheet_id)
    rows = read_table(given.text)
    columns = given.columns or guess_columns(rows)
    choices = ["", *COLUMNS, *(field.name for field in part_fields_for(""))]
    if any(column not in choices for column in columns):
        raise CoreError("sheet.choose", field="columns", options=choices[1:])
    stands = {path_of(row): row for row in sheet.cells.all()}
    known = list(dict.fromkeys(path.reservoir for path in stands))
    found = propose(rows, columns, known, given.reservoir, given.heading)
    lines = [
        TableLine(
            line=one.line,
            path=str(one.path) if one.path else "",
            label=what(one.path) if one.path else "",
            written=one.written,
            document=one.document,
            page=one.page,
            stands=row.written if (row := _at(stands, one.path)) else "",
            revision=row.revision if row else 0,
            fault=sentence_of(one.fault) if one.fault else "",
        )
        for one in found
    ]
    return TableReading(columns=columns, choices=choices, rows=rows[:6], lines=lines)


def _at(rows: dict[Path, SheetCell], path: Path | None) -> SheetCell | None:
    return rows.get(path) if path else None

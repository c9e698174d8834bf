"""Between a sheet's cells and the page that shows them."""

from collections.abc import Iterable, Mapping

from oilward_core.bench import Speaker
from oilward_core.errors import CoreError
from oilward_core.spec import (
    LAYOUTS,
    RESERVOIR_FIELDS,
    Cell,
    Field,
    FillRule,
    Path,
    ReservoirSpec,
    Value,
    by_reservoir,
    field_of,
    fields_for,
    gaps,
    is_number,
    missing,
    part_fields_for,
    proposed,
    read_value,
    reservoir_of,
    said,
    unchecked_that_matter,
    what,
)

from garage.mapping import cell
from garage.models import SheetCell

from .shapes import (
    MissingLine,
    Offered,
    PartBlock,
    Plate,
    ReservoirBlock,
    Row,
    UncheckedNumber,
)

Rows = Mapping[Path, SheetCell]


def typed_cell(written: str) -> Cell:
    return Cell(written=written.strip())


def understood(
    field: Field, written: str, speaks: Speaker, distance: str
) -> tuple[Value | None, str]:
    """What the words mean, and in the reader's units; nothing for nothing."""
    if not written.strip():
        return None, ""
    value = read_value(field, written)
    return value, said(field, value, volume=speaks.volume, torque=speaks.torque, distance=distance)


def _reads(field: Field, written: str, speaks: Speaker) -> str:
    try:
        return understood(field, written, speaks, "km")[1]
    except CoreError:
        return ""


def _row(path: Path, row: SheetCell | None, speaks: Speaker, needed: bool) -> Row:
    field = field_of(path)
    written = row.written if row else ""
    return Row(
        path=str(path),
        label=field.label,
        form=field.form.value,
        choices=list(field.choices),
        hint=field.hint,
        written=written,
        reads=_reads(field, written, speaks),
        document=row.document if row else "",
        page=row.page if row else "",
        entered_by=row.entered_by if row else "",
        entered_by_who=str(row.entered_who_id or "") if row else "",
        checked_by=row.checked_by if row else "",
        one_pair=bool(row and cell(row).one_pair),
        number=is_number(field),
        revision=row.revision if row else 0,
        needed=needed,
    )


def _fields(
    own: Iterable[str], offered: tuple[Field, ...], whole: tuple[Field, ...]
) -> list[Field]:
    """The fields that belong, and any that are filled though they do not."""
    filled = set(own)
    names = {field.name for field in offered}
    return [field for field in whole if field.name in names or field.name in filled]


def _part(
    path: Path, rows: Rows, speaks: Speaker, spec: ReservoirSpec, needed: set[Path]
) -> PartBlock:
    fastener = next(f for f in spec.fasteners if f.key == path.part)
    own = [p.field for p in rows if p[:2] == path[:2]]
    fields = _fields(own, part_fields_for(fastener.role), part_fields_for("second filter"))
    spot = rows.get(path._replace(field="spot"))
    return PartBlock(
        key=path.part,
        role=fastener.role,
        place=fastener.place,
        torque=fastener.torque.text if fastener.torque else "",
        x=float(fastener.spot.x) if fastener.spot else None,
        y=float(fastener.spot.y) if fastener.spot else None,
        revision=spot.revision if spot else 0,
        rows=[
            _row(at, rows.get(at), speaks, at in needed)
            for at in (path._replace(field=field.name) for field in fields)
            if field_of(at).name not in ("role", "spot")
        ],
    )


def _block(key: str, rows: Rows, speaks: Speaker) -> ReservoirBlock:
    spec = reservoir_of(key, {path: cell(row) for path, row in rows.items()})
    needed = set(missing(spec))
    own = [path.field for path in rows if not path.part]
    plates: dict[str, list[Row]] = {}
    for field in _fields(own, fields_for(spec.kind, FillRule(spec.fill_rule)), RESERVOIR_FIELDS):
        at = Path(key, "", field.name)
        plates.setdefault(field.plate, []).append(_row(at, rows.get(at), speaks, at in needed))
    parts = dict.fromkeys(path.part for path in rows if path.part)
    return ReservoirBlock(
        key=key,
        kind=spec.kind.value,
        label=spec.label,
        plates=[Plate(title, lines) for title, lines in plates.items()],
        parts=[_part(Path(key, part, "role"), rows, speaks, spec, needed) for part in parts],
    )


def blocks(rows: Rows, speaks: Speaker) -> list[ReservoirBlock]:
    """Reservoir by reservoir, plate by plate; one whose kind is gone is left out."""
    grouped = by_reservoir({path: cell(row) for path, row in rows.items()})
    return [
        _block(key, {path: rows[path] for path in own}, speaks)
        for key, own in grouped.items()
        if Path(key, "", "kind") in own
    ]


def unchecked_numbers(rows: Rows) -> list[UncheckedNumber]:
    """The numbers that matter and that no second person has checked."""
    return [
        UncheckedNumber(
            path=str(path),
            what=what(path),
            written=rows[path].written,
            by=rows[path].entered_by,
            who=str(rows[path].entered_who_id or ""),
        )
        for path in unchecked_that_matter({path: cell(row) for path, row in rows.items()})
    ]


def unchecked(rows: Rows) -> int:
    """How many numbers no second person has checked."""
    return sum(not row.checked_by and is_number(field_of(path)) for path, row in rows.items())


def missing_lines(sheet: tuple[ReservoirSpec, ...]) -> list[MissingLine]:
    """What nobody has written yet, each with the field it belongs in."""
    labels = {spec.key: spec.label for spec in sheet}
    return [
        MissingLine(
            reservoir=gap.path.reservoir,
            label=labels[gap.path.reservoir],
            path=str(gap.path),
            text=gap.text,
            add=gap.add,
            asked=gap.asked,
        )
        for gap in gaps(sheet)
    ]


def offered(layout: str, rows: Rows) -> list[Offered]:
    """What bikes of this layout usually have and the sheet has not."""
    known = {path.reservoir for path in rows}
    if layout not in LAYOUTS:
        return []
    return [
        Offered(one.kind.value, one.key, one.label)
        for one in proposed(layout)
        if one.key not in known
    ]

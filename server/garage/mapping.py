"""Between the garage's rows and the core's cells and spec sheets."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from oilward_core.due import USE_CLASSES as USES
from oilward_core.due import Meter
from oilward_core.exchange import ModelName
from oilward_core.odometer import LastReading, Odometer, engine_run, shown
from oilward_core.quantity import format_exact, show
from oilward_core.schools import Schools, Topic
from oilward_core.spec import Cell, Cells, Path, ReservoirSpec, Value, counts, overlay, sheet_of
from oilward_core.torque import TorqueSpec

from .models import Bike, BikeModel, CellRow, OdometerReading, OwnCell, SpecSheet
from .shapes import BikeForm, SchoolLine, SchoolTopic

USE_CLASSES = list(USES)


def path_of(row: CellRow) -> Path:
    return Path(row.reservoir, row.part, row.field)


def cell(row: CellRow) -> Cell:
    return Cell(
        written=row.written,
        document=row.document,
        page=row.page,
        entered_by=row.entered_by,
        entered_on=row.entered_on,
        checked_by=row.checked_by,
        checked_on=row.checked_on,
        entered_by_who=_who(row.entered_who_id),
        checked_by_who=_who(row.checked_who_id),
    )


def _who(person: int | None) -> str:
    return "" if person is None else str(person)


def _person(who: str) -> int | None:
    return int(who) if who else None


def cells(rows: Iterable[CellRow]) -> dict[Path, Cell]:
    return {path_of(row): cell(row) for row in rows}


def low_high(value: Value) -> tuple[Decimal | None, Decimal | None]:
    """The canonical numbers kept beside a cell's words."""
    if isinstance(value, TorqueSpec):
        return value.low, value.high
    if isinstance(value, tuple):
        return value
    if isinstance(value, bool) or not isinstance(value, int | Decimal):
        return None, None
    return Decimal(value), Decimal(value)


def cell_fields(path: Path, written: Cell, value: Value) -> dict[str, Any]:
    """A cell as the columns of its row."""
    low, high = low_high(value)
    return {
        "reservoir": path.reservoir,
        "part": path.part,
        "field": path.field,
        "low": low,
        "high": high,
        "written": written.written,
        "document": written.document,
        "page": written.page,
        "entered_by": written.entered_by,
        "entered_on": written.entered_on,
        "entered_who_id": _person(written.entered_by_who),
        "checked_by": written.checked_by,
        "checked_on": written.checked_on,
        "checked_who_id": _person(written.checked_by_who),
    }


def model_words(model: BikeModel) -> str:
    """A model as lists and pages name it."""
    return f"{model.make} {model.name}, {model.year}"


def model_name(model: BikeModel) -> ModelName:
    return ModelName(
        make=model.make,
        name=model.name,
        year=model.year,
        layout=model.layout,
        displacement_cc=model.displacement_cc,
    )


@dataclass(frozen=True, kw_only=True)
class BikeSpec:
    """What one bike is serviced by: its model's approved sheet with its own values laid over;
    ``own`` are those values' revisions, ``waiting`` those of them that no second person has checked yet:
    until then the sheet's count."""

    sheet: SpecSheet
    cells: Cells
    own: Mapping[Path, int]
    reservoirs: tuple[ReservoirSpec, ...]
    waiting: Mapping[Path, Cell] = field(default_factory=dict)

    def reservoir(self, key: str) -> ReservoirSpec | None:
        return next((spec for spec in self.reservoirs if spec.key == key), None)

    def cells_of(self, key: str) -> dict[Path, Cell]:
        return {path: one for path, one in self.cells.items() if path.reservoir == key}

    def waiting_of(self, key: str) -> dict[Path, Cell]:
        return {path: one for path, one in self.waiting.items() if path.reservoir == key}


def model_spec(sheet: SpecSheet) -> BikeSpec:
    """A sheet as it stands for every bike of the model; prefetch its cells."""
    laid = cells(sheet.cells.all())
    return BikeSpec(sheet=sheet, cells=laid, own={}, reservoirs=sheet_of(laid))


def own_spec(spec: BikeSpec, own: Sequence[OwnCell]) -> BikeSpec:
    """The sheet with one bike's own values."""
    if not own:
        return spec
    told = cells(own)
    waiting = {path: cell for path, cell in told.items() if not counts(path, cell)}
    laid = overlay(spec.cells, {path: one for path, one in told.items() if path not in waiting})
    revisions = {path_of(row): row.revision for row in own}
    mine = {path: at for path, at in revisions.items() if path in laid or path in waiting}
    return BikeSpec(
        sheet=spec.sheet, cells=laid, own=mine, reservoirs=sheet_of(laid), waiting=waiting
    )


def last_reading(row: OdometerReading) -> LastReading:
    return LastReading(row.km, row.read_on)


def odometer(bike: Bike) -> Odometer:
    return Odometer(bike.odometer_unit, bike.offset_km)


def odometer_at(bike: Bike, reading: OdometerReading) -> Odometer:
    """The odometer a bike had when this was read; the one fitted now where nobody knows."""
    offset = bike.offset_km if reading.offset_km is None else reading.offset_km
    return Odometer(bike.odometer_unit, offset)


def bike_form(bike: Bike | None) -> BikeForm:
    """A bike as its form shows it; without one, an empty form."""
    if bike is None:
        return BikeForm(
            id="",
            model=0,
            name="",
            owner="",
            use_class=USE_CLASSES[0],
            odometer_unit="km",
            records=Bike.Records.NONE,
            new_on="",
            severity="1",
            counts_hours=False,
            notes="",
            archived=False,
            version=0,
        )
    return BikeForm(
        id=str(bike.pk),
        model=bike.model_id,
        name=bike.name,
        owner=bike.owner,
        use_class=bike.use_class,
        odometer_unit=bike.odometer_unit,
        records=bike.records,
        new_on=bike.new_on.isoformat() if bike.new_on else "",
        severity=f"{bike.severity.normalize():f}",
        counts_hours=bike.counts_hours,
        notes=bike.notes,
        archived=bike.archived,
        version=bike.version,
        plate=bike.plate,
        frame_number=bike.frame_number,
        year_built=f"{bike.year_built or ''}",
        engine_number=bike.engine_number,
        engine_at=_exactly(bike, bike.engine_at_km, bike.offset_km),
        engine_had=_exactly(bike, bike.engine_had_km),
    )


def _exactly(bike: Bike, km: Decimal | None, offset: Decimal = Decimal(0)) -> str:
    """A distance for a form: read back, it is the same to the metre."""
    return "" if km is None else format_exact(km - offset, bike.odometer_unit)


def engine_words(bike: Bike, now_km: Decimal) -> str:
    """The engine's number, and its own distance where it is not the first one."""
    if bike.engine_at_km is None:
        return bike.engine_number
    own = engine_run(now_km, bike.engine_at_km, bike.engine_had_km)
    fitted = shown(bike.engine_at_km, odometer(bike))
    words = f"has run {show(own, bike.odometer_unit)} itself, fitted at {fitted}"
    return f"{bike.engine_number}, {words}" if bike.engine_number else words


def school_topic(topic: Topic, schools: Schools) -> SchoolTopic:
    lines = [(kind, schools.of(kind, topic.key)) for kind in topic.kinds]
    return SchoolTopic(
        key=topic.key,
        label=topic.label,
        acts=topic.acts,
        choices=list(topic.choices),
        lines=[SchoolLine(kind.value, chosen.choice, chosen.whose) for kind, chosen in lines],
    )


def meter(reading: OdometerReading) -> Meter:
    return Meter(reading.read_on, reading.km, reading.hours)


def when_new(bike: Bike) -> Meter | None:
    """Where counting starts for a bike known from new; None when its history is unknown."""
    if bike.records != Bike.Records.FROM_NEW or bike.new_on is None:
        return None
    return Meter(bike.new_on, Decimal(0), Decimal(0))

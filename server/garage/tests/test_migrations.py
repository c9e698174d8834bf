"""Sheets of an earlier release become cells, and open work keeps its values."""

from datetime import UTC, date, datetime
from decimal import Decimal
from typing import Any
from uuid import uuid4

from demo.as_in_use import MigrationTestCase

BEFORE = [
    ("workshop", "0009_currency"),
    ("garage", "0001_initial"),
    ("visits", "0003_service_take_valid"),
]


class CellsMigrationTests(MigrationTestCase):
    def old_sheet(self, apps: Any) -> Any:
        get = apps.get_model
        mira = get("workshop", "Person").objects.create(username="mira", name="Mira", role="lead")
        model = get("garage", "BikeModel").objects.create(
            make="Brackwell", name="Old 900", year=2001, layout="V-twin, belt", displacement_cc=900
        )
        sheet = get("garage", "SpecSheet").objects.create(model=model, version=1, entered_by=mira)
        row = get("garage", "ReservoirRow").objects.create(
            sheet=sheet, key="engine", kind="engine", label="engine", order=0, fill_rule="level",
            fluid="20W-50, MA2", gauge="dipstick", attitude="upright",
        )  # fmt: skip
        source = {"source_document": "manual", "source_page": "7", "entered_by": mira}
        get("garage", "SpecValue").objects.create(
            reservoir=row, name="capacity.drain only", low=3000, high=3000, as_written="3 l",
            checked_by=mira, **source,
        )  # fmt: skip
        get("garage", "FastenerRow").objects.create(
            reservoir=row, role="drain plug", place="below", thread="M14x1.5", drive="17 mm",
            magnet=True, soft=True, seal="washer", as_written="20 N·m", **source,
        )  # fmt: skip
        bike = get("garage", "Bike").objects.create(
            model=model, name="Tern", use_class="touring", odometer_unit="km", records="none"
        )
        odometer = get("garage", "OdometerReading").objects.create(
            bike=bike, km=Decimal(10), as_written="10", read_on=date(2026, 1, 1), read_by=mira
        )
        visit = get("visits", "Visit").objects.create(
            id=uuid4(), bike=bike, sheet=sheet, odometer=odometer, opened_by=mira,
            opened_at=datetime(2026, 1, 1, tzinfo=UTC),
        )  # fmt: skip
        return get("visits", "Task").objects.create(
            visit=visit, reservoir=row, variant="drain only"
        )

    def test_every_value_is_carried_over_with_its_source(self) -> None:
        self.old_sheet(self.as_of(BEFORE))
        apps = self.migrate()
        cells = {
            (cell.part, cell.field): cell
            for cell in apps.get_model("garage", "SheetCell").objects.all()
        }
        capacity = cells[("", "capacity.drain only")]
        self.assertEqual(
            (capacity.written, capacity.low, capacity.document, capacity.page, capacity.checked_by),
            ("3 l", 3000, "manual", "7", "Mira"),
        )
        for (part, field), written in {
            ("", "fluid.grade"): "20W-50",
            ("", "fluid.friction"): "MA2",
            ("", "level.gauge"): "dipstick",
            ("drain plug", "torque"): "20 N·m",
            ("drain plug", "magnet"): "yes",
            ("drain plug", "material"): "aluminium",
        }.items():
            self.assertEqual(cells[(part, field)].written, written)
        task = apps.get_model("visits", "Task").objects.get()
        self.assertEqual(task.reservoir, "engine")
        self.assertEqual(task.spec["engine//capacity.drain only"]["written"], "3 l")
        self.assertEqual(task.spec["engine/drain plug/torque"]["written"], "20 N·m")

"""A calendar of an earlier release keeps its visits, each part with its name."""

from datetime import date
from uuid import uuid4

from demo.as_in_use import MigrationTestCase

BEFORE = [("planning", "0003_lasts"), ("garage", "0004_own_schools")]


class CalendarMigrationTests(MigrationTestCase):
    def test_a_planned_part_is_called_by_its_key(self) -> None:
        old = self.as_of(BEFORE).get_model
        model = old("garage", "BikeModel").objects.create(
            make="Brackwell", name="Old 900", year=2001, layout="V-twin, belt", displacement_cc=900
        )
        bike = old("garage", "Bike").objects.create(
            model=model, name="Tern", use_class="touring", odometer_unit="km", records="none"
        )
        task = {"reservoir": "fork left", "variant": "dry"}
        old("planning", "PlannedVisit").objects.create(
            id=uuid4(), bike=bike, on=date(2027, 1, 4), tasks=[task], planned_by="Mira"
        )
        visit = self.migrate().get_model("planning", "PlannedVisit").objects.get()
        self.assertEqual(visit.tasks, [{**task, "label": "fork left"}])
        self.assertEqual((visit.done, visit.state), ({}, "planned"))
        self.assertIsNotNone(visit.planned_at)

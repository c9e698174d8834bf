"""A closed visit keeps what it answered, whatever is changed afterwards."""

import json
from datetime import timedelta
from decimal import Decimal
from pathlib import Path
from unittest import mock

from django.db import DatabaseError, transaction
from django.utils import timezone
from shelf.models import Fluid, WrenchRow
from workshop.models import Person, SchoolRow

from visits.models import ClosingRow, Service, Visit
from visits.tests.test_visit import PASTE, VisitTestCase

CLOSING_1 = Path(__file__).resolve().parents[3] / "core/tests/golden/closing_1.json"


class ClosingTests(VisitTestCase):
    def read(self) -> dict[str, object]:
        return {**self.api.get(f"/api/visits/{self.mira.visit}/").json(), "now": ""}

    def test_a_signed_visit_is_never_folded_again(self) -> None:
        self.mira.whole(parts=[PASTE])
        self.mira.sign()
        then = self.read()
        with mock.patch("visits.selectors.fold", side_effect=AssertionError("folded")):
            self.assertEqual(self.read(), then)

    def test_wrenches_fluids_and_schools_changed_later_do_not_show(self) -> None:
        self.mira.whole(parts=[PASTE])
        self.mira.sign()
        then = self.read()
        WrenchRow.objects.update(low=Decimal(90), high=Decimal(200))
        Fluid.objects.update(bottle_ml=Decimal(5000))
        SchoolRow.objects.all().delete()
        self.assertEqual(self.read(), then)
        self.assertTrue(then["tasks"][0]["torque"]["wrenches"])

    def test_a_visit_that_was_left_keeps_its_answer_too(self) -> None:
        self.mira.open()
        self.mira.leave("Owner came early")
        then = self.read()
        with mock.patch("visits.selectors.fold", side_effect=AssertionError("folded")):
            self.assertEqual(self.read(), then)

    def test_a_visit_signed_with_the_last_release_reads_as_it_was_signed(self) -> None:
        self.mira.open()
        person = Person.objects.get(username="mira")
        Visit.objects.filter(pk=self.mira.visit).update(
            state="signed", closed_by=person, closed_at=timezone.now()
        )
        document = json.loads(CLOSING_1.read_text())
        ClosingRow.objects.create(visit_id=self.mira.visit, document=document)
        sheet = self.read()
        (engine,) = sheet["tasks"]
        self.assertEqual((engine["drained"], engine["added"]), ("2500 ml", "2620 ml"))
        self.assertEqual(engine["fluid"], "Harbour 10W-40")
        self.assertEqual(engine["torque"]["verdict"], "in")
        words = {part["part"]: part["word"] for part in engine["standing"]}
        self.assertEqual(words["Drain plug"], "torqued")
        self.assertEqual(sheet["steps"][-1]["id"], "finish")

    def test_a_closing_is_written_once(self) -> None:
        self.mira.whole()
        self.mira.sign()
        self.mira.sign()
        self.assertEqual(ClosingRow.objects.count(), 1)
        for write in (ClosingRow.objects.update, ClosingRow.objects.all().delete):
            with self.assertRaises(DatabaseError), transaction.atomic():
                write(**({} if write.__name__ == "delete" else {"document": {}}))

    def test_a_reading_corrected_later_drops_nothing_from_what_it_took(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        self.mira.round("0.4")
        self.mira.pour()
        poured = self.mira.task["added"]
        read = self.mira.step("engine/level.1")["entry"]["id"]
        full = {"sight": "seen", "position": "0.72", "attitude": "upright"}
        self.mira.entry("level", full, step="engine/level.1", supersedes=read)
        self.assertEqual((self.mira.task["added"], self.mira.sheet["set_aside"]), (poured, []))
        self.mira.wait(2)
        self.mira.now += timedelta(minutes=3)
        self.mira.entry("level", full)
        self.mira.dry()
        self.mira.tick()
        self.assertEqual(self.mira.sign().status_code, 200)
        took = Service.objects.get(visit_id=self.mira.visit).took_ml
        self.assertEqual(f"{took:.0f} ml", poured)

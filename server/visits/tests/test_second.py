"""A second person at a fastener that two stand for: with a PIN or password, never one's own, never a
tick."""

from datetime import timedelta
from typing import Any
from uuid import uuid4

from shelf.models import WrenchRow
from workshop.models import Person

from visits.models import EntryRow
from visits.tests.test_visit import VisitTestCase

PLUG = "engine/torque"


class SecondTests(VisitTestCase):
    """The workshop asks for a second look at what was tightened by feel."""

    def setUp(self) -> None:
        super().setUp()
        choice = {"kind": "engine", "topic": "by feel", "choice": "a second person looks"}
        body = {**choice, "bike": "", "seen": ""}
        self.assertEqual(
            self.signed_in("oda").put("/api/schools/", body, format="json").status_code, 200
        )
        self.mira.open()
        self.mira.until_drained()
        self.mira.entry("amount", {"amount": self.mira.task["capacity"]})
        self.mira.entry("finding", {"parts": [], "oil": []})
        self.mira.entry("answer", {"value": "new"})
        self.mira.tick()

    def feel(self) -> None:
        self.mira.entry("torque", {"feel": True}, step=PLUG)

    def look(self, username: str, password: str, entry: str = "") -> Any:
        body = {"username": username, "password": password, "id": entry or str(uuid4())}
        return self.mira._post(f"/api/visits/{self.mira.visit}/second/", {**body, "step": PLUG})

    def test_somebody_else_looks_and_it_is_closed(self) -> None:
        self.feel()
        self.assertEqual(self.mira.step(PLUG)["status"], "ready")
        entry = str(uuid4())
        for _ in range(2):  # sent twice, it stands once
            self.assertEqual(
                self.look("oda", "harbour-oda", entry).status_code, 200, self.mira.last.content
            )
        self.assertEqual(self.mira.step(PLUG)["status"], "done")
        row = EntryRow.objects.get(visit=self.mira.visit, kind="second look")
        self.assertEqual((row.data["name"], row.by.name), ("Oda", "Mira"))
        self.assertNotIn("harbour", str(row.data))

    def test_never_one_s_own(self) -> None:
        self.feel()
        answer = self.look("mira", "harbour-mira")
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "second.same"))

    def test_never_with_a_wrong_password_nor_by_an_apprentice(self) -> None:
        self.feel()
        self.assertEqual(self.look("oda", "wrong").json()["code"], "access.wrong_password")
        Person.objects.filter(username="oda").update(role="apprentice")
        self.assertEqual(self.look("oda", "harbour-oda").json()["code"], "access.not_alone")

    def test_not_before_it_is_pulled(self) -> None:
        self.assertEqual(self.look("oda", "harbour-oda").json()["code"], "second.not_pulled")

    def test_an_entry_is_no_way_round(self) -> None:
        self.feel()
        oda = Person.objects.get(username="oda")
        said = {"name": "Oda", "person": str(oda.pk)}
        answer = self.mira.entry("second look", said, step=PLUG)
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "second.door"))
        self.assertEqual(self.mira.step(PLUG)["status"], "ready")

    def test_alone_one_looks_again_ten_minutes_later(self) -> None:
        Person.objects.exclude(username="mira").update(is_active=False)
        self.feel()
        self.assertEqual(self.look("mira", "harbour-mira").json()["code"], "second.later")
        self.mira.now += timedelta(minutes=10)
        self.assertEqual(self.look("mira", "harbour-mira").status_code, 200)
        self.assertEqual(self.mira.step(PLUG)["status"], "done")
        self.assertIn("one pair of eyes", self.mira.step(PLUG)["entry"]["result"])


class WrenchTests(VisitTestCase):
    """A wrench past its calibration is said, not refused; the record names wrench and day."""

    def test_the_record_names_the_wrench_and_its_pulls_are_counted(self) -> None:
        before = {row.name: row.pulls for row in WrenchRow.objects.all()}
        self.mira.whole()
        result = self.mira.step(PLUG)["entry"]["result"]
        row = next(row for row in WrenchRow.objects.all() if row.name in result)
        self.assertIn(f"calibrated {row.calibrated_on}", result)
        self.mira.sign()
        row.refresh_from_db()
        self.assertEqual(row.pulls, before[row.name] + 1)

    def test_one_that_is_past_says_so_on_its_card(self) -> None:
        WrenchRow.objects.update(pulls=5000)
        self.mira.open()
        best = self.mira.step(PLUG)["card"]["wrenches"][0]
        self.assertIn("past its calibration", best["calibration"])

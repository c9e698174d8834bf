"""A finding that says hold: nothing is run or signed until a lead lifts it, or hands the bike back."""

from typing import Any
from uuid import uuid4

from findings.models import Answer, Finding
from shelf.models import WasteRow

from visits.models import Visit
from visits.tests.bench import Technician
from visits.tests.test_visit import PASTE, VisitTestCase

FRAGMENT = {**PASTE, "form": "fragments", "share_percent": "5"}


class HoldTests(VisitTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.mira.open()
        self.mira.until_fill(parts=[FRAGMENT])
        self.oda = Technician(self.signed_in("oda"), self.heron.pk)
        self.oda.visit, self.oda.now, self.oda.sheet = (
            self.mira.visit,
            self.mira.now,
            self.mira.sheet,
        )

    def answer(self, who: Technician, **more: Any) -> Any:
        (stop,) = who.sheet["stops"]
        data = {"entry": stop["entry"], "reason": "Old tooth; pump and gears fine", **more}
        return who.entry("answered", data, step=stop["step"])

    def ward(self) -> dict[str, Any]:
        bikes = self.api.get("/api/ward/?search=Grey+Heron").json()["bikes"]
        return dict(bikes[0])

    def test_it_stops_the_visit_and_only_a_lead_lifts_it(self) -> None:
        (stop,) = self.mira.sheet["stops"]
        self.assertTrue(stop["hold"])
        self.assertEqual(self.mira.sign().status_code, 409)
        refused = self.answer(self.mira)
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "visit.hold_lead"))
        self.assertEqual(self.answer(self.oda).status_code, 200)
        self.assertEqual(self.oda.sheet["stops"], [])
        self.mira.sheet, self.mira.now = self.oda.sheet, self.oda.now
        for position in ("0.4", "0.72"):
            self.mira.round(position)
        self.mira.dry()
        self.mira.tick()
        self.assertEqual(self.mira.sign().status_code, 200, self.mira.last.content)
        finding = Finding.objects.get(bike=self.heron, level="hold")
        (lifted,) = Answer.objects.filter(finding=finding)
        self.assertEqual((lifted.outcome, lifted.by.name), ("lifted", "Oda"))
        self.assertEqual(self.ward()["hold"], "")

    def test_handed_back_it_is_left_with_what_was_found_and_stays_on_hold(self) -> None:
        self.assertEqual(self.answer(self.oda, handed_back=True).status_code, 200)
        self.assertIn("Old tooth", self.oda.sheet["handed_back"])
        self.assertEqual(self.mira.sign().status_code, 409)
        self.assertEqual(self.mira.leave("Owner fetches it by van").status_code, 200)
        self.assertEqual(Visit.objects.get(pk=self.mira.visit).state, "left")
        self.assertTrue(self.ward()["hold"])
        # its oil is out all the same
        out = WasteRow.objects.get(kind="drained")
        self.assertEqual(out.note, "Grey Heron: engine")
        finding = Finding.objects.get(bike=self.heron, level="hold")
        url = f"/api/findings/{finding.pk}/answers/"
        body = {"id": str(uuid4()), "outcome": "lifted", "words": "Rebuilt elsewhere, run in"}
        told = self.api.post(url, body, format="json")
        self.assertEqual((told.status_code, told.json()["code"]), (422, "finding.lead"))
        lead = self.signed_in("oda")
        for _ in range(2):
            self.assertEqual(lead.post(url, body, format="json").status_code, 201)
        self.assertEqual(lead.post(url, {**body, "words": "x"}, format="json").status_code, 409)
        self.assertEqual(Answer.objects.filter(finding=finding).count(), 2)
        self.assertEqual(self.ward()["hold"], "")

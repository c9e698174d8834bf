"""A value written for one bike, where its sheet has none, does not count at the bench by itself."""

from typing import Any

from django.utils import timezone
from garage.models import SpecSheet

from visits.models import EntryRow
from visits.tests.bench import Technician
from visits.tests.test_visit import VisitTestCase

PATH, STEP = "engine/drain plug/torque", "engine/look up.drain plug.torque"


class WaitingTests(VisitTestCase):
    def setUp(self) -> None:
        super().setUp()
        draft = self.signed_in("oda").post(
            f"/api/models/{self.heron.model_id}/draft/", {}, format="json"
        )
        sheet = SpecSheet.objects.get(pk=draft.json()["id"])
        sheet.cells.filter(reservoir="engine", part="drain plug", field="torque").delete()
        sheet.state, sheet.approved_by, sheet.approved_at = (
            "approved",
            sheet.entered_by,
            timezone.now(),
        )
        sheet.save()
        body = {"path": PATH, "written": "90 N·m", "revision": 0, "document": "", "page": ""}
        url = f"/api/bikes/{self.heron.pk}/own-values/"
        self.assertEqual(self.api.put(url, body, format="json").status_code, 204)
        self.assertEqual(self.mira.open().status_code, 201, self.mira.last.content)
        self.oda = Technician(self.signed_in("oda"), self.heron.pk)
        self.oda.visit, self.oda.now, self.oda.sheet = (
            self.mira.visit,
            self.mira.now,
            self.mira.sheet,
        )

    def look_up(self, who: Technician, **data: Any) -> tuple[int, str]:
        answer = who.entry("look up", data, step=STEP)
        return answer.status_code, answer.json().get("code", "")

    def test_a_lead_says_so_at_the_step(self) -> None:
        waits = self.mira.step(STEP)["own"]
        self.assertEqual((waits["written"], waits["by"]), ("90 N·m", "Mira"))
        self.assertEqual(self.look_up(self.mira, stands=True), (422, "visit.own_lead"))
        self.assertEqual(self.look_up(self.oda, stands=True)[0], 200)
        self.assertEqual(self.oda.step(STEP)["status"], "done")
        row = EntryRow.objects.get(visit=self.mira.visit, step=STEP)
        self.assertEqual((row.data["written"], row.data["stands"]), ("90 N·m", True))

    def test_whoever_wrote_it_is_no_second_person_and_anybody_looks_another_up(self) -> None:
        said = {"written": "90 N·m", "document": "Colossine workshop manual", "page": "12"}
        self.assertEqual(self.look_up(self.mira, **said), (422, "visit.own_again"))
        self.assertEqual(self.look_up(self.mira, **{**said, "written": "29 N·m"})[0], 200)

    def test_a_correction_passes_the_same_door(self) -> None:
        said = {"written": "29 N·m", "document": "Colossine workshop manual", "page": "12"}
        self.look_up(self.mira, **said)
        first = self.mira.step(STEP)["entry"]["id"]
        wrong = {"data": {"stands": True}, "supersedes": first, "step": STEP}
        answer = self.mira.entry("look up", **wrong)
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "visit.own_lead"))

    def test_what_stands_for_this_bike_goes_into_no_other_s_sheet(self) -> None:
        self.look_up(self.oda, stands=True)
        self.oda.until_drained()
        self.oda.entry("amount", {"amount": self.oda.task["capacity"]})
        self.oda.entry("finding", {"parts": [], "oil": ["dark"]})
        self.oda.entry("answer", {"value": "new"})
        self.oda.tick()
        self.oda.torqued()
        self.oda.entry("filter", {"amount": "5 oz", "items": self.oda.ticks()})
        self.oda.round("0.4")
        self.oda.round("0.72")
        self.oda.dry()
        self.oda.tick()
        self.assertEqual(self.oda.sign().status_code, 200, self.oda.last.content)
        drafts = SpecSheet.objects.filter(model=self.heron.model_id, state="draft")
        self.assertFalse(drafts.filter(cells__written="90 N·m").exists())

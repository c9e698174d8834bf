"""The container of used oil: what runs in, what is collected, and the slip."""

from decimal import Decimal
from typing import Any
from uuid import uuid4

from visits.models import Visit
from visits.tests.test_visit import VisitTestCase

from shelf.models import WasteRow


class WasteTests(VisitTestCase):
    def setUp(self) -> None:
        super().setUp()
        # what the demo has in it is gone
        self.say("collected", "31 l")
        self.there = WasteRow.objects.count()

    def say(self, kind: str, amount: str, **more: str) -> Any:
        form = {"id": str(uuid4()), "kind": kind, "amount": amount, **more}
        return self.api.post("/api/shelf/waste/", form, format="json")

    @property
    def waste(self) -> dict[str, Any]:
        return dict(self.api.get("/api/shelf/waste/").json())

    def test_a_signed_visit_runs_into_it_once(self) -> None:
        self.mira.whole()
        out = self.mira.task["drained"]
        for _ in range(2):
            self.assertEqual(self.mira.sign().status_code, 200)
        row = WasteRow.objects.get(kind="drained")
        self.assertEqual(f"{row.ml:.0f} ml", out)
        self.assertEqual(row.note, f"{Visit.objects.get(pk=self.mira.visit).bike.name}: engine")
        litres = Decimal(out.split()[0]) / 1000
        self.assertAlmostEqual(float(self.waste["level"].split()[0]), float(litres), delta=0.01)

    def test_what_nobody_measured_counts_by_the_book(self) -> None:
        self.mira.open()
        self.mira.until_drained()
        self.mira.entry("skip", {"reason": "jug in use"})
        self.mira.entry("finding", {"parts": [], "oil": ["dark"]})
        self.mira.entry("answer", {"value": "new"})
        self.mira.tick()
        self.mira.entry("torque", {"reading": self.mira.task["torque"]["aim"]})
        self.mira.entry("filter", {"amount": "5 oz", "items": self.mira.ticks()})
        self.mira.round("0.4")
        self.mira.round("0.72")
        self.mira.dry()
        self.mira.tick()
        self.assertEqual(self.mira.sign().status_code, 200, self.mira.last.content)
        row = WasteRow.objects.get(kind="drained")
        self.assertIn("not measured, by the book", row.note)
        self.assertEqual(f"{row.ml:.0f} ml", self.mira.task["capacity"])

    def test_it_fills_is_collected_and_has_its_slip(self) -> None:
        self.say("container", "60 l")
        self.assertEqual((self.waste["share"], self.waste["full"]), (0, ""))
        self.say("added", "52 l", note="from the old drum")
        self.assertEqual(self.waste["full"], "Nearly full: have it collected.")
        taken = self.say("collected", "50.5 l", note="Harbour Recycling, slip 114")
        self.assertEqual(taken.status_code, 200, taken.content)
        self.assertEqual((self.waste["share"], self.waste["level"]), (0, "0 l of 60 l"))
        first = self.waste["rows"][0]
        self.assertEqual((first["kind"], first["slip"]), ("collected", True))
        paper = self.api.get(f"/api/shelf/waste/{first['id']}/slip.pdf")
        self.assertEqual(paper["content-type"], "application/pdf")
        self.assertTrue(paper.content.startswith(b"%PDF"))
        other = self.waste["rows"][1]["id"]
        self.assertEqual(self.api.get(f"/api/shelf/waste/{other}/slip.pdf").status_code, 404)
        self.assertEqual(self.say("collected", "1 l").json()["code"], "shelf.waste_empty")

    def test_sent_twice_it_is_done_once_and_never_means_something_else(self) -> None:
        form = {"id": str(uuid4()), "kind": "added", "amount": "3 l"}
        for _ in range(2):
            self.assertEqual(
                self.api.post("/api/shelf/waste/", form, format="json").status_code, 200
            )
        self.assertEqual(WasteRow.objects.count(), self.there + 1)
        other = self.api.post("/api/shelf/waste/", {**form, "amount": "4 l"}, format="json")
        self.assertEqual(other.json()["code"], "visit.id_taken")

    def test_bad_input_gets_a_sentence_at_its_field(self) -> None:
        for kind, amount, pointer in (
            ("added", "", "/amount"), ("added", "0 l", "/amount"), ("added", "9000 l", "/amount"),
            ("added", "20 N·m", "/amount"), ("drained", "3 l", "/kind"), ("sold", "3 l", "/kind"),
        ):  # fmt: skip
            with self.subTest(kind=kind, amount=amount):
                answer = self.say(kind, amount)
                self.assertEqual(answer.status_code, 422, answer.content)
                self.assertEqual(answer.json()["errors"][0]["pointer"], pointer)
        self.assertEqual(WasteRow.objects.count(), self.there)

    def test_a_reader_looks_and_does_not_see_to_it(self) -> None:
        piet = self.signed_in("piet")
        self.assertEqual(piet.get("/api/shelf/waste/").status_code, 200)
        form = {"id": str(uuid4()), "kind": "added", "amount": "3 l"}
        self.assertEqual(piet.post("/api/shelf/waste/", form, format="json").status_code, 403)

"""A sample out, a report in, its point on the axis; nothing taken twice, every fault by its line."""

import json
from datetime import timedelta
from io import BytesIO
from typing import Any
from uuid import uuid4

from demo.queue import work_off
from demo.testing import WorkshopTestCase
from garage.models import Bike
from pypdf import PdfReader
from workshop import days
from workshop.background import set_aside

from planning.lab import services
from planning.models import LabFile, LabReport, LabValue, Sample

HEAD = "label,received,laboratory,Fe,Cu,kv100,water,p4,p6,p14\n"


class LabCase(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.ferry = Bike.objects.get(name="Ferry Bell")

    def sample(self, reservoir: str = "engine", **more: str) -> dict[str, Any]:
        body = {"id": str(uuid4()), "bike": str(self.ferry.pk), "reservoir": reservoir, **more}
        answer = self.api.post("/api/lab/samples/", body, format="json")
        self.assertEqual(answer.status_code, 201, answer.content)
        return dict(answer.json())

    def send(self, text: str, file_id: str = "") -> Any:
        body = {"id": file_id or str(uuid4()), "text": text}
        return self.api.post("/api/lab/files/", body, format="json")

    def taken(self, text: str) -> dict[str, Any]:
        """A file sent, and the background's work on it done."""
        sent = self.send(text)
        self.assertEqual(sent.status_code, 202, sent.content)
        self.assertFalse(sent.json()["finished"])
        self.assertGreater(work_off(), 0)
        return dict(self.api.get(f"/api/lab/files/{sent.json()['id']}/").json())

    def history(self) -> dict[str, Any]:
        return dict(self.api.get(f"/api/bikes/{self.ferry.pk}/lab/engine/").json())


class SampleTests(LabCase):
    def test_a_sample_has_a_label_of_its_own_and_knows_how_far_its_oil_ran(self) -> None:
        first, second = self.sample(), self.sample()
        self.assertRegex(first["label"], r"^S-[2-9A-HJ-NP-Z]{6}$")
        self.assertNotEqual(first["label"], second["label"])
        row = Sample.objects.get(pk=first["id"])
        self.assertEqual((row.km_on_oil, row.fluid != ""), (58_410 - 53_300, True))
        body = {"id": first["id"], "bike": str(self.ferry.pk), "reservoir": "engine"}
        self.api.post("/api/lab/samples/", body, format="json")
        self.assertEqual(Sample.objects.count(), 2)

    def test_the_label_is_a_page_with_the_code_and_the_letters(self) -> None:
        line = self.sample()
        paper = self.api.get(f"/api/lab/samples/{line['id']}/label/")
        self.assertEqual(paper["Content-Type"], "application/pdf")
        (page,) = PdfReader(BytesIO(paper.content)).pages
        text = page.extract_text()
        for words in (line["label"], "Ferry Bell, engine", "Mira"):
            self.assertIn(words, text)

    def test_what_was_never_served_gives_no_rate(self) -> None:
        lamp = Bike.objects.get(name="Lamplighter")
        body = {"id": str(uuid4()), "bike": str(lamp.pk), "reservoir": "engine"}
        refused = self.api.post("/api/lab/samples/", body, format="json")
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "lab.never_served"))
        nowhere = {"id": str(uuid4()), "fluid": "Unheard of"}
        refused = self.api.post("/api/lab/samples/", nowhere, format="json")
        self.assertEqual(refused.json()["code"], "visit.no_fluid")


class ReportTests(LabCase):
    def test_a_report_stands_on_the_axis_above_fresh_oil(self) -> None:
        used = self.sample()
        row = Sample.objects.get(pk=used["id"])
        fresh = self.sample(bike="", reservoir="", fluid=row.fluid)
        said = self.taken(
            HEAD
            + f"{used['label']},2026-11-01,North quay,46,9,11.0,0.3,2300,490,62\n"
            + f"{fresh['label']},2026-11-01,North quay,2,0,14.3,,,,\n"
        )
        self.assertEqual((said["done"], said["taken"], said["faults"]), (2, 2, []))
        page = self.history()
        (point,) = page["points"]
        rates = {one["element"]: one["rate"] for one in point["rates"]}
        self.assertAlmostEqual(rates["Fe"], 44 / 5.11, places=1)
        self.assertEqual(point["particles"], "18/16/13")
        said = [(one["level"], one["text"].split(":")[0]) for one in point["remarks"]]
        self.assertIn(("investigate", "Water 0.3 %"), said)
        self.assertIn(("investigate", "Viscosity at 100 °C -23 % of fresh"), said)
        self.assertIn("has left its grade", said[-1][1])
        self.assertFalse(point["simulated"])
        self.assertEqual([one["element"] for one in page["elements"]], ["Fe", "Cu"])

    def test_faults_by_line_and_the_rest_is_taken_once(self) -> None:
        label = self.sample()["label"]
        text = (
            HEAD
            + f"{label},2026-11-01,,46,,,,,,\nS-NOBODY,2026-11-01,,1,,,,,,\n{label},soon,,1,,,,,,\n"
        )
        said = self.taken(text)
        self.assertEqual((said["lines"], said["done"], said["taken"]), (3, 3, 1))
        self.assertEqual([one["line"] for one in said["faults"]], [3, 4])
        self.assertIn("No sample waits under the label S-NOBODY", said["faults"][0]["said"])
        # begun again after a fall, nothing is taken twice
        LabFile.objects.update(finished_at=None)
        services.left(None)
        work_off()
        self.assertEqual((LabReport.objects.count(), LabValue.objects.count()), (1, 1))

    def test_a_report_cannot_have_come_tomorrow(self) -> None:
        tomorrow = days.today() + timedelta(days=1)
        label = self.sample()["label"]
        said = self.taken(
            HEAD + f"{label},{tomorrow},,46,,,,,,\n{label},{days.today()},,46,,,,,,\n"
        )
        self.assertEqual((said["taken"], said["faults"][0]["line"]), (1, 2))
        self.assertEqual(
            said["faults"][0]["said"], f"{tomorrow} is still to come. When did it come?"
        )

    def test_what_is_no_file_is_refused_whole_in_words(self) -> None:
        said = self.taken('{"format": "something"}')
        self.assertTrue(said["finished"])
        self.assertIn("oil-ward/lab-report/1", said["refused"])

    def test_half_a_character_is_a_fault_of_its_line_and_nothing_waits_for_ever(self) -> None:
        label = self.sample()["label"]
        reports = [
            {"label": label, "received": "2026-11-01", "Fe": 46},
            {"label": "S-\ud800", "received": "2026-11-01", "Fe": 46},
            {"label": label, "received": "2026-11-01", "laboratory": "a\x00b", "Fe": 46},
            {"label": label, "received": "2026-11-01", "X\udfff": 46},
        ]
        said = self.taken(json.dumps({"format": "oil-ward/lab-report/1", "reports": reports}))
        self.assertTrue(said["finished"])
        self.assertEqual((said["taken"], [one["line"] for one in said["faults"]]), (1, [2, 3, 4]))
        self.assertEqual(set_aside(), [])

    def test_a_long_file_and_one_with_a_mark_of_the_byte_order(self) -> None:
        label = self.sample()["label"]
        lines = [
            f"{label},2026-11-01,A laboratory with a long name,{n},9,11.0,,,," for n in range(1750)
        ]
        said = self.taken("\ufeff" + HEAD + "\n".join(lines))
        self.assertEqual((said["refused"], said["taken"], said["faults"]), ("", 1750, []))

    def test_the_same_id_is_one_file(self) -> None:
        file_id = str(uuid4())
        for _ in range(2):
            self.assertEqual(self.send(HEAD, file_id).status_code, 202)
        self.assertEqual(self.send(HEAD + "x", file_id).status_code, 409)
        self.assertEqual(LabFile.objects.count(), 1)

    def test_many_lines_are_taken_in_pieces(self) -> None:
        labels = [self.sample()["label"] for _ in range(3)]
        lines = [f"{labels[n % 3]},2026-11-01,,{n % 90},,,,,," for n in range(1, 1001)]
        said = self.taken(HEAD + "\n".join(lines))
        self.assertEqual((said["done"], said["taken"]), (1000, 1000))

    def test_the_simulated_laboratory_says_that_it_is_simulated_and_answers_once(self) -> None:
        line = self.sample()
        for _ in range(2):
            told = self.api.post(f"/api/lab/samples/{line['id']}/simulated/")
            self.assertEqual((told.status_code, told.json()["answered"]), (201, True))
        (report,) = LabReport.objects.all()
        self.assertTrue(report.simulated)
        (point,) = self.history()["points"]
        self.assertEqual((point["simulated"], point["laboratory"]), (True, "Simulated laboratory"))
        self.assertRegex(point["particles"], r"^\d+/\d+/\d+$")

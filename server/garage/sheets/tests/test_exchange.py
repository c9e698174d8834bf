"""Sheets out and in again: documents, tables, lists of fasteners."""

import copy
import csv
import io
from typing import Any

from garage.models import BikeModel, SheetCell, SpecSheet

from .test_drafts import NEW, DraftCase


class DocumentTests(DraftCase):
    def exported(self, sheet_id: int) -> Any:
        return self.api.get(f"/api/sheets/{sheet_id}/document/").json()

    def take_in(self, document: Any) -> Any:
        return self.api.post("/api/sheets/document/", document, format="json")

    def unnamed(self, document: Any) -> Any:
        """A document without who entered and checked its values."""
        names = ("entered_by", "entered_on", "checked_by", "checked_on")
        if isinstance(document, dict):
            kept = {k: v for k, v in document.items() if k not in names}
            return {key: self.unnamed(value) for key, value in kept.items()}
        return [self.unnamed(v) for v in document] if isinstance(document, list) else document

    def test_an_import_brings_no_checks_along_but_what_stands_here_keeps_its_own(self) -> None:
        sheet = SpecSheet.objects.filter(cells__checked_by__gt="").earliest("id")
        checked = sheet.cells.exclude(checked_by="").count()
        document = self.exported(sheet.pk)
        foreign = copy.deepcopy(document)
        foreign["model"]["name"] += " III"
        page = self.take_in(foreign).json()
        cells = SpecSheet.objects.get(pk=page["id"]).cells.all()
        self.assertEqual({(c.entered_by, c.checked_by) for c in cells}, {("Mira", "")})
        again = self.take_in(document).json()
        own = SpecSheet.objects.get(pk=again["id"]).cells.exclude(checked_by="")
        self.assertEqual(own.count(), checked)

    def test_every_demo_sheet_out_deleted_and_in_again_is_identical(self) -> None:
        for sheet in SpecSheet.objects.filter(version=1):
            document = self.exported(sheet.pk)
            document["model"]["name"] += " II"
            first = self.take_in(document).json()
            self.assertEqual(self.unnamed(self.exported(first["id"])), self.unnamed(document))
            self.oda.delete(f"/api/models/{first['model']['id']}/")
            again = self.take_in(document).json()
            with self.subTest(document["model"]["name"]):
                self.assertNotEqual(first["id"], again["id"])
                out = self.unnamed(self.exported(again["id"]))
                self.assertEqual(out, self.unnamed(document))
                self.assertEqual(again["state"], "draft")

    def test_one_fault_and_nothing_is_taken_in(self) -> None:
        document = copy.deepcopy(self.exported(SpecSheet.objects.earliest("id").pk))
        document["model"]["name"] = "Faulty"
        engine = document["reservoirs"][0]
        engine["values"]["capacity.dry"]["written"] = "lots"
        engine["parts"][0]["values"]["torque"]["written"] = "20 N·m (20 lbf·ft)"
        counts = (BikeModel.objects.count(), SheetCell.objects.count())
        answer = self.take_in(document)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("in this document: 2.", answer.json()["detail"])
        places = [error["pointer"] for error in answer.json()["errors"]]
        self.assertIn("/reservoirs/0/values/capacity.dry/written", places)
        self.assertIn("not the same amount", str(answer.json()["errors"]))
        self.assertEqual(counts, (BikeModel.objects.count(), SheetCell.objects.count()))
        for nonsense in ([], {"format": "x"}):
            self.assertEqual(self.take_in(nonsense).status_code, 422)

    def test_a_draft_with_other_values_is_not_written_over(self) -> None:
        document = self.exported(SpecSheet.objects.get(model=self.model, version=1).pk)
        self.assertEqual(self.take_in(document).status_code, 201)
        self.write("engine//initial", "3 qt", 0)
        answer = self.take_in(document)
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "spec.draft_stands"))
        self.assertEqual(self.row("engine//initial")["written"], "3 qt")

    def test_values_without_a_name_are_the_importers(self) -> None:
        model = {**NEW}
        bare = {"kind": {"written": "engine"}, "initial": {"written": "2 l"}}
        document = {
            "format": "oil-ward/spec-sheet/1",
            "model": model,
            "reservoirs": [{"key": "engine", "values": bare}],
        }
        self.page = self.take_in(document).json()
        self.assertEqual(self.row("engine//initial")["entered_by"], "Mira")


class TableTests(DraftCase):
    def table(self, text: str, **more: Any) -> Any:
        body = {"text": text, "reservoir": "", "heading": True, "columns": [], **more}
        return self.api.post(f"{self.url}table/", body, format="json")

    def test_a_table_is_proposed_with_what_stands_and_what_is_wrong(self) -> None:
        answer = self.table(
            "Fastener,Reservoir,Torque,Page\n"
            "drain plug,engine,20 ft-lb,31\n"
            "drain plug,boiler,20 ft-lb,31\n"
            "fill plug,gearbox,tight,31\n"
        ).json()
        self.assertEqual(answer["columns"], ["part", "reservoir", "torque", "page"])
        good = [
            line for line in answer["lines"] if line["path"].endswith("engine/drain plug/torque")
        ]
        self.assertEqual((good[0]["stands"], good[0]["revision"]), ("18-25 ft-lb", 1))
        faults = {line["line"]: line["fault"] for line in answer["lines"] if line["fault"]}
        self.assertIn("boiler", faults[3])
        self.assertIn("is no amount", faults[4])
        self.assertEqual(self.row("engine/drain plug/torque")["written"], "18-25 ft-lb")

    def test_columns_can_be_mapped_by_hand(self) -> None:
        answer = self.table(
            "Capacity, dry\t4 qt", reservoir="engine", heading=False, columns=["field", "written"]
        ).json()
        self.assertEqual(answer["lines"][0]["path"], "engine//capacity.dry")
        self.assertEqual(self.table("a,b", columns=["horn"]).status_code, 422)
        self.assertEqual(self.table(" ").json()["code"], "table.empty")

    def test_fasteners_as_a_list(self) -> None:
        text = self.api.get(f"{self.url}fasteners.csv").content.decode()
        rows = list(csv.DictReader(io.StringIO(text)))
        drain = next(r for r in rows if (r["reservoir"], r["part"]) == ("engine", "drain plug"))
        self.assertEqual((drain["torque"], drain["thread"]), ("18-25 ft-lb", "M14x1.5"))
        self.assertEqual(drain["page"], "23")
        self.assertGreater(len(rows), 8)

    def test_a_cell_that_a_spreadsheet_would_run_is_text(self) -> None:
        sheet = SheetCell.objects.filter(field="place", part="drain plug").latest("id")
        SheetCell.objects.filter(pk=sheet.pk).update(written='=HYPERLINK("x")')
        text = self.api.get(f"/api/sheets/{sheet.sheet_id}/fasteners.csv").content.decode()
        places = [row["place"] for row in csv.DictReader(io.StringIO(text))]
        self.assertIn('\'=HYPERLINK("x")', places)

"""Sheets as documents and tables, out and in."""

import json
from datetime import date
from pathlib import Path as File
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from jsonschema import Draft202012Validator
from oilward_core.errors import CoreError
from oilward_core.exchange import ModelName, from_document, schema, to_document
from oilward_core.spec import Cell, Path, guess_columns, propose, read_table

from .test_cells import ENGINE, cells

MODEL = ModelName(
    make="Brackwell", name="Colossine 1640", year=2018, layout="V-twin, belt", displacement_cc=1640
)
PUBLISHED = File(__file__).parents[2] / "docs" / "formats" / "spec-sheet.schema.json"
words = st.text(min_size=1, max_size=20).filter(lambda text: text.strip() == text)


class DocumentTests(TestCase):
    def test_out_and_in_again_is_the_same(self) -> None:
        document = json.loads(json.dumps(to_document(MODEL, cells(ENGINE))))
        model, back, faults = from_document(document)
        self.assertEqual((model, back, faults), (MODEL, cells(ENGINE), ()))

    @given(words, words, words, st.dates() | st.none())
    def test_any_source_survives(
        self, label: str, document: str, who: str, day: date | None
    ) -> None:
        sheet = {
            Path.of("engine//kind"): Cell(written="engine"),
            Path.of("engine//label"): Cell(
                written=label, document=document, page="", entered_by=who, entered_on=day
            ),
        }
        self.assertEqual(from_document(to_document(MODEL, sheet))[1:], (sheet, ()))

    def test_the_schema_is_valid_and_published(self) -> None:
        Draft202012Validator.check_schema(schema())
        self.assertEqual(json.loads(PUBLISHED.read_text()), schema())

    def test_every_fault_is_named_with_its_place(self) -> None:
        document = to_document(MODEL, cells(ENGINE))
        reservoir = document["reservoirs"][0]
        reservoir["values"]["initial"] = {"written": "much"}
        reservoir["parts"][0]["values"]["torque"]["written"] = "20 l"
        reservoir["values"]["kind"]["entered_on"] = "2026-02-31"
        _, _, faults = from_document(document)
        found = {fault.place: fault.code for fault in faults}
        self.assertEqual(
            found,
            {
                "/reservoirs/0/values/initial/written": "spec.type_like",
                "/reservoirs/0/parts/0/values/torque/written": "quantity.wrong_kind",
                "/reservoirs/0/values/kind": "document.date",
            },
        )

    def test_shapes_that_are_none(self) -> None:
        good = to_document(MODEL, cells(ENGINE))
        for broken, place in (
            ([], "/"),
            ({}, "/"),
            ({**good, "format": "other"}, "/format"),
            ({**good, "model": {**good["model"], "year": "2018"}}, "/model/year"),
            ({**good, "reservoirs": [{"key": "a/b", "values": {}}]}, "/reservoirs/0/key"),
            ({**good, "reservoirs": [{"key": "a", "values": {}}]}, "/reservoirs/0/values"),
        ):
            with self.subTest(place):
                model, found, faults = from_document(broken)
                self.assertIsNone(model)
                self.assertEqual(found, {})
                self.assertIn(place, [fault.place for fault in faults])

    def test_a_reservoir_named_twice_is_a_fault(self) -> None:
        document = to_document(MODEL, cells({"//kind": "engine"}))
        document["reservoirs"] *= 2
        self.assertIn("document.twice", [fault.code for fault in from_document(document)[2]])


class TableTests(TestCase):
    def test_a_table_of_torques(self) -> None:
        rows = read_table(
            "Reservoir\tFastener\tTorque\tThread\tPage\n"
            "engine\tdrain plug\t18-25 ft-lb\tM14x1.5\t31\n"
            "gearbox\tdrain plug\t22\tM14x1.5\t32\n"
        )
        columns = guess_columns(rows)
        self.assertEqual(columns, ["reservoir", "part", "torque", "thread", "page"])
        found = propose(rows, columns, ["engine"])
        said = {str(p.path): (p.written, p.page) for p in found if not p.fault}
        self.assertEqual(said["engine/drain plug/torque"], ("18-25 ft-lb", "31"))
        self.assertEqual(said["engine/drain plug/role"], ("drain plug", "31"))
        (fault,) = [p for p in found if p.fault]
        self.assertEqual((fault.line, str(fault.path)), (3, "gearbox/drain plug/torque"))

    def test_a_table_of_values_for_one_reservoir(self) -> None:
        rows = read_table('What,Value\n\n"Capacity, with filter",2.7 l\nHorn,loud')
        found = propose(rows, guess_columns(rows), ["engine"], "engine")
        self.assertEqual(str(found[0].path), "engine//capacity.with filter")
        assert found[1].fault is not None
        self.assertEqual((found[1].line, found[1].fault.code), (3, "table.field"))

    def test_without_heading_and_with_unknown_reservoir(self) -> None:
        rows = read_table("sidecar;Capacity, dry;2 l")
        (only,) = propose(rows, ["reservoir", "field", "written"], ["engine"], "", heading=False)
        assert only.fault is not None
        self.assertEqual(only.fault.code, "table.reservoir")
        (empty,) = propose([["", "", ""]], ["reservoir"], [], "engine", heading=False)
        assert empty.fault is not None
        self.assertEqual(empty.fault.code, "table.nothing")

    def test_nothing_and_too_much(self) -> None:
        for text, code in (("  \n", "table.empty"), ("a,b\n" * 501, "table.long")):
            with self.subTest(code), self.assertRaises(CoreError) as caught:
                read_table(text)
            self.assertEqual(caught.exception.code, code)

"""Laboratory reports read line by line."""

import json
from contextlib import suppress
from datetime import date
from decimal import Decimal
from pathlib import Path
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from jsonschema import Draft202012Validator
from oilward_core.errors import CoreError
from oilward_core.usedoil import LAB_FORMAT, lab_schema, read_reports

PUBLISHED = Path(__file__).parents[2] / "docs" / "formats" / "lab-report.schema.json"
HEAD = "label,received,laboratory,Fe,Cu,kv100,water,p4,p6,p14\n"


class TableTests(TestCase):
    def test_a_table_with_its_numbers_as_they_are_printed(self) -> None:
        lines, faults = read_reports(
            HEAD + "s-7f3k,2026-05-04,North quay,46,<1,14.1,0.05,2300,490,62\n"
        )
        self.assertEqual(faults, ())
        (line,) = lines
        self.assertEqual((line.label, line.received), ("S-7F3K", date(2026, 5, 4)))
        self.assertEqual((line.values["Fe"], line.values["Cu"]), (Decimal(46), Decimal(0)))

    def test_semicolons_and_decimal_commas(self) -> None:
        ((line,), faults) = read_reports("Label;Received;FE;KV100\nS-1;2026-05-04;46,5;14,1\n")
        self.assertEqual(faults, ())
        self.assertEqual(
            (line.values["Fe"], line.values["kv100"]), (Decimal("46.5"), Decimal("14.1"))
        )

    def test_each_fault_by_its_line_and_the_others_are_taken(self) -> None:
        text = HEAD + "\n".join(
            [
                "S-1,2026-05-04,,46,,,,,,",
                ",2026-05-04,,46,,,,,,",
                "S-2,4 May,,46,,,,,,",
                "S-3,2026-05-04,,many,,,,,,",
                "S-4,2026-05-04,,,,,,,,",
                "S-5,2026-05-04,,46,,,140,,,",
                "S-9,2026-05-04,,46,,,,,,",
            ]
        )
        lines, faults = read_reports(text, ["S-1", "S-2", "S-3", "S-4", "S-5"])
        self.assertEqual([line.label for line in lines], ["S-1"])
        self.assertEqual(
            [(fault.line, fault.field) for fault in faults],
            [(3, "label"), (4, "received"), (5, "Fe"), (6, "label"), (7, "water"), (8, "label")],
        )
        self.assertEqual(faults[-1].code, "lab.no_sample")

    def test_a_column_nobody_knows_is_named(self) -> None:
        _, (fault,) = read_reports("label,received,Xx\nS-1,2026-05-04,3\n")
        self.assertEqual((fault.code, fault.field), ("lab.column", "Xx"))


class DocumentTests(TestCase):
    def test_the_schema_is_valid_and_published(self) -> None:
        Draft202012Validator.check_schema(lab_schema())
        self.assertEqual(json.loads(PUBLISHED.read_text()), lab_schema())

    def test_a_document_that_fits_the_schema_is_read(self) -> None:
        report = {"label": "S-7F3K", "received": "2026-05-04", "Fe": 46, "kv100": "14.1"}
        document = {"format": LAB_FORMAT, "reports": [report]}
        Draft202012Validator(lab_schema()).validate(document)
        ((line,), faults) = read_reports(json.dumps(document))
        self.assertEqual((line.values["Fe"], faults), (Decimal(46), ()))

    def test_anything_else_is_refused(self) -> None:
        for text in ('{"format": "other"}', "[1, 2]", "{", '{"a": ' * 5000):
            with self.subTest(text[:12]), self.assertRaises(CoreError) as refused:
                read_reports(text)
            self.assertEqual(refused.exception.code, "lab.format")
        self.assertEqual(read_reports(""), ((), ()))

    @given(st.text(max_size=300))
    def test_any_text_gives_an_answer_or_a_refusal(self, text: str) -> None:
        for found in (text, HEAD + text):
            with suppress(CoreError):
                read_reports(found)

    @given(st.data())
    def test_what_comes_of_a_document_can_be_kept(self, data: st.DataObject) -> None:
        odd = st.text(st.characters(categories=["Cs", "Cc", "Lu", "Nd"]), max_size=12)
        name = st.sampled_from(["label", "received", "laboratory", "Fe", "kv100"]) | odd
        value = odd | st.sampled_from(["S-1", "2026-05-04", "4"]) | st.integers() | st.none()
        reports = data.draw(st.lists(st.dictionaries(name, value), max_size=4))
        lines, faults = read_reports(
            json.dumps({"format": LAB_FORMAT, "reports": reports}), ["S-1"]
        )
        self.assertEqual(len(lines) + len(faults), len(reports))
        for text in (*(f"{x.label}{x.laboratory}" for x in lines), *map(str, map(vars, faults))):
            text.encode()
        for fault in faults:
            self.assertNotIn("\x00", "".join(map(str, (fault.field, *fault.fields.values()))))

    def test_half_a_character_is_a_fault_of_its_line(self) -> None:
        for odd in ("S-\ud800", "S-1\x00"):
            for field in ("label", "laboratory", "Fe"):
                report = {"label": "S-1", "received": "2026-05-04", "Fe": "4", field: odd}
                whole = {"label": "S-1", "received": "2026-05-04", "Fe": "4"}
                text = json.dumps({"format": LAB_FORMAT, "reports": [report, whole]})
                (line,), (fault,) = read_reports(text)
                with self.subTest(odd=ascii(odd), field=field):
                    self.assertEqual((line.line, fault.code), (2, "lab.characters"))
                    self.assertEqual(fault.field, field)

    def test_a_mark_of_the_byte_order_is_nothing(self) -> None:
        whole = "label,received,Fe\nS-1,2026-05-04,4\n"
        document = json.dumps({"format": LAB_FORMAT, "reports": []})
        self.assertEqual(read_reports("\ufeff" + whole), read_reports(whole))
        self.assertEqual(read_reports("\ufeff" + document), ((), ()))

    def test_a_number_too_long_to_be_one(self) -> None:
        with self.assertRaises(CoreError):
            read_reports('{"format": ' + "9" * 5000 + "}")

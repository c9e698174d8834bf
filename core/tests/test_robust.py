"""Whatever is typed into a sheet: an answer or a CoreError, never anything else."""

import json
from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from oilward_core.errors import CoreError
from oilward_core.exchange import from_document
from oilward_core.spec import (
    Cell,
    Form,
    Path,
    ReservoirKind,
    Role,
    Spot,
    by_reservoir,
    changes,
    doubts,
    field_of,
    fields_for,
    missing,
    pack,
    part_fields_for,
    propose,
    read_table,
    read_value,
    said,
    sheet_of,
    unpack,
)

WORDS = st.one_of(
    st.text(max_size=30),
    st.sampled_from(
        ["2.7 l", "18-25 ft-lb", "3/4 turn", "hand tight", "600 mi", "12 months", "1/0 l"]
    ),
    st.from_regex(
        r"[0-9 .,/±–-]{1,8} ?(l|ml|qt|oz|N·m|km|mi|h|min|%)?( \([0-9.]{1,4} (l|qt|N·m)\))?"
    ),
)
FIELDS = [Path("engine", "", f.name) for f in fields_for(ReservoirKind.ENGINE, None)]
PART_FIELDS = [Path("engine", role, f.name) for role in Role for f in part_fields_for(role)]
PATHS = st.sampled_from([*FIELDS, *PART_FIELDS])
SHEETS = st.dictionaries(
    PATHS,
    WORDS.map(lambda text: Cell(written=text, document="manual", page="3", entered_by="Mira")),
    max_size=25,
)
KIND = {Path("engine", "", "kind"): Cell(written="engine")}
UNITS = {"volume": "qt", "torque": "lbf·ft", "distance": "mi"}


class AnythingTypedTests(TestCase):
    @given(PATHS, WORDS)
    def test_reading_answers_or_refuses(self, path: Path, text: str) -> None:
        field = field_of(path)
        try:
            value = read_value(field, text)
        except CoreError as error:
            self.assertIn(".", error.code)
            return
        self.assertIsInstance(said(field, value, **UNITS), str)

    @settings(max_examples=60)
    @given(SHEETS)
    def test_a_sheet_of_anything_can_be_looked_at(self, cells: dict[Path, Cell]) -> None:
        sheet = {**cells, **KIND}
        reservoirs = sheet_of(sheet)
        for doubt in doubts(reservoirs, 890):
            self.assertTrue(doubt.text)
        for reservoir in reservoirs:
            missing(reservoir)
        self.assertEqual([change.text for change in changes(sheet, sheet)], [])
        self.assertEqual(unpack(json.loads(json.dumps(pack(sheet)))), sheet)
        self.assertEqual(set(by_reservoir(sheet)), {"engine"})

    @given(st.text(max_size=200))
    def test_any_pasted_text_is_a_table_or_refused(self, text: str) -> None:
        try:
            rows = read_table(text)
        except CoreError:
            return
        for one in propose(rows, ["reservoir", "field", "written"], ["engine"], "engine"):
            self.assertTrue(one.fault or one.path)

    @given(
        st.recursive(
            st.none() | st.booleans() | st.integers() | st.text(max_size=8),
            lambda inner: (
                st.lists(inner, max_size=3)
                | st.dictionaries(
                    st.sampled_from(["format", "model", "reservoirs", "x"]), inner, max_size=3
                )
            ),
            max_leaves=8,
        )
    )
    def test_any_document_is_refused_with_places(self, document: object) -> None:
        model, cells, faults = from_document(document)
        self.assertIsNone(model)
        self.assertEqual(cells, {})
        self.assertTrue(all(fault.place.startswith("/") for fault in faults))


class SaidTests(TestCase):
    def test_each_form_in_a_readers_own_units(self) -> None:
        for path, text, words in (
            ("engine//capacity.dry", "2.7 l", "2.85 qt"),
            ("engine//repeat.km", "10 000 km", "6214 mi"),
            ("engine//repeat.months", "2 years", "24 months"),
            ("engine//repeat.hours", "20", "20 h"),
            ("engine//level.target", "75 %", "75% of the way up"),
            ("engine//level.run", "90 s", "1.5 min"),
            ("engine//fluid.kv40", "20-26", "20.0–26.0 cSt"),
            ("engine//label", "sump", ""),
            ("engine/plug/torque", "20 N·m", "14.8 lbf·ft"),
            ("engine/plug/torque", "20 N·m + 90°", "14.8 lbf·ft, then 1/4 turn on"),
            ("engine/plug/torque", "hand tight", ""),
            ("engine/plug/spot", "0.5 0.5", "on the map"),
        ):
            with self.subTest(path=path, text=text):
                field = field_of(Path.of(path))
                self.assertEqual(said(field, read_value(field, text), **UNITS), words)

    def test_spots_are_shares(self) -> None:
        field = field_of(Path.of("engine/plug/spot"))
        self.assertEqual(field.form, Form.SPOT)
        self.assertEqual(read_value(field, "0 1.00"), Spot(Decimal(0), Decimal("1.00")))

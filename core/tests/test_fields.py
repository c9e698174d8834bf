"""The list of fields itself: everything else is made from it."""

from decimal import Decimal
from unittest import TestCase

from oilward_core.codes.suspension import GapRod, LegFunction, LegKind
from oilward_core.errors import CoreError
from oilward_core.exchange import schema
from oilward_core.spec import (
    Cell,
    FillRule,
    Form,
    Path,
    ReservoirKind,
    Role,
    field_of,
    fields_for,
    is_number,
    part_fields_for,
    read_value,
    reservoir_of,
    what,
)
from oilward_core.spec.fields import PART_FIELDS, RESERVOIR_FIELDS


class FieldTests(TestCase):
    def test_names_and_labels_are_unique(self) -> None:
        for fields in (RESERVOIR_FIELDS, PART_FIELDS):
            for word in ("name", "label"):
                said = [getattr(field, word).lower() for field in fields]
                self.assertEqual(len(said), len(set(said)))

    def test_every_hint_is_itself_a_value(self) -> None:
        for field in (*RESERVOIR_FIELDS, *PART_FIELDS):
            for hint in field.hint.split(" or "):
                if not hint or field.form in (Form.TEXT, Form.CHOICE):
                    continue
                with self.subTest(field=field.name, hint=hint):
                    read_value(field, hint.split(",")[0])

    def test_every_choice_reads_as_itself(self) -> None:
        for field in (*RESERVOIR_FIELDS, *PART_FIELDS):
            for choice in field.choices:
                expected = choice == "yes" if field.form == Form.YES_NO else choice
                self.assertEqual(read_value(field, choice.upper()), expected)

    def test_every_kind_can_be_filled_in(self) -> None:
        for kind in ReservoirKind:
            for rule in (None, *FillRule):
                names = {field.name for field in fields_for(kind, rule)}
                self.assertLessEqual({"kind", "label", "fill rule", "repeat.months"}, names)
        for role in Role:
            self.assertLessEqual(
                {"torque", "place", "spot", "drive"}, {f.name for f in part_fields_for(role)}
            )

    def test_a_setting_is_whole_or_half_clicks_or_turns_to_a_quarter(self) -> None:
        field = field_of(Path("fork", "", "set.rebound"))
        for said, value in (
            ("12", "12"),
            ("12 clicks", "12"),
            ("12.5 clicks out", "12.5"),
            ("1 1/2 turns", "1.5"),
            ("1.75 turns from closed", "1.75"),
            ("3 lines", "3"),
            ("0", "0"),
        ):
            with self.subTest(said):
                self.assertEqual(read_value(field, said), Decimal(value))
        for said in ("12.3", "1.3 turns", "-1", "61", "many", "12 mm", "1.75 clicks"):
            with self.subTest(said), self.assertRaises(CoreError) as refused:
                read_value(field, said)
            self.assertEqual(refused.exception.code, "spec.setting")

    def test_a_leg_is_read_from_its_cells(self) -> None:
        cells = {
            Path("leg", "", name): Cell(written=text)
            for name, text in (
                *(("kind", "fork leg"), ("leg.kind", "air"), ("leg.function", "spring")),
                *(("leg.bore", "39 mm"), ("spring.rate", "8.5 N/mm"), ("air.pressure", "10.5 bar")),
                *(("set.preload", "3 turns in"), ("level.gap rod", "rod down")),
            )
        }
        leg = reservoir_of("leg", cells).leg
        self.assertEqual((leg.kind, leg.function), (LegKind.AIR, LegFunction.SPRING))
        self.assertEqual((leg.bore, leg.rate, leg.pressure), (39, Decimal("8.5"), 1050))
        self.assertEqual((leg.preload, leg.gap_rod, leg.rod), (3, GapRod.DOWN, None))
        self.assertTrue(leg.split)

    def test_numbers_want_a_second_check_and_words_do_not(self) -> None:
        for name, number in (("capacity.dry", True), ("repeat.months", True), ("label", False)):
            self.assertEqual(is_number(field_of(Path("engine", "", name))), number)
        self.assertTrue(is_number(field_of(Path("engine", "plug", "torque"))))
        self.assertFalse(is_number(field_of(Path("engine", "plug", "spot"))))

    def test_a_path_in_words(self) -> None:
        self.assertEqual(what(Path("engine", "", "capacity.dry")), "engine, capacity, dry")
        self.assertEqual(what(Path("", "plug", "torque")), "plug, torque")

    def test_the_schema_names_every_field(self) -> None:
        reservoir = schema()["properties"]["reservoirs"]["items"]["properties"]
        values = reservoir["values"]["properties"]
        parts = reservoir["parts"]["items"]["properties"]["values"]["properties"]
        self.assertEqual(set(values), {field.name for field in RESERVOIR_FIELDS})
        self.assertEqual(set(parts), {field.name for field in PART_FIELDS})

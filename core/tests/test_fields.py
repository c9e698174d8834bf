"""The list of fields itself: everything else is made from it."""

from unittest import TestCase

from oilward_core.exchange import schema
from oilward_core.spec import (
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

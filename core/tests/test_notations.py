"""How sheets and people write it, cell by cell and day by day: read, or asked about."""

import contextlib
from datetime import date
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.dates import read_day
from oilward_core.errors import CoreError, Question
from oilward_core.fluid.labels import read_grades
from oilward_core.quantity import Kind, parse, quarts_and_ounces, show
from oilward_core.spec import Path, field_of
from oilward_core.spec.read import read_value
from oilward_core.torque import read_torque

TODAY = date(2026, 12, 1)


class CellTests(TestCase):
    def cell(self, name: str, written: str) -> object:
        part = "drain plug" if name == "torque" else ""
        return read_value(field_of(Path("engine", part, name)), written)

    def test_a_capacity_is_one_amount_or_a_narrow_range(self) -> None:
        for written in ("2..8 l", "2 to 8 l", "2.0-2.6 l", "500-700 ml"):
            with self.subTest(written), self.assertRaises(Question) as asked:
                self.cell("capacity.drain only", written)
            self.assertEqual(asked.exception.code, "spec.wide")
            self.assertEqual(len(asked.exception.fields["options"]), 2)
        for written in ("2.7-3.2 l", "2.7 l", "400-500 ml", "20 ± 2 dl"):
            self.cell("capacity.drain only", written)
        self.cell("fluid.kv100", "13-20 cSt")  # a band of viscosities is no capacity

    def test_what_stands_beside_it_must_not_belong_to_the_field_next_to_it(self) -> None:
        for name, written, code in (
            ("capacity.drain only", "3.1 L incl. filter", "spec.other_capacity"),
            ("capacity.with filter", "2.9 L (without filter)", "spec.other_capacity"),
            ("fluid.kv40", "14.52 cSt (100 °C)", "spec.other_temperature"),
            ("fluid.kv100", "95 cSt at 40 °C", "spec.other_temperature"),
        ):
            with self.subTest(written), self.assertRaises(CoreError) as refused:
                self.cell(name, written)
            self.assertEqual(refused.exception.code, code)
        for name, written in (
            ("capacity.with filter", "3.1 L incl. filter"),
            ("capacity.drain only", "2.9 L w/o filter"),
            ("fluid.kv100", "14.52 cSt (100 °C)"),
            ("fluid.kv40", "95 cSt @ 40 °C"),
            ("repeat.km", "alle 10.000 km"),
            ("repeat.months", "2 ans"),
            ("level.run", "1h30"),
        ):
            self.cell(name, written)

    def test_torques_in_words(self) -> None:
        hand = read_torque("Hand-tight only")
        self.assertEqual(hand.form, "hand")
        turned = read_torque("1/2 turn past 18 N·m")
        self.assertEqual((turned.form, turned.low), ("torque then turn", 18))
        self.assertEqual([float(end) for end in turned.then or ()], [0.5, 0.5])
        for written in ("15 mN", "14-21", "18 N·m past"):
            with self.subTest(written), self.assertRaises(CoreError):
                read_torque(written)

    def test_a_grade_of_one_letter(self) -> None:
        self.assertEqual([str(one) for one in read_grades("25W")], ["25W"])

    def test_ten_thousand_with_a_dot_only_behind_those_words(self) -> None:
        for said in ("alle 10.000 km", "tous les 10.000 km"):
            self.assertEqual(parse(said, Kind.DISTANCE).low, 10_000)
        for said in ("10.000 km", "ab 10.000 km", "every 10.000 km"):
            with self.assertRaises(CoreError):
                parse(said, Kind.DISTANCE)


class ShownTests(TestCase):
    """Without false digits."""

    def test_a_quart_is_a_quart(self) -> None:
        quart = parse("1 qt", Kind.VOLUME).low
        self.assertEqual(show(quart, "qt"), "1 qt")
        self.assertEqual(show(parse("2 l", Kind.VOLUME).low, "l"), "2 l")
        self.assertEqual(show(quart, "l"), "0.95 l")
        self.assertEqual(show(parse("2003 ml", Kind.VOLUME).low, "l"), "2.00 l")
        self.assertEqual(quarts_and_ounces(quart), "1 qt")


class DayTests(TestCase):
    def test_days_as_people_write_them(self) -> None:
        for said, day in (
            ("2025-04-03", date(2025, 4, 3)),
            ("3.4.2025", date(2025, 4, 3)),
            ("03.04.2025", date(2025, 4, 3)),
            ("3.4.25", date(2025, 4, 3)),
            ("Apr 2025", date(2025, 4, 1)),
            ("3 Apr 2025", date(2025, 4, 3)),
            ("April 3, 2025", date(2025, 4, 3)),
            ("4/13/25", date(2025, 4, 13)),
            ("13/4/25", date(2025, 4, 13)),
            ("4/4/25", date(2025, 4, 4)),
            ("5/5/99", date(1999, 5, 5)),
        ):
            with self.subTest(said):
                self.assertEqual(read_day(said, TODAY), day)

    def test_which_comes_first_is_asked_while_both_can(self) -> None:
        with self.assertRaises(Question) as asked:
            read_day("4/3/25", TODAY)
        self.assertEqual(asked.exception.code, "date.which")
        self.assertEqual(asked.exception.fields["options"], ["2025-03-04", "2025-04-03"])
        for option in asked.exception.fields["options"]:
            read_day(option, TODAY)

    def test_no_day(self) -> None:
        for said in ("", "soon", "31.2.2025", "13/13/25", "0/3/25", "Foo 2025", "32 May 2025"):
            with self.subTest(said), self.assertRaises(CoreError) as refused:
                read_day(said, TODAY)
            self.assertEqual(refused.exception.code, "garage.date")

    @given(st.text(max_size=20), st.dates(date(1900, 1, 1), date(2100, 1, 1)))
    def test_anything_is_a_day_or_a_sentence(self, said: str, today: date) -> None:
        with contextlib.suppress(CoreError):
            self.assertIsInstance(read_day(said, today), date)

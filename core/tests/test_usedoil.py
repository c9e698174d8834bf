"""Used oil, against ISO 4406's scale and worked values; from memory where no standard is at hand."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.debris import Level
from oilward_core.errors import CoreError
from oilward_core.usedoil import (
    Analysis,
    Element,
    change_level,
    particle_code,
    rates,
    remarks,
    scale_number,
    viscosity_change,
    wear_rate,
)

D = Decimal


class ParticleTests(TestCase):
    """ISO 4406:1999/2017/2021: counts per ml larger than 4, 6 and 14 µm(c)."""

    def test_codes(self) -> None:
        for counts, code in (
            ([2300, 490, 62], "18/16/13"),
            ([1300, 1301, 0.64], "17/18/6"),
            ([3_000_000, 80_000, 20], ">28/23/11"),
        ):
            self.assertEqual(particle_code(counts), code)

    @given(st.floats(0.02, 1_200_000))
    def test_twice_as_many_are_one_number_more(self, count: float) -> None:
        one, two = int(scale_number(count)), int(scale_number(2 * count))
        self.assertIn(two - one, (0, 1, 2))

    def test_what_is_no_count_is_refused(self) -> None:
        for counts in ([1, 2], [1, -2, 3], [100, 200, 50], [490, 62, 63], [5, 4, 9]):
            with self.assertRaises(CoreError):
                particle_code(counts)


class RateTests(TestCase):
    def test_worked_values(self) -> None:
        self.assertAlmostEqual(viscosity_change(D("14.3"), D("11.6")), D("-18.881"), places=3)
        self.assertEqual(wear_rate(D(46), D(2), D(5500)), D(8))
        self.assertEqual(change_level(viscosity_change(D("14.3"), D("11.6"))), Level.WATCH)
        # 14.0 to 11.2 is a fifth exactly
        self.assertEqual(change_level(viscosity_change(D("14.0"), D("11.2"))), Level.INVESTIGATE)

    def test_a_short_distance_gives_no_rate_and_less_than_fresh_counts_as_none(self) -> None:
        with self.assertRaises(CoreError):
            wear_rate(D(46), D(2), D(100))
        self.assertEqual(wear_rate(D(1), D(2), D(5500)), D(0))
        self.assertEqual(rates(Analysis(km=D(100), elements={Element.FE: D(40)})), {})


class RemarkTests(TestCase):
    def said(self, **more: object) -> dict[str, Level]:
        found = remarks(Analysis(km=D(6000), elements={Element.FE: D(20)}, **more))  # type: ignore[arg-type]
        return {remark.text.split(" ")[0]: remark.level for remark in found}

    def test_each_with_a_positive_and_a_negative_case(self) -> None:
        self.assertEqual(self.said(), {})
        self.assertEqual(self.said(water=D("0.05"), fuel=D(1)), {})
        self.assertEqual(self.said(water=D("0.1")), {"Water": Level.WATCH})
        self.assertEqual(self.said(water=D("0.3")), {"Water": Level.INVESTIGATE})
        self.assertEqual(self.said(fuel=D(2)), {"Fuel": Level.WATCH})
        self.assertEqual(self.said(fuel=D(5)), {"Fuel": Level.INVESTIGATE})
        self.assertEqual(self.said(kv100=D(14), fresh_kv100=D("14.3")), {})
        self.assertEqual(
            self.said(kv100=D(11), fresh_kv100=D("14.3")), {"Viscosity": Level.INVESTIGATE}
        )
        self.assertEqual(self.said(kv100=D(16), fresh_kv100=D("14.3")), {"Viscosity": Level.WATCH})

    def test_an_oil_that_has_left_its_grade(self) -> None:
        # SAE J300: a 40 lies between 12.5 and 16.3 cSt at 100 °C; J306: a 90 between 13.5 and 18.5
        for grade, kv100, left in (
            ("10W-40", "12.4", True),
            ("10W-40", "12.5", False),
            ("10W-40", "16.3", True),
            ("75W-90", "13.0", True),
            ("75W-90", "14.0", False),
            ("", "3.0", False),
        ):
            with self.subTest(grade=grade, kv100=kv100):
                one = Analysis(km=D(6000), elements={}, kv100=D(kv100), grade=grade)
                self.assertEqual(any("left its grade" in r.text for r in remarks(one)), left)

    def test_coolant_is_three_that_come_together(self) -> None:
        three = {Element.NA: D(60), Element.K: D(30), Element.B: D(90)}
        (said,) = remarks(Analysis(km=D(6000), elements=three))
        self.assertIn("coolant", said.text)
        # what was in the fresh oil already is an additive
        self.assertEqual(
            remarks(Analysis(km=D(6000), elements=three, fresh={Element.B: D(85)})), ()
        )
        self.assertEqual(
            remarks(Analysis(km=D(6000), elements={Element.NA: D(60), Element.K: D(30)})), ()
        )

"""Viscosity, index, blends and grades, against published examples and `chemicals`."""

from decimal import Decimal
from unittest import TestCase

import chemicals
from hypothesis import given
from hypothesis import strategies as st
from oilward_core.errors import CoreError
from oilward_core.fluid import (
    Measured,
    TwoPoint,
    blend_by_mass,
    blend_by_volume,
    clutch_class,
    clutch_index,
    engine_disagreements,
    engine_grades,
    gear_grade,
    gear_w_grade,
    iso_vg,
    iso_vg_limits,
    share_of_thicker,
    share_of_thicker_by_mass,
    temperature_for,
    viscosity_at,
    viscosity_index,
)

FORTY = TwoPoint(t1=40, v1=95.0, t2=100, v2=14.3)


class ViscosityTests(TestCase):
    """ASTM D341; expected values derived with its two-point equation."""

    def test_between_and_beyond_the_points(self) -> None:
        for oil, t, expected in (
            (FORTY, 20, 256.6),
            (FORTY, 0, 941.8),
            (FORTY, 80, 23.59),
            (TwoPoint(t1=40, v1=26.5, t2=100, v2=5.9), 25, 46.95),
            (TwoPoint(t1=40, v1=165.0, t2=100, v2=18.9), 20, 524.7),
            (TwoPoint(t1=40, v1=165.0, t2=100, v2=18.9), 130, 9.723),
            (
                TwoPoint(t1=40, v1=9.5, t2=100, v2=2.6),
                130,
                1.734,
            ),  # full form; the simplified one gives 1.736
        ):
            with self.subTest(t=t, oil=oil):
                self.assertAlmostEqual(viscosity_at(oil, t) / expected, 1, delta=0.0006)

    def test_the_points_themselves_come_back(self) -> None:
        self.assertAlmostEqual(viscosity_at(FORTY, 40), 95.0, delta=0.02)
        self.assertAlmostEqual(viscosity_at(FORTY, 100), 14.3, delta=0.003)

    def test_temperature_for_a_viscosity(self) -> None:
        self.assertAlmostEqual(temperature_for(FORTY, 30.0), 71.69, delta=0.01)

    @given(st.floats(-20, 150))
    def test_temperature_and_viscosity_are_inverse(self, t: float) -> None:
        self.assertAlmostEqual(temperature_for(FORTY, viscosity_at(FORTY, t)), t, delta=0.02)

    def test_an_oil_thins_with_heat(self) -> None:
        for points in ((40, 14.3, 100, 95.0), (40, 95.0, 40, 95.0), (40, 9.0, 100, 0.1)):
            with self.subTest(points), self.assertRaises(CoreError):
                TwoPoint(**dict(zip(("t1", "v1", "t2", "v2"), points, strict=True)))


class IndexTests(TestCase):
    """ASTM D2270-10(2016): its own two examples, then `chemicals` over the whole table."""

    def test_the_standards_examples(self) -> None:
        self.assertEqual(viscosity_index(73.30, 8.86), 92)
        self.assertEqual(viscosity_index(22.83, 5.05), 156)
        for kv40, kv100, vi in ((95.0, 14.3, 155), (165.0, 18.9, 130), (1500.0, 85.0, 128)):
            self.assertEqual(viscosity_index(kv40, kv100), vi)

    @given(st.floats(4, 68), st.floats(3, 11))
    def test_against_chemicals(self, kv100: float, ratio: float) -> None:
        kv40 = kv100 * ratio
        theirs = chemicals.viscosity.viscosity_index(kv40 * 1e-6, kv100 * 1e-6)
        if 0 < theirs < 250:
            self.assertAlmostEqual(viscosity_index(kv40, kv100), theirs, delta=0.85)

    def test_undefined_below_two(self) -> None:
        with self.assertRaises(CoreError) as caught:
            viscosity_index(20.0, 1.9)
        self.assertEqual(caught.exception.code, "fluid.no_index")


class BlendTests(TestCase):
    """Double logarithm by volume (ASTM D7152, from memory) and Refutas by mass; derived values."""

    def test_worked_blends(self) -> None:
        self.assertAlmostEqual(blend_by_volume([0.5, 0.5], [16, 36]), 23.464, delta=0.001)
        self.assertAlmostEqual(blend_by_volume([0.7, 0.3], [22, 68]), 29.871, delta=0.001)
        self.assertAlmostEqual(blend_by_mass([0.5, 0.5], [16, 36]), 23.475, delta=0.001)
        self.assertAlmostEqual(blend_by_mass([0.2, 0.3, 0.5], [15, 26.5, 46]), 30.374, delta=0.001)

    def test_the_share_that_hits_a_target(self) -> None:
        self.assertAlmostEqual(share_of_thicker(16, 36, 26.5), 0.6480, delta=0.0001)
        self.assertAlmostEqual(share_of_thicker_by_mass(16, 36, 26.5), 0.6475, delta=0.0001)
        with self.assertRaises(CoreError):
            share_of_thicker(16, 36, 40)
        with self.assertRaises(CoreError):
            blend_by_volume([0.5, 0.4], [16, 36])

    @given(st.floats(0, 1))
    def test_share_and_blend_are_inverse(self, share: float) -> None:
        blended = blend_by_volume([1 - share, share], [16, 36])
        self.assertAlmostEqual(share_of_thicker(16, 36, min(max(blended, 16), 36)), share, places=6)


class GradeTests(TestCase):
    """SAE J300 (2021), J306 (2019, 2005), ISO 3448, JASO T903: limits recalled, not opened."""

    def test_engine_grades(self) -> None:
        for oil, w, grades in (
            (Measured(kv100=12.5), None, ("40",)),
            (Measured(kv100=12.499), None, ("30",)),
            (Measured(kv100=7.0), None, ("12", "16", "20")),
            (Measured(kv100=7.0, hths=2.4), None, ("12", "16")),
            (Measured(kv100=14.0, hths=3.6), "10W", ("40",)),
            (Measured(kv100=14.0, hths=3.6), "15W", ()),
            (Measured(kv100=18.0), None, ("50",)),
            (Measured(kv100=26.1), None, ()),
            (Measured(kv100=3.9), None, ()),
        ):
            with self.subTest(oil=oil, w=w):
                self.assertEqual(engine_grades(oil, w), grades)

    def test_disagreement_with_the_label_is_said(self) -> None:
        good = Measured(kv100=14.2, hths=3.8, cranking=6900, pumping=41000)
        self.assertEqual(engine_disagreements("10W-40", good), ())
        for label, oil, words in (
            (
                "10W-40",
                Measured(kv100=14.2, hths=3.8, cranking=7100, pumping=41000),
                "cranks at 7100",
            ),
            ("15W-40", Measured(kv100=14.2, hths=3.6, cranking=6000, pumping=30000), "HTHS 3.6"),
            (
                "20W-50",
                Measured(kv100=16.2, hths=4.5, cranking=9000, pumping=30000),
                "16.2 cSt at 100 °C is outside",
            ),
            ("25W-20", Measured(kv100=9.0), "below the 9.3 of a 25W"),
            (
                "5W-30",
                Measured(kv100=10.0, hths=3.0, cranking=6000, pumping=61000),
                "pumps at 61000",
            ),
        ):
            with self.subTest(label):
                self.assertIn(words, " ".join(engine_disagreements(label, oil)))
        with self.assertRaises(CoreError):
            engine_disagreements("75W-90", good)

    def test_gear_grades(self) -> None:
        for kv100, edition, grade in (
            (15.0, 2019, "90"),
            (18.5, 2019, "110"),
            (7.5, 2019, "75"),
            (7.5, 2005, "80"),
            (4.2, 2005, None),
            (45.0, 2005, "250"),
        ):
            with self.subTest(kv100=kv100, edition=edition):
                self.assertEqual(gear_grade(kv100, edition), grade)
        self.assertEqual(gear_w_grade(15.2, -41), "75W")
        self.assertEqual(gear_w_grade(15.2, -28), "80W")
        self.assertIsNone(gear_w_grade(15.2, -5))

    def test_iso_classes_have_inclusive_limits_and_gaps(self) -> None:
        for kv40, vg in (("35.2", 32), ("36.0", None), ("97.5", 100), ("4.14", 5), ("1.98", 2)):
            with self.subTest(kv40):
                self.assertEqual(iso_vg(Decimal(kv40)), vg)

    def test_iso_limits(self) -> None:
        for vg, low, high in ((2, "1.98", "2.42"), (7, "6.12", "7.48"), (32, "28.8", "35.2")):
            self.assertEqual(iso_vg_limits(vg), (Decimal(low), Decimal(high)))

    def test_editions_and_classes_there_are_none_of(self) -> None:
        for call in (
            lambda: clutch_class(1.5, 1.6, 1.7, 2023),
            lambda: gear_grade(15.0, 1998),
            lambda: gear_w_grade(15.0, -41, 1998),
            lambda: iso_vg_limits(33),
            lambda: clutch_index(0.128, 0.14, 0.11),
            lambda: viscosity_at(FORTY, -300),
        ):
            with self.assertRaises(CoreError):
                call()

    def test_clutch_index(self) -> None:
        self.assertAlmostEqual(clutch_index(0.128, 0.110, 0.140), 1.6)

    def test_clutch_classes(self) -> None:
        for indices, edition, expected in (
            ((1.55, 1.65, 1.70), 2016, "MA2"),
            ((1.40, 1.50, 1.45), 2016, "MA1"),
            ((1.40, 1.65, 1.70), 2016, "MA"),
            ((1.30, 1.65, 1.70), 2016, "MB"),
            ((1.50, 1.60, 1.60), 2016, "MA2"),
            ((2.50, 1.60, 1.60), 2016, None),
            ((1.55, 1.65, 1.70), 2011, "MA1"),
        ):
            with self.subTest(indices=indices, edition=edition):
                self.assertEqual(clutch_class(*indices, edition), expected)

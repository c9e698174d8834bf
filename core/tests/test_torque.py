"""Torque settings, verdicts and plausibility."""

from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.errors import CoreError
from oilward_core.quantity import convert, show
from oilward_core.torque import (
    Wrench,
    adapter_setting,
    fitting_wrenches,
    judge,
    plausibility,
    proof_torque,
    read_torque,
    scale_factor,
    setting,
    stress_area,
)

SMALL = Wrench("s", "Small click", "lbf·in", Decimal(30), Decimal(250), Decimal(5), Decimal("0.06"))
MIDDLE = Wrench("m", "Short click", "N·m", Decimal(10), Decimal(60), Decimal(1), Decimal("0.04"))
LARGE = Wrench("l", "Long click", "N·m", Decimal(40), Decimal(200), Decimal(1), Decimal("0.04"))
ALL = (SMALL, MIDDLE, LARGE)


class SpecTests(TestCase):
    """The manual's own words."""

    def test_forms(self) -> None:
        for text, form, low, high in (
            ("35 N·m", "single", "35", "35"),
            ("14 to 21 N·m", "range", "14", "21"),
            ("20 ± 2 N·m", "tolerance", "18", "22"),
            ("1/2-3/4 turn", "turn", "0.5", "0.75"),
            ("3/4 turn after contact", "turn", "0.75", "0.75"),
        ):
            with self.subTest(text):
                spec = read_torque(text)
                self.assertEqual(
                    (spec.form, spec.low, spec.high), (form, Decimal(low), Decimal(high))
                )
        self.assertEqual(read_torque("Hand tight").form, "hand")

    def test_nonsense_turn_is_refused(self) -> None:
        with self.assertRaises(CoreError) as caught:
            read_torque("a turn")
        self.assertEqual(caught.exception.code, "quantity.not_a_number")


class SettingTests(TestCase):
    """Which number to aim at. Schools are common practice, no source."""

    def test_middle_of_a_range(self) -> None:
        for text, unit, middle in (
            ("14-21 lbf·ft", "lbf·ft", "17.5"),
            ("25-75 lbf·in", "lbf·in", "50"),
        ):
            with self.subTest(text):
                aim = setting(read_torque(text))
                self.assertAlmostEqual(
                    convert(aim.value, unit), Decimal(middle), delta=Decimal("0.0001")
                )
                self.assertIn("Middle", aim.reasons[0].text)

    def test_soft_thread_takes_the_lower_third(self) -> None:
        spec = read_torque("18-24 N·m")
        self.assertEqual(setting(spec, soft=True).value, 20)
        self.assertEqual(setting(spec, "lower third").value, 20)

    def test_one_manual_value_is_never_changed(self) -> None:
        spec = read_torque("35 N·m")
        self.assertEqual(setting(spec, "lower third", soft=True).value, 35)

    def test_hand_tight_has_no_setting(self) -> None:
        for text in ("hand tight", "3/4 turn"):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                setting(read_torque(text))
            self.assertEqual(caught.exception.code, "torque.no_wrench")


class WrenchTests(TestCase):
    """ISO 6789: usable from 20 % to 100 % of the scale."""

    def test_the_wrench_nearest_mid_scale(self) -> None:
        spec = read_torque("14-21 lbf·ft")
        chosen = fitting_wrenches(spec, setting(spec).value, ALL)[0]
        self.assertEqual((chosen.wrench.id, chosen.scale), ("m", 24))
        spec = read_torque("25-75 lbf·in")
        chosen = fitting_wrenches(spec, setting(spec).value, ALL)[0]
        self.assertEqual((chosen.wrench.id, chosen.scale), ("s", 50))

    def test_all_that_fit_are_offered_best_first(self) -> None:
        spec = read_torque("21 N·m")
        offered = fitting_wrenches(spec, Decimal(21), ALL)
        self.assertEqual([(o.wrench.id, o.scale) for o in offered], [("s", 185), ("m", 21)])

    def test_below_a_fifth_of_the_scale_is_not_used(self) -> None:
        spec = read_torque("39 N·m")
        wide = Wrench("w", "Wide", "N·m", Decimal(10), Decimal(200), Decimal(1), Decimal("0.04"))
        self.assertEqual(fitting_wrenches(spec, Decimal(39), [wide]), ())
        self.assertEqual(fitting_wrenches(read_torque("40 N·m"), Decimal(40), [wide])[0].scale, 40)

    @given(st.decimals(12, 100, places=1), st.decimals(1, 20, places=1))
    def test_the_mark_stays_inside_the_range(self, low: Decimal, width: Decimal) -> None:
        spec = read_torque(f"{low}-{low + width} N·m")
        assert spec.low is not None and spec.high is not None
        for offered in fitting_wrenches(spec, setting(spec).value, ALL):
            unit = offered.wrench.unit
            self.assertLessEqual(convert(spec.low, unit), offered.scale)
            self.assertLessEqual(offered.scale, convert(spec.high, unit))
            self.assertEqual(offered.scale % offered.wrench.resolution, 0)

    def test_a_crow_foot_in_line_lowers_the_mark_and_is_named(self) -> None:
        # worked by moments: 340 mm wrench, 35 mm crow-foot: 340/375 of 30 N·m is 27.2 N·m
        long = replace(MIDDLE, length=Decimal(340))
        spec = read_torque("30 N·m")
        (offered,) = fitting_wrenches(spec, Decimal(30), [long], Decimal(35))
        self.assertEqual((offered.scale, round(offered.factor, 4)), (27, Decimal("0.9067")))
        self.assertIn("35 mm in line", offered.reasons[1].text)
        (plain,) = fitting_wrenches(spec, Decimal(30), [long])
        self.assertEqual((plain.scale, plain.factor), (30, 1))

    def test_a_wrench_never_measured_is_not_offered_with_a_crow_foot(self) -> None:
        spec = read_torque("30 N·m")
        self.assertEqual(fitting_wrenches(spec, Decimal(30), [MIDDLE], Decimal(35)), ())
        self.assertIsNone(scale_factor(MIDDLE, Decimal(35)))

    def test_adapter(self) -> None:
        """Moment balance, worked by hand: T·L/(L + E·cos θ)."""
        for angle, expected in ((0, 43.478), (45, 45.205), (90, 50.0), (180, 58.824)):
            with self.subTest(angle):
                got = adapter_setting(Decimal(50), Decimal(400), Decimal(60), Decimal(angle))
                self.assertAlmostEqual(float(got), expected, places=3)
        with self.assertRaises(CoreError):
            adapter_setting(Decimal(50), Decimal(60), Decimal(60), Decimal(180))


class VerdictTests(TestCase):
    """A reading against the spec."""

    def test_bands(self) -> None:
        spec, accuracy = read_torque("20-25 N·m"), Decimal("0.04")
        for reading, expected in (
            ("22", "in"),
            ("20", "in"),
            ("25", "in"),
            ("19.3", "borderline"),
            ("25.9", "borderline"),
            ("19.1", "under"),
            ("26.1", "over"),
        ):
            with self.subTest(reading):
                self.assertEqual(judge(Decimal(reading), spec, accuracy).verdict, expected)

    def test_single_value_is_met_within_the_wrenchs_accuracy(self) -> None:
        spec = read_torque("35 N·m")
        self.assertEqual(judge(Decimal("36.3"), spec, Decimal("0.04")).verdict, "in")
        self.assertEqual(judge(Decimal("36.5"), spec, Decimal("0.04")).verdict, "over")

    def test_far_over_in_soft_threads_asks_for_a_look(self) -> None:
        spec = read_torque("20-25 N·m")
        soft = judge(Decimal("27.6"), spec, Decimal("0.04"), soft=True)
        self.assertIn("look at the thread", soft.action)
        hard = judge(Decimal("27.6"), spec, Decimal("0.04"))
        self.assertNotIn("look at the thread", hard.action)


class PlausibilityTests(TestCase):
    """Unit slips. Preload: ISO 898-1:2013 (stress area, proof stress), from memory."""

    def test_stress_areas(self) -> None:
        for diameter, pitch, area in (
            (6, 1, 20.1),
            (12, 1.5, 88.1),
            (14, 1.5, 124.5),
            (18, 1.5, 216.2),
        ):
            self.assertAlmostEqual(stress_area(diameter, pitch), area, delta=0.05)

    def test_proof_torques(self) -> None:
        for diameter, pitch, torque in (
            (6, 1, 10.5),
            (10, 1.5, 50.5),
            (14, 1.5, 151.7),
            (18, 1.5, 350.3),
        ):
            self.assertAlmostEqual(proof_torque(diameter, pitch), torque, delta=0.06)
        self.assertAlmostEqual(proof_torque(8, 1.25, 0.15), 19.1, delta=0.05)

    def test_foot_pounds_that_were_inch_pounds(self) -> None:
        asked = plausibility(read_torque("186 ft-lb"), "drain plug")
        self.assertFalse(asked.ok)
        self.assertEqual((asked.question, asked.proposal), ("lbf·in?", "186 lbf·in"))
        self.assertIn("252.2 N·m", asked.reasons[0].text)
        self.assertTrue(plausibility(read_torque("186 in-lb"), "drain plug").ok)

    def test_other_slips(self) -> None:
        for text, role, thread, question in (
            ("20 lbf·in", "drain plug", "M14x1.5", "lbf·ft?"),
            ("20-30 lbf·in", "drain plug", "M18", "lbf·ft?"),
            ("80 lbf·ft", "drain plug", "M14", "Look again at the manual."),
            ("100 N·m", "filter", "", "lbf·in?"),
            ("500 N·m", "drain plug", "", "lbf·in?"),
            ("0.2 N·m", "drain plug", "", "Look again at the manual."),
        ):
            with self.subTest(text):
                self.assertEqual(plausibility(read_torque(text), role, thread).question, question)

    def test_believable_values_pass(self) -> None:
        for text, role, thread in (
            ("14-21 lbf·ft", "drain plug", ""),
            ("29 N·m", "drain plug", "M12x1.5"),
            ("10 N·m", "cover screw", "M6"),
            ("3/4 turn", "filter", ""),
            ("12 N·m", "filter", "M20x1.5"),
            ("5 N·m", "fill plug", "M30x1.5"),
            ("hand tight", "filter", ""),
        ):
            with self.subTest(text):
                self.assertTrue(plausibility(read_torque(text), role, thread).ok)

    def test_shown_in_the_manuals_unit(self) -> None:
        spec = read_torque("15.5 lbf·ft")
        assert spec.low is not None
        self.assertEqual(show(spec.low, "lbf·in"), "186 lbf·in")

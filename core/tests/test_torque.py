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
    adapter_actual,
    adapter_setting,
    fitting_wrenches,
    judge,
    plausibility,
    preload,
    proof_torque,
    read_thread,
    read_torque,
    scale_factor,
    setting,
    stress_area_un,
    wrench_limit,
    wrench_usable,
)

SMALL = Wrench(
    id="s",
    name="Small click",
    unit="lbf·in",
    low=Decimal(30),
    high=Decimal(250),
    resolution=Decimal(5),
    accuracy=Decimal("0.06"),
)
MIDDLE = Wrench(
    id="m",
    name="Short click",
    unit="N·m",
    low=Decimal(10),
    high=Decimal(60),
    resolution=Decimal(1),
    accuracy=Decimal("0.04"),
)
LARGE = Wrench(
    id="l",
    name="Long click",
    unit="N·m",
    low=Decimal(40),
    high=Decimal(200),
    resolution=Decimal(1),
    accuracy=Decimal("0.04"),
)
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
        self.assertEqual(caught.exception.code, "torque.unclear")


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

    def test_the_lower_third_is_a_school_and_suggested_on_sealed_threads(self) -> None:
        spec = read_torque("18-24 N·m")
        self.assertEqual(setting(spec, "lower third").value, 20)
        sealed = setting(spec, sealed=True)
        self.assertEqual(sealed.value, 21)  # suggested, never taken for the workshop
        self.assertIn("lower third, 20.0 N·m", sealed.reasons[1].text)

    def test_one_manual_value_is_never_changed(self) -> None:
        for text in ("35 N·m", "35 N·m + 90°"):
            self.assertEqual(setting(read_torque(text), "lower third", sealed=True).value, 35)

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
        wide = Wrench(
            id="w",
            name="Wide",
            unit="N·m",
            low=Decimal(10),
            high=Decimal(200),
            resolution=Decimal(1),
            accuracy=Decimal("0.04"),
        )
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


class AngleTests(TestCase):
    """Torque or hand, then an angle; notations are common practice, no source."""

    def test_torque_then_turn(self) -> None:
        for text, low, high, first, last in (
            ("15 N·m then 1/4 turn", 15, 15, "0.25", "0.25"),
            ("20 N·m + 90°", 20, 20, "0.25", "0.25"),
            ("20 N·m (15 lbf·ft), then 90 degrees", 20, 20, "0.25", "0.25"),
            ("18-22 N·m, then 60-90°", 18, 22, "0.166667", "0.25"),
            ("18-22 N·m + 90° to 120°", 18, 22, "0.25", "0.333333"),
            ("20 N·m plus a quarter turn", 20, 20, "0.25", "0.25"),
            ("20 N·m then 1/4 turn (90°)", 20, 20, "0.25", "0.25"),
            ("30 N·m + 60 ± 6°", 30, 30, "0.15", "0.183333"),
        ):
            with self.subTest(text):
                spec = read_torque(text)
                self.assertEqual((spec.form, spec.text), ("torque then turn", text))
                self.assertEqual((spec.low, spec.high), (low, high))
                self.assertEqual(spec.then, (Decimal(first), Decimal(last)))
                self.assertTrue(spec.by_wrench)
                self.assertFalse(spec.back)

    def test_hand_then_turn_and_turns_alone(self) -> None:
        for text, form, turns in (
            ("hand tight + 3/4 turn", "hand then turn", ("0.75", "0.75")),
            ("finger-tight, then ½ to ¾ turn", "hand then turn", ("0.5", "0.75")),
            ("contact + 3/4 turn", "turn", ("0.75", "0.75")),
            ("three-quarters of a turn", "turn", ("0.75", "0.75")),
            ("270°", "turn", ("0.75", "0.75")),
            ("1-1/2 turns", "turn", ("1.5", "1.5")),
        ):
            with self.subTest(text):
                spec = read_torque(text)
                said = (spec.low, spec.high) if form == "turn" else spec.then
                self.assertEqual((spec.form, said), (form, tuple(map(Decimal, turns))))
                self.assertFalse(spec.by_wrench)

    def test_backing_off_is_told_from_tightening(self) -> None:
        spec = read_torque("20 N·m then back off 1/4 turn")
        self.assertTrue(spec.back)
        self.assertEqual(spec.then_words, "then back off 1/4 turn")
        self.assertEqual(read_torque("20 N·m + 55°").then_words, "then 55° on")
        self.assertEqual(read_torque("hand tight + 1/2 turn").then_words, "then 1/2 turn on")
        self.assertEqual(read_torque("20 N·m").then_words, "")

    def test_what_is_none_of_these_is_asked(self) -> None:
        for text in (
            "20 N·m 90°",
            "20 N·m - 1/4 turn",
            "turn 20 N·m",
            "20 turns",
            "back off 1/2 turn",
            "3/4 to 1/2 turn",
            "1/4 turn then 15 N·m",
            "20 N·m + 90° + 90°",
            "10 N·m then 20 N·m",
            "20 N·m then 1/4 turn (180°)",
            "20 N·m (20 lbf·ft) + 90°",
            "15 N·m then 1/4",
        ):
            with self.subTest(text), self.assertRaises(CoreError):
                read_torque(text)


class ThreadTests(TestCase):
    """ISO 898-1:2013, ASME B1.1 (from memory; compare with the current edition)."""

    def test_metric_stress_areas_and_proof_torques(self) -> None:
        for thread, area, k20, k15, strong in (
            ("M6x1", 20.1, 10.5, 7.9, 15.0),
            ("M8x1.25", 36.6, 25.5, 19.1, 36.5),
            ("M10x1", 64.5, 56.1, 42.1, 80.3),
            ("M12x1.5", 88.1, 92.0, 69.0, 131.7),
            ("M14x1.5", 124.5, 151.7, 113.8, 217.1),
            ("M18x2.5", 192.5, 311.8, 233.9, 431.3),
            ("M24x1.5", 400.9, 865.9, 649.4, 1197.9),
        ):
            with self.subTest(thread):
                read = read_thread(thread)
                size = read.diameter, read.pitch
                self.assertAlmostEqual(read.area, area, delta=0.05)
                self.assertAlmostEqual(proof_torque(*size), k20, delta=0.06)
                self.assertAlmostEqual(proof_torque(*size, 0.15), k15, delta=0.06)
                self.assertAlmostEqual(proof_torque(*size, 0.20, "10.9"), strong, delta=0.06)
        self.assertAlmostEqual(proof_torque(8, 1.25, 0.12, "12.9"), 25.57, delta=0.005)
        self.assertAlmostEqual(preload(25, 0.2, 8), 15.625, places=6)
        self.assertAlmostEqual(preload(30, 0.15, 12), 16.667, places=3)

    def test_unified_stress_areas(self) -> None:
        for size, tpi, area in ((0.5, 20, 103.20), (0.375, 16, 49.99), (0.625, 18, 165.13)):
            self.assertAlmostEqual(stress_area_un(size, tpi), area, delta=0.005)

    def test_as_they_are_written(self) -> None:
        for text, family, diameter, pitch in (
            ("M14x1.5", "metric", 14, 1.5),
            ("M 14x1.5", "metric", 14, 1.5),
            ("14x1.5", "metric", 14, 1.5),
            ("m14 × 1,5", "metric", 14, 1.5),
            ("M14-1.5", "metric", 14, 1.5),
            ("M6", "metric", 6, 1.0),
            ("M8x1.25x20", "metric", 8, 1.25),
            ("1/4-20 UNC", "unified", 6.35, 1.27),
            ("1/2 UNF", "unified", 12.7, 1.27),
            ("3/8-16", "unified", 9.525, 1.5875),
            ("#10-24", "unified", 4.826, 25.4 / 24),
            ("1/8 NPT", "pipe", 9.9, 25.4 / 28),
            ("G 1/4", "pipe", 13.3, 25.4 / 19),
        ):
            with self.subTest(text):
                read = read_thread(text)
                self.assertEqual(read.family, family)
                self.assertAlmostEqual(read.diameter, diameter, places=6)
                self.assertAlmostEqual(read.pitch, pitch, places=6)

    def test_what_is_no_thread(self) -> None:
        for text in ("", "M6x1.0.", "M14x15", "M" + "9" * 400, "thread", "14", "1/4", "M0", "M6x9"):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                read_thread(text)
            self.assertEqual(caught.exception.code, "thread.unreadable")


class StandardTests(TestCase):
    """ISO 6789-1:2017, from memory."""

    def test_permissible_deviation(self) -> None:
        for kind, cls, largest, percent in (
            ("II", "A", 60, 4),
            ("II", "A", 10, 6),
            ("I", "D", 20, 6),
        ):
            self.assertEqual(wrench_limit(kind, cls, Decimal(largest)), percent)
        with self.assertRaises(CoreError):
            wrench_limit("III", "A", Decimal(60))

    def test_usable_from_a_lower_limit_of_its_own(self) -> None:
        wide = Wrench(
            id="w",
            name="W",
            unit="N·m",
            low=Decimal(5),
            high=Decimal(100),
            resolution=Decimal(1),
            accuracy=Decimal("0.04"),
        )
        self.assertTrue(wrench_usable(Decimal(20), wide))
        self.assertFalse(wrench_usable(Decimal("19.9"), wide))
        own = replace(wide, usable_from=Decimal("0.1"))
        self.assertTrue(wrench_usable(Decimal(10), own))
        self.assertFalse(wrench_usable(Decimal("9.9"), own))

    def test_a_wrench_that_cannot_be(self) -> None:
        for change in (
            {"resolution": Decimal(0)},
            {"high": Decimal(0)},
            {"low": Decimal(99)},
            {"accuracy": Decimal("NaN")},
            {"unit": "stone"},
        ):
            with self.subTest(change), self.assertRaises(CoreError):
                replace(MIDDLE, **change)
        one_mark = replace(MIDDLE, low=Decimal(20), high=Decimal(20))
        self.assertEqual(
            fitting_wrenches(read_torque("20 N·m"), Decimal(20), [one_mark])[0].scale, 20
        )

    def test_adapter_back(self) -> None:
        got = adapter_actual(Decimal(50), Decimal(400), Decimal(60), Decimal(0))
        self.assertAlmostEqual(float(got), 57.5, places=6)


# role, thread, goes into, made of, and torques met with there: common practice, no source
ORDINARY = (
    ("drain plug", "M8x1.25", "aluminium", "steel", ("15 N·m", "11-15 lbf·ft")),
    ("drain plug", "M10x1.25", "aluminium", "steel", ("20 N·m", "15-22 lbf·ft")),
    ("drain plug", "M12x1.5", "aluminium", "steel", ("20 N·m", "24 N·m", "30 N·m", "18-25 lbf·ft")),
    ("drain plug", "M14x1.5", "aluminium", "steel", ("25 N·m", "30 N·m", "43 N·m", "24 lbf·ft")),
    ("drain plug", "M16x1.5", "aluminium", "steel", ("30 N·m", "35 N·m", "3.5 kgf·m")),
    ("drain plug", "M18x1.5", "aluminium", "steel", ("32 N·m", "40 N·m", "4.0 kgf·m")),
    ("drain plug", "M20x1.5", "aluminium", "steel", ("30 N·m", "45 N·m", "33 lbf·ft")),
    ("drain plug", "1/2-20", "aluminium", "steel", ("14-21 lbf·ft", "20 lbf·ft")),
    ("drain plug", "5/8-18 UNF", "aluminium", "steel", ("25 lbf·ft", "30-35 lbf·ft")),
    ("drain plug", "1/4-18 NPT", "aluminium", "steel", ("15 lbf·ft", "12-18 lbf·ft")),
    ("drain plug", "", "aluminium", "steel", ("14-21 lbf·ft", "29 N·m", "2.5 kgf·m")),
    ("fill plug", "M20x1.5", "aluminium", "steel", ("25-75 lbf·in", "5 N·m", "8 N·m")),
    ("fill plug", "M30x1.5", "aluminium", "aluminium", ("25-75 lbf·in", "5 N·m")),
    ("fill plug", "M24x2", "aluminium", "plastic", ("2 N·m", "20 lbf·in", "3 N·m")),
    ("level plug", "M6x1", "aluminium", "steel", ("8 N·m", "10 N·m", "85 lbf·in")),
    ("level plug", "M10x1", "aluminium", "steel", ("12 N·m", "17 N·m")),
    ("level screw", "M8x1.25", "aluminium", "steel", ("12 N·m", "9 lbf·ft")),
    ("filter", "M20x1.5", "aluminium", "steel", ("10 N·m", "17 N·m", "11 lbf·ft")),
    ("screen", "", "aluminium", "aluminium", ("15 N·m", "20 N·m", "32 N·m")),
    ("cover screw", "M5x0.8", "aluminium", "steel", ("4 N·m", "5 N·m", "7 N·m", "44 lbf·in")),
    ("cover screw", "M6x1", "aluminium", "steel", ("7 N·m", "10 N·m", "12 N·m", "90-110 lbf·in")),
    ("cover screw", "M8x1.25", "aluminium", "steel", ("18 N·m", "22 N·m", "28 N·m")),
    ("cover screw", "1/4-20 UNC", "aluminium", "steel", ("84-108 lbf·in", "100 lbf·in")),
    ("pinch bolt", "M8x1.25", "aluminium", "steel", ("20 N·m", "22 N·m", "16 lbf·ft")),
    ("bleed screw", "M8x1.25", "aluminium", "steel", ("6 N·m", "7.8 N·m", "70 lbf·in")),
    ("banjo bolt", "M10x1", "aluminium", "steel", ("23 N·m", "26 N·m", "34 N·m", "17 lbf·ft")),
    ("fork cap", "M45x1", "aluminium", "aluminium", ("23 N·m", "35 N·m", "17-22 lbf·ft")),
    ("axle nut", "M18x1.5", "steel", "steel", ("88 N·m", "108 N·m", "65 lbf·ft", "100 lbf·ft")),
)
SLIPPED = {  # a unit said for another: 12, 8.85, 9.8; and a thousand
    "lbf·ft": ("lbf·in",),
    "lbf·in": ("lbf·ft", "N·m"),
    "N·m": ("lbf·in", "kgf·m"),
    "kgf·m": ("N·m",),
}


class PlausibilityTests(TestCase):
    """Unit slips, by role, thread and both materials. Bands: common practice, no source."""

    def test_ordinary_torques_pass(self) -> None:
        for role, thread, into, made, texts in ORDINARY:
            for text in texts:
                with self.subTest(role=role, thread=thread, text=text):
                    self.assertTrue(plausibility(read_torque(text), role, thread, into, made).ok)

    def test_slips_are_asked(self) -> None:
        tries, missed = 0, []
        for role, thread, into, made, texts in ORDINARY:
            for text in texts:
                number, unit = text.rsplit(" ", 1)
                slipped = [f"{number} {other}" for other in SLIPPED[unit]]
                if "-" not in number:
                    slipped += [
                        f"{Decimal(number) * 1000} {unit}",
                        f"{Decimal(number) / 1000} {unit}",
                    ]
                for said in slipped:
                    tries += 1
                    if plausibility(read_torque(said), role, thread, into, made).ok:
                        missed.append(f"{role} {thread} {text} as {said}")
        self.assertLessEqual(len(missed) / tries, 0.02, missed)

    def test_the_proposal_is_a_text_that_reads(self) -> None:
        for text, role, thread, question, proposal in (
            ("186 ft-lb", "drain plug", "", "lbf·in?", "186 lbf·in"),
            ("25-75 lbf·ft", "fill plug", "M20x1.5", "lbf·in?", "25–75 lbf·in"),
            ("22 ± 2 lbf·in", "drain plug", "M14x1.5", "lbf·ft?", "20–24 lbf·ft"),
            ("25 lbf·in (2.8 N·m)", "drain plug", "M14x1.5", "lbf·ft?", "25 lbf·ft"),
            ("22 kgf·m", "drain plug", "M14x1.5", "N·m?", "22 N·m"),
            ("20 lbf·in", "drain plug", "M18", "lbf·ft?", "20 lbf·ft"),
            ("100 N·m", "filter", "", "lbf·in?", "100 lbf·in"),
            ("29000 N·m", "drain plug", "", "29 N·m?", "29 N·m"),
            ("240 N·m + 90°", "cover screw", "M8x1.25", "lbf·in?", "240 lbf·in"),
            ("80 lbf·ft", "drain plug", "M14", "Look again at the manual.", ""),
            ("0.2 N·m", "drain plug", "", "Look again at the manual.", ""),
        ):
            with self.subTest(text):
                asked = plausibility(read_torque(text), role, thread)
                self.assertFalse(asked.ok)
                self.assertEqual((asked.question, asked.proposal), (question, proposal))
                if proposal:
                    self.assertTrue(plausibility(read_torque(proposal), role, thread).ok)

    def test_no_wrench_no_doubt(self) -> None:
        for text in ("3/4 turn", "hand tight", "hand tight + 1/2 turn"):
            self.assertTrue(plausibility(read_torque(text), "filter", "M20x1.5").ok)

    def test_shown_in_the_manuals_unit(self) -> None:
        spec = read_torque("15.5 lbf·ft")
        assert spec.low is not None
        self.assertEqual(show(spec.low, "lbf·in"), "186 lbf·in")

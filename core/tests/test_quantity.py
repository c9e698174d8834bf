"""Amounts with units. Factors: NIST SP 811:2008 App. B and BIPM SI Brochure 9th ed."""

from decimal import Decimal
from unittest import TestCase

import pint
from hypothesis import given
from hypothesis import strategies as st
from oilward_core.errors import CoreError
from oilward_core.quantity import (
    UNITS,
    Kind,
    bottle_words,
    convert,
    difference,
    format_exact,
    parse,
    parse_single,
    quarts_and_ounces,
    quick_sum,
    show,
)
from oilward_core.quantity.accepted import TABLE
from oilward_core.quantity.numbers import FORMS, scan_number
from oilward_core.quantity.plain import plain
from oilward_core.quantity.tokens import JOINTS, Joint, tokens
from oilward_core.quantity.units import SPELLINGS


def refused(test: TestCase, code: str, *args: object, **kwargs: object) -> CoreError:
    """The error `parse` raises, which must carry ``code``."""
    with test.assertRaises(CoreError) as caught:
        parse(*args, **kwargs)  # type: ignore[arg-type]
    test.assertEqual(caught.exception.code, code)
    return caught.exception


class FactorTests(TestCase):
    """Against the published exact factors, and against pint's own conversion."""

    def test_exact_factors(self) -> None:
        for unit, value in (
            ("qt", "946.352946"),
            ("pt", "473.176473"),
            ("fl oz", "29.573530"),  # 29.5735295625 to the sixth place
            ("imp qt", "1136.5225"),
            ("imp pt", "568.26125"),
            ("imp fl oz", "28.413062"),
            ("lbf·ft", "1.355818"),
            ("lbf·in", "0.112985"),
            ("kgf·m", "9.80665"),
            ("kgf·cm", "0.098066"),
            ("mi", "1.609344"),
            ("psi", "6.894757"),
            ("kgf/cm²", "98.0665"),
            ("lb", "453.59237"),
            ("oz (mass)", "28.349523"),
        ):
            with self.subTest(unit):
                measure = parse(f"1 {unit}", UNITS[unit].kind)
                self.assertAlmostEqual(measure.low, Decimal(value), delta=Decimal("0.0000011"))

    def test_conversions_agree_with_pint(self) -> None:
        registry: pint.UnitRegistry = pint.UnitRegistry()
        for value, ours, theirs, target, their_target in (
            (3.5, "qt", "quart", "l", "liter"),
            (16, "imp fl oz", "imperial_fluid_ounce", "ml", "milliliter"),
            (22, "lbf·ft", "foot * force_pound", "N·m", "newton * meter"),
            (43, "N·m", "newton * meter", "kgf·m", "force_kilogram * meter"),
            (6000, "mi", "mile", "km", "kilometer"),
            (36, "psi", "psi", "bar", "bar"),
            (212, "°F", "degF", "°C", "degC"),
        ):
            with self.subTest(ours):
                said = convert(parse(f"{value} {ours}", None).low, target)
                expected = registry.Quantity(value, theirs).to(their_target).magnitude
                self.assertAlmostEqual(float(said), expected, delta=1e-5 * max(1, abs(expected)))

    def test_check_pairs(self) -> None:
        """Published factors, worked by hand to the digits shown (NIST SP 811:2008 App. B)."""
        for said, unit, expected in (
            ("0.8 qt", "ml", "757.1"),
            ("12 fl oz", "ml", "354.88"),
            ("5 imp pt", "l", "2.8413"),
            ("650 ml", "imp fl oz", "22.8768"),
            ("96 lbf·in", "N·m", "10.847"),
            ("2.4 kgf·m", "N·m", "23.536"),
            ("10 N·m", "lbf·in", "88.51"),
            ("10000 km", "mi", "6213.71"),
            ("150 psi", "kPa", "1034.21"),
            ("1 atm", "bar", "1.01325"),
            ("5.25 in", "mm", "133.35"),
            ("4 23/32 in", "mm", "119.85625"),
            ("212 °F", "°C", "100"),
            ("85 °C", "°F", "185"),
            ("0.9 kgf/mm", "N/mm", "8.8260"),
            ("10 lbf/in", "N/mm", "1.7513"),
            ("8 oz (mass)", "g", "226.7962"),
        ):
            with self.subTest(said, unit=unit):
                off = convert(parse(said, UNITS[unit].kind).low, unit) - Decimal(expected)
                places = len(expected.partition(".")[2])
                self.assertLessEqual(abs(off), Decimal(5).scaleb(-places - 1))
        self.assertEqual(difference(Decimal(18), "°F"), 10)

    def test_trade_sums(self) -> None:
        self.assertEqual(parse("15.5 lbf·ft", None).low, parse("186 lbf·in", None).low)
        self.assertEqual(show(parse("15.5 ft-lb", None).low, "N·m", 3), "21.015 N·m")
        self.assertEqual(show(parse("38 oz", Kind.VOLUME).low, "ml", 1), "1123.8 ml")
        self.assertEqual(quarts_and_ounces(Decimal("1123.79")), "1 qt 6 fl oz")
        self.assertEqual(quarts_and_ounces(Decimal("828.06")), "28 fl oz")
        self.assertEqual(quarts_and_ounces(Decimal("946.35")), "1 qt")


class GrammarTests(TestCase):
    """What manuals print and people type: every row of the grammar's own table."""

    def test_every_row_of_the_table(self) -> None:
        for row in TABLE:
            for text, kind, reading in row.examples:
                with self.subTest(row.rule, text=text):
                    try:
                        found = parse(text, kind)
                        ends = dict.fromkeys(f"{end:f}" for end in (found.low, found.high))
                        said = "–".join(ends)
                    except CoreError as error:
                        said = f"?{error.code}"
                    self.assertEqual(said, reading)

    def test_the_forms_of_numbers(self) -> None:
        for pattern, _, example, _ in FORMS:
            with self.subTest(pattern):
                number = scan_number(example)
                assert number is not None
                self.assertEqual((number.said, number.end), (example, len(example)))

    def test_every_joint_is_known_where_it_stands(self) -> None:
        for joint, words in JOINTS.items():
            for word in words.split("|"):
                with self.subTest(word):
                    found = [t.joint for t in tokens(plain(f"3 l {word} 4 l"), Kind.VOLUME, "us")]
                    expected = Joint.RANGE if word == "~" else joint
                    self.assertIn(expected, found)

    def test_questions_carry_readings_that_read(self) -> None:
        for text, kind, options in (
            ("2,750 l", Kind.VOLUME, ["2.75 l", "2750 l"]),
            ("2.500 km", Kind.DISTANCE, ["2.5 km", "2500 km"]),
            ("18/25 N·m", Kind.TORQUE, ["18–25 N·m", "18 N·m", "25 N·m"]),
            ("11/2 qt", Kind.VOLUME, ["1 1/2 qt", "5.5 qt"]),
            ("1 qt 32 oz", Kind.VOLUME, ["1 qt", "2 qt"]),
            ("2.7 L (2.7 qt)", Kind.VOLUME, ["2.7 l", "2.7 qt"]),
        ):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                parse(text, kind)
            self.assertEqual(caught.exception.fields["options"], options)
            for option in options:
                parse(option, kind)

    def test_a_limit_is_read_where_a_field_takes_one(self) -> None:
        for text, bound in (("at least 3 min", "at least"), ("max. 3 min", "at most")):
            found = parse(text, Kind.TIME, limits=True)
            self.assertEqual((found.low, found.bound), (3, bound))

    def test_bare_number_takes_the_fields_unit(self) -> None:
        self.assertEqual(parse("2½", Kind.VOLUME, "qt").low, Decimal("2365.882365"))
        self.assertEqual(parse("6/32", Kind.LENGTH, "in").low, Decimal("4.7625"))
        refused(self, "quantity.unit_missing", "38", Kind.VOLUME)
        refused(self, "quantity.unit_missing", "1 qt 6", Kind.VOLUME, "ml")

    def test_an_imperial_reader_is_asked_whose_ounce(self) -> None:
        error = refused(self, "quantity.which_size", "38 oz", Kind.VOLUME, None, "imperial")
        self.assertEqual(error.fields["options"], ["US fl oz", "imp fl oz"])
        self.assertEqual(parse("38 us oz", Kind.VOLUME, None, "imperial").unit, "fl oz")

    def test_refusals(self) -> None:
        for text, kind, code in (
            ("", Kind.VOLUME, "quantity.empty"),
            ("   ", Kind.VOLUME, "quantity.empty"),
            ("-5 ml", Kind.VOLUME, "quantity.negative"),
            ("20 N·m", Kind.VOLUME, "quantity.wrong_kind"),
            ("5 flurbs", Kind.VOLUME, "quantity.unknown_unit"),
            ("abc", Kind.VOLUME, "quantity.not_a_number"),
            ("1/0 qt", Kind.VOLUME, "quantity.digits"),
            ("20-", Kind.TORQUE, "quantity.unfinished"),
            ("21-14 N·m", Kind.TORQUE, "quantity.range_reversed"),
            ("1-2-3 l", Kind.VOLUME, "quantity.too_much"),
            ("20 °C 5 °C", Kind.TEMPERATURE, "quantity.disagree"),
            ("--5 °C", Kind.TEMPERATURE, "quantity.not_a_number"),
            ("99999999 l", Kind.VOLUME, "quantity.too_large"),
            ("9" * 70, Kind.VOLUME, "quantity.unit_missing"),
            ("9" * 500 + " ml", Kind.VOLUME, "quantity.too_large"),
        ):
            with self.subTest(text):
                refused(self, code, text, kind)

    def test_single_value_above_zero(self) -> None:
        for text, code in (("0 ml", "quantity.zero"), ("1-2 l", "quantity.one_value")):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                parse_single(text, Kind.VOLUME)
            self.assertEqual(caught.exception.code, code)

    def test_every_spelling_reads(self) -> None:
        for word, units in SPELLINGS.items():
            for unit in units:
                with self.subTest(word=word, kind=unit.kind):
                    self.assertEqual(parse(f"3 {word}", unit.kind).unit, unit.name)

    @given(st.sampled_from(sorted(UNITS)), st.integers(1, 10**12))
    def test_format_then_parse_is_identity(self, unit: str, micro: int) -> None:
        value = Decimal(micro).scaleb(-6)
        self.assertEqual(parse(format_exact(value, unit), UNITS[unit].kind).low, value)

    @given(st.text(max_size=30))
    def test_any_text_is_read_or_refused_by_code(self, text: str) -> None:
        try:
            parse(text, Kind.VOLUME, "ml")
        except CoreError as error:
            self.assertTrue(error.code.startswith("quantity."))


class QuickSumTests(TestCase):
    """Bench arithmetic."""

    def test_answers(self) -> None:
        for text, words in (
            ("2.7 l - 2.5 qt", "334 ml"),
            ("38 oz in qt", "1.19 qt"),
            ("mid 14-21 ft-lb in Nm", "23.7 N·m"),
            ("mid 14-21 ft-lb", "17.5 lbf·ft"),
            ("mid 25-75 in-lb", "50.0 lbf·in"),
            ("3 x 946 ml", "2838 ml"),
            ("1 qt + 6 oz in ml", "1124 ml"),
            ("14-21 ft-lb in Nm", "19.0–28.5 N·m"),
            ("15 000 mi in km", "24\u00a0140 km"),
            ("1 l - 200 ml + 100 ml", "900 ml"),
            ("3 x 946 ml + 1 l", "3838 ml"),
            ("1 l + 3 x 946 ml", "3838 ml"),
            ("946 ml x 3", "2838 ml"),
            ("(2 qt + 6 oz) x 2 in ml", "4140 ml"),
            ("2.7 l / 3", "0.90 l"),
            ("10 l / 2 / 2", "2.50 l"),
            ("1 000 ml - 2 x 250 ml - 100 ml", "400 ml"),
            ("2.7 l (2.85 qt) - 1 qt", "1754 ml"),
            ("1 qt 6 oz - 1 oz in ml", "1094 ml"),
            ("5 ml in qt", "0.00528 qt"),
            ("1 mi in km", "1.61 km"),
            ("90 s in min", "1.5 min"),
            ("1 h 30 min + 45 min", "135 min"),
            ("6/32 in in mm", "4.76 mm"),
            ("85 F in C", "29.4 °C"),
            ("2 N·m in kgf·m", "0.204 kgf·m"),
        ):
            with self.subTest(text):
                self.assertEqual(quick_sum(text).words, words)

    def test_what_is_no_sum(self) -> None:
        for text, code in (
            ("2.7 l - 20 Nm", "quantity.mixed_kinds"),
            ("85 °C - 20 °C", "quantity.mixed_kinds"),
            ("2 l x 3 l", "quantity.times"),
            ("2 l / 0", "quantity.times"),
            ("2 + 3", "quantity.unit_missing"),
            ("1 l +", "quantity.unfinished"),
            ("(1 l", "quantity.unfinished"),
            ("1 l) + 2 l", "quantity.unfinished"),
            ("9999999 l x 9999999", "quantity.too_large"),
        ):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                quick_sum(text)
            self.assertEqual(caught.exception.code, code)

    @given(st.text(alphabet="12.,/ ()+-x*lqtozm½midn", max_size=24))
    def test_any_line_is_answered_or_refused_by_code(self, text: str) -> None:
        try:
            quick_sum(text)
        except CoreError as error:
            self.assertTrue(error.code.startswith("quantity."))

    def test_bottle_words(self) -> None:
        for ml, bottle, words in (
            ("330", "1000", "330 ml of a 1 l bottle"),
            ("2420", "1000", "2 whole 1 l bottles and 420 ml"),
            ("1000", "1000", "1 whole 1 l bottle"),
            ("500", "946.352946", "500 ml of a 946 ml bottle"),
        ):
            with self.subTest(ml):
                self.assertEqual(bottle_words(Decimal(ml), Decimal(bottle)), words)

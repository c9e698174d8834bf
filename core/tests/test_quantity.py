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
    format_exact,
    parse,
    parse_single,
    quarts_and_ounces,
    quick_sum,
    show,
    show_range,
)
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

    def test_trade_sums(self) -> None:
        self.assertEqual(parse("15.5 lbf·ft", None).low, parse("186 lbf·in", None).low)
        self.assertEqual(show(parse("15.5 ft-lb", None).low, "N·m", 3), "21.015 N·m")
        self.assertEqual(show(parse("38 oz", Kind.VOLUME).low, "ml", 1), "1123.8 ml")
        self.assertEqual(quarts_and_ounces(Decimal("1123.79")), "1 qt 6 fl oz")
        self.assertEqual(quarts_and_ounces(Decimal("828.06")), "28 fl oz")
        self.assertEqual(quarts_and_ounces(Decimal("946.35")), "1 qt")


class GrammarTests(TestCase):
    """What people type."""

    def test_spellings(self) -> None:
        for text, kind, ml in (
            ("2.7 l", Kind.VOLUME, "2700"),
            ("2,7 l", Kind.VOLUME, "2700"),
            ("0,750 l", Kind.VOLUME, "750"),
            ("2,750 ml", Kind.VOLUME, "2750"),
            ("1 qt 6 oz", Kind.VOLUME, "1123.794123"),
            ("1 qt + 6 oz", Kind.VOLUME, "1123.794123"),
            ("3 1/2 qt", Kind.VOLUME, "3312.235311"),
            ("2½ qt", Kind.VOLUME, "2365.882365"),
            ("2.7L", Kind.VOLUME, "2700"),
            ("1.234,5 ml", Kind.VOLUME, "1234.5"),
            ("1,234.5 ml", Kind.VOLUME, "1234.5"),
            ("2 imp pt", Kind.VOLUME, "1136.5225"),
            ("1 3/8 in", Kind.LENGTH, "34.925"),
            ("6/32 in", Kind.LENGTH, "4.7625"),
            ("15 000 mi", Kind.DISTANCE, "24140.16"),
            ("15\u202f000 km", Kind.DISTANCE, "15000"),
            ("15,000 km", Kind.DISTANCE, "15000"),
            ("186 in-lb", Kind.TORQUE, "21.015178"),
            ("20 Nm", Kind.TORQUE, "20"),
            ("-40 °F", Kind.TEMPERATURE, "-40"),
            ("½ h", Kind.TIME, "30"),
            (".5 l", Kind.VOLUME, "500"),
        ):
            with self.subTest(text):
                self.assertEqual(parse(text, kind).low, Decimal(ml))

    def test_ranges_and_tolerances(self) -> None:
        for text in ("14-21 ft-lb", "14–21 lbf·ft", "14 to 21 lb ft", "14 ft-lb - 21 ft-lb"):
            with self.subTest(text):
                measure = parse(text, Kind.TORQUE)
                self.assertEqual(measure.form, "range")
                self.assertEqual(
                    show_range(measure.low, measure.high, "lbf·ft"), "14.0–21.0 lbf·ft"
                )
        tolerance = parse("20 ± 2 N·m", Kind.TORQUE)
        self.assertEqual((tolerance.low, tolerance.high, tolerance.value), (18, 22, 20))
        warm = parse("212 ± 18 °F", Kind.TEMPERATURE)
        self.assertEqual((warm.low, warm.high), (90, 110))

    def test_bare_number_takes_the_fields_unit(self) -> None:
        self.assertEqual(parse("2½", Kind.VOLUME, "qt").low, Decimal("2365.882365"))
        self.assertEqual(parse("6/32", Kind.LENGTH, "in").low, Decimal("4.7625"))
        refused(self, "quantity.unit_missing", "38", Kind.VOLUME)
        refused(self, "quantity.unit_missing", "1 qt 6", Kind.VOLUME, "ml")

    def test_asks_instead_of_guessing(self) -> None:
        error = refused(self, "quantity.doubtful_comma", "2,750 l", Kind.VOLUME)
        self.assertEqual(error.fields["options"], ["2.75 l", "2750 l"])
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
            ("1/0 qt", Kind.VOLUME, "quantity.not_a_number"),
            ("20-", Kind.TORQUE, "quantity.unfinished"),
            ("21-14 N·m", Kind.TORQUE, "quantity.range_reversed"),
            ("1-2-3 l", Kind.VOLUME, "quantity.too_much"),
            ("20 °C 5 °C", Kind.TEMPERATURE, "quantity.too_much"),
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
            ("15 000 mi in km", "24140 km"),
        ):
            with self.subTest(text):
                self.assertEqual(quick_sum(text).words, words)

    def test_kinds_do_not_mix(self) -> None:
        with self.assertRaises(CoreError) as caught:
            quick_sum("2.7 l - 20 Nm")
        self.assertEqual(caught.exception.code, "quantity.mixed_kinds")

    def test_bottle_words(self) -> None:
        for ml, bottle, words in (
            ("330", "1000", "330 ml of a 1 l bottle"),
            ("2420", "1000", "2 whole 1 l bottles and 420 ml"),
            ("1000", "1000", "1 whole 1 l bottle"),
            ("500", "946.352946", "500 ml of a 946 ml bottle"),
        ):
            with self.subTest(ml):
                self.assertEqual(bottle_words(Decimal(ml), Decimal(bottle)), words)

"""What is typed at work, held against what is expected. The window is our definition."""

from decimal import Decimal
from unittest import TestCase

from oilward_core.codes.bench import Basis
from oilward_core.errors import CoreError, Question
from oilward_core.expected import Expected, as_said, hold_against
from oilward_core.fluid import read_density
from oilward_core.quantity import Kind, parse, read_count, read_number

LAST = Expected(
    value=Decimal(3400),
    spread=Decimal(240),
    basis=Basis.LAST,
    amount="3400 ml",
    less="burnt",
    more="over-filled",
)
AIM = Expected(
    value=Decimal(24),
    spread=Decimal(0),
    basis=Basis.AIM,
    amount="24.0 N·m",
    less="loose",
    more="thread",
)


BOOK = Expected(
    value=Decimal(520),
    spread=Decimal(9),
    basis=Basis.BOOK,
    amount="520 ml",
    less="x",
    more="y",
)


class HeldTests(TestCase):
    def question(self, text: str, kind: Kind, unit: str, expected: Expected) -> Question:
        with self.assertRaises(Question) as caught:
            hold_against(parse(text, kind, unit), expected)
        return caught.exception

    def test_a_unit_or_a_comma_that_explains_it_is_asked(self) -> None:
        for text, kind, unit, expected, meant in (
            ("3,4", Kind.VOLUME, "ml", LAST, "3.4 l"),
            ("3.4 ml", Kind.VOLUME, "ml", LAST, "3.4 l"),
            (
                "3.6",
                Kind.VOLUME,
                "l",
                Expected(
                    value=Decimal(520),
                    spread=Decimal(9),
                    basis=Basis.BOOK,
                    amount="520 ml",
                    less="x",
                    more="y",
                ),
                "",
            ),
            ("34 l", Kind.VOLUME, "ml", LAST, "3.4 l"),
            ("340", Kind.VOLUME, "ml", LAST, "3400 ml"),
            ("115", Kind.VOLUME, "ml", LAST, "115 fl oz"),
            ("3400", Kind.VOLUME, "l", LAST, "3.4 l"),
            ("24", Kind.TORQUE, "lbf·in", AIM, "24 N·m"),
            ("18", Kind.TORQUE, "lbf·in", AIM, "18 lbf·ft"),
            ("212", Kind.TORQUE, "N·m", AIM, "212 lbf·in"),
            ("2.4", Kind.TORQUE, "N·m", AIM, "24 N·m"),
        ):
            with self.subTest(text, unit=unit):
                asked = self.question(text, kind, unit, expected)
                self.assertEqual(asked.code, "expected.slip" if meant else "expected.far")
                self.assertEqual(asked.fields["options"][-1], asked.fields["sure"])
                if meant:
                    self.assertEqual(asked.fields["options"][0], meant)

    def test_far_off_is_said_with_what_it_would_mean_and_may_stand(self) -> None:
        asked = self.question("2.2 l", Kind.VOLUME, "ml", LAST)
        self.assertEqual((asked.code, asked.fields["meaning"]), ("expected.far", "burnt"))
        said = parse("2.2 l", Kind.VOLUME)
        stands = hold_against(said, LAST, sure=as_said(said))
        assert stands is not None
        self.assertEqual(stands.expected, LAST)
        self.assertEqual(LAST.words, "3400 ml went in last time")
        self.assertEqual(
            self.question("5 l", Kind.VOLUME, "ml", LAST).fields["meaning"], "over-filled"
        )

    def test_an_answer_is_only_for_what_was_asked(self) -> None:
        with self.assertRaises(Question):
            hold_against(parse("2.1 l", Kind.VOLUME), LAST, sure="2.2 l")

    def test_near_is_taken(self) -> None:
        for text in ("3.4 l", "2.5 l", "4.3 l", "3.5 qt"):
            self.assertIsNone(hold_against(parse(text, Kind.VOLUME), LAST))
        self.assertIsNone(hold_against(parse("3 ml", Kind.VOLUME), None))
        wide = Expected(
            value=Decimal(300),
            spread=Decimal(60),
            basis=Basis.COACH_POURS,
            amount="300 ml",
            less="x",
            more="y",
        )
        self.assertIsNone(hold_against(parse("540 ml", Kind.VOLUME), wide))  # four spreads

    def test_what_is_not_asked_about(self) -> None:
        book = Expected(
            value=Decimal(2700),
            spread=Decimal(2700),
            basis=Basis.HOLDS,
            amount="2700 ml",
            less="",
            more="too much",
        )
        self.assertIsNone(hold_against(parse("150 ml", Kind.VOLUME), book))


class PlainNumberTests(TestCase):
    def test_numbers(self) -> None:
        for text, value in (
            ("0,85", "0.85"),
            ("1/2", "0.5"),
            ("-5", "-5"),
            ("12 500", "12500"),
            ("½", "0.5"),
        ):
            self.assertEqual(read_number(text), Decimal(value))
        for text, code in (
            ("", "quantity.empty"),
            ("abc", "quantity.not_a_number"),
            ("1.2.3", "quantity.not_a_number"),
            ("³", "quantity.not_a_number"),
            ("2,750", "quantity.doubtful_comma"),
            ("18/25", "quantity.slash"),
            ("5", "number.range"),
        ):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                read_number(text, Decimal(-10), Decimal(2))
            self.assertEqual(caught.exception.code, code)

    def test_counts(self) -> None:
        self.assertEqual(read_count("12"), 12)
        for text, code in (
            ("2.5", "number.whole"),
            ("-1", "number.range"),
            ("³", "quantity.not_a_number"),
        ):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                read_count(text)
            self.assertTrue(caught.exception.code.startswith(code))

    def test_densities(self) -> None:
        for text in ("870", "0.870", "0,87 kg/l", "870 kg/m³", "0.87 g/ml"):
            self.assertEqual(read_density(text), 870)
        for text in ("87", "8.7 kg/l", "heavy"):
            with self.subTest(text), self.assertRaises(CoreError):
                read_density(text)

"""Names to sign in with, PINs, units: what is taken, and what is refused in a word."""

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.errors import CoreError
from oilward_core.people import full_name, pin, reads, sign_in_name


def code_of(action: object, *given: str) -> str:
    try:
        action(*given)  # type: ignore[operator]
    except CoreError as error:
        return error.code
    return ""


class PeopleTests(TestCase):
    def test_names(self) -> None:
        self.assertEqual(sign_in_name(" Oda.K-2 "), "oda.k-2")
        for wrong in ("", "o", "2oda", "oda klein", "ödä", "o" * 41, "oda\n"[:4] + "\x00"):
            self.assertEqual(code_of(sign_in_name, wrong), "people.username", wrong)
        self.assertEqual(full_name("  Oda   Klein "), "Oda Klein")
        for wrong in ("", "  ", "x" * 81, "Oda\x07"):
            self.assertEqual(code_of(full_name, wrong), "people.name", wrong)

    def test_pins(self) -> None:
        self.assertEqual(pin(" 2580 "), "2580")
        for wrong in ("", "123", "123456789", "12a4", "１２５８", "-123"):
            self.assertEqual(code_of(pin, wrong), "people.pin", wrong)
        for easy in ("0000", "1234", "9876", "77777777"):
            self.assertEqual(code_of(pin, easy), "people.pin_easy", easy)
        self.assertEqual(pin("1357"), "1357")

    def test_units(self) -> None:
        self.assertEqual(reads("qt", "lbf·in", "imperial"), ("qt", "lbf·in", "imperial"))
        for wrong in (("gal", "N·m", "us"), ("ml", "stone", "us"), ("ml", "N·m", "troy")):
            self.assertEqual(code_of(reads, *wrong), "people.unit")

    @given(st.text(max_size=100))
    def test_any_text_is_answered(self, text: str) -> None:
        for rule in (sign_in_name, full_name, pin):
            code_of(rule, text)
        code_of(reads, text, text, text)

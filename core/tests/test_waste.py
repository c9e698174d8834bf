"""The container of used oil is the sum of its lines."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.errors import CoreError
from oilward_core.kit import WasteKind, WasteLevel, WasteLine, waste_level, waste_line

LITRE = Decimal(1000)


def line(kind: WasteKind, litres: int) -> WasteLine:
    return WasteLine(kind=kind, ml=litres * LITRE)


class LevelTests(TestCase):
    def test_what_ran_in_since_it_was_collected_lies_in_it(self) -> None:
        lines = [
            line(WasteKind.CONTAINER, 60), line(WasteKind.DRAINED, 40), line(WasteKind.ADDED, 12),
            line(WasteKind.COLLECTED, 51), line(WasteKind.DRAINED, 3),
        ]  # fmt: skip
        full = waste_level(lines[:3])
        self.assertEqual((full.ml, full.holds, full.nearly_full), (52 * LITRE, 60 * LITRE, True))
        self.assertEqual(waste_level(lines[:4]).ml, 0)
        self.assertEqual(waste_level(lines).ml, 3 * LITRE)

    def test_what_is_found_in_it_puts_a_slip_of_the_hand_right(self) -> None:
        typed = line(WasteKind.ADDED, 240)
        self.assertEqual(waste_level([typed, line(WasteKind.COUNTED, 24)]).ml, 24 * LITRE)

    def test_nobody_has_named_a_container(self) -> None:
        found = waste_level([line(WasteKind.DRAINED, 3)])
        self.assertEqual((found.share, found.nearly_full), (None, False))

    def test_refusals(self) -> None:
        some = WasteLevel(ml=LITRE)
        for kind, ml, level, code in (
            (WasteKind.ADDED, Decimal(0), some, "shelf.waste"),
            (WasteKind.ADDED, Decimal(3_000_000), some, "shelf.waste"),
            (WasteKind.COLLECTED, LITRE, WasteLevel(ml=Decimal(0)), "shelf.waste_empty"),
        ):
            with self.subTest(kind=kind, ml=ml), self.assertRaises(CoreError) as caught:
                waste_line(kind, ml, level)
            self.assertEqual(caught.exception.code, code)

    @given(st.lists(st.tuples(st.sampled_from(WasteKind), st.integers(1, 2000)), max_size=40))
    def test_it_is_never_less_than_nothing(self, told: list[tuple[WasteKind, int]]) -> None:
        lines = [line(kind, litres) for kind, litres in told]
        found = waste_level(lines)
        self.assertGreaterEqual(found.ml, 0)
        self.assertEqual(waste_level([*lines, line(WasteKind.COLLECTED, 1)]).ml, 0)

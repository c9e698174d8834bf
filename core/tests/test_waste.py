"""The container of used oil is the sum of its lines."""

from decimal import Decimal
from random import Random
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.bench import TaskClosing, let_out
from oilward_core.codes.fill import Cause
from oilward_core.codes.options import Draw, Lost
from oilward_core.errors import CoreError
from oilward_core.kit import WasteKind, WasteLevel, WasteLine, waste_level, waste_line

from .clerk import LEGS, TASK, Clerk, finished, whole_visit
from .test_fork import do

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


def out_of(clerk: Clerk) -> dict[str, tuple[int, bool]]:
    """What a visit let out, by reservoir: ml, and whether it was measured."""
    closing = [TaskClosing(plan=plan, fluid="", bottle_ml=LITRE) for plan in clerk.plan.tasks]
    found = let_out(closing, clerk.entries)
    return {one.label: (round(one.ml), one.measured) for one in found}


class LetOutTests(TestCase):
    def test_what_was_measured_of_what_was_drained(self) -> None:
        self.assertEqual(out_of(whole_visit()), {"engine": (2500, True)})

    def test_before_the_plug_is_out_nothing_is(self) -> None:
        clerk = Clerk()
        clerk.until_open()
        self.assertEqual(out_of(clerk), {})

    def test_what_nobody_measured_by_the_book(self) -> None:
        clerk = Clerk()
        clerk.until_open()
        clerk.wait(10)
        self.assertEqual(out_of(clerk), {"engine": (2700, False)})

    def test_oil_drained_again_comes_with_the_old_oil_that_was_left(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2110 ml", "0.8")
        clerk.record("cause", {"cause": Cause.OLD_OIL})
        clerk.record("draw", {"amount": "2600 ml", "where": Draw.PLUG, "sure": "2600 ml"})
        self.assertEqual(out_of(clerk), {"engine": (5100, True)})

    def test_what_ran_out_when_its_plug_was_out_again(self) -> None:
        clerk = whole_visit()
        clerk.record("opens again", {}, "engine/torque")
        clerk.record("ran out", {"how": Lost.SOME, "amount": "300 ml"})
        self.assertEqual(out_of(clerk), {"engine": (2800, True)})

    def test_both_legs_as_measured_and_by_the_book_where_nobody_did(self) -> None:
        clerk = Clerk(TASK, *LEGS)
        self.assertTrue(finished(clerk, Random(2)))
        found = out_of(clerk)
        self.assertEqual({found["fork left"], found["fork right"]}, {(800, True)})
        clerk = Clerk(*LEGS)
        do(clerk, "fork left/measure")
        self.assertEqual(out_of(clerk)["fork left"], (800, False))

"""The kit: bottles against brute force, words, seals and tools."""

from dataclasses import replace
from datetime import date
from decimal import Decimal
from itertools import product
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.kit import (
    Bottle,
    Size,
    buy,
    cautions,
    expected_need,
    pick,
    say_picked,
    things,
)
from oilward_core.order import PlannedTask
from oilward_core.schools import Choice, Schools
from oilward_core.spec import FillRule, Variant

from .test_order import LEGS, PRIMARY
from .test_sheet import ENGINE

TODAY = date(2026, 6, 1)
SIZES = (Size(1000, Decimal(14)), Size(4000, Decimal(44)), Size(250, Decimal(6)))


def bottle(name: str, left: int, opened: date | None = None, size: int = 946) -> Bottle:
    """A bottle with so much left."""
    return Bottle(name, Decimal(size), Decimal(left), opened)


class BuyTests(TestCase):
    @given(st.integers(1, 9000))
    def test_never_short_and_never_dearer_than_brute_force(self, need: int) -> None:
        bought = buy(need, SIZES)
        held = sum(size.ml * count for size, count in bought)
        cost = sum((size.price * count for size, count in bought), Decimal(0))
        self.assertGreaterEqual(held, need)
        cheapest = min(
            (
                sum((s.price * n for s, n in zip(SIZES, counts, strict=True)), Decimal(0)),
                sum(s.ml * n for s, n in zip(SIZES, counts, strict=True)),
            )
            for counts in product(range(10), range(4), range(5))
            if sum(s.ml * n for s, n in zip(SIZES, counts, strict=True)) >= need
        )
        self.assertEqual((cost, held), cheapest)

    def test_nothing_needed_or_nothing_sold(self) -> None:
        self.assertEqual((buy(0, SIZES), buy(500, ())), ((), ()))


class PickTests(TestCase):
    def test_all_of_one_and_some_of_the_next(self) -> None:
        # 38 fl oz is one US quart and 6 fl oz: 946.35 + 177.44 ml
        need = Decimal("1123.79")
        shelf = [bottle("A", 946, date(2026, 1, 1)), bottle("B", 946)]
        found = pick(need, shelf, SIZES, TODAY)
        self.assertEqual(
            [(use.bottle.id, round(use.ml)) for use in found.uses], [("A", 946), ("B", 178)]
        )
        words = say_picked(found, "qt")
        self.assertIn("all of the open 946 ml bottle", words)
        self.assertIn("178 ml (6 fl oz) of the sealed 946 ml bottle, which keeps 768 ml", words)

    def test_oldest_open_bottle_first_and_none_past_its_life(self) -> None:
        shelf = [
            bottle("new", 300, date(2026, 5, 1)),
            bottle("old", 300, date(2025, 5, 1)),
            bottle("stale", 900, date(2022, 5, 1)),
        ]
        found = pick(Decimal(500), shelf, SIZES, TODAY)
        self.assertEqual([use.bottle.id for use in found.uses], ["old", "new"])

    def test_sealed_bottles_are_chosen_to_leave_least_over(self) -> None:
        shelf = [bottle("litre", 1000), bottle("half", 500), bottle("gallon", 4000)]
        found = pick(Decimal(1400), shelf, SIZES, TODAY)
        self.assertEqual({use.bottle.id for use in found.uses}, {"litre", "half"})
        self.assertEqual(found.buy, ())

    def test_what_is_missing_is_bought(self) -> None:
        found = pick(Decimal(3000), [bottle("A", 500, date(2026, 1, 1))], SIZES, TODAY)
        self.assertEqual([(size.ml, n) for size, n in found.buy], [(1000, 2), (250, 2)])
        self.assertEqual((found.spare, found.cost), (0, Decimal(40)))
        self.assertIn("buy 2 of 1000 ml; buy 2 of 250 ml", say_picked(found, "ml"))

    @given(
        st.lists(st.tuples(st.integers(0, 1500), st.booleans()), max_size=6),
        st.integers(1, 6000),
    )
    def test_the_kit_is_never_short(self, stock: list[tuple[int, bool]], need: int) -> None:
        shelf = [
            bottle(str(n), left, date(2026, 1, 1) if opened else None, 1500)
            for n, (left, opened) in enumerate(stock)
        ]
        found = pick(Decimal(need), shelf, SIZES, TODAY)
        bought = sum(size.ml * count for size, count in found.buy)
        self.assertGreaterEqual(sum(use.ml for use in found.uses) + bought, need)
        self.assertTrue(all(use.keeps >= 0 for use in found.uses))

    def test_reserve_only_where_a_level_is_read(self) -> None:
        self.assertEqual(expected_need(Decimal(185), FillRule.EXACT), 185)
        self.assertEqual(expected_need(Decimal(800), FillRule.LEVEL), 900)
        self.assertEqual(expected_need(Decimal(4000), FillRule.LEVEL), 4200)


class ThingsTests(TestCase):
    TASKS = [
        PlannedTask(ENGINE, Variant.WITH_FILTER),
        PlannedTask(PRIMARY, Variant.DRAIN_ONLY),
        PlannedTask(replace(LEGS[0], caution="Spring load"), Variant.DRAIN_ONLY),
    ]

    def test_seals_tools_and_torques(self) -> None:
        found = things(self.TASKS, Schools())
        self.assertEqual(dict(found.seals)["crush washer 12 mm"], 1)
        self.assertIn("17 mm", found.tools)
        self.assertIn("filter for the engine", found.consumables)
        self.assertIn("PTFE paste", found.consumables)
        self.assertIn(("engine", "drain plug"), [(label, f.role) for label, f in found.torqued])

    def test_schools_decide_about_washers_and_paste(self) -> None:
        choices = (
            Choice("engine", "washer", "turned over once"),
            *(Choice(kind, "sealant", "none") for kind in ("engine", "primary")),
        )
        found = things(self.TASKS[:2], Schools(choices))
        self.assertNotIn("crush washer 12 mm", dict(found.seals))
        self.assertNotIn("PTFE paste", found.consumables)

    def test_a_seal_with_a_life_is_renewed_when_it_is_over(self) -> None:
        plugs = (ENGINE.fasteners[0], replace(ENGINE.fasteners[1], seal="O-ring 28 mm"))
        spec = replace(ENGINE, fasteners=plugs, seal_life=3)
        for done, due in ((0, False), (1, False), (2, True), (3, False), (5, True)):
            with self.subTest(done=done):
                found = things([PlannedTask(spec, Variant.DRAIN_ONLY, done)], Schools())
                self.assertEqual("O-ring 28 mm" in dict(found.seals), due)

    def test_a_filter_brings_its_own_gasket(self) -> None:
        plugs = (*ENGINE.fasteners[:2], replace(ENGINE.fasteners[2], seal="its own gasket"))
        found = things(
            [PlannedTask(replace(ENGINE, fasteners=plugs), Variant.WITH_FILTER)], Schools()
        )
        self.assertNotIn("its own gasket", dict(found.seals))

    def test_cautions_are_gathered_once(self) -> None:
        said = cautions(self.TASKS)
        self.assertEqual(len(said), len(set(said)))
        self.assertIn("Fork left: Spring load", said)
        self.assertEqual(cautions(self.TASKS[2:]), ("Fork left: Spring load",))

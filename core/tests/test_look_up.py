"""Values the sheet lacks are asked for on the run sheet, and unchecked ones are said."""

from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from oilward_core.bench import LookedUp, Speaker, Status, own_words_again, read_entry, result
from oilward_core.errors import CoreError
from oilward_core.runsheet import TaskPlan
from oilward_core.spec import Cell, Marks, Path, Variant, pack, reservoir_of, unpack

from .clerk import TASK, Clerk
from .test_cells import ENGINE as SAID
from .test_cells import cells


def plan(without: str = "", checked: str = "Oda") -> TaskPlan:
    """A plan from cells, with those left out whose path holds ``without``."""
    said = {k: v for k, v in SAID.items() if not without or without not in k}
    sheet = cells(said, checked=checked)
    return TaskPlan(
        reservoir=reservoir_of("engine", sheet),
        variant=Variant.WITH_FILTER,
        took=(),
        last_put_in=None,
        km_since_wiped=Decimal(0),
        first_service=False,
        cells=sheet,
    ).asking()


class LookUpTests(TestCase):
    def test_a_missing_capacity_is_asked_first_and_then_used(self) -> None:
        clerk = Clerk(plan("with filter"))
        sheet = clerk.sheet
        self.assertEqual(sheet.focus, "engine/look up..capacity.with filter")
        self.assertIsNone(clerk.stands.advice)
        self.assertEqual(clerk.state("engine/drain").status, Status.BLOCKED)
        entry = clerk.record("look up", {"written": "2.7 l", "document": "manual", "page": "12"})
        self.assertEqual(result(entry, Speaker()), "2.7 l")
        sheet = clerk.sheet
        self.assertEqual(sheet.focus, "cold")
        self.assertIsNotNone(clerk.stands.advice)
        looked_up = [s.entry.data for s in sheet.steps if s.entry]
        self.assertIn("2.7 l", [one.written for one in looked_up if isinstance(one, LookedUp)])

    def test_a_look_up_is_read_like_a_sheet_and_wants_its_source(self) -> None:
        step = Clerk(plan("torque")).sheet.steps[0].step
        for raw, code, field in (
            ({"written": "20 l", "document": "manual"}, "quantity.wrong_kind", "written"),
            ({"written": "22 N·m"}, "spec.no_source", "document"),
        ):
            with self.subTest(code), self.assertRaises(CoreError) as caught:
                read_entry(step, "look up", raw, Speaker())
            self.assertEqual(
                (caught.exception.code, caught.exception.fields["field"]), (code, field)
            )

    def test_what_waits_for_a_second_person_stands_where_somebody_else_says_so(self) -> None:
        path = Path("engine", "drain plug", "torque")
        own = Cell(written="29 N·m", document="Jug", page="", entered_by="Bram", entered_by_who="7")
        step = Clerk(replace(plan("torque"), waiting={path: own})).sheet.steps[0].step
        self.assertEqual(step.waiting, own)
        kept = read_entry(step, "look up", {"stands": True}, Speaker())
        assert isinstance(kept, LookedUp)
        self.assertEqual((kept.written, kept.document, kept.stands), ("29 N·m", "Jug", True))
        again = replace(kept, stands=False)
        self.assertTrue(own_words_again(step, again, "7"))
        self.assertTrue(own_words_again(step, replace(again, written="29.0 Nm"), "7"))
        self.assertFalse(own_words_again(step, again, "8"))
        self.assertFalse(own_words_again(step, replace(again, written="31 N·m"), "7"))
        bare = Clerk(plan("torque")).sheet.steps[0].step
        self.assertFalse(own_words_again(bare, again, "7"))
        with self.assertRaises(CoreError) as caught:
            read_entry(bare, "look up", {"stands": True}, Speaker())
        self.assertEqual(caught.exception.code, "spec.none_waits")

    def test_a_whole_sheet_asks_nothing(self) -> None:
        self.assertEqual(plan().asks, ())

    def test_unchecked_values_are_said_where_they_are_used(self) -> None:
        def said(task: TaskPlan) -> dict[str, tuple[str, ...]]:
            return {str(s.step.id): s.step.unchecked for s in Clerk(task).sheet.steps}

        unchecked = said(plan(checked=""))
        self.assertIn("drain plug, torque", unchecked["engine/torque"][0])
        self.assertIn("capacity, with filter", unchecked["engine/fill.1"][0])
        self.assertEqual({s for found in said(plan()).values() for s in found}, set())

    def test_what_one_pair_of_eyes_checked_is_said_so(self) -> None:
        task = plan()
        alone = {
            path: replace(cell, entered_by_who="7", checked_by_who="7")
            for path, cell in task.cells.items()
        }
        task = replace(task, cells=alone, reservoir=reservoir_of("engine", alone))
        steps = {str(s.step.id): s.step.unchecked for s in Clerk(task).sheet.steps}
        self.assertIn("One pair of eyes alone", steps["engine/torque"][0])
        self.assertEqual(unpack(pack(alone)), alone)

    def test_words_of_the_sheet_stand_on_their_step(self) -> None:
        sheet = cells({**SAID, "//caution": "Exhaust pipe ahead", "//reset": "hold both buttons"})
        task = replace(plan(), reservoir=reservoir_of("engine", sheet))
        states = {str(s.step.id): s for s in Clerk(task).sheet.steps}
        self.assertIn("Exhaust pipe ahead", states["engine/drain"].caution)
        steps = {name: state.step for name, state in states.items()}
        self.assertIn("hold both buttons", steps["finish"].instruction)
        self.assertEqual(steps["engine/drain"].spot, steps["engine/torque"].spot)


class SecondMarksTests(TestCase):
    def test_a_reading_on_the_other_stand_counts_on_its_own_marks(self) -> None:
        level = TASK.reservoir.level
        assert level is not None
        two = replace(level, second=Marks("side stand", Decimal(250)))
        clerk = Clerk(replace(TASK, reservoir=replace(TASK.reservoir, level=two)))
        clerk.until_fill()
        clerk.round("2370 ml", "0.25", "side stand")
        # half of 250 ml below the target is a quarter of 500: as if upright at 0.5
        clerk_upright = Clerk(TASK)
        clerk_upright.until_fill()
        clerk_upright.round("2370 ml", "0.5")
        mine, upright = clerk.stands.advice, clerk_upright.stands.advice
        assert mine is not None and upright is not None
        self.assertEqual(mine.ml, upright.ml)

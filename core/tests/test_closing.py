"""What a closed visit keeps, what older closings say, and which visits nothing is learned from."""

import json
from dataclasses import replace
from decimal import Decimal
from pathlib import Path as File
from unittest import TestCase

from oilward_core.bench import Closing, TaskClosing, in_order, keep, kept, standing, why_not_learned
from oilward_core.bench.asks.ran_out import RanOut
from oilward_core.bench.entries import Speaker
from oilward_core.bench.stored import data_document
from oilward_core.codes.options import Lost
from oilward_core.errors import CoreError
from oilward_core.runsheet import TaskPlan
from oilward_core.spec import Cell, Path

from .clerk import TASK, whole_visit

OLD = File(__file__).parent / "golden" / "closing_1.json"


class NoNumberTests(TestCase):
    def test_an_amount_that_is_no_number_is_not_kept(self) -> None:
        ran_out = RanOut(how=Lost.SOME, ml=Decimal("sNaN"))
        with self.assertRaises(CoreError) as caught:
            data_document(ran_out)
        self.assertEqual(caught.exception.code, "number.no_answer")


class KeptTests(TestCase):
    def closing(self, task: TaskPlan = TASK) -> Closing:
        one = TaskClosing(plan=task, fluid="Harbour 10W-40", bottle_ml=None)
        return Closing((one,), whole_visit().sheet, Decimal(9))

    def test_a_closing_comes_back_from_its_document_as_it_was(self) -> None:
        cells = {
            Path("engine", "drain plug", "torque"): Cell(
                written="20-26 N·m", document="manual", page="7"
            )
        }
        closing = self.closing(replace(TASK, cells=cells))
        document = json.loads(json.dumps(keep(closing)))
        self.assertEqual(kept(document), closing)

    def test_a_closing_of_the_last_release_gives_the_answer_it_gave(self) -> None:
        closing = kept(json.loads(OLD.read_text()))
        (task,), (stands,) = closing.tasks, closing.sheet.tasks
        self.assertEqual((task.fluid, task.bottle_ml, closing.km), ("Harbour 10W-40", 1000, 9000))
        self.assertEqual((stands.drained, stands.added, stands.filled), (2500, 2620, True))
        self.assertTrue(closing.sheet.ready_to_sign)
        names = [str(state.step.id) for state in closing.sheet.steps]
        self.assertEqual((names[0], names[-2:]), ("cold", ["leaks", "finish"]))
        assert stands.torque is not None and stands.torque.verdict is not None
        self.assertEqual(stands.torque.verdict.verdict, "in")
        self.assertEqual(
            [part.word for part in standing(closing.sheet, "engine", Speaker())],
            ["closed", "torqued", "new one on", "level right, 2620 ml in"],
        )
        # and it is kept on as it is read
        self.assertEqual(kept(json.loads(json.dumps(keep(closing)))), closing)

    def test_what_was_never_kept_is_refused(self) -> None:
        good, old = keep(self.closing()), json.loads(OLD.read_text())
        bad_ones = ({}, {"format": "other/1"}, {**good, "km": "much"}, {**good, "sheet": []})
        for bad in (*bad_ones, {**old, "sheet": []}, {**old, "plan": None}):
            with self.subTest(bad=list(bad)), self.assertRaises(CoreError) as caught:
                kept(bad)
            self.assertEqual(caught.exception.code, "closing.unreadable")

    def test_an_ordinary_visit_is_learned_from(self) -> None:
        self.assertEqual(why_not_learned("engine", in_order(whole_visit().entries)), "")

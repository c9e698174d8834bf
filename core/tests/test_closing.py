"""What a closed visit keeps, and which visits nothing is learned from."""

import json
from dataclasses import replace
from datetime import timedelta
from decimal import Decimal
from unittest import TestCase

from oilward_core.errors import CoreError
from oilward_core.sheet import Closing, TaskPlan, fold, keep, kept, why_not_learned
from oilward_core.spec import Cell, Path

from .test_sheet import BENCH, TASK, Clerk, whole_visit


class KeptTests(TestCase):
    def closing(self, task: TaskPlan = TASK) -> Closing:
        clerk = whole_visit()
        return Closing(task, fold(task, clerk.entries, BENCH), "Harbour 10W-40", None, Decimal(9))

    def test_a_closing_comes_back_from_its_document_as_it_was(self) -> None:
        cells = {Path("engine", "drain plug", "torque"): Cell("20-26 N·m", "manual", "7")}
        closing = self.closing(replace(TASK, cells=cells))
        document = json.loads(json.dumps(keep(closing)))
        self.assertEqual(kept(document), closing)

    def test_what_was_never_kept_is_refused(self) -> None:
        good = keep(self.closing())
        for bad in ({}, {"format": "other/1"}, {**good, "km": "much"}, {**good, "sheet": []}):
            with self.subTest(bad=list(bad)), self.assertRaises(CoreError) as caught:
                kept(bad)
            self.assertEqual(caught.exception.code, "closing.unreadable")


class NotLearnedTests(TestCase):
    """A correction that comes later must not change what a pour or a reading counted for."""

    def corrected(self, first: str, second_pour: str, corrected: str) -> str:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2400", first)
        if second_pour:
            clerk.record("pour", {"amount": second_pour, "sure": f"{second_pour} ml"})
        old = next(entry for entry in clerk.entries if entry.kind == "level")
        level = {"position": corrected, "attitude": "upright"}
        clerk.record("level", level, step=old.step, supersedes=old.id)
        return why_not_learned(TASK, clerk.entries, BENCH)

    def test_an_ordinary_visit_is_learned_from(self) -> None:
        self.assertEqual(why_not_learned(TASK, whole_visit().entries, BENCH), "")

    def test_a_correction_that_changes_no_meaning_is_learned_from(self) -> None:
        self.assertEqual(self.corrected("0.1", "300", "0.15"), "")

    def test_a_pour_that_became_a_removal(self) -> None:
        self.assertIn("300 ml when written, -300 ml", self.corrected("0.1", "300", "1.2"))

    def test_a_pour_that_fell_out_of_the_sum(self) -> None:
        self.assertIn("out of the sum", self.corrected("0.1", "300", "0.75"))

    def test_a_reading_that_became_valid_by_being_corrected_later(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.record("pour", {"amount": "2400"})
        clerk.wait(2)
        clerk.record("start")
        clerk.record("stop")
        early = clerk.record("level", {"position": "0.5", "attitude": "upright"})
        clerk.now += timedelta(minutes=20)
        right = {"position": "0.55", "attitude": "upright"}
        clerk.record("level", right, step=early.step, supersedes=early.id)
        self.assertIn("corrected later, it counted", why_not_learned(TASK, clerk.entries, BENCH))

"""Looking for leaks: at once, and once more when it has stood."""

from datetime import timedelta
from unittest import TestCase

from oilward_core.bench import Status
from oilward_core.codes.options import Lost
from oilward_core.runsheet import cover_id, ran_out_id

from .clerk import Clerk

AGAIN = "leaks again"


def dry_once() -> Clerk:
    """A visit whose leaks were looked for once."""
    clerk = Clerk()
    clerk.until_fill()
    clerk.round("2370 ml", "0.45")
    clerk.round("100 ml", "0.7")
    clerk.record("leaks", {"result": "dry"})
    return clerk


class SecondLookTests(TestCase):
    def test_it_stands_from_the_first_look_on_and_is_looked_at_once_more(self) -> None:
        clerk = dry_once()
        stands, again = clerk.state("stands"), clerk.state(AGAIN)
        self.assertEqual((stands.status, clerk.sheet.focus), (Status.RUNNING, AGAIN))
        self.assertEqual(stands.started_at, clerk.last("leaks").at)
        self.assertEqual(again.not_before, stands.started_at + timedelta(minutes=5))

    def test_looked_at_too_soon_it_is_looked_at_again(self) -> None:
        clerk = dry_once()
        clerk.record("leaks", {"result": "dry"})
        self.assertEqual(clerk.sheet.focus, AGAIN)
        self.assertIn("too soon", clerk.state(AGAIN).remark)
        clerk.now += timedelta(minutes=5)
        clerk.record("leaks", {"result": "dry"})
        self.assertEqual(clerk.sheet.focus, "finish")
        self.assertEqual(clerk.state(AGAIN).remark, "")

    def test_the_next_day_will_do_as_well(self) -> None:
        clerk = dry_once()
        clerk.now += timedelta(days=1)
        clerk.record("leaks", {"result": "dry"})
        self.assertEqual(clerk.sheet.focus, "finish")

    def test_it_may_be_left_out_for_a_reason(self) -> None:
        clerk = dry_once()
        clerk.record("skip", {"reason": "The owner rides it home"})
        self.assertEqual((clerk.state(AGAIN).status, clerk.sheet.focus), ("skipped", "finish"))

    def test_a_leak_that_shows_only_then_is_seen_to_run_and_looked_at_twice_again(self) -> None:
        clerk = dry_once()
        clerk.now += timedelta(hours=1)
        leak = clerk.record("leaks", {"result": "engine/drain plug"})
        asked = str(ran_out_id("engine", leak.id))
        self.assertEqual(clerk.sheet.focus, asked)
        clerk.record("ran out", {"how": "only tightened"})
        clerk.record("torque", {"reading": "22", "wrench": "m"})
        self.assertEqual(clerk.sheet.focus, "run.3")
        clerk.wait(2)
        self.assertEqual(clerk.sheet.focus, "leaks")
        clerk.dry()
        self.assertEqual(clerk.sheet.focus, "finish")

    def test_a_first_look_that_was_wrong_is_run_and_looked_at_twice_again(self) -> None:
        clerk = dry_once()
        looked = clerk.last("leaks")
        clerk.now += timedelta(minutes=5)
        clerk.record("leaks", {"result": "dry"})
        leak = clerk.correct(looked, {"result": "engine/cover"})
        clerk.record("ran out", {"how": Lost.TIGHTENED}, str(ran_out_id("engine", leak.id)))
        clerk.tick(str(cover_id("engine", leak.id)))
        self.assertEqual(clerk.sheet.focus, "run.3")
        clerk.wait(2)
        clerk.dry()
        self.assertEqual(clerk.sheet.focus, "finish")

    def test_a_plug_that_was_out_since_is_looked_at_again(self) -> None:
        clerk = dry_once()
        clerk.record("opens again", {}, "engine/torque")
        self.assertEqual(clerk.state("leaks").status, Status.BLOCKED)
        self.assertFalse(clerk.sheet.ready_to_sign)

    def test_a_visit_that_was_finished_before_is_not_asked(self) -> None:
        clerk = dry_once()
        clerk.record(
            "confirm",
            {"items": [i.code for i in clerk.state("finish").step.items]},
            "finish",
            despite=True,
        )
        before = clerk.entries[-1]
        clerk.entries[-1] = type(before)(**{**vars(before), "against": ()})
        self.assertIsNone(clerk.sheet.step(AGAIN))
        self.assertTrue(clerk.sheet.ready_to_sign)

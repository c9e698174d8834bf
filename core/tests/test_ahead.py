"""The order of what is left, at any point of a visit."""

import random
from datetime import timedelta
from unittest import TestCase

from oilward_core.bench import Status, ahead, pans_held
from oilward_core.order import broken_rules, in_turn, solve
from oilward_core.runsheet import Ask

from . import tries
from .clerk import BENCH, EVERYTHING, LEGS, THREE, Clerk, usual

VISITS = ((), THREE, (*THREE, *LEGS), EVERYTHING)


def interrupted(number: int) -> Clerk:
    """A visit that somebody left at some point, with whatever runs half through."""
    rng = random.Random(number)
    clerk = Clerk(*VISITS[number % len(VISITS)], cold=("tyres",) if number % 3 else ())
    for _ in range(rng.randrange(70)):
        offered = [
            state
            for state in clerk.sheet.steps
            if state.status in (Status.READY, Status.RUNNING) and state.step.ask != Ask.WAIT
        ]
        if not offered:
            break
        usual(clerk, rng.choice(offered))
    clerk.now += timedelta(minutes=rng.randrange(4))
    return clerk


class AheadTests(TestCase):
    def test_at_random_points_the_order_keeps_every_rule_and_is_no_longer_than_in_turn(
        self,
    ) -> None:
        left = proven = shorter = 0
        for number in range(tries(20, 50)):
            clerk = interrupted(number)
            jobs = ahead(clerk.plan, clerk.entries, BENCH, clerk.now)
            with self.subTest(visit=number, jobs=len(jobs)):
                if not jobs:
                    self.assertTrue(clerk.sheet.ready_to_sign)
                    continue
                pans = max(2, pans_held(jobs))
                found, left = solve(jobs, pans=pans), left + 1
                self.assertEqual(broken_rules(found.placed, 1, pans), [])
                self.assertTrue(found.proven or 0 < found.gap < 1, found.gap)
                self.assertLessEqual(found.minutes, _as_planned(jobs))
                proven += found.proven
                shorter += found.minutes < _as_planned(jobs)
        print(f"live order: of {left} visits {proven} proven, {shorter} shorter than in turn")

    def test_what_is_done_is_gone_and_what_runs_is_left_with_its_rest(self) -> None:
        clerk = Clerk()
        before = {job.id: job for job in ahead(clerk.plan, clerk.entries, BENCH, clerk.now)}
        clerk.until_open()
        clerk.record("start")
        clerk.now += timedelta(minutes=3)
        after = {job.id: job for job in ahead(clerk.plan, clerk.entries, BENCH, clerk.now)}
        self.assertIn("engine/prove filler", before)
        self.assertNotIn("engine/prove filler", after)
        drain = after["engine/drain"]
        self.assertEqual((drain.minutes, drain.after), (0, ()))
        self.assertLess(drain.wait, before["engine/drain"].wait)
        self.assertGreater(drain.wait, 0)


def _as_planned(jobs: object) -> int:
    """One job after the other, with every change of attitude."""
    changes = sum(5 for job in jobs if job.attitude)  # type: ignore[attr-defined]
    return in_turn(jobs) + changes  # type: ignore[arg-type]

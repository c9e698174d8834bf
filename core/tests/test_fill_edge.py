"""A level plug: no marks and no glass, but an edge that oil runs over."""

import random
from collections.abc import Sequence
from dataclasses import replace
from datetime import timedelta
from decimal import Decimal
from unittest import TestCase

from oilward_core.bench import Speaker, result
from oilward_core.codes.bench import Sight
from oilward_core.codes.fill import Start
from oilward_core.errors import CoreError
from oilward_core.fill import EdgeRead, FillCase, FillEvent, FilterAnew, Poured, Ran, coach
from oilward_core.spec import Cell, LevelCheck, Path, missing, reservoir_of

from .clerk import GEARBOX, Clerk, usual

CASE = FillCase(capacity=Decimal(860), gauge=None, edge=True)


def poured(ml: int) -> Poured:
    return Poured(Decimal(ml))


def ran_out(ml: int | None = None, valid: bool = True) -> EdgeRead:
    return EdgeRead(True, None if ml is None else Decimal(ml), valid)


DRY = EdgeRead(False, None, True)


class SheetTests(TestCase):
    def test_it_has_no_marks_and_none_are_asked_for_or_assumed(self) -> None:
        cells = {"kind": "gearbox", "level.gauge": "level plug", "level.attitude": "upright"}
        spec = reservoir_of(
            "gearbox", {Path("gearbox", "", name): Cell(written=t) for name, t in cells.items()}
        )
        self.assertTrue(spec.level.edge)
        self.assertFalse(spec.level.assumed)
        self.assertNotIn("level.between", {path.field for path in missing(spec)})


class CoachTests(TestCase):
    def test_860_poured_and_22_out_took_838(self) -> None:
        advice = coach(CASE, [poured(860), ran_out(22)])
        self.assertEqual((advice.action, advice.added), ("done", 838))
        self.assertAlmostEqual(advice.belief.mean, 838, delta=2)
        self.assertLess(advice.belief.sd, 10)

    def test_the_book_goes_in_first_and_then_it_is_looked_at(self) -> None:
        first = coach(CASE, [])
        self.assertEqual((first.action, first.ml), ("pour", 830))
        self.assertEqual(coach(CASE, [poured(830)]).action, "read")

    def test_dry_it_takes_more_and_running_out_it_takes_no_more(self) -> None:
        dry, runs = coach(CASE, [poured(830), DRY]), coach(CASE, [poured(830), ran_out()])
        self.assertEqual(dry.action, "pour")
        self.assertGreater(dry.belief.mean, 834)
        self.assertEqual(runs.action, "done")
        self.assertLess(runs.belief.mean, 834)

    def test_poured_again_it_is_looked_at_again(self) -> None:
        self.assertEqual(coach(CASE, [poured(830), ran_out(5), poured(50)]).action, "read")

    def test_a_look_that_is_not_used_still_lets_oil_out(self) -> None:
        advice = coach(CASE, [poured(860), ran_out(30, valid=False)])
        self.assertEqual((advice.action, advice.added), ("read", 830))

    def test_an_engine_runs_on_5_percent_or_two_spreads_less_and_is_looked_at_after_it(
        self,
    ) -> None:
        engine = replace(CASE, start=Start.SUMP)
        self.assertFalse(coach(engine, [poured(770)]).enough)
        self.assertTrue(coach(engine, [poured(780)]).enough)
        before = [poured(830), ran_out(10)]
        self.assertEqual(coach(engine, before).action, "done")
        self.assertEqual(coach(engine, [*before, Ran()]).action, "read")

    def test_a_filter_changed_after_the_run_brings_its_oil_and_is_looked_at_again(self) -> None:
        engine = replace(CASE, start=Start.SUMP)
        anew = FilterAnew(Decimal(100), Decimal(0))
        advice = coach(engine, [poured(830), Ran(), ran_out(10), anew])
        self.assertEqual((advice.action, advice.added), ("read", 920))

    def test_what_it_took_before_is_poured_next_time(self) -> None:
        learned = replace(CASE, took=(Decimal(838), Decimal(836), Decimal(840)))
        self.assertEqual(coach(learned, []).ml, 830)

    def test_whatever_it_really_takes_it_ends_at_the_edge(self) -> None:
        rng, looks = random.Random(3), 0
        for _ in range(200):
            takes, inside = 834 * rng.gauss(1, 0.03), 0.0
            events: list[FillEvent] = []
            for _ in range(12):
                advice = coach(CASE, events)
                if advice.action == "done":
                    break
                if advice.action == "pour":
                    inside += float(advice.ml)
                    events.append(Poured(advice.ml))
                    continue
                looks += 1
                over = max(inside - takes, 0.0)
                inside -= over
                events.append(ran_out(round(over)) if over else DRY)
            self.assertEqual(advice.action, "done")
            self.assertAlmostEqual(float(advice.added), takes, delta=2)
        self.assertLess(looks / 200, 2)


class BenchTests(TestCase):
    def gearbox(self) -> Clerk:
        level = LevelCheck(
            gauge="level plug",
            attitude="upright",
            run_minutes=Decimal(0),
            settle_minutes=Decimal(2),
            between_marks=Decimal(0),
        )
        clerk = Clerk(replace(GEARBOX, reservoir=replace(GEARBOX.reservoir, level=level)))
        while clerk.sheet.focus != "gearbox/level.1":
            usual(clerk, clerk.state(clerk.sheet.focus or ""))
        clerk.now = max(clerk.now, clerk.state("gearbox/level.1").not_before or clerk.now)
        return clerk

    def look(self, clerk: Clerk, sight: Sight, amount: str = "") -> None:
        said = {"sight": sight, "attitude": "upright", "amount": amount}
        step = clerk.sheet.focus or ""
        clerk.now = max(clerk.now, clerk.state(step).not_before or clerk.now)
        clerk.record("level", said, step)

    def finish(self, clerk: Clerk) -> None:
        for _ in range(20):
            if clerk.sheet.focus is None:
                return
            usual(clerk, clerk.state(clerk.sheet.focus))

    def test_it_runs_out_is_measured_and_signed(self) -> None:
        clerk = self.gearbox()
        inside: Sequence[Decimal] = (clerk.stands.added,)
        self.look(clerk, Sight.RUNS_OUT, "22 ml")
        self.assertEqual(clerk.stands.added, inside[0] - 22)
        self.assertTrue(clerk.stands.filled)
        self.assertEqual(result(clerk.entries[-1], Speaker()), "22 ml ran out at the edge, upright")
        self.finish(clerk)
        self.assertTrue(clerk.sheet.ready_to_sign)
        self.assertNotIn("run.1", [str(state.step.id) for state in clerk.sheet.steps])

    def test_no_more_ran_out_than_was_in(self) -> None:
        clerk = self.gearbox()
        self.look(clerk, Sight.RUNS_OUT, "4 l")
        self.assertEqual(clerk.stands.added, 0)

    def test_dry_it_is_topped_up_and_looked_at_again(self) -> None:
        clerk = self.gearbox()
        self.look(clerk, Sight.DRY)
        self.assertEqual(clerk.sheet.focus, "gearbox/fill.2")
        clerk.pour(f"{clerk.stands.advice.ml} ml")
        clerk.now += timedelta(minutes=3)
        self.assertEqual(clerk.sheet.focus, "gearbox/level.2")
        self.look(clerk, Sight.RUNS_OUT)
        self.assertTrue(clerk.stands.filled)

    def test_a_glass_does_not_run_out_and_an_edge_has_no_marks(self) -> None:
        clerk = self.gearbox()
        for said in ({"sight": "seen", "position": "0.5"}, {"sight": "below"}):
            with self.assertRaises(CoreError) as caught:
                clerk.record("level", {**said, "attitude": "upright"}, "gearbox/level.1")
            self.assertEqual(caught.exception.code, "sheet.choose")
        with self.assertRaises(CoreError) as caught:
            self.look(clerk, Sight.RUNS_OUT, "much")
        self.assertEqual(caught.exception.fields["field"], "amount")

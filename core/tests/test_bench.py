"""The bench, one reservoir: order of the work, gates, timers, readings, and where it stands."""

import random
from collections.abc import Mapping
from dataclasses import replace
from datetime import timedelta
from decimal import Decimal
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_bench.tasks import gauge
from oilward_core.bench import (
    Amount,
    Bench,
    PouredIn,
    Pulled,
    Speaker,
    Status,
    VisitPlan,
    as_before,
    fold,
    in_order,
    result,
    standing,
    why_not_learned,
)
from oilward_core.codes.bench import Basis
from oilward_core.codes.fill import Cause, LeftFor
from oilward_core.codes.options import Draw, Emptied, Lamp, Lost, Stood, Tick
from oilward_core.errors import CoreError, Question
from oilward_core.runsheet import Ask, Option, TaskPlan, ran_out_id
from oilward_core.spec import Marks, ReservoirKind, Variant

from .clerk import (
    BENCH,
    DRIVE,
    ENGINE,
    GEARBOX,
    LEGS,
    PASTE,
    TASK,
    WRENCH,
    Clerk,
    fastener,
    finished,
    usual,
    whole_visit,
)


def fresh(task: TaskPlan, bench: Bench = BENCH) -> Clerk:
    """A visit for one task, with nothing written down yet."""
    return Clerk(task, bench=bench)


ORDER = (
    "cold came warm support filler drain measure inspect washer refit torque filter "
    "fill.1 fill.2 close lamp run.1 run.2 settle.1 settle.2 level.1 level.2 leaks "
    "stands leaks_again finish"
)


class OrderTests(TestCase):
    """The trade's order of work."""

    def test_steps_in_order(self) -> None:
        names = [str(state.step.id).rpartition("/")[2] for state in whole_visit().sheet.steps]
        self.assertEqual(" ".join(name.replace(" ", "_") for name in names), ORDER)

    def test_drain_only_has_no_filter(self) -> None:
        task = TaskPlan(
            reservoir=ENGINE,
            variant=Variant.DRAIN_ONLY,
            took=(),
            last_put_in=None,
            km_since_wiped=Decimal(0),
            first_service=False,
        )
        names = [str(state.step.id) for state in fresh(task).sheet.steps]
        self.assertNotIn("engine/filter", names)

    def test_whole_visit_is_ready_to_sign(self) -> None:
        sheet = whole_visit().sheet
        self.assertIsNone(sheet.focus)
        self.assertTrue(sheet.ready_to_sign)
        (engine,) = sheet.tasks
        self.assertEqual((engine.drained, engine.added), (2500, 2620))
        assert engine.finding is not None
        self.assertEqual(engine.finding.level.word, "routine")

    def test_new_sheet_is_not_ready(self) -> None:
        sheet = Clerk().sheet
        self.assertEqual(sheet.focus, "cold")
        self.assertFalse(sheet.ready_to_sign)

    def test_later_steps_wait(self) -> None:
        drain = Clerk().state("engine/drain")
        self.assertEqual(drain.status, Status.BLOCKED)
        self.assertEqual(
            drain.unmet, (Option("proven:engine", "the engine's filler is not proven"),)
        )

    def test_missing_capacity_is_said(self) -> None:
        task = TaskPlan(
            reservoir=ENGINE,
            variant=Variant.DRY,
            took=(),
            last_put_in=None,
            km_since_wiped=Decimal(0),
            first_service=False,
        )
        with self.assertRaises(CoreError) as caught:
            _ = fresh(task).sheet
        self.assertEqual(caught.exception.code, "fill.no_capacity")


class GateTests(TestCase):
    """What stops the work."""

    def test_seized_filler_stops_before_draining(self) -> None:
        clerk = Clerk()
        clerk.until_warm()
        clerk.tick()
        clerk.record("answer", {"value": "seized"})
        self.assertIn("Do not drain", clerk.sheet.stopped)
        self.assertEqual(clerk.sheet.focus, "engine/filler")
        self.assertEqual(clerk.state("engine/drain").status, Status.BLOCKED)
        clerk.record("answer", {"value": "open"})
        self.assertEqual((clerk.sheet.stopped, clerk.sheet.focus), ("", "engine/drain"))

    def test_torque_outside_stays_open_until_pulled_again(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        torque = next(e for e in clerk.entries if e.kind == "torque")
        reading = {"reading": "15 N·m", "wrench": "m", "sure": "15 N·m"}
        clerk.record("torque", reading, torque.step, torque.id)
        sheet = clerk.sheet
        self.assertEqual(sheet.focus, "engine/torque")
        card = clerk.stands.torque
        assert card is not None and card.verdict is not None
        self.assertEqual(card.verdict.verdict, "under")
        clerk.record("torque", {"reading": "22 N·m", "wrench": "m"})
        self.assertEqual(clerk.sheet.focus, "engine/fill.1")

    def test_behind_a_crow_foot_less_is_set_and_the_reading_is_carried_to_the_plug(self) -> None:
        plug = replace(ENGINE.fasteners[0], adapter=Decimal(40))
        spec = replace(ENGINE, fasteners=(plug, *ENGINE.fasteners[1:]))
        measured = Bench((replace(WRENCH, length=Decimal(360)),))
        clerk = Clerk(replace(TASK, reservoir=spec), bench=measured)
        plain, card = Clerk().stands.torque, clerk.stands.torque
        assert card is not None and plain is not None
        # 360 of 400 mm: nine tenths on the scale for the whole at the plug
        self.assertEqual((plain.wrenches[0].scale, card.wrenches[0].scale), (23, 21))
        steps = {str(state.step.id): state.step for state in clerk.sheet.steps}
        self.assertIn("40 mm crow-foot", steps["engine/torque"].instruction)
        clerk.until_fill()
        clerk.entries = [
            replace(e, data=replace(e.data, nm=Decimal(20), said="20 N·m"))
            if isinstance(e.data, Pulled)
            else e
            for e in clerk.entries
        ]
        card = clerk.stands.torque
        assert card is not None and card.reading is not None and card.verdict is not None
        self.assertEqual((round(card.reading, 2), card.verdict.verdict), (Decimal("22.22"), "in"))

    def test_a_plug_without_a_wrench_torque_is_ticked_off(self) -> None:
        for text in ("hand tight", "1/2 turn"):
            plug = fastener("drain plug", text)
            engine = replace(ENGINE, fasteners=(plug, *ENGINE.fasteners[1:]))
            state = fresh(replace(TASK, reservoir=engine)).state("engine/torque")
            with self.subTest(text):
                self.assertEqual(state.step.ask, Ask.CHECK)
                self.assertEqual(state.step.items, (Option(Tick.TIGHTENED, f"Tightened: {text}"),))

    def test_torque_card_names_wrench_and_mark(self) -> None:
        card = Clerk().stands.torque
        assert card is not None
        self.assertEqual(
            (card.aim.value, card.wrenches[0].scale), (23, 23)
        )  # 20–26: the middle, in aluminium too
        bare = fresh(TASK, Bench()).stands.torque
        assert bare is not None
        self.assertEqual(bare.wrenches, ())

    def test_a_leak_keeps_the_step_open(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2470 ml", "0.7")
        clerk.record("leaks", {"result": "engine/filter"})
        state = clerk.state("leaks")
        self.assertEqual(state.status, Status.BLOCKED)
        self.assertEqual(clerk.sheet.focus, str(ran_out_id("engine", clerk.last("leaks").id)))
        self.assertIn("Leak at the filter", state.remark)

    def test_skipping_needs_a_reason_and_a_step_that_allows_it(self) -> None:
        clerk = Clerk()
        with self.assertRaises(CoreError) as caught:
            clerk.record("skip", {"reason": " "})
        self.assertEqual(caught.exception.code, "sheet.reason")
        for _ in range(3):
            clerk.record("skip", {"reason": "Came in warm"})
        with self.assertRaises(CoreError) as caught:
            clerk.record("skip", {"reason": "No straps"})
        self.assertEqual(caught.exception.code, "sheet.no_skip")


class CameTests(TestCase):
    """How the level stands before the engine is started at all."""

    def answered(self, value: str) -> Clerk:
        clerk = Clerk()
        clerk.tick()
        clerk.record("answer", {"value": value}, "engine/came")
        return clerk

    def test_below_its_low_mark_nobody_warms_it_up(self) -> None:
        clerk = self.answered(Stood.LOW)
        self.assertEqual(clerk.state("warm").status, Status.BLOCKED)
        self.assertIn("top it up", clerk.state("engine/came").remark)
        clerk.record("answer", {"value": Stood.TOPPED_UP}, "engine/came")
        clerk.record("amount", {"amount": "300 ml"}, "engine/topped")
        self.assertEqual(clerk.state("warm").status, Status.READY)

    def test_once_it_is_low_it_is_not_skipped_but_it_may_be_drained_cold(self) -> None:
        clerk = self.answered(Stood.LOW)
        with self.assertRaises(CoreError) as caught:
            clerk.record("skip", {"reason": "Not looked at"}, "engine/came")
        self.assertEqual(caught.exception.code, "sheet.no_skip")
        clerk.record("skip", {"reason": "Drained cold"}, "warm", despite=True)
        clerk.tick("support")

    def test_it_is_said_as_it_was_chosen(self) -> None:
        clerk = self.answered(Stood.TOPPED_UP)
        said = result(clerk.last("answer"), Speaker())
        self.assertEqual(said, "was below low, topped up first")

    def test_what_was_topped_up_comes_out_as_well(self) -> None:
        task = replace(TASK, last_put_in=Decimal(2400))
        clerk = Clerk(task)
        clerk.tick()
        clerk.record("answer", {"value": Stood.TOPPED_UP}, "engine/came")
        clerk.record("amount", {"amount": "300 ml"}, "engine/topped")
        clerk.wait(10)
        clerk.tick()
        clerk.record("answer", {"value": "open"})
        clerk.wait(10)
        clerk.record("amount", {"amount": "2700 ml"})
        self.assertIn("As expected: 2700 ml went in", clerk.state("engine/measure").remark)
        self.assertEqual(clerk.stands.added, 0)
        came = next(one for one in clerk.entries if one.step == "engine/came")
        clerk.correct(came, {"value": Stood.ABOVE_HALF})
        self.assertIn("the 2400 ml put in", clerk.state("engine/measure").remark)

    def test_it_is_asked_once_as_it_came_or_as_it_is_opened(self) -> None:
        self.assertEqual(Clerk().state("engine/filler").step.stood, ())
        tank = replace(ENGINE, kind=ReservoirKind.ENGINE_DRY)
        clerk = Clerk(replace(TASK, reservoir=tank))
        self.assertIsNone(clerk.sheet.step("engine/came"))
        self.assertTrue(clerk.state("engine/filler").step.stood)

    def test_marks_for_a_hot_engine_are_said_to_be(self) -> None:
        level = replace(ENGINE.level, engine="hot")
        clerk = Clerk(replace(TASK, reservoir=replace(ENGINE, level=level)))
        # 2.7 l from 20 to 90 °C by the volume correction of lubricating oils
        self.assertIn("about 150 ml lower", clerk.state("engine/came").step.instruction)
        self.assertNotIn("warm oil", Clerk().state("engine/came").step.instruction)

    def test_what_was_left_last_time_is_looked_at(self) -> None:
        task = replace(TASK, left=LeftFor.OWNER)
        came = Clerk(task).state("engine/came").step.instruction
        self.assertIn("Last time it was left where it stood: the owner tops up.", came)
        tank = replace(ENGINE, kind=ReservoirKind.ENGINE_DRY)
        filler = Clerk(replace(task, reservoir=tank)).state("engine/filler").step.instruction
        self.assertIn("the owner tops up", filler)
        self.assertNotIn("left", Clerk().state("engine/filler").step.instruction.split("drain.")[1])

    def test_a_visit_past_it_is_not_asked(self) -> None:
        clerk = Clerk()
        clerk.tick()
        started = replace(clerk.record("start", step="warm", despite=True), against=())
        then = fold(clerk.plan, [*clerk.entries[:-1], started], clerk.bench)
        self.assertIsNone(then.step("engine/came"))
        self.assertIsNotNone(clerk.sheet.step("engine/came"))


class LampTests(TestCase):
    """The oil lamp, at the first start on new oil."""

    def filled(self) -> Clerk:
        clerk = Clerk()
        clerk.until_fill()
        clerk.pour("2370 ml")
        return clerk

    def test_nothing_runs_before_it_has_gone_out(self) -> None:
        clerk = self.filled()
        self.assertEqual(clerk.sheet.focus, "lamp")
        for value in (Lamp.STAYED_ON, Lamp.NOT_LIT):
            clerk.record("answer", {"value": value}, "lamp")
            self.assertEqual(clerk.state("run.1").status, Status.BLOCKED)
            self.assertIn("Engine off", clerk.sheet.stops[0].text)
            self.assertEqual(clerk.state("lamp").status, Status.READY)
        clerk.record("answer", {"value": Lamp.WENT_OUT}, "lamp")
        self.assertEqual((clerk.sheet.stops, clerk.sheet.focus), ((), "run.1"))

    def test_no_lead_talks_pressure_into_it(self) -> None:
        clerk = self.filled()
        entry = clerk.record("answer", {"value": Lamp.STAYED_ON}, "lamp")
        clerk.record("answered", {"entry": entry.id, "reason": "It always does that"}, despite=True)
        self.assertTrue(clerk.sheet.stops)
        self.assertEqual(clerk.state("run.1").status, Status.BLOCKED)

    def test_what_a_run_went_against_still_holds_it(self) -> None:
        clerk = self.filled()
        clerk.record("answer", {"value": Lamp.STAYED_ON}, "lamp")
        against = clerk.record("start", step="run.1", despite=True)
        self.assertEqual(len(clerk.sheet.stops), 2)
        # the light's own stop does not keep it from being asked again; what the run went against does
        self.assertEqual(clerk.state("lamp").status, Status.BLOCKED)
        clerk.record("answered", {"entry": against.id, "reason": "Shut off at once"}, despite=True)
        self.assertEqual(clerk.state("lamp").status, Status.READY)

    def test_one_that_shows_no_pressure_is_no_gate(self) -> None:
        for value in (Lamp.LEVEL_ONLY, Lamp.NO_LAMP):
            clerk = self.filled()
            clerk.record("answer", {"value": value}, "lamp")
            self.assertEqual(clerk.sheet.focus, "run.1")

    def test_emptied_and_filled_anew_it_is_watched_again(self) -> None:
        clerk = self.filled()
        clerk.wait(2)
        self.assertEqual(clerk.state("lamp").status, Status.DONE)
        clerk.record("opens again", {}, "engine/torque")
        asked = clerk.sheet.focus
        clerk.record("ran out", {"how": Lost.SOME, "amount": "200 ml"}, asked)
        self.assertEqual(clerk.state("lamp").status, Status.DONE)
        clerk.correct(clerk.last("ran out"), {"how": Lost.ALL})
        self.assertEqual(clerk.state("lamp").status, Status.BLOCKED)

    def test_another_case_s_oil_is_not_its_matter(self) -> None:
        clerk = Clerk(TASK, GEARBOX)
        finished(clerk, random.Random(4))
        out = clerk.record("opens again", {}, "gearbox/torque")
        clerk.record("ran out", {"how": Lost.ALL}, str(ran_out_id("gearbox", out.id)))
        self.assertEqual(clerk.state("lamp").status, Status.DONE)

    def test_it_is_not_started_with_its_plug_out(self) -> None:
        clerk = self.filled()
        clerk.record("opens again", {}, "engine/torque")
        self.assertEqual(clerk.state("lamp").status, Status.BLOCKED)


class ClosedEarlyTests(TestCase):
    """Little came out of it: all there was, or the plug went back before the rest had run out."""

    def drained(self, amount: str, says: str = "") -> Clerk:
        clerk = Clerk()
        clerk.until_open()
        clerk.wait(10)
        clerk.record("amount", {"amount": amount, "sure": amount})
        if says:
            clerk.record("answer", {"value": says}, "engine/all out")
        clerk.record("finding", {"parts": [PASTE], "oil": ["dark"]}, "engine/inspect")
        clerk.record("answer", {"value": "new"}, "engine/washer")
        clerk.tick("engine/refit")
        clerk.record("torque", {"reading": "22", "unit": "N·m", "wrench": "m"}, "engine/torque")
        return clerk

    def test_under_half_is_asked_about_before_anything_is_poured(self) -> None:
        clerk = self.drained("1.3 l")
        clerk.record("filter", {"amount": "150", "items": [Tick.GASKET]}, "engine/filter")
        self.assertEqual(clerk.sheet.focus, "engine/all out")
        unmet = [one.words for one in clerk.state("engine/fill.1").unmet]
        self.assertEqual(unmet, ["“Is it all out?” is not done"])
        self.assertIsNone(self.drained("1.4 l").sheet.step("engine/all out"))

    def test_all_of_it_is_filled_by_the_book(self) -> None:
        clerk = self.drained("0.4 l", Emptied.ALL_OUT)
        clerk.record("filter", {"amount": "150", "items": [Tick.GASKET]}, "engine/filter")
        self.assertGreater(clerk.stands.advice.ml, 2000)

    def test_what_came_out_goes_back_and_the_filter_stays(self) -> None:
        clerk = self.drained("0.4 l", Emptied.CLOSED_EARLY)
        clerk.record("skip", {"reason": "wrong plug"}, "engine/filter")
        self.assertEqual((clerk.sheet.focus, clerk.stands.advice.ml), ("engine/fill.1", 400))
        self.assertEqual(standing(clerk.sheet, "engine", Speaker())[-1].word, "short by 400 ml")
        clerk.round("400 ml", "0.5")
        # it came in low: that is no contradiction, it is topped up
        self.assertEqual(clerk.stands.advice.action, "pour")
        self.assertLess(clerk.stands.advice.ml, 200)
        clerk.round("120 ml", "0.75")
        self.assertTrue(clerk.stands.filled and clerk.stands.closed_early)

    def test_a_new_filter_takes_its_oil_besides(self) -> None:
        clerk = self.drained("0.4 l", Emptied.CLOSED_EARLY)
        clerk.record("filter", {"amount": "0", "items": [Tick.GASKET]}, "engine/filter")
        self.assertEqual(clerk.stands.advice.ml, 530)

    def test_the_whole_book_on_top_of_the_rest_is_asked_and_then_a_leads(self) -> None:
        clerk = self.drained("0.4 l", Emptied.CLOSED_EARLY)
        clerk.record("skip", {"reason": "wrong plug"}, "engine/filter")
        with self.assertRaises(Question) as caught:
            clerk.record("pour", {"amount": "2.7 l"})
        self.assertEqual(caught.exception.code, "expected.slip")
        clerk.pour("2.7 l")
        self.assertTrue(clerk.sheet.stops)

    def test_an_amount_put_right_takes_the_question_away(self) -> None:
        clerk = self.drained("0.4 l", Emptied.CLOSED_EARLY)
        clerk.correct(clerk.last("amount"), {"amount": "2.4 l"})
        clerk.record("filter", {"amount": "150", "items": [Tick.GASKET]}, "engine/filter")
        self.assertIsNone(clerk.sheet.step("engine/all out"))
        self.assertGreater(clerk.stands.advice.ml, 2000)

    def test_a_slip_of_the_unit_is_asked_as_such(self) -> None:
        clerk = Clerk()
        clerk.until_open()
        clerk.wait(10)
        with self.assertRaises(Question) as caught:
            clerk.record("amount", {"amount": "2.6 ml"})
        self.assertEqual(caught.exception.code, "expected.slip")


class WrongOilTests(TestCase):
    """What was poured was poured: an oil that may not go in leads back to the drain, or to a lead."""

    def wrong(self, clerk: Clerk, amount: str = "2370 ml") -> str:
        told = {"amount": amount, "sure": amount, "fluid": "Thin 5W-40", "closed": True}
        entry = clerk.record("pour", told)
        assert isinstance(entry.data, PouredIn)
        clerk.entries[-1] = replace(entry, data=replace(entry.data, refused=True))
        return entry.id

    def test_nothing_runs_on_it_and_it_is_drained_again(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        self.wrong(clerk)
        self.assertEqual([stop.hold for stop in clerk.sheet.stops], [True])
        self.assertEqual(clerk.stands.advice.action, "remove")
        self.assertEqual(clerk.sheet.focus, "engine/fill.2")
        clerk.record("draw", {"amount": "2.4 l", "where": Draw.PLUG, "sure": "2.4 l"})
        # what is in by then is not what was drained again, and is not offered once more
        self.assertEqual(clerk.stands.fluid, "")
        # a little stays in a case that is drained; it is in the sum
        self.assertEqual((clerk.sheet.stops, clerk.stands.added), ((), 120))
        clerk.record("answer", {"value": "new"}, "engine/washer")
        clerk.tick("engine/refit")
        clerk.record("torque", {"reading": "22", "wrench": "m"}, "engine/torque")
        clerk.round("2380 ml", "0.75")
        self.assertTrue(clerk.stands.filled)

    def test_a_lead_says_why_it_stays(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        entry = self.wrong(clerk)
        clerk.record("answered", {"entry": entry, "reason": "asked the importer"})
        self.assertEqual((clerk.sheet.stops, clerk.stands.fluid), ((), "Thin 5W-40"))
        self.assertEqual(clerk.sheet.focus, "lamp")

    def test_an_exact_quantity_of_it_is_not_in_either(self) -> None:
        clerk = Clerk(DRIVE)
        while clerk.sheet.focus != "final drive/fill.1":
            usual(clerk, clerk.state(clerk.sheet.focus or ""))
        self.wrong(clerk, "800 ml")
        self.assertFalse(clerk.stands.filled)
        self.assertEqual((clerk.stands.advice.action, clerk.stands.advice.again), ("remove", True))


class UnreadableTests(TestCase):
    """A glass that is blind: a lead says so, and all of the book goes in."""

    def unreadable(self, clerk: Clerk) -> None:
        clerk.record("cause", {"cause": Cause.UNREADABLE, "words": "the glass is blind"})

    def test_it_is_filled_by_the_book_and_not_learned_from(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.pour("2370 ml")
        clerk.wait(2)
        with self.assertRaises(CoreError):
            clerk.record("cause", {"cause": Cause.UNREADABLE, "words": " "})
        self.unreadable(clerk)
        advice = clerk.stands.advice
        assert advice is not None
        self.assertEqual((clerk.sheet.focus, advice.action), ("engine/fill.2", "pour"))
        self.assertEqual(advice.ml + clerk.stands.added, TASK.capacity)
        clerk.pour(f"{advice.ml} ml")
        self.assertTrue(clerk.stands.filled)
        while clerk.sheet.focus:
            usual(clerk, clerk.state(clerk.sheet.focus))
        self.assertTrue(clerk.sheet.ready_to_sign)
        self.assertIn("cannot be read", why_not_learned("engine", in_order(clerk.entries)))

    def test_said_before_the_first_start_no_engine_runs_on_less_than_the_book(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.record("pour", {"amount": "2000 ml"})
        self.unreadable(clerk)
        self.assertFalse(clerk.state("run.1").status == Status.READY)
        clerk.pour(f"{clerk.stands.advice.ml} ml")
        self.assertEqual((clerk.stands.added, clerk.sheet.focus), (TASK.capacity, "lamp"))

    def test_a_reading_that_was_called_wrong_does_not_count_beside_it(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2370 ml", "0.7")
        level = clerk.last("level")
        self.assertTrue(clerk.stands.filled)
        clerk.record("cause", {"cause": Cause.UNREADABLE, "words": "blind"}, level.step)
        self.assertFalse(clerk.stands.filled)


class ReadTooLateTests(TestCase):
    """Left standing, a tank's oil drains back into the case: it reads low, and that is not believed."""

    def read_after(self, minutes: int) -> Clerk:
        tank = replace(ENGINE, level=replace(ENGINE.level, latest=Decimal(10)))
        clerk = Clerk(replace(TASK, reservoir=tank))
        clerk.until_fill()
        clerk.pour("2370 ml")
        clerk.wait(2)
        clerk.now += timedelta(minutes=minutes)
        clerk.record("level", {"position": "0.3", "attitude": "upright"})
        return clerk

    def test_in_time_it_counts(self) -> None:
        self.assertEqual(self.read_after(8).stands.advice.action, "pour")

    def test_too_late_it_is_kept_not_used_and_run_again(self) -> None:
        clerk = self.read_after(12)
        self.assertIn("more than 10 min after", clerk.state("engine/level.1").remark)
        self.assertEqual(clerk.sheet.focus, "run.2")
        clerk.wait(2)
        clerk.now += timedelta(minutes=5)
        clerk.record("level", {"position": "0.72", "attitude": "upright"}, "engine/level.1")
        self.assertTrue(clerk.stands.filled)
        self.assertEqual(clerk.stands.added, 2520)

    def test_a_leak_after_it_is_counted_before_anything_is_read_again(self) -> None:
        tank = replace(ENGINE, level=replace(ENGINE.level, latest=Decimal(10)))
        clerk = Clerk(replace(TASK, reservoir=tank))
        clerk.until_fill()
        clerk.round("2370 ml", "0.72")
        leak = clerk.record("leaks", {"result": "engine/drain plug"})
        self.assertEqual(clerk.sheet.focus, str(ran_out_id("engine", leak.id)))

    def test_nothing_longer_is_begun_while_it_settles(self) -> None:
        """A front wheel off takes longer than the tank's level keeps."""
        level = replace(ENGINE.level, latest=Decimal(10), settle_minutes=Decimal(5))
        clerk = Clerk(replace(TASK, reservoir=replace(ENGINE, level=level)), *LEGS)
        clerk.plan = replace(clerk.plan, order=("engine/prove filler", "run", "front wheel out"))
        clerk.until_fill()
        clerk.pour("2370 ml")
        clerk.record("answer", {"value": Lamp.WENT_OUT})
        self.assertEqual(clerk.sheet.focus, "run.1")
        clerk.now += timedelta(minutes=1)
        clerk.record("stop", step="run.1")
        ready = [str(s.step.id) for s in clerk.sheet.steps if s.status == Status.READY]
        self.assertIn("wheel out", ready)
        self.assertEqual(clerk.sheet.focus, "engine/level.1")
        clerk.now += timedelta(minutes=6)
        clerk.record("level", {"position": "0.72", "attitude": "upright"})
        self.assertTrue(clerk.stands.filled)


class ReadWithoutARunTests(TestCase):
    """A gearbox whose sheet wants no run, beside an engine."""

    def until_its_level(self, low: str) -> Clerk:
        level = replace(GEARBOX.reservoir.level, run_minutes=Decimal(0))
        clerk = Clerk(TASK, replace(GEARBOX, reservoir=replace(GEARBOX.reservoir, level=level)))
        for _ in range(60):
            state = clerk.state(clerk.sheet.focus or "")
            if str(state.step.id) == "gearbox/level.1":
                clerk.now = max(clerk.now, state.not_before or clerk.now)
                said = {"position": low, "attitude": "side stand"}
                clerk.record("level", said, "gearbox/level.1")
                return clerk
            usual(clerk, state)
        raise AssertionError(clerk.sheet.focus)

    def test_it_is_read_once_the_engine_stands_still(self) -> None:
        clerk = self.until_its_level("0.75")
        self.assertEqual(clerk.sheet.set_aside, ())
        self.assertTrue(clerk.sheet.task("gearbox").filled)

    def test_what_is_missing_there_alone_runs_no_engine(self) -> None:
        clerk = self.until_its_level("0.1")
        self.assertEqual(clerk.sheet.focus, "gearbox/fill.2")
        clerk.pour("50 ml")
        self.assertIsNone(clerk.sheet.step("run.2"))
        while clerk.sheet.focus:
            usual(clerk, clerk.state(clerk.sheet.focus))
        self.assertTrue(clerk.sheet.ready_to_sign)
        self.assertEqual(sum(entry.step.startswith("run") for entry in clerk.entries), 1)


class FillingTests(TestCase):
    """Rounds, readings and corrections."""

    def at_level(self) -> Clerk:
        """Poured, run, settled; the level is next."""
        clerk = Clerk()
        clerk.until_fill()
        clerk.pour("2370 ml")
        clerk.wait(2)
        return clerk

    def test_low_reading_opens_a_second_round(self) -> None:
        clerk = self.at_level()
        clerk.now += timedelta(minutes=3)
        clerk.record("level", {"position": "0.2", "attitude": "upright"})
        sheet = clerk.sheet
        self.assertEqual(sheet.focus, "engine/fill.2")
        advice = clerk.stands.advice
        assert advice is not None
        self.assertEqual((advice.action, advice.added), ("pour", 2520))

    def test_wrong_attitude_is_kept_and_not_used(self) -> None:
        clerk = self.at_level()
        clerk.now += timedelta(minutes=3)
        clerk.record("level", {"position": "0.7", "attitude": "side stand"})
        state = clerk.state("engine/level.1")
        self.assertEqual(clerk.sheet.focus, "engine/level.1")
        self.assertIn("Stand it right", state.remark)
        clerk.record("level", {"position": "0.7", "attitude": "upright"})
        self.assertEqual(clerk.sheet.focus, "leaks")

    def test_reading_too_soon_is_not_used_until_it_has_settled(self) -> None:
        clerk = self.at_level()
        self.assertEqual(clerk.state("engine/settle.1").status, Status.RUNNING)
        clerk.record("level", {"position": "0.7", "attitude": "upright"})
        state = clerk.state("engine/level.1")
        self.assertIn("settled for 3 min", state.remark)
        clerk.now += timedelta(minutes=2)
        clerk.record("level", {"position": "0.7", "attitude": "upright"})
        self.assertEqual(clerk.sheet.focus, "leaks")

    def test_the_engine_runs_its_full_time(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.pour("2370 ml")
        clerk.record("answer", {"value": Lamp.WENT_OUT})
        # it runs since its light was watched
        self.assertEqual(clerk.state("run.1").status, Status.RUNNING)
        with self.assertRaises(CoreError) as caught:
            clerk.record("stop")
        self.assertEqual(caught.exception.code, "sheet.too_soon")

    def test_contradiction_stops_until_a_cause_is_found(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2110 ml", "0.8")
        sheet = clerk.sheet
        advice = clerk.stands.advice
        assert advice is not None
        self.assertEqual((advice.action, sheet.focus), ("stop", "engine/level.1"))
        clerk.record("cause", {"cause": Cause.ATTITUDE})
        sheet = clerk.sheet
        # what stood wrong is read again: it is not full by a reading nobody stands by
        self.assertEqual((sheet.focus, clerk.stands.filled), ("engine/level.1", False))
        self.assertIn("disagreed", why_not_learned("engine", in_order(clerk.entries)))

    def test_what_it_takes_is_told_from_where_it_stood(self) -> None:
        """Right is within an eighth of the glass: what went in is so much more or less."""
        takes = {}
        for position in ("0.65", "0.85"):
            clerk = Clerk()
            clerk.until_fill()
            clerk.round("2450 ml", position)
            self.assertTrue(clerk.stands.filled)
            takes[position] = clerk.stands.takes
        self.assertGreater(takes["0.65"], 2600)
        self.assertLess(takes["0.85"], 2600)
        self.assertIsNone(Clerk().stands.takes)

    def test_a_level_inside_the_marks_is_left_for_a_reason(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2370 ml", "0.55")
        advice = clerk.stands.advice
        assert advice is not None
        self.assertEqual((advice.action, advice.may_stay), ("pour", True))
        clerk.record("left", {"reason": LeftFor.BETWEEN})
        self.assertEqual((clerk.stands.filled, clerk.sheet.focus), (True, "leaks"))
        self.assertEqual(clerk.sheet.set_aside, ())
        self.assertIn("the manual says", why_not_learned("engine", in_order(clerk.entries)))

    def test_a_look_before_anything_is_topped_up_leaves_the_fill_open(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2370 ml", "0.2")
        clerk.now += timedelta(minutes=5)
        clerk.record("level", {"position": "0.25", "attitude": "upright"}, "engine/fill.2")
        self.assertEqual(clerk.sheet.focus, "engine/fill.2")
        clerk.round("250 ml", "0.75")
        self.assertEqual((clerk.sheet.focus, clerk.stands.filled), ("leaks", True))

    def test_what_stood_in_the_glass_before_the_first_start_is_not_the_level(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.record("pour", {"amount": "2370 ml"})
        clerk.now += timedelta(minutes=2)
        clerk.record("level", {"position": "0.8", "attitude": "upright"}, "engine/fill.1")
        clerk.tick("engine/close")
        clerk.wait(2)
        self.assertEqual((clerk.stands.filled, clerk.sheet.focus), (False, "engine/level.1"))
        clerk.now += timedelta(minutes=3)
        clerk.record("level", {"position": "0.65", "attitude": "upright"})
        self.assertTrue(clerk.stands.filled)
        self.assertEqual(clerk.stands.fell.ml, 75 + 150)

    def test_what_was_left_is_taken_back(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2370 ml", "0.55")
        left = clerk.record("left", {"reason": LeftFor.OWNER})
        clerk.correct(left, {"reason": ""})
        self.assertEqual((clerk.stands.filled, clerk.sheet.focus), (False, "engine/fill.2"))
        self.assertEqual(why_not_learned("engine", in_order(clerk.entries)), "")

    def test_a_reading_that_is_not_used_is_read_again_before_it_is_left(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2370 ml", "0.55")
        clerk.record("level", {"position": "0.6", "attitude": "side stand"})
        with self.assertRaises(CoreError):
            clerk.record("left", {"reason": LeftFor.BETWEEN})

    def test_a_level_outside_the_marks_is_not_left(self) -> None:
        for position in ("-0.2", "1.2"):
            clerk = Clerk()
            clerk.until_fill()
            clerk.round("2370 ml", position)
            with self.assertRaises(CoreError) as caught:
                clerk.record("left", {"reason": LeftFor.HOT})
            self.assertEqual(caught.exception.code, "level.not_inside", position)

    def test_more_than_it_holds_waits_for_a_lead_and_far_more_for_the_book(self) -> None:
        for amount, words in (("3 l", "A lead has to look"), ("30 l", "look the capacity up")):
            with self.subTest(amount):
                clerk = Clerk()
                clerk.until_fill()
                clerk.pour(amount)
                (stop,) = clerk.sheet.stops
                self.assertEqual((stop.hold, stop.lasts), (amount == "3 l", amount == "30 l"))
                self.assertIn(words, stop.text)
                said = {"entry": stop.entry, "reason": "Seen, it is as it is"}
                clerk.record("answered", said, stop.step)
                # a lead's word is enough for a little more, not for what cannot be in
                self.assertEqual(len(clerk.sheet.stops), int(amount == "30 l"))
                look_up = clerk.sheet.step("engine/look up..capacity.with filter")
                self.assertEqual(look_up is not None, amount == "30 l")

    def at_a_stop(self, amount: str, position: str) -> Clerk:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round(amount, position)
        advice = clerk.stands.advice
        assert advice is not None
        self.assertEqual(advice.action, "stop")
        return clerk

    def test_a_capacity_called_wrong_is_looked_up_with_its_page(self) -> None:
        clerk = self.at_a_stop("2800 ml", "0.1")
        clerk.record("cause", {"cause": Cause.CAPACITY})
        look_up = "engine/look up..capacity.with filter"
        self.assertEqual(clerk.state(look_up).status, Status.READY)
        self.assertFalse(clerk.stands.filled)
        self.assertFalse(clerk.sheet.ready_to_sign)

    def test_a_leak_that_is_named_is_asked_what_ran_out(self) -> None:
        clerk = self.at_a_stop("2800 ml", "0.1")
        clerk.record("cause", {"cause": Cause.LEAK})
        self.assertEqual(clerk.state("engine/torque").reopened, True)
        # tapped twice, it asks once
        clerk.record("cause", {"cause": Cause.LEAK}, "engine/level.1")
        asked = [str(s.step.id) for s in clerk.sheet.steps if s.step.ask == Ask.RAN_OUT]
        self.assertEqual(len(asked), 1)
        clerk.record("ran out", {"how": Lost.SOME, "amount": "400 ml"}, asked[0])
        self.assertEqual((clerk.stands.added, clerk.stands.filled), (2550, False))

    def test_words_of_ones_own_are_read_again_and_a_lead_stands_by_the_gauge(self) -> None:
        clerk = self.at_a_stop("2110 ml", "0.8")
        clerk.record("cause", {"cause": Cause.ELSE, "words": "Another sump on it"})
        self.assertFalse(clerk.stands.filled)
        clerk.now += timedelta(minutes=1)
        clerk.record("level", {"position": "0.8", "attitude": "upright"})
        advice = clerk.stands.advice
        assert advice is not None
        self.assertEqual((advice.action, advice.causes[-1]), ("stop", Cause.GAUGE))
        clerk.record("cause", {"cause": Cause.GAUGE})
        self.assertTrue(clerk.stands.filled)
        self.assertIn("disagreed", why_not_learned("engine", in_order(clerk.entries)))

    def test_old_oil_left_in_is_drained_again(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2110 ml", "0.8")
        clerk.record("cause", {"cause": Cause.OLD_OIL})
        self.assertEqual(clerk.sheet.focus, "engine/fill.2")
        # in two jugs, more in all than was poured
        clerk.record("draw", {"amount": "1500 ml", "where": Draw.PLUG})
        self.assertEqual(clerk.stands.added, Decimal(760))
        clerk.record("draw", {"amount": "1200 ml", "where": Draw.PLUG}, "engine/fill.3")
        self.assertEqual((clerk.stands.added, clerk.stands.filled), (Decimal(0), False))
        self.assertEqual(clerk.sheet.focus, "engine/washer")
        clerk.record("answer", {"value": "new"})
        clerk.tick()
        clerk.record("torque", {"reading": "21 N·m"})
        advice = clerk.stands.advice
        assert advice is not None
        self.assertEqual((advice.action, advice.again), ("pour", False))
        clerk.pour("2520 ml", closed=True)
        # nothing more to pour before it has run and been read; it is a first start once more
        self.assertEqual(clerk.sheet.focus, "lamp")
        clerk.record("answer", {"value": Lamp.WENT_OUT})
        self.assertEqual(clerk.sheet.focus, "run.2")
        clerk.wait(2)
        clerk.now += timedelta(minutes=3)
        clerk.record("level", {"position": "0.75", "attitude": "upright"})
        self.assertEqual((clerk.stands.filled, clerk.stands.added), (True, Decimal(2520)))

    def test_overfull_draws_off(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2550 ml", "1.1")
        state = clerk.state("engine/fill.2")
        self.assertEqual(state.step.title, "Draw the excess off")
        clerk.round("170 ml", "0.75")
        self.assertEqual((clerk.sheet.focus, clerk.stands.added), ("leaks", 2530))

    def test_each_pair_of_marks_has_a_target_of_its_own(self) -> None:
        assert ENGINE.level is not None
        second = Marks("side stand", Decimal(400), Decimal("0.5"))
        engine = replace(ENGINE, level=replace(ENGINE.level, second=second))
        clerk = Clerk(replace(TASK, reservoir=engine))
        shown = gauge(clerk.plan.tasks[0].reservoir, Speaker())
        assert shown is not None
        self.assertEqual(
            [(one.attitude, one.between, one.target) for one in shown.marks],
            [("upright", "500 ml", 0.75), ("side stand", "400 ml", 0.5)],
        )
        clerk.until_fill()
        clerk.round("2520 ml", "0.5", "side stand")
        self.assertTrue(clerk.stands.filled)

    def test_no_engine_starts_with_its_plug_out(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2550 ml", "1.1")
        clerk.record("draw", {"amount": "170 ml", "where": Draw.PLUG}, "engine/fill.2")
        run = clerk.state("run.2")
        self.assertEqual(run.status, "blocked")
        self.assertIn("the engine is not closed below", [one.words for one in run.unmet])
        self.assertEqual(clerk.sheet.focus, "engine/washer")

    def test_correcting_a_pour_moves_the_sum_and_keeps_the_rest(self) -> None:
        clerk = whole_visit()
        first = next(e for e in clerk.entries if e.kind == "pour")
        with self.assertRaises(CoreError) as caught:
            clerk.record("pour", {"amount": "2400 ml"}, first.step)
        self.assertEqual(caught.exception.code, "sheet.already_done")
        clerk.record("pour", {"amount": "2400 ml"}, first.step, first.id)
        self.assertEqual(clerk.stands.added, 2650)

    def test_exact_quantity_goes_straight_to_leaks(self) -> None:
        clerk = Clerk(DRIVE)
        clerk.until_open()
        clerk.wait(10)
        clerk.record("skip", {"reason": "jug in use"})
        clerk.record("finding", {"parts": [], "oil": []})
        clerk.record("answer", {"value": "new"})
        clerk.tick()
        clerk.record("torque", {"reading": "20 N·m"})
        clerk.pour("700 ml")
        self.assertEqual(clerk.sheet.focus, "final drive/fill.1")
        clerk.pour("100 ml")
        self.assertEqual(clerk.sheet.focus, "leaks")


class RanOutTests(TestCase):
    """Oil is a balance: what let it out of a full case is asked about."""

    def levelled(self) -> Clerk:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2370 ml", "0.7")
        self.assertEqual((clerk.sheet.focus, clerk.stands.filled), ("leaks", True))
        return clerk

    def test_a_leak_at_the_plug_asks_what_ran_out(self) -> None:
        clerk = self.levelled()
        clerk.record("leaks", {"result": "engine/drain plug"})
        self.assertEqual(clerk.sheet.focus, str(ran_out_id("engine", clerk.last("leaks").id)))
        clerk.record("ran out", {"how": Lost.ALL})
        stands = clerk.stands
        assert stands.advice is not None
        self.assertEqual((stands.added, stands.filled, stands.advice.action), (0, False, "pour"))
        self.assertEqual(clerk.sheet.focus, "engine/washer")
        clerk.record("answer", {"value": "new"})
        clerk.tick()
        clerk.record("torque", {"reading": "22", "unit": "N·m", "wrench": "m"})
        self.assertEqual(clerk.sheet.focus, "engine/fill.2")
        self.assertFalse(clerk.sheet.ready_to_sign)

    def test_some_of_it_is_poured_again_run_and_read(self) -> None:
        clerk = self.levelled()
        clerk.record("leaks", {"result": "engine/drain plug"})
        with self.assertRaises(Question):
            clerk.record("ran out", {"how": Lost.SOME, "amount": "3 l"})
        clerk.record("ran out", {"how": Lost.SOME, "amount": "600 ml"})
        clerk.record("answer", {"value": "new"})
        clerk.tick()
        clerk.record("torque", {"reading": "22", "unit": "N·m", "wrench": "m"})
        self.assertEqual(clerk.stands.added, 1920)
        self.assertEqual(clerk.sheet.focus, "engine/fill.2")
        self.assertEqual(clerk.state("run.2").status, Status.BLOCKED)
        clerk.round("600 ml", "0.75")
        self.assertEqual((clerk.sheet.focus, clerk.stands.filled), ("leaks", True))
        self.assertIn("ran out", why_not_learned("engine", in_order(clerk.entries)))

    def test_a_leak_that_was_corrected_takes_its_oil_back(self) -> None:
        """What ran out at a leak nobody saw did not run out: the sum is what was poured."""
        clerk = self.levelled()
        leak = clerk.record("leaks", {"result": "engine/drain plug"})
        clerk.record("ran out", {"how": Lost.ALL})
        self.assertEqual(clerk.stands.added, 0)
        clerk.correct(leak, {"result": "dry"})
        self.assertEqual((clerk.stands.added, clerk.stands.filled), (2520, True))
        self.assertIsNone(clerk.sheet.step(str(ran_out_id("engine", leak.id))))

    def test_only_tightened_needs_its_torque_and_nothing_else(self) -> None:
        clerk = self.levelled()
        clerk.record("leaks", {"result": "engine/drain plug"})
        clerk.record("ran out", {"how": Lost.TIGHTENED})
        self.assertEqual(clerk.sheet.focus, "engine/torque")
        clerk.record("torque", {"reading": "22", "unit": "N·m", "wrench": "m"})
        # it is run again before anybody looks whether it is dry by now; its level is right as it was
        self.assertEqual((clerk.sheet.focus, clerk.stands.added), ("run.2", 2520))
        self.assertTrue(clerk.stands.filled)
        clerk.wait(2)
        self.assertEqual((clerk.sheet.focus, clerk.stands.filled), ("leaks", True))

    def test_a_new_filter_after_the_run_takes_oil_of_its_own(self) -> None:
        clerk = self.levelled()
        clerk.record("leaks", {"result": "engine/filter"})
        clerk.record("ran out", {"how": Lost.SOME, "amount": "50 ml"})
        clerk.record("filter", {"amount": "0", "items": [Tick.GASKET]})
        stands = clerk.stands
        assert stands.advice is not None
        # the pre-fill went with the old filter, and 50 ml beside it
        self.assertEqual((stands.added, stands.filled), (2320, False))
        # 135 ml of the old one's own less 150 pre-filled: nothing more than the sum says
        self.assertEqual(clerk.sheet.focus, "engine/fill.2")
        clerk.round(f"{stands.advice.ml} ml", "0.72")
        self.assertEqual((clerk.sheet.focus, clerk.stands.filled), ("leaks", True))

    def test_a_plug_that_is_out_again_asks_what_ran_out(self) -> None:
        """The washer was forgotten, and the case is full."""
        clerk = self.levelled()
        out = clerk.record("opens again", {}, "engine/torque")
        asked = clerk.state(str(ran_out_id("engine", out.id)))
        self.assertEqual((clerk.sheet.focus, clerk.stands.filled), (str(asked.step.id), False))
        self.assertEqual([o.code for o in asked.step.options], ["not out", "some", "all"])
        plug = next(f for f in clerk.stands.fasteners if f.role == "drain plug")
        self.assertEqual((plug.stands, plug.open), ("out", True))
        clerk.record("ran out", {"how": Lost.ALL})
        self.assertEqual(
            (clerk.stands.added, clerk.stands.filled, clerk.sheet.focus),
            (0, False, "engine/washer"),
        )
        clerk.record("answer", {"value": "new"})
        clerk.tick()
        clerk.record("torque", {"reading": "22", "unit": "N·m", "wrench": "m"})
        self.assertEqual(clerk.sheet.focus, "engine/fill.2")
        self.assertIn("ran out", why_not_learned("engine", in_order(clerk.entries)))

    def test_a_plug_that_was_not_out_after_all_stands_as_it_did(self) -> None:
        clerk = self.levelled()
        before = clerk.stands
        clerk.record("opens again", {}, "engine/washer")
        clerk.record("ran out", {"how": Lost.NOT_OUT})
        self.assertEqual((clerk.sheet.focus, clerk.stands), ("leaks", before))
        self.assertEqual(why_not_learned("engine", in_order(clerk.entries)), "")

    def test_a_plug_that_was_put_back_since_was_out(self) -> None:
        """Finger-tight again, its old torque says nothing, whatever is tapped at the question."""
        clerk = self.levelled()
        clerk.record("opens again", {}, "engine/torque")
        asked = clerk.sheet.focus or ""
        clerk.record("answer", {"value": "new"}, "engine/washer")
        clerk.tick("engine/refit")
        clerk.record("ran out", {"how": Lost.NOT_OUT}, asked)
        plug = next(f for f in clerk.stands.fasteners if f.role == "drain plug")
        self.assertEqual((plug.stands, clerk.sheet.focus), ("finger tight", "engine/torque"))

    def test_another_oil_stays_or_goes_whole_where_a_pour_is_corrected(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        told = {"fluid": "Quern", "label": "10W-40 MA2"}
        pour = clerk.record("pour", {"amount": "500 ml", **told})
        more = as_before(pour, {"amount": "600 ml"})
        self.assertEqual((more["fluid"], more["label"]), ("Quern, 10W-40 MA2", "10W-40 MA2"))
        other = as_before(pour, {"amount": "600 ml", "fluid": "Amber"})
        self.assertNotIn("label", other)
        with self.assertRaises(CoreError):
            clerk.record("pour", {"amount": "500 ml", "fluid": ", 10W-40", "label": "10W-40"})

    def test_what_is_out_again_while_it_is_filled_waits_for_no_run(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.record("pour", {"amount": "2370 ml", "closed": True})
        self.assertEqual(clerk.sheet.focus, "lamp")
        clerk.record("opens again", {}, "engine/filter")
        self.assertIn(
            "“What ran out?” is not done", [one.words for one in clerk.state("lamp").unmet]
        )
        clerk.record("ran out", {"how": Lost.NOTHING})
        self.assertEqual((clerk.sheet.focus, clerk.stands.added), ("engine/filter", 2520))

    def test_a_plug_that_is_out_again_before_the_oil_is_in_asks_nothing(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.record("opens again", {}, "engine/refit")
        self.assertEqual((clerk.sheet.focus, clerk.stands.added), ("engine/washer", 150))

    def test_only_what_shuts_a_case_can_be_out_again(self) -> None:
        clerk = self.levelled()
        with self.assertRaises(CoreError) as caught:
            clerk.record("opens again", {}, "engine/measure")
        self.assertEqual(caught.exception.code, "sheet.wrong_kind")

    def test_no_engine_runs_before_somebody_says_what_ran_out(self) -> None:
        clerk = self.levelled()
        clerk.record("leaks", {"result": "engine/filter"})
        clerk.record("filter", {"amount": "0", "items": [Tick.GASKET]}, "engine/filter")
        self.assertIn(
            "“What ran out?” is not done", [one.words for one in clerk.state("run.2").unmet]
        )


class TimerTests(TestCase):
    """Timers are entries, so they survive anything."""

    def test_end_is_start_plus_minutes_of_the_benchs_clock(self) -> None:
        clerk = Clerk()
        clerk.tick()
        start = clerk.record("start", step="warm", despite=True)
        for seconds in (60.0, 2.0):
            bench = Bench((WRENCH,), seconds_per_minute=seconds)
            state = fold(clerk.plan, clerk.entries, bench).step("warm")
            assert state is not None and state.ends_at is not None
            self.assertEqual((state.ends_at - start.at).total_seconds(), 10 * seconds)

    def test_nothing_to_stop_before_the_start(self) -> None:
        clerk = Clerk()
        clerk.tick()
        with self.assertRaises(CoreError) as caught:
            clerk.record("stop")
        self.assertEqual(caught.exception.code, "sheet.not_started")


class BadInputTests(TestCase):
    """Each refusal names its field."""

    def refuse(
        self, clerk: Clerk, kind: str, raw: Mapping[str, Any], code: str, field: str
    ) -> None:
        """Recording must fail with this code at this field, and add nothing."""
        before = list(clerk.entries)
        with self.assertRaises(CoreError) as caught:
            clerk.record(kind, raw)
        self.assertEqual((caught.exception.code, caught.exception.fields["field"]), (code, field))
        self.assertEqual(clerk.entries, before)

    def test_amounts(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        for amount, code in (
            ("20 N·m", "quantity.wrong_kind"),
            ("2,750 l", "quantity.doubtful_comma"),
            ("", "quantity.empty"),
            ("-2 l", "quantity.negative"),
            ("0", "quantity.zero"),
        ):
            with self.subTest(amount):
                self.refuse(clerk, "pour", {"amount": amount}, code, "amount")

    def test_torque_unit_slips_are_asked(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        torque = next(e for e in clerk.entries if e.kind == "torque")
        with self.assertRaises(CoreError) as caught:
            clerk.record("torque", {"reading": "186 ft-lb"}, torque.step, torque.id)
        self.assertEqual(caught.exception.code, "expected.slip")
        self.assertEqual(caught.exception.fields["options"], ["186 lbf·in", "186 lbf·ft"])
        clerk.record("torque", {"reading": "22"}, torque.step, torque.id)

    def test_a_comma_slipped_in_what_came_out_is_asked_and_the_answer_stays(self) -> None:
        clerk = Clerk()
        clerk.until_open()
        clerk.wait(10)
        with self.assertRaises(Question) as caught:
            clerk.record("amount", {"amount": "2,5"})
        self.assertEqual(caught.exception.code, "expected.slip")
        self.assertEqual(caught.exception.fields["options"], ["2.5 l", "2.5 ml"])
        with self.assertRaises(Question) as caught:
            clerk.record("amount", {"amount": "1.5 l"})
        self.assertEqual(caught.exception.code, "expected.far")
        entry = clerk.record("amount", {"amount": "1.5 l", "sure": "1.5 l"})
        assert isinstance(entry.data, Amount) and entry.data.asked is not None
        self.assertEqual((entry.data.asked.code, entry.data.asked.basis), ("expected.far", "last"))
        self.assertIn("it stands, though 2650 ml went in last time", result(entry, Speaker()))

    def test_pours_are_held_against_the_coach(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        for amount, code in (
            ("2,3", "expected.slip"),
            ("5 l", "expected.far"),
            # 90 ml past what is safe; a tenth between the marks is 50
            ("2460 ml", "expected.far"),
        ):
            with self.subTest(amount), self.assertRaises(Question) as caught:
                clerk.record("pour", {"amount": amount})
            self.assertEqual(caught.exception.code, code)
        # litre by litre, without a question, until it is past what is safe
        first = clerk.record("pour", {"amount": "1 l"})
        assert isinstance(first.data, PouredIn)
        self.assertIsNone(first.data.asked)
        clerk.record("pour", {"amount": "1 l"})
        with self.assertRaises(Question):
            clerk.record("pour", {"amount": "1 l"})
        stood = clerk.record("pour", {"amount": "500 ml", "sure": "500 ml"})
        assert isinstance(stood.data, PouredIn) and stood.data.asked is not None
        self.assertEqual(stood.data.asked.basis, Basis.COACH_POURS)
        self.assertEqual(clerk.stands.added, 2650)
        with self.assertRaises(Question):
            clerk.record("pour", {"amount": "9 l"}, first.step, first.id)
        clerk.record("pour", {"amount": "2.3 l"}, first.step, first.id)

    def test_findings(self) -> None:
        clerk = Clerk()
        clerk.until_open()
        clerk.wait(10)
        clerk.record("amount", {"amount": "2.5 l"})
        paste = {"form": "paste", "matter": "steel", "share_percent": 60}
        for parts, code, field in (
            ([{**paste, "share_percent": 140}], "finding.share", "share"),
            ([{**paste, "share_percent": "much"}], "finding.share", "share"),
            ([paste, paste], "finding.share_sum", "share"),
            ([{**paste, "form": "goo"}], "sheet.choose", "form"),
            ([{**paste, "matter": "gold"}], "sheet.choose", "matter"),
            ([{**paste, "largest": "2 l"}], "quantity.wrong_kind", "largest"),
            ([{**paste, "count": "few"}], "finding.count", "count"),
            ([{**paste, "count": "-2"}], "finding.count", "count"),
            ([{**paste, "count": "1e99"}], "finding.count", "count"),
        ):
            with self.subTest(code=code, field=field):
                self.refuse(clerk, "finding", {"parts": parts}, code, field)
        self.refuse(clerk, "finding", {"oil": ["pink"]}, "sheet.choose", "oil")

    def test_choices_and_ticks(self) -> None:
        clerk = Clerk()
        self.refuse(clerk, "confirm", {"items": [Tick.PAN_CLEAN]}, "sheet.not_ticked", "items")
        with self.assertRaises(CoreError) as caught:
            clerk.record("pour", {"amount": "1 l"})
        self.assertEqual(caught.exception.code, "sheet.wrong_kind")
        clerk.until_warm()
        clerk.tick()
        self.refuse(clerk, "answer", {"value": "maybe"}, "sheet.choose", "value")

    def test_bodies_of_the_wrong_shape_are_refused_like_missing_ones(self) -> None:
        clerk = Clerk()
        for items in (5, "Pan is clean", {"a": 1}, [[1]], [True]):
            with self.subTest(items=items):
                self.refuse(clerk, "confirm", {"items": items}, "entry.unfit", "items")
        self.refuse(clerk, "confirm", {"items": None}, "sheet.not_ticked", "items")

    def test_a_misspelt_field_is_refused_by_its_name(self) -> None:
        clerk = Clerk()
        self.refuse(clerk, "confirm", {"itmes": []}, "entry.unknown", "itmes")
        clerk.until_open()
        clerk.wait(10)
        self.refuse(clerk, "amount", {"amuont": "2.5 l"}, "entry.unknown", "amuont")
        clerk.record("amount", {"amount": "2.5 l"})
        part = {"form": "paste", "mater": "steel"}
        self.refuse(clerk, "finding", {"parts": [part]}, "entry.unknown", "mater")

    def test_a_bare_half_takes_the_wrenchs_unit(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        torque = next(e for e in clerk.entries if e.kind == "torque")
        clerk.record("torque", {"reading": "22½", "unit": "N·m"}, torque.step, torque.id)
        pulled = clerk.entries[-1].data
        assert isinstance(pulled, Pulled)
        self.assertEqual(pulled.nm, Decimal("22.5"))

    def test_levels(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.pour("2370 ml")
        clerk.wait(2)
        clerk.now += timedelta(minutes=3)
        upright = {"attitude": "upright"}
        self.refuse(clerk, "level", {"position": "0.5"}, "sheet.attitude", "attitude")
        self.refuse(clerk, "level", {**upright, "position": "9"}, "sheet.position", "position")
        self.refuse(clerk, "level", {**upright, "position": "nan"}, "sheet.position", "position")
        self.refuse(clerk, "level", {**upright, "sight": "foggy"}, "sheet.choose", "sight")


class FoldTests(TestCase):
    """Any order and any repetition of the entries folds to the same sheet."""

    ENTRIES = whole_visit().entries

    @given(st.randoms(use_true_random=False), st.integers(0, 30), st.integers(0, 40))
    def test_order_and_repetition_do_not_matter(
        self, rng: random.Random, keep: int, extra: int
    ) -> None:
        entries = self.ENTRIES[:keep]
        shuffled = entries + [rng.choice(entries) for _ in range(extra if entries else 0)]
        rng.shuffle(shuffled)
        plan = VisitPlan(tasks=(TASK,))
        self.assertEqual(fold(plan, shuffled, BENCH), fold(plan, entries, BENCH))

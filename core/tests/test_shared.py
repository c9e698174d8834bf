"""A visit in several hands: whose a step is, what it waits for, what is read back, what comes late."""

import random
from dataclasses import replace
from datetime import timedelta
from decimal import Decimal
from unittest import TestCase

from oilward_core.bench import (
    Data,
    Entry,
    LevelRead,
    Stance,
    StandsSo,
    TakesOver,
    check_hands,
    facts_of,
    next_words,
    open_points,
    stance_words,
    waits_for,
)
from oilward_core.bench.asides.takes import GivesUp, Takes
from oilward_core.bench.asides.waits import GoesOn, WaitsUntil
from oilward_core.codes.bench import Sight
from oilward_core.errors import CoreError
from oilward_core.runsheet import Option, Pose, StepId, WaitsFor

from .clerk import PASTE, THREE, Clerk, finished

PASTE_FOUND = {"parts": [PASTE], "oil": ["dark"]}


class SharedTests(TestCase):
    """A visit in several hands, interrupted, and written down late."""

    def test_what_was_only_remembered_takes_its_need_away(self) -> None:
        clerk = Clerk()
        clerk.until_warm()
        clerk.tick()
        begun = clerk.now
        clerk.record("start", step="engine/drain", despite=True)
        self.assertIn("the engine's filler is not proven", clerk.sheet.stops[0].text)
        after = clerk.record("answer", {"value": "open"}, "engine/filler")
        self.assertTrue(clerk.sheet.stops)  # proven only after the plug was out
        remembered = replace(after, at=begun - timedelta(seconds=1))
        clerk.entries[-1] = remembered
        self.assertEqual(clerk.sheet.stops, ())

    def test_a_tip_stands_at_its_fastener_or_at_a_step_whatever_its_round(self) -> None:
        self.assertEqual(StepId.of("engine/level.2").place, "engine/level")
        self.assertEqual(StepId.of("support").place, "support")
        at_the_plug = {StepId("engine", name).place for name in ("drain", "refit", "torque")}
        self.assertEqual(at_the_plug, {"engine/drain plug"})

    def test_a_step_taken_shows_whose_it_is_until_it_is_done_or_given_up(self) -> None:
        clerk = Clerk()
        clerk.record("takes", step="engine/torque")
        self.assertEqual(clerk.state("engine/torque").taken_by_who, "mira")
        self.assertEqual(clerk.sheet.focus, "cold")  # it is no work, and goes against nothing
        clerk.record("gives up", step="engine/torque")
        self.assertEqual(clerk.state("engine/torque").taken_by, "")
        clerk.record("takes")
        clerk.tick()
        self.assertEqual(clerk.state("cold").taken_by, "")
        with self.assertRaises(CoreError) as refused:
            clerk.record("takes", step="cold")
        self.assertEqual(refused.exception.code, "sheet.already_done")

    def test_a_visit_waits_until_somebody_goes_on_or_the_step_is_done(self) -> None:
        clerk = Clerk()
        clerk.until_open()
        step = clerk.sheet.focus or ""
        clerk.record("waits", {"what": "a part", "words": "crush washer 12 mm"})
        waits = clerk.sheet.waits
        assert waits is not None
        self.assertEqual(
            (waits.step, waits.by, waits_for(waits)), (step, "Mira", "a part: crush washer 12 mm")
        )
        self.assertEqual(next_words(clerk.sheet), "Waits for a part: crush washer 12 mm")
        clerk.record("goes on")
        self.assertIsNone(clerk.sheet.waits)
        clerk.record("waits", {"what": "an answer"})
        clerk.record("start")
        self.assertIsNotNone(clerk.sheet.waits)
        clerk.record("stop", step=step)
        self.assertIsNone(clerk.sheet.waits)
        for raw, code in (
            ({"what": "rain"}, "sheet.choose"),
            ({"what": "something else"}, "sheet.reason"),
        ):
            with self.subTest(raw), self.assertRaises(CoreError) as refused:
                clerk.record("waits", raw)
            self.assertEqual(refused.exception.code, code)

    def test_nobody_goes_under_a_bike_that_is_tilted_until_it_is_strapped_again(self) -> None:
        clerk = Clerk()
        clerk.until_open()
        stance = clerk.sheet.stance
        assert stance is not None
        self.assertEqual((stance_words(stance), stance.by), ("upright, strapped down", "Mira"))
        clerk.record("start", step="engine/drain")
        # whatever is ticked, nothing tilted is strapped
        clerk.record("stands", {"pose": "tilted", "strapped": True}, step="engine/drain")
        stance = clerk.sheet.stance
        assert stance is not None
        self.assertEqual(stance_words(stance), "tilted, not strapped")
        clerk.record("stop", step="engine/drain")  # it drips out tilted; that is what it is for
        clerk.record("amount", {"amount": "2.6 l"})
        clerk.record("finding", PASTE_FOUND)
        clerk.record("answer", {"value": "new"})
        refit = clerk.state("engine/refit")
        self.assertEqual(refit.unmet, (Option("strapped:", "the bike is not strapped down"),))
        self.assertEqual(clerk.sheet.focus, "engine/refit")  # and it says what is missing
        with self.assertRaises(AssertionError):
            clerk.tick()
        clerk.record("stands", {"pose": "upright", "strapped": True})
        clerk.tick()
        self.assertEqual(clerk.sheet.focus, "engine/torque")

    def test_a_level_read_on_the_side_stand_leaves_it_unstrapped(self) -> None:
        at = Clerk().now
        strapped = Stance(pose=Pose.UPRIGHT, strapped=True, by="Mira", at=at)
        upright = StandsSo(pose=Pose.UPRIGHT, strapped=True)

        def after(pose: str) -> Stance | None:
            read = LevelRead(sight=Sight.SEEN, position=Decimal(1), attitude=pose)
            stood = Entry(id="0", step="cold", data=upright, at=at, by="Mira", who="mira")
            level = Entry(id="1", step="engine/level.1", data=read, at=at, by="Oda", who="oda")
            return facts_of([stood, level]).stance

        self.assertEqual(after("upright"), strapped)
        self.assertEqual(
            after("side stand"), Stance(pose=Pose.SIDE_STAND, strapped=False, by="Oda", at=at)
        )
        clerk = Clerk()
        with self.assertRaises(CoreError) as refused:
            clerk.record("stands", {"pose": "on its head"})
        self.assertEqual(refused.exception.code, "sheet.choose")

    def test_a_second_pair_of_hands_is_called_for_lent_by_another_and_let_go(self) -> None:
        clerk = Clerk()
        clerk.record("calls")
        hands = clerk.sheet.hands
        assert hands is not None
        self.assertEqual((hands.step, hands.by, hands.lent_by), ("cold", "Mira", ""))
        self.assertEqual(next_words(clerk.sheet), "Mira needs a second pair of hands")
        clerk.record("lends")  # nobody lends them to themselves
        self.assertEqual(clerk.sheet.hands, hands)
        clerk.entries.append(replace(clerk.record("lends"), id="oda's", by="Oda", who="oda"))
        lent = clerk.sheet.hands
        assert lent is not None
        self.assertEqual(lent.lent_by, "Oda")
        self.assertEqual(next_words(clerk.sheet), "Cold checks")
        clerk.record("lets go")
        self.assertIsNone(clerk.sheet.hands)
        clerk.record("calls")
        clerk.tick()  # with the step they are let go
        self.assertIsNone(clerk.sheet.hands)

    def test_what_is_open_is_read_back_and_what_is_finger_tight_is_touched(self) -> None:
        clerk = Clerk()

        def texts() -> list[str]:
            return [point.text for point in open_points(clerk.plan.tasks, clerk.sheet)]

        self.assertEqual(texts(), [])
        clerk.until_open()
        self.assertEqual(texts(), ["engine: filler opened, loose"])
        clerk.record("start")
        self.assertIn("engine: draining; the pan stays under it", texts())
        clerk.now += timedelta(minutes=10)
        clerk.record("stop", step="engine/drain")
        self.assertIn("engine: no oil in; nobody starts the engine", texts())
        clerk.record("amount", {"amount": "2.5 l"})
        clerk.record("finding", {"parts": [PASTE], "oil": []})
        clerk.record("answer", {"value": "new"})
        clerk.tick()
        plug = "engine: drain plug finger-tight only"
        self.assertIn(plug, texts())
        with self.assertRaises(CoreError) as refused:
            check_hands(clerk.plan.tasks, clerk.sheet, TakesOver())
        self.assertEqual(refused.exception.fields["text"], plug)
        touched = ("engine/drain plug",)
        check_hands(clerk.plan.tasks, clerk.sheet, TakesOver(hands=touched))
        clerk.record("takes over", {"hands": list(touched)})
        self.assertEqual(clerk.sheet.in_hands_of_who, "mira")

    def test_who_has_it_and_what_it_waits_for_changes_nothing_that_was_done(self) -> None:
        clerk, rng = Clerk(*THREE), random.Random(8)
        self.assertTrue(finished(clerk, rng))
        plain = clerk.sheet
        waits = WaitsUntil(what=WaitsFor.PART)
        asides: tuple[Data, ...] = (Takes(), GivesUp(), waits, GoesOn(), TakesOver())
        for number, step in enumerate(plain.steps):
            at = rng.choice(clerk.entries).at
            clerk.entries.append(
                Entry(
                    id=f"aside{number}",
                    step=str(step.step.id),
                    data=asides[number % 5],
                    at=at,
                    by="Oda",
                    who="oda",
                )
            )
        self.assertEqual([s.status for s in clerk.sheet.steps], [s.status for s in plain.steps])
        self.assertEqual([t.added for t in clerk.sheet.tasks], [t.added for t in plain.tasks])

"""A finding that says hold stops running and signing, until a lead lifts it or hands the bike back."""

import random
from unittest import TestCase

from oilward_core.bench import Speaker, Status, next_words, result
from oilward_core.debris import Level, Outcome, asks_on, outcomes_of, still_asking

from .clerk import Clerk, finished

FRAGMENT = {"form": "fragments", "matter": "steel", "share_percent": 5}


def held() -> Clerk:
    """An engine drained, with a fragment on its plug, done up to the run."""
    clerk = Clerk()
    clerk.until_open()
    clerk.record("start", step="engine/drain")
    clerk.record("stop", step="engine/drain")
    clerk.record("amount", {"amount": "2.6 l"})
    clerk.record("finding", {"parts": [FRAGMENT], "oil": ["dark"]})
    return clerk


class HoldTests(TestCase):
    """The stop that only a lead goes past."""

    def test_nothing_is_signed_until_it_is_lifted(self) -> None:
        clerk = held()
        (stop,) = clerk.sheet.stops
        self.assertTrue(stop.hold)
        self.assertEqual(stop.step, "engine/inspect")
        self.assertIn("Do not run it", stop.text)
        finished(clerk, random.Random(1))
        self.assertFalse(clerk.sheet.ready_to_sign)
        run = next(s for s in clerk.sheet.steps if s.step.name == "run")
        self.assertEqual(run.status, Status.BLOCKED)
        clerk.record(
            "answered", {"entry": stop.entry, "reason": "Old tooth, oil pump fine"}, stop.step
        )
        self.assertEqual(clerk.sheet.stops, ())
        finished(clerk, random.Random(1))
        self.assertTrue(clerk.sheet.ready_to_sign)

    def test_a_finding_corrected_to_something_grave_holds_anew(self) -> None:
        clerk = held()
        (stop,) = clerk.sheet.stops
        clerk.record("answered", {"entry": stop.entry, "reason": "looked at"}, stop.step)
        clerk.record(
            "finding", {"parts": [FRAGMENT], "oil": []}, "engine/inspect", supersedes=stop.entry
        )
        self.assertEqual(len(clerk.sheet.stops), 1)

    def test_handed_back_it_is_neither_run_nor_signed(self) -> None:
        clerk = held()
        (stop,) = clerk.sheet.stops
        back = {"entry": stop.entry, "reason": "Owner fetches it by van", "handed_back": True}
        clerk.record("answered", back, stop.step)
        self.assertEqual(clerk.sheet.handed_back, "Owner fetches it by van")
        finished(clerk, random.Random(1))
        self.assertFalse(clerk.sheet.ready_to_sign)
        self.assertEqual(next_words(clerk.sheet), "Stopped")

    def test_a_finding_that_was_typed_wrong_is_not_handed_back_once_it_is_corrected(self) -> None:
        clerk = held()
        (stop,) = clerk.sheet.stops
        back = {"entry": stop.entry, "reason": "Owner fetches it", "handed_back": True}
        clerk.record("answered", back, stop.step)
        paste = {"parts": [{**FRAGMENT, "form": "paste"}], "oil": []}
        clerk.record("finding", paste, "engine/inspect", supersedes=stop.entry)
        self.assertEqual(clerk.sheet.handed_back, "")
        finished(clerk, random.Random(1))
        self.assertTrue(clerk.sheet.ready_to_sign)


class OutcomeTests(TestCase):
    """What a finding asks for until it is answered."""

    def test_investigate_and_hold_ask_on_watch_does_not(self) -> None:
        cases = {
            (Level.WATCH, ()): False,
            (Level.INVESTIGATE, ()): True,
            (Level.INVESTIGATE, (Outcome.NOTHING,)): False,
            (Level.INVESTIGATE, (Outcome.FAULT,)): False,
            (Level.HOLD, ()): True,
            (Level.HOLD, (Outcome.HANDED_BACK,)): True,  # nobody rides it yet
            (Level.HOLD, (Outcome.HANDED_BACK, Outcome.LIFTED)): False,
        }
        for (level, answers), asks in cases.items():
            with self.subTest(level=level, answers=answers):
                self.assertEqual(asks_on(level, answers), asks)

    def test_an_answer_closes_what_came_before_unless_that_was_graver(self) -> None:
        asks, found, hold = Level.INVESTIGATE, (Outcome.NOTHING,), Level.HOLD
        # newest first
        for findings, still in (
            ([(asks, ()), (asks, ())], [True, True]),
            ([(asks, found), (asks, ())], [False, False]),
            ([(asks, found), (hold, ())], [False, True]),
            ([(asks, ()), (asks, found)], [True, False]),
            ([(Level.ROUTINE, ()), (asks, ())], [False, True]),
        ):
            with self.subTest(findings):
                self.assertEqual(still_asking(findings), tuple(still))

    def test_only_a_hold_is_lifted_or_handed_back(self) -> None:
        self.assertEqual(outcomes_of(Level.WATCH), ())
        self.assertNotIn(Outcome.LIFTED, outcomes_of(Level.INVESTIGATE))
        of_looks = (Outcome.HANDED_OUT, Outcome.TOPPED_UP)
        self.assertEqual(
            outcomes_of(Level.HOLD), tuple(one for one in Outcome if one not in of_looks)
        )


class SeenTests(TestCase):
    """What is said of a whole finding reaches the rules."""

    def judged(self, **more: object) -> dict[str, Level]:
        """The rules that speak of a chip seen in the pan of an engine."""
        clerk = Clerk()
        clerk.until_open()
        clerk.wait(10)
        clerk.record("amount", {"amount": "2.6 l"})
        chip = {"form": "chips", "matter": "steel", "share_percent": 0, "count": 1, "place": "pan"}
        clerk.record("finding", {"parts": [chip], "oil": [], **more})
        found = clerk.stands.finding
        assert found is not None
        return {rule.rule: rule.level for rule in found.spoke}

    def test_a_chip_in_a_pan_that_was_not_clean_is_unsure_and_holds_all_the_same(self) -> None:
        self.assertEqual(self.judged()["D6"], Level.HOLD)
        self.assertEqual(self.judged(pan_clean=True)["D6"], Level.HOLD)
        unsure = self.judged(pan_clean=False)
        self.assertEqual((unsure["D6"], unsure["D16"]), (Level.HOLD, Level.NOTE))

    def test_only_what_sits_on_the_plug_covers_it(self) -> None:
        clerk = Clerk()
        clerk.until_open()
        clerk.wait(10)
        clerk.record("amount", {"amount": "2.6 l"})
        paste = {"form": "paste", "matter": "steel", "share_percent": 80}
        parts = [paste, {**paste, "place": "filter"}]
        clerk.record("finding", {"parts": parts, "oil": [], "pan_clean": False})
        said = result(clerk.last("finding"), Speaker())
        self.assertIn("paste of steel, 80% (filter)", said)
        self.assertIn("pan not clean before", said)

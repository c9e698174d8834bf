"""What the core says: due dates, entries, and the state of the bike."""

from datetime import date
from decimal import Decimal
from unittest import TestCase

from oilward_core.bench import Speaker, result, standing
from oilward_core.codes.options import Tick
from oilward_core.due import DueLimits, Meter, due, say_due
from oilward_core.fill import FillCase, Gauge, LevelReading, Poured, coach, say

from .clerk import Clerk, whole_visit

LIMITS = DueLimits(repeat_km=Decimal(8000), repeat_months=12)
DONE = Meter(date(2026, 3, 14), Decimal(10000))


def words(limits: DueLimits, last: Meter | None, now: Meter, unit: str = "km") -> str:
    """`say_due` with plain spaces."""
    return say_due(due(limits, last, now), now, unit).replace("\u00a0", " ")


class DueWordsTests(TestCase):
    """When it is due, in the bike's own unit."""

    def test_ahead(self) -> None:
        now = Meter(date(2026, 6, 1), Decimal(12000))
        self.assertEqual(words(LIMITS, DONE, now), "in 6000 km or by 14 Mar 2027")
        self.assertEqual(words(LIMITS, DONE, now, "mi"), "in 3728 mi or by 14 Mar 2027")
        self.assertEqual(words(DueLimits(repeat_months=12), DONE, now), "by 14 Mar 2027")

    def test_over_names_what_is_over_and_only_that(self) -> None:
        far = Meter(date(2026, 6, 1), Decimal(18500))
        self.assertEqual(words(LIMITS, DONE, far), "500 km over")
        late = Meter(date(2027, 3, 24), Decimal(12000))
        self.assertEqual(words(LIMITS, DONE, late), "10 days over")
        both = Meter(date(2027, 3, 24), Decimal(18500))
        self.assertEqual(words(LIMITS, DONE, both), "500 km and 10 days over")

    def test_the_very_day_and_the_day_after(self) -> None:
        self.assertEqual(words(LIMITS, DONE, Meter(date(2027, 3, 14), Decimal(12000))), "due now")
        self.assertEqual(words(LIMITS, DONE, Meter(date(2026, 6, 1), Decimal(18000))), "due now")
        after = Meter(date(2027, 3, 15), Decimal(12000))
        self.assertEqual(words(LIMITS, DONE, after), "1 day over")

    def test_hours_unknown_and_none(self) -> None:
        limits = DueLimits(repeat_hours=Decimal(30))
        last = Meter(date(2026, 1, 1), Decimal(0), Decimal(100))
        now = Meter(date(2026, 2, 1), Decimal(0), Decimal(112))
        self.assertEqual(words(limits, last, now), "in 18 h")
        self.assertEqual(words(LIMITS, None, now), "no record: do it now")
        self.assertEqual(words(DueLimits(), last, now), "no interval")


class EntryWordsTests(TestCase):
    """Each entry says itself in a few words, in the reader's units."""

    def test_a_whole_visit(self) -> None:
        said = {entry.kind: result(entry, Speaker()) for entry in whole_visit().entries}
        self.assertEqual(
            said,
            {
                "confirm": "done",
                "start": "done",
                "stop": "done",
                "answer": "out within five seconds",
                "amount": "2500 ml",
                "finding": "paste of steel, 20%; oil dark",
                "torque": "22.0 N·m",
                "filter": "pre-filled 150 ml",
                "pour": "100 ml",
                "level": "70% between the marks, upright",
                "leaks": "dry",
            },
        )

    def test_in_us_units(self) -> None:
        reader = Speaker("qt", "lbf·ft")
        said = {entry.kind: result(entry, reader) for entry in whole_visit().entries}
        self.assertEqual(said["amount"], "2500 ml (2.64 qt)")
        self.assertEqual(said["torque"], "16.2 lbf·ft")

    def test_dry_filter_skip_and_unseen_level(self) -> None:
        clerk = Clerk()
        skipped = clerk.record("skip", {"reason": "came in warm"})
        self.assertEqual(result(skipped, Speaker()), "skipped")
        clerk = Clerk()
        clerk.until_fill()
        old = next(e for e in clerk.entries if e.kind == "filter")
        items = {"items": [Tick.GASKET]}
        dry = clerk.record("filter", {"amount": "", **items}, old.step, old.id)
        self.assertEqual(result(dry, Speaker()), "not pre-filled")
        clerk.pour("2300 ml")
        clerk.wait(2)
        unseen = clerk.record("level", {"sight": "below", "attitude": "upright"})
        self.assertEqual(result(unseen, Speaker()), "below the low mark, upright")


class StandingTests(TestCase):
    """What somebody coming back to the bike must know."""

    def open_parts(self, clerk: Clerk) -> dict[str, str]:
        """What is open right now, by part."""
        return {s.part: s.word for s in standing(clerk.sheet, "engine", Speaker()) if s.open}

    def test_through_the_work(self) -> None:
        clerk = Clerk()
        self.assertEqual(self.open_parts(clerk), {})
        clerk.until_warm()
        clerk.tick()
        clerk.record("answer", {"value": "open"})
        clerk.record("start")
        self.assertEqual(
            self.open_parts(clerk),
            {"Filler": "opened, loose", "Drain plug": "out", "Oil": "draining"},
        )
        clerk.record("stop")
        self.assertEqual(self.open_parts(clerk)["Oil"], "drained, empty")
        clerk.record("amount", {"amount": "2.5 l"})
        clerk.record("finding", {"parts": [], "oil": []})
        clerk.record("answer", {"value": "new"})
        clerk.tick()
        self.assertEqual(self.open_parts(clerk)["Drain plug"], "finger-tight only")
        clerk.record("torque", {"reading": "22"})
        self.assertNotIn("Drain plug", self.open_parts(clerk))

    def test_nothing_is_open_at_the_end(self) -> None:
        clerk = whole_visit()
        self.assertEqual(self.open_parts(clerk), {})
        said = {s.part: s.word for s in standing(clerk.sheet, "engine", Speaker())}
        self.assertEqual(said["Oil"], "level right, 2620 ml in")
        self.assertEqual(said["Filter"], "new one on")

    def test_a_seized_filler_is_said(self) -> None:
        clerk = Clerk()
        clerk.until_warm()
        clerk.tick()
        clerk.record("answer", {"value": "seized"})
        self.assertEqual(self.open_parts(clerk), {"Filler": "seized"})


class CoachWordsTests(TestCase):
    """Every action of the coach in a sentence."""

    def test_sentences(self) -> None:
        case = FillCase(capacity=Decimal(2700), gauge=Gauge(Decimal(500), Decimal("0.75")))
        full = LevelReading("seen", Decimal("0.75"), True)
        over = LevelReading("seen", Decimal("1.15"), True)
        for events, sentence in (
            ([], "Pour 2520 ml: 2 whole 1 l bottles and 520 ml."),
            ([Poured(Decimal(2520))], "2520 ml is in. Let it settle, read the level."),
            ([Poured(Decimal(2600)), full], "Level is right. It took 2600 ml."),
            ([Poured(Decimal(2750)), over], "Take out 200 ml."),
            (
                [Poured(Decimal(2000)), full],
                "Stop. Gauge and book disagree. 2000 ml is in, and it should take 2619 ml.",
            ),
        ):
            with self.subTest(sentence):
                self.assertEqual(say(coach(case, events), "ml", Decimal(1000)), sentence)

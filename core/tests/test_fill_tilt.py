"""A level read on a lift that tilts the bike: kept, learned from, and used once it is known how far it
is out."""

from dataclasses import replace
from datetime import timedelta
from decimal import Decimal
from random import Random
from statistics import fmean
from unittest import TestCase

from oilward_core.bench import Status
from oilward_core.fill import tilt_of
from oilward_core.fill.case import Gauge
from oilward_core.fill.learned import measured

from .clerk import TASK, Clerk

HIGH = (Decimal("0.11"), Decimal("0.13"), Decimal("0.12"))


def filled(*tilts: Decimal) -> Clerk:
    """A visit whose engine has run and settled, with its level to be read."""
    clerk = Clerk(replace(TASK, tilts=tilts))
    clerk.until_fill()
    clerk.pour("2370 ml")
    clerk.wait(2)
    clerk.now += timedelta(minutes=3)
    return clerk


def reads(clerk: Clerk, position: str, attitude: str) -> None:
    clerk.record("level", {"position": position, "attitude": attitude})


class LearnedTests(TestCase):
    def test_once_may_be_the_eye_alone(self) -> None:
        self.assertIsNone(tilt_of(()))
        self.assertIsNone(tilt_of(HIGH[:1]))

    def test_the_mean_of_the_last_five_as_sure_as_the_eye_allows(self) -> None:
        tilt = tilt_of(HIGH)
        self.assertEqual((tilt.share, tilt.seen), (Decimal("0.12"), 3))
        self.assertAlmostEqual(float(tilt.sd), 0.085 / 3**0.5, places=3)
        moved = tilt_of((Decimal(5), *HIGH, *HIGH))
        self.assertEqual((moved.share, moved.seen), (Decimal("0.122"), 5))

    def test_it_comes_as_near_as_it_says(self) -> None:
        # simulated eyes: 6 % of the marks at each of the two readings
        rng, off = Random(3), []
        for _ in range(4000):
            seen = [Decimal(str(0.12 + rng.gauss(0, 0.06) - rng.gauss(0, 0.06))) for _ in range(4)]
            tilt = tilt_of(seen)
            off.append(abs(float(tilt.share) - 0.12) <= 2 * float(tilt.sd))
        self.assertGreater(fmean(off), 0.95)

    def test_a_reading_there_is_less_sure_by_it(self) -> None:
        gauge = Gauge(Decimal(500), Decimal("0.75"))
        by_eye = measured(gauge, 2400, 0.75)[1]
        there = measured(gauge, 2400, 0.75, Decimal("0.08"))[1]
        self.assertAlmostEqual(by_eye, 30)
        self.assertAlmostEqual(there, 50)


class BenchTests(TestCase):
    def test_unknown_it_is_kept_and_not_used(self) -> None:
        clerk = filled()
        reads(clerk, "0.75", "lifted")
        self.assertEqual(clerk.sheet.focus, "engine/level.1")
        self.assertIn("Kept, not used", clerk.state("engine/level.1").remark)
        self.assertFalse(clerk.stands.filled)

    def test_read_both_ways_of_the_same_oil_it_is_learned(self) -> None:
        clerk = filled()
        reads(clerk, "0.84", "lifted")
        self.assertIsNone(clerk.stands.tilt)
        reads(clerk, "0.72", "upright")
        self.assertEqual((clerk.stands.tilt, clerk.stands.filled), (Decimal("0.12"), True))

    def test_with_oil_poured_between_nothing_is_learned(self) -> None:
        clerk = filled()
        reads(clerk, "0.44", "lifted")
        reads(clerk, "0.30", "upright")
        self.assertEqual(clerk.stands.tilt, Decimal("0.14"))
        clerk = filled()
        reads(clerk, "0.30", "upright")
        clerk.pour("100 ml")
        clerk.wait(2)
        clerk.now += timedelta(minutes=3)
        reads(clerk, "0.80", "lifted")
        self.assertIsNone(clerk.stands.tilt)

    def test_read_too_soon_nothing_is_learned(self) -> None:
        clerk = filled()
        clerk.now -= timedelta(minutes=2)
        reads(clerk, "0.84", "lifted")
        clerk.now += timedelta(minutes=2)
        reads(clerk, "0.72", "upright")
        self.assertIsNone(clerk.stands.tilt)

    def test_known_it_is_counted_without_it(self) -> None:
        clerk = filled(*HIGH)
        reads(clerk, "0.86", "lifted")
        self.assertTrue(clerk.stands.filled)
        self.assertIn("12% of the glass too high", clerk.state("engine/level.1").remark)
        self.assertEqual(clerk.state("leaks").status, Status.READY)

    def test_known_it_is_not_right_where_it_only_looks_right(self) -> None:
        clerk = filled(*HIGH, *HIGH)
        reads(clerk, "0.70", "lifted")
        self.assertFalse(clerk.stands.filled)

    def test_nothing_to_see_on_a_lift_tells_nothing(self) -> None:
        clerk = filled(*HIGH)
        clerk.record("level", {"sight": "below", "attitude": "lifted"})
        self.assertIn("Kept, not used", clerk.state("engine/level.1").remark)

"""Oil read colder than its marks are for."""

from dataclasses import replace
from datetime import timedelta
from decimal import Decimal
from unittest import TestCase

from oilward_core.codes.debris import Warmth
from oilward_core.errors import CoreError
from oilward_core.fill import will_rise

from .clerk import ENGINE, TASK, Clerk


class RiseTests(TestCase):
    def test_3300_ml_from_20_to_90_degrees(self) -> None:
        # ρ₁₅ 870: VCF(20)/VCF(90) [std API MPMS 11.1, generalized lubricating oils]
        self.assertEqual(round(will_rise(Decimal(3300), Decimal(20), "hot")), 179)

    def test_as_warm_as_its_marks_it_rises_no_more(self) -> None:
        self.assertEqual(will_rise(Decimal(3300), Decimal(90), "hot"), 0)
        self.assertEqual(will_rise(Decimal(3300), Decimal(60), "warm"), 0)
        self.assertEqual(will_rise(Decimal(3300), Decimal(20), "cold"), 0)
        self.assertEqual(will_rise(Decimal(3300), Decimal(20), ""), 0)
        with self.assertRaises(CoreError):
            will_rise(Decimal(3300), Decimal(20), "hot", Decimal(2))


class ReadColdTests(TestCase):
    def after_the_run(self, **said: str) -> Clerk:
        hot = replace(ENGINE, level=replace(ENGINE.level, engine="hot"))
        clerk = Clerk(replace(TASK, reservoir=hot))
        clerk.until_fill()
        clerk.pour("2370 ml")
        clerk.wait(2)
        clerk.now += timedelta(minutes=3)
        clerk.record("level", {"position": "0.45", "attitude": "upright", **said})
        return clerk

    def test_cold_it_will_stand_higher_and_nothing_more_is_asked_for(self) -> None:
        clerk = self.after_the_run(warmth=Warmth.COLD)
        self.assertTrue(clerk.stands.filled)
        self.assertIn("137 ml more will stand there", clerk.state("engine/level.1").remark)

    def test_as_warm_as_it_should_be_it_is_topped_up(self) -> None:
        clerk = self.after_the_run()
        self.assertEqual(clerk.stands.advice.action, "pour")

    def test_before_the_first_start_nothing_is_added(self) -> None:
        hot = replace(ENGINE, level=replace(ENGINE.level, engine="hot"))
        clerk = Clerk(replace(TASK, reservoir=hot))
        clerk.until_fill()
        clerk.record("pour", {"amount": "2370 ml"})
        clerk.now += timedelta(minutes=2)
        told = {"position": "0.9", "attitude": "upright", "warmth": Warmth.COLD}
        clerk.record("level", told, "engine/fill.1")
        self.assertEqual(clerk.state("engine/fill.1").remark, "")

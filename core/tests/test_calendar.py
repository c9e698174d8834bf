"""Planned visits are ticked off by what is signed; weeks start on Monday (ISO 8601)."""

from datetime import date, datetime, timedelta
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.calendar import Planned, Signed, tick_off, week_of

NINE = datetime(2026, 6, 1, 9)
HOUR = timedelta(hours=1)
THIS = Planned(id="this", since=NINE, reservoirs=("engine", "primary"))
NEXT = Planned(id="next", since=NINE, reservoirs=("engine",))


def signed(visit: str, reservoir: str, hours: float) -> Signed:
    return Signed(visit, reservoir, NINE + hours * HOUR)


class TickOffTests(TestCase):
    def test_a_service_counts_for_the_soonest_visit_and_once(self) -> None:
        done = [signed("a", "engine", 1)]
        this, later = tick_off([THIS, NEXT], done)
        self.assertEqual((this.done, later.done), ((("engine", "a"),), ()))
        again = tick_off([this, later], done)
        self.assertEqual(again, (this, later))
        this, later = tick_off(again, [*done, signed("b", "primary", 2), signed("c", "engine", 30)])
        self.assertTrue(this.finished and later.finished)
        self.assertEqual(later.done, (("engine", "c"),))

    def test_what_was_done_before_it_was_planned_does_not_count(self) -> None:
        (this,) = tick_off([THIS], [signed("a", "engine", -1)])
        self.assertEqual(this.done, ())
        self.assertFalse(this.finished)

    def test_what_was_not_planned_ticks_nothing_off(self) -> None:
        self.assertEqual(tick_off([THIS], [signed("a", "gearbox", 1)]), (THIS,))

    @given(st.permutations([signed("a", "engine", 1), signed("b", "primary", 2)]))
    def test_whatever_order_they_come_in(self, services: list[Signed]) -> None:
        self.assertEqual(tick_off([THIS, NEXT], services), tick_off([THIS, NEXT], services[::-1]))


class WeekTests(TestCase):
    def test_weeks_start_on_monday(self) -> None:
        for day in range(7):
            self.assertEqual(week_of(date(2026, 11, 23) + timedelta(days=day)), date(2026, 11, 23))
        self.assertEqual(week_of(date(2027, 1, 1)), date(2026, 12, 28))
        # where it begins on Sunday, or on Saturday
        self.assertEqual(week_of(date(2026, 11, 29), 6), date(2026, 11, 29))
        self.assertEqual(week_of(date(2026, 11, 28), 6), date(2026, 11, 22))
        self.assertEqual(week_of(date(2026, 11, 27), 5), date(2026, 11, 21))

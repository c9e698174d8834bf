"""Planned visits are ticked off by what is signed; weeks start on Monday (ISO 8601)."""

from datetime import date, datetime, timedelta
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.calendar import Booking, Planned, Signed, lanes, tick_off, week_of

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


MONDAY = date(2026, 11, 30)


def booked(id_: str, days: int, minutes: int, *hands: str, technicians: int = 1) -> Booking:
    day = MONDAY + timedelta(days=days)
    return Booking(id=id_, day=day, minutes=minutes, technicians=technicians, hands=hands)


class LaneTests(TestCase):
    def test_a_week_by_people_and_hours(self) -> None:
        week = [
            booked("a", 0, 120, "mira"),
            booked("b", 0, 400, "mira", "runa", technicians=2),
            booked("c", 3, 90),
            booked("d", 3, 60, "bo", technicians=2),
            booked("after", 7, 60, "mira"),
            booked("before", -1, 60, "mira"),
        ]
        mira, runa, bo, nobody = lanes(MONDAY, week, ["mira", "runa"])
        self.assertEqual((mira.visits[0], mira.minutes[0], mira.total), (("a", "b"), 520, 520))
        self.assertEqual((runa.person, runa.total), ("runa", 400))
        self.assertEqual(mira.full, (True, *[False] * 6))
        self.assertFalse(any(runa.full))
        # somebody who has left meanwhile is still named, and where hands lack it is nobody's as well
        self.assertEqual((bo.person, bo.visits[3]), ("bo", ("d",)))
        self.assertEqual((nobody.person, nobody.visits[3], nobody.total), ("", ("c", "d"), 150))

    def test_nobody_s_lane_stands_only_where_hands_lack(self) -> None:
        (mira,) = lanes(MONDAY, [booked("a", 6, 30, "mira")], ["mira"])
        self.assertEqual(mira.visits[6], ("a",))
        self.assertEqual(lanes(MONDAY, [], []), ())

    @given(
        st.lists(
            st.builds(
                booked,
                st.text(max_size=3),
                st.integers(-9, 9),
                st.integers(0, 900),
                st.sampled_from(["mira", "runa"]),
            ),
            max_size=6,
        )
    )
    def test_no_minute_is_lost(self, week: list[Booking]) -> None:
        inside = [one for one in week if 0 <= (one.day - MONDAY).days < 7]
        found = lanes(MONDAY, week, ["mira", "runa"])
        self.assertEqual(sum(one.total for one in found), sum(one.minutes for one in inside))

"""Kept on one day and said on another: the same as worked out anew, until the day it says it changes."""

from datetime import date, timedelta
from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from oilward_core.ageing import Clock, changes_after, clock_of, least, said_on
from oilward_core.due import DueLimits, Meter, due, oil_age, say_due

DAY = date(2026, 3, 1)
limits = st.builds(
    DueLimits,
    repeat_km=st.none() | st.integers(500, 20_000).map(Decimal),
    repeat_months=st.none() | st.integers(1, 48),
    repeat_hours=st.none() | st.integers(5, 200).map(Decimal),
)
lasts = st.none() | st.builds(
    Meter,
    st.integers(0, 1500).map(lambda ago: DAY - timedelta(days=ago)),
    st.integers(0, 40_000).map(Decimal),
    st.integers(0, 500).map(Decimal),
)
runs = st.integers(0, 25_000).map(Decimal)


def read(last: Meter | None, run: Decimal, on: date) -> Meter:
    km = (last.km if last else Decimal(0)) + run
    return Meter(on, km, (last.hours or Decimal(0)) + run / 50 if last else None)


class AgeingTests(TestCase):
    @settings(max_examples=400)
    @given(limits, lasts, runs, st.integers(1, 1500))
    def test_the_same_as_worked_out_anew(
        self, limit: DueLimits, last: Meter | None, run: Decimal, later: int
    ) -> None:
        now = read(last, run, DAY)
        answer = due(limit, last, now)
        clock = clock_of(answer, limit, last, now, "km")
        then = read(last, run, DAY + timedelta(days=later))
        anew = due(limit, last, then)
        kept = said_on(clock, then.on, say_due(answer, now, "km"))
        self.assertEqual((kept.left, kept.age), (anew.left, oil_age(limit, last, then)))
        self.assertEqual(kept.when, say_due(anew, then, "km"))
        rules = [reason.rule for reason in anew.reasons]
        if "time" in rules:
            self.assertEqual(list(kept.rules), rules)
            said = next(reason.text for reason in anew.reasons if reason.rule == "time")
            self.assertEqual(kept.used, said)

    @settings(max_examples=400)
    @given(limits, lasts, runs)
    def test_the_state_changes_on_the_day_it_says_and_not_before(
        self, limit: DueLimits, last: Meter | None, run: Decimal
    ) -> None:
        now = read(last, run, DAY)
        clock = clock_of(due(limit, last, now), limit, last, now, "km")
        state, change = due(limit, last, now).state, changes_after(clock, DAY)
        until = change or DAY + timedelta(days=3000)
        for days in {1, 7, (until - DAY).days // 2, (until - DAY).days - 1}:
            if 0 < days < (until - DAY).days:
                then = read(last, run, DAY + timedelta(days=days))
                self.assertEqual(due(limit, last, then).state, state, (days, change))

    def test_a_year_with_nothing_else(self) -> None:
        last = Meter(date(2026, 1, 1), Decimal(1000))
        clock = clock_of(
            due(DueLimits(repeat_months=12), last, read(last, Decimal(0), DAY)),
            DueLimits(repeat_months=12), last, read(last, Decimal(0), DAY), "km",
        )  # fmt: skip
        # 15 of 100 of 365 days are 54.75: 55 days before its end it is not soon, 54 before it is
        soon = changes_after(clock, DAY)
        self.assertEqual(soon, date(2027, 1, 1) - timedelta(days=54))
        assert soon is not None
        self.assertEqual(changes_after(clock, soon), date(2027, 1, 1))
        self.assertIsNone(changes_after(clock, date(2027, 1, 1)))
        self.assertEqual(said_on(clock, date(2027, 1, 3), "by then").when, "2 days over")

    @given(st.lists(st.tuples(st.integers(1, 900), st.integers(1, 900), st.integers(-5, 20))))
    def test_the_most_urgent_stays_so_until_the_day_it_says(
        self, found: list[tuple[int, int, int]]
    ) -> None:
        clocks = [
            Clock(
                shares=(("distance", Decimal(share) / 10),),
                since=DAY - timedelta(days=gone),
                due_on=DAY - timedelta(days=gone) + timedelta(days=span),
            )
            for gone, span, share in found
        ]
        line, change = least(clocks, DAY)
        for days in (0, 1, 10, 100, 700):
            day = DAY + timedelta(days=days)
            if clocks and (change is None or day < change):
                anew = min(said_on(clock, day, "").left for clock in clocks)
                self.assertAlmostEqual(line.left - line.falls * days, anew, delta=Decimal("0.0006"))

"""Usage rates and forecasts. Theil–Sen is checked against scipy.stats.theilslopes."""

from datetime import date, timedelta
from decimal import Decimal
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.due import DueLimits, Meter, due
from oilward_core.usage import (
    Rate,
    forecast,
    hours_rate,
    interval_days,
    theil_sen,
    usage_rate,
)
from scipy.stats import theilslopes

TODAY = date(2026, 6, 1)


def read(days_ago: int, km: int, hours: int | None = None) -> Meter:
    """A reading so many days ago."""
    return Meter(
        TODAY - timedelta(days=days_ago), Decimal(km), None if hours is None else Decimal(hours)
    )


class TheilSenTests(TestCase):
    def test_worked_values(self) -> None:
        # derived; scipy.stats.theilslopes, method "separate"
        for x, y, slope, intercept in (
            (range(8), [0, 52, 98, 160, 640, 248, 305, 352], 50.44286, 27.45),
            ([0, 1.5, 1.5, 4, 6], [3.4, 3.32, 3.35, 3.18, 3.05], -0.05833, 3.4075),
        ):
            line = theil_sen(list(x), list(y))
            self.assertAlmostEqual(line.slope, slope, places=4)
            self.assertAlmostEqual(line.intercept, intercept, places=4)

    @given(
        st.lists(
            st.tuples(st.integers(-365, 0), st.integers(0, 90_000)),
            min_size=3,
            max_size=14,
            unique_by=lambda point: point[0],
        )
    )
    def test_slope_and_interval_agree_with_scipy(self, points: list[tuple[int, int]]) -> None:
        x, y = [float(p[0]) for p in points], [float(p[1]) for p in points]
        mine, theirs = theil_sen(x, y), theilslopes(y, x, 0.95)
        for one, other in (
            (mine.slope, theirs.slope),
            (mine.intercept, theirs.intercept),
            (mine.low, theirs.low_slope),
            (mine.high, theirs.high_slope),
        ):
            self.assertAlmostEqual(one, float(other), delta=1e-6 * max(1.0, abs(one)))

    def test_one_day_has_no_slope(self) -> None:
        with self.assertRaises(ValueError):
            theil_sen([1, 1], [2, 3])


class RateTests(TestCase):
    def test_readings_of_the_last_year_decide(self) -> None:
        readings = [read(900, 0), read(300, 10_000), read(150, 11_500), read(0, 13_000)]
        rate = usage_rate(readings, TODAY, "touring")
        self.assertAlmostEqual(rate.a_day, 10, places=1)
        self.assertIn("3 readings", rate.reason.text)
        self.assertLess(rate.low, rate.a_day)

    def test_one_wrong_reading_hardly_moves_it(self) -> None:
        good = [read(days, 20_000 - days * 20) for days in range(0, 300, 30)]
        rate = usage_rate([*good, read(45, 90_000)], TODAY, "touring")
        self.assertAlmostEqual(rate.a_day, 20, delta=1)

    def test_too_few_or_too_close_readings_leave_it_to_the_class(self) -> None:
        for readings in ([], [read(0, 500)], [read(13, 100), read(0, 500)]):
            rate = usage_rate(readings, TODAY, "delivery")
            self.assertAlmostEqual(rate.a_day * 365, 18_000, places=6)
            self.assertEqual(rate.reason.rule, "use class")
        self.assertLess(usage_rate([], TODAY, "submarine").a_day, 20)

    def test_hours_need_an_hour_meter(self) -> None:
        self.assertIsNone(hours_rate([read(60, 0), read(0, 500)], TODAY))
        rate = hours_rate([read(60, 0, 100), read(30, 1, 115), read(0, 2, 130)], TODAY)
        assert rate is not None
        self.assertAlmostEqual(rate.a_day, 0.5)

    def test_a_bike_that_stands_does_not_run_backwards(self) -> None:
        rate = usage_rate([read(100, 500), read(0, 400)], TODAY, "touring")
        self.assertEqual((rate.a_day, rate.low), (0, 0))


class ForecastTests(TestCase):
    RATE = usage_rate([read(200, 0), read(100, 1000), read(0, 2000)], TODAY, "mixed")

    def on(self, limits: DueLimits, last: Meter, now: Meter, rate: Rate = RATE):
        return forecast(due(limits, last, now), now, rate)

    def test_the_earliest_of_distance_and_time(self) -> None:
        limits = DueLimits(repeat_km=Decimal(3000), repeat_months=24)
        found = self.on(limits, read(200, 0), read(0, 2000))
        assert found is not None
        self.assertEqual(found.on, TODAY + timedelta(days=100))
        self.assertLess(found.early, found.on)
        self.assertLess(found.on, found.late)
        self.assertEqual(found.reasons[0].rule, "usage rate")
        slow = self.on(
            DueLimits(repeat_km=Decimal(90_000), repeat_months=12), read(0, 0), read(0, 0)
        )
        assert slow is not None
        self.assertEqual((slow.on, slow.late), (date(2027, 6, 1), date(2027, 6, 1)))

    def test_time_caps_a_slow_bikes_interval(self) -> None:
        limits = DueLimits(repeat_km=Decimal(3000), repeat_months=12)
        found = self.on(limits, read(200, 0), read(0, 2000))
        assert found is not None
        self.assertLessEqual(found.late, date(2026, 11, 13))

    def test_a_whole_interval_is_the_shortest_of_its_limits(self) -> None:
        limits = DueLimits(repeat_km=Decimal(3000), repeat_months=24)
        self.assertEqual(interval_days(limits, Decimal(1), self.RATE), 300)
        self.assertEqual(interval_days(limits, Decimal("0.5"), self.RATE), 150)
        still = usage_rate([read(100, 500), read(0, 500)], TODAY, "mixed")
        self.assertEqual(interval_days(limits, Decimal(1), still), 731)
        self.assertIsNone(interval_days(DueLimits(), Decimal(1), self.RATE))
        by_hours = DueLimits(repeat_hours=Decimal(30))
        rate = hours_rate([read(60, 0, 100), read(0, 2, 130)], TODAY)
        self.assertEqual(interval_days(by_hours, Decimal(1), self.RATE, rate), 60)

    def test_overdue_is_the_day_of_the_reading_and_no_limit_is_none(self) -> None:
        limits = DueLimits(repeat_km=Decimal(1000))
        found = self.on(limits, read(200, 0), read(0, 2000))
        assert found is not None
        self.assertEqual(found.on, TODAY)
        self.assertIsNone(self.on(DueLimits(), read(10, 0), read(0, 5)))

    def test_a_standing_bike_is_due_by_time_alone(self) -> None:
        still = usage_rate([read(100, 500), read(0, 500)], TODAY, "mixed")
        limits = DueLimits(repeat_km=Decimal(1000), repeat_months=12)
        found = self.on(limits, read(10, 490), read(0, 500), still)
        assert found is not None
        self.assertEqual(found.on, date(2027, 5, 22))

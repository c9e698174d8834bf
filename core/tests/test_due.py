"""When a reservoir is due."""

from datetime import date
from decimal import Decimal
from unittest import TestCase

from oilward_core.due import DueLimits, DueState, Meter, add_months, due, oil_age
from oilward_core.errors import CoreError

LIMITS = DueLimits(
    first_km=Decimal(1000),
    first_months=2,
    repeat_km=Decimal(8000),
    repeat_months=12,
    repeat_hours=Decimal(100),
)
NEW = Meter(date(2025, 1, 10), Decimal(0))


def at(day: str, km: int, hours: int | None = None) -> Meter:
    """A meter reading."""
    return Meter(date.fromisoformat(day), Decimal(km), None if hours is None else Decimal(hours))


class DueTests(TestCase):
    """Whichever comes first."""

    def test_an_oils_age_goes_by_the_calendar_alone(self) -> None:
        ran = at("2026-07-02", 90_000)
        for last, now, age in (
            (at("2026-01-01", 0), at("2026-01-01", 0), "0"),
            (at("2026-01-01", 0), ran, "0.5"),
            (at("2024-01-01", 0), ran, "1"),
            (None, ran, "1"),
        ):
            with self.subTest(last=last):
                self.assertEqual(oil_age(LIMITS, last, now), Decimal(age))
        # no months named: two years
        self.assertEqual(oil_age(DueLimits(), at("2025-07-02", 0), ran), Decimal("0.5"))

    def test_distance_first(self) -> None:
        answer = due(LIMITS, at("2026-01-01", 10000), at("2026-02-01", 17000))
        self.assertEqual((answer.state, answer.left), (DueState.SOON, Decimal("0.125")))
        self.assertEqual((answer.due_km, answer.due_on), (18000, date(2027, 1, 1)))
        self.assertEqual(answer.reasons[0].rule, "distance")

    def test_reasons_are_said_in_the_bikes_unit(self) -> None:
        limits = DueLimits(repeat_km=Decimal("8046.72"))
        answer = due(limits, at("2026-01-01", 0), at("2026-02-01", 1609), unit="mi")
        self.assertEqual(answer.reasons[0].text, "1000 mi of 5000 mi used.")

    def test_time_first(self) -> None:
        answer = due(LIMITS, at("2025-01-01", 10000), at("2026-01-02", 10500))
        self.assertEqual(answer.state, DueState.DUE)
        self.assertLess(answer.left, 0)
        self.assertEqual(answer.reasons[0].rule, "time")

    def test_hours_first(self) -> None:
        answer = due(LIMITS, at("2026-01-01", 100, 10), at("2026-02-01", 200, 109))
        self.assertEqual((answer.left, answer.due_hours), (Decimal("0.010"), 110))

    def test_exactly_at_the_limit_is_due(self) -> None:
        answer = due(LIMITS, at("2026-01-01", 0), at("2026-01-02", 8000))
        self.assertEqual((answer.state, answer.left), (DueState.DUE, 0))

    def test_first_service_has_its_own_limits(self) -> None:
        answer = due(LIMITS, NEW, at("2025-02-01", 900), first=True)
        self.assertEqual((answer.left, answer.due_km), (Decimal("0.100"), 1000))
        later = due(LIMITS, NEW, at("2025-02-01", 900))
        self.assertEqual(later.due_km, 8000)

    def test_unknown_history_is_a_baseline_due_now(self) -> None:
        answer = due(LIMITS, None, at("2026-01-01", 32000))
        self.assertEqual((answer.state, answer.left), (DueState.BASELINE, 0))
        self.assertIn("No record", answer.reasons[0].text)

    def test_severity_shortens_the_repeat_only(self) -> None:
        half = due(LIMITS, at("2026-01-01", 0), at("2026-01-02", 2000), severity=Decimal("0.5"))
        self.assertEqual(half.due_km, 4000)
        first = due(LIMITS, NEW, NEW, first=True, severity=Decimal("0.5"))
        self.assertEqual(first.due_km, 1000)
        with self.assertRaises(CoreError):
            due(LIMITS, NEW, NEW, severity=Decimal("1.2"))

    def test_early_service_rebases(self) -> None:
        answer = due(LIMITS, at("2026-06-01", 13000), at("2026-06-01", 13000))
        self.assertEqual((answer.left, answer.due_km), (1, 21000))

    def test_no_interval(self) -> None:
        self.assertEqual(due(DueLimits(), NEW, NEW).state, DueState.UNLIMITED)

    def test_months_end_on_the_last_day(self) -> None:
        self.assertEqual(add_months(date(2026, 1, 31), 1), date(2026, 2, 28))
        self.assertEqual(add_months(date(2023, 11, 30), 15), date(2025, 2, 28))

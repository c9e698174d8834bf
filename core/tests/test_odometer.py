"""Odometers: units, replaced ones, and slips."""

from datetime import date
from decimal import Decimal
from unittest import TestCase

from oilward_core.errors import CoreError, Question
from oilward_core.odometer import (
    LastReading,
    Odometer,
    check_engine_fitted,
    corrected_odometer,
    engine_run,
    new_odometer,
    read_hours,
    read_odometer,
    shown,
)

LAST = LastReading(Decimal("98556.2"), date(2026, 3, 1))  # 61 240 mi
ON = date(2026, 4, 1)
MILES = Odometer("mi")


class OdometerTests(TestCase):
    def refused(self, text: str, odometer: Odometer = MILES) -> CoreError:
        with self.assertRaises(CoreError) as caught:
            read_odometer(text, odometer, LAST, ON)
        return caught.exception

    def test_a_bare_number_takes_the_odometers_unit(self) -> None:
        self.assertEqual(read_odometer("61 300", MILES, LAST, ON), Decimal("98652.7872"))
        self.assertEqual(read_odometer("98 700 km", MILES, LAST, ON), 98700)

    def test_a_jump_that_fits_the_other_unit_is_asked(self) -> None:
        error = self.refused("98700")
        self.assertEqual(error.code, "odometer.which_unit")
        self.assertEqual(error.fields["options"], ["98700 km", "98700 mi"])

    def test_a_step_back_that_fits_the_other_unit_is_asked(self) -> None:
        self.assertEqual(self.refused("61300", Odometer("km")).code, "odometer.which_unit")

    def test_less_than_last_time_is_refused(self) -> None:
        self.assertEqual(self.refused("60 000").code, "odometer.below_last")
        self.assertEqual(self.refused("60 000 mi").code, "odometer.below_last")

    def test_a_jump_nothing_explains_is_asked_once(self) -> None:
        error = self.refused("161 300")
        self.assertEqual(error.code, "odometer.jump")
        (confirmed,) = error.fields["options"]
        self.assertEqual(self.refused(confirmed).code, "odometer.jump")  # a unit alone is no answer
        stands = read_odometer(confirmed, MILES, LAST, ON, sure=[confirmed])
        self.assertGreater(stands, 250_000)

    def test_a_comma_that_slipped_is_asked(self) -> None:
        for text, meant in (("613 000", "61300 mi"), ("6130", "61300 mi"), ("61.3", "61300 mi")):
            with self.subTest(text):
                error = self.refused(text)
                self.assertEqual(error.code, "odometer.which_unit")
                self.assertEqual(error.fields["options"][0], meant)

    def test_far_more_than_the_bike_usually_does_is_asked(self) -> None:
        later = date(2027, 4, 1)
        self.assertEqual(read_odometer("90 000", MILES, LAST, later), Decimal("144840.96"))
        with self.assertRaises(Question) as caught:
            read_odometer("90 000", MILES, LAST, later, 20.0)
        self.assertEqual(caught.exception.code, "odometer.jump")

    def test_the_same_reading_again_is_the_same_reading(self) -> None:
        for text in ("61 240", "61 240.0", "98 556 km"):
            self.assertEqual(read_odometer(text, MILES, LAST, ON), LAST.km)

    def test_nought_is_a_reading(self) -> None:
        self.assertEqual(read_odometer("0", Odometer("km"), None, ON), 0)
        km = read_odometer("61 300", MILES, LAST, ON)
        self.assertEqual(shown(km, new_odometer(km, "0", MILES)), "0 mi")

    def test_the_first_reading_is_taken_as_it_is(self) -> None:
        self.assertEqual(read_odometer("12", Odometer("km"), None, ON), 12)

    def test_a_replaced_odometer_goes_on_counting_the_bikes_life(self) -> None:
        km = read_odometer("61 300", MILES, LAST, ON)
        fitted = new_odometer(km, "3", MILES)
        self.assertEqual(km, Decimal("98652.7872"))
        self.assertEqual(shown(km, fitted), "3 mi")
        later = read_odometer("1003 mi", fitted, LastReading(km, ON), date(2026, 5, 1))
        self.assertEqual(later - km, Decimal("1609.344"))

    def test_hour_meters(self) -> None:
        self.assertEqual(read_hours("169,4", Decimal(150)), Decimal("169.4"))
        self.assertEqual(read_hours("169 h", None), 169)
        for text, code in (("140", "garage.hours"), ("soon", "quantity.not_a_number")):
            with self.assertRaises(CoreError) as caught:
                read_hours(text, Decimal(150))
            self.assertEqual(caught.exception.code, code)
        with self.assertRaises(Question) as asked:
            read_hours("1694", Decimal(150))
        self.assertEqual(asked.exception.fields["options"], ["169.4 h", "1694 h"])
        self.assertEqual(read_hours("1694", Decimal(150), sure=["1694 h"]), 1694)


class CorrectedTests(TestCase):
    def test_a_corrected_reading_lies_between_its_neighbours(self) -> None:
        before, after = LastReading(Decimal(1000), ON), LastReading(Decimal(1200), ON)
        self.assertEqual(corrected_odometer("1 100", Odometer("km"), before, after, ON), 1100)
        self.assertEqual(
            corrected_odometer("5 000", Odometer("km"), before, None, ON, ["5000 km"]), 5000
        )
        for text, code in (("1 201", "odometer.above_next"), ("600", "odometer.below_last")):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                corrected_odometer(text, Odometer("km"), before, after, ON)
            self.assertEqual(caught.exception.code, code)


class EngineTests(TestCase):
    def test_an_engine_counts_from_what_it_had_when_it_was_fitted(self) -> None:
        now, fitted = Decimal(60_000), Decimal(45_000)
        self.assertEqual(engine_run(now, fitted, Decimal(20_000)), 35_000)
        self.assertEqual(engine_run(now, fitted, None), 15_000)

    def test_it_is_not_fitted_later_than_the_bike_has_run(self) -> None:
        check_engine_fitted(Decimal(45_000), Decimal(45_000), Odometer("km"))
        with self.assertRaises(CoreError) as caught:
            check_engine_fitted(Decimal(45_001), Decimal(45_000), Odometer("km", Decimal(40_000)))
        self.assertEqual(caught.exception.code, "garage.engine_later")
        self.assertEqual(caught.exception.fields["last"], "5000 km")

"""When a wrench wants to be calibrated again: ISO 6789-1:2017, from memory."""

from datetime import date, timedelta
from unittest import TestCase

from oilward_core.torque import calibration_words, is_past

TODAY = date(2026, 12, 1)


class CalibrationTests(TestCase):
    def test_twelve_months_or_five_thousand_pulls(self) -> None:
        for days, pulls, past in (
            (0, 0, False),
            (365, 4999, False),
            (366, 0, True),
            (10, 5000, True),
        ):
            self.assertEqual(
                is_past(TODAY - timedelta(days=days), pulls, TODAY), past, (days, pulls)
            )

    def test_of_one_nobody_wrote_down_nothing_is_said(self) -> None:
        self.assertFalse(is_past(None, 9999, TODAY))
        self.assertEqual(calibration_words(None, 9999, TODAY), "")

    def test_what_is_said(self) -> None:
        self.assertEqual(calibration_words(date(2026, 3, 1), 12, TODAY), "calibrated 2026-03-01")
        self.assertEqual(
            calibration_words(date(2025, 3, 1), 12, TODAY),
            "calibrated 2025-03-01, 12 pulls since: past its calibration",
        )

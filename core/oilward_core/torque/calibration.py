"""When a torque wrench was calibrated, and whether that is past."""

from datetime import date

from ..guard import guarded
from ..said import torque as said

MOST_MONTHS, MOST_PULLS = 12, 5000  # ISO 6789-1:2017, from memory: compare with the current edition
_DAYS = 365


@guarded
def is_past(calibrated: date | None, pulls: int, today: date) -> bool:
    """Whether a wrench wants to be calibrated again: twelve months or 5,000 pulls after the last time
    [ISO 6789, recalled]. Of one of which nobody knows when it was, nothing is said."""
    if calibrated is None:
        return False
    return (today - calibrated).days > _DAYS or pulls >= MOST_PULLS


@guarded
def calibration_words(calibrated: date | None, pulls: int, today: date) -> str:
    """What is to be known of a wrench's calibration; empty where nobody wrote it down."""
    if calibrated is None:
        return ""
    day = calibrated.isoformat()
    if is_past(calibrated, pulls, today):
        return said.calibration_past(day, pulls)
    return said.calibrated(day)

"""Days as people write them."""

import re
from calendar import month_abbr, month_name
from datetime import date

from .errors import CoreError, Question
from .guard import guarded

_SHORT, _FULL = [name.lower() for name in month_abbr], [name.lower() for name in month_name]
_DAY, _NAME = r"(?P<day>\d{1,2})(?:st|nd|rd|th)?", r"(?P<name>[a-z]{3,9})"
_ISO = re.compile(r"^(?P<year>\d{4})[-/.](?P<month>\d{1,2})[-/.](?P<day>\d{1,2})$")
_DOTTED = re.compile(r"^(?P<day>\d{1,2})\. ?(?P<month>\d{1,2})\. ?(?P<year>\d{4}|\d{2})$")
_SLASHED = re.compile(r"^(?P<one>\d{1,2})[/-](?P<two>\d{1,2})[/-](?P<year>\d{4}|\d{2})$")
_NAMED = re.compile(rf"^(?:{_DAY}\.? )?{_NAME}\.?,? (?P<year>\d{{4}})$")
_NAME_FIRST = re.compile(rf"^{_NAME}\.? {_DAY},? (?P<year>\d{{4}})$")
_CENTURY = 100


def _year(text: str, today: date) -> int:
    """Of two digits the latest year that is not far ahead."""
    year = int(text)
    if len(text) == 4:
        return year
    century = today.year - today.year % _CENTURY
    return century + year if century + year <= today.year + 1 else century - _CENTURY + year


def _month(name: str) -> int:
    """The number of a month, by its name or its first three letters; 0 for none."""
    month = _SHORT.index(name[:3]) if name[:3] in _SHORT else 0
    return month if _FULL[month].startswith(name) else 0


def _slashed(text: str, match: re.Match[str], today: date) -> date:
    """Day and month with slashes: whichever cannot be a month is the day. Raises the question
    ``date.which`` where both can, and are not the same."""
    one, two, year = int(match["one"]), int(match["two"]), _year(match["year"], today)
    pairs = [(day, month) for day, month in ((one, two), (two, one)) if 1 <= month <= 12]
    try:
        readings = [date(year, month, day) for day, month in pairs]
    except ValueError as error:
        raise CoreError("garage.date") from error
    if not readings:
        raise CoreError("garage.date")
    if len(set(readings)) > 1:
        raise Question("date.which", said=text, options=[day.isoformat() for day in readings])
    return readings[0]


@guarded
def read_day(text: str, today: date) -> date:
    """A day as people write it: ``2025-04-03``, ``3.4.2025`` (with dots the day comes first), ``3 Apr
    2025``, ``4/13/25``; ``Apr 2025`` is the first of it.

    Raises CoreError ``garage.date`` for none, and the question ``date.which`` (``4/3/25``).
    """
    said = " ".join(text.strip().lower().split())
    if match := _SLASHED.match(said):
        return _slashed(text.strip(), match, today)
    try:
        if match := _ISO.match(said) or _DOTTED.match(said):
            return date(_year(match["year"], today), int(match["month"]), int(match["day"]))
        if match := _NAMED.match(said) or _NAME_FIRST.match(said):
            return date(int(match["year"]), _month(match["name"]), int(match["day"] or 1))
    except ValueError as error:
        raise CoreError("garage.date") from error
    raise CoreError("garage.date")

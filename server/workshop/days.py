"""A day is the workshop's: it begins at midnight where the workshop stands, wherever the server runs."""

from datetime import date, datetime
from zoneinfo import ZoneInfo

from django.conf import settings
from django.utils import timezone
from oilward_core.dates import read_day
from oilward_core.errors import CoreError

from .models import Workshop


def zone() -> ZoneInfo:
    """Where the workshop stands."""
    name = Workshop.objects.values_list("time_zone", flat=True).first()
    return ZoneInfo(name or settings.TIME_ZONE)


def week_begins() -> int:
    """The weekday a week begins with here; 0 is Monday."""
    return Workshop.objects.values_list("week_begins", flat=True).first() or 0


def day_of(moment: datetime) -> date:
    """The workshop's day at that moment."""
    return moment.astimezone(zone()).date()


def today() -> date:
    """The workshop's day now."""
    return day_of(timezone.now())


def day_typed(text: str, field: str, latest: date | None = None) -> date:
    """A day somebody chose or wrote (``2026-03-14``, ``14.3.2026``). Raises CoreError ``garage.date`` at
    ``field`` for none, or one after ``latest``, and the question ``date.which``."""
    try:
        day = read_day(text, today())
    except CoreError as error:
        raise error.at(field) from error
    if latest is not None and day > latest:
        raise CoreError("garage.date", field=field)
    return day

"""When something happened, by a tablet's clock and by the server's."""

from datetime import datetime, timedelta

from .models import Visit
from .shapes import NewEntry


def _clock(text: str) -> datetime | None:
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        return None
    return at if at.tzinfo else None


def when(new: NewEntry, visit: Visit, now: datetime) -> datetime:
    """When it happened, placed by how far the tablet's clock is off; never after now, never before
    the visit was opened. A tablet that does not say when is taken to write at once."""
    at, sent = _clock(new.at), _clock(new.sent_at)
    if at is None:
        return now
    off = now - sent if sent else timedelta(0)
    try:
        return max(min(at + off, now), visit.opened_at)
    except OverflowError:
        return now

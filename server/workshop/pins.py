"""A PIN says who stands at a paired tablet. Elsewhere it is nothing."""

from django.contrib.auth.hashers import check_password

from .models import Person


def knows_pin(username: str, text: str) -> Person | None:
    """Who has this name and this PIN. How often it may be tried, and where, is `tries`' to say."""
    found = Person.objects.filter(username=username.strip().lower()[:40], is_active=True)
    row = found.exclude(pin="").first()
    return row if row and check_password(text.strip(), row.pin) else None

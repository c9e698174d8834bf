"""A PIN says who stands at a paired tablet. Elsewhere it is nothing."""

import logging

from django.contrib.auth.hashers import check_password
from django.db import transaction

from .models import Person

log = logging.getLogger("oilward.access")
MOST_MISSES = 10  # wrong PINs in a row, after which it is good no more


def knows_pin(username: str, text: str) -> Person | None:
    """Who has this name and this PIN. After ten wrong ones in a row it is good no more, and its person
    signs in by password to set another."""
    with transaction.atomic():
        found = Person.objects.select_for_update().filter(username=username.strip().lower()[:40])
        row = found.exclude(pin="").filter(is_active=True).first()
        if row is None:
            return None
        if check_password(text.strip(), row.pin):
            Person.objects.filter(pk=row.pk).update(pin_misses=0)
            return row
        row.pin_misses += 1
        if row.pin_misses >= MOST_MISSES:
            row.pin = ""
            log.warning("PIN put out of use after %s wrong ones: %s", MOST_MISSES, row.username)
        row.save(update_fields=["pin", "pin_misses"])
        return None

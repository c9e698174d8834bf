"""Tries to prove who one is, counted before they are looked at and under a lock, so that a hundred at
once are a hundred. A right one is forgotten at once. What waits is who tries there, never the person
tried."""

from collections.abc import Callable
from datetime import datetime, timedelta
from hashlib import sha256

from django.db import transaction
from django.db.models import F
from django.utils import timezone
from rest_framework.exceptions import Throttled
from rest_framework.request import Request
from rest_framework.throttling import BaseThrottle

from .models import Person, Tries
from .tablets.here import tablet_of

FREE = 3  # wrong ones in a row before the first wait
WAITS = tuple(timedelta(minutes=minutes) for minutes in (1, 2, 4, 8, 15))
FORGOTTEN = timedelta(days=1)


def where(request: Request) -> str:
    """From where somebody tries: a paired tablet, else an address."""
    tablet = tablet_of(request._request)
    return f"tablet {tablet.pk}" if tablet else f"address {BaseThrottle().get_ident(request)}"


@transaction.atomic
def _count(key: str, now: datetime) -> None:
    Tries.objects.get_or_create(key=key, defaults={"last": now})
    row = Tries.objects.select_for_update().get(key=key)
    if row.until and now < row.until:
        raise Throttled(wait=(row.until - now).total_seconds())
    row.wrong = 1 if now - row.last > FORGOTTEN else row.wrong + 1
    row.last, over = now, row.wrong - FREE
    row.until = now + WAITS[min(over, len(WAITS) - 1)] if over >= 0 else None
    row.save()


def tried(
    who: str, at: str, look: Callable[[], Person | None], now: datetime | None = None
) -> Person | None:
    """Whom a try proves: what ``look`` finds, if ``who`` has not tried too often ``at`` that place. After
    three wrong ones in a row each waits: 1, 2, 4, 8, then 15 minutes.

    Raises Throttled, with the wait, without looking. A try that could not be looked at is none.
    """
    key = sha256(f"{who}\n{at}".encode("utf-8", "replace")).hexdigest()
    _count(key, now or timezone.now())
    try:
        found = look()
    except BaseException:
        Tries.objects.filter(key=key).update(wrong=F("wrong") - 1, until=None)
        raise
    if found:
        Tries.objects.filter(key=key).delete()
    return found


def forget(now: datetime) -> None:
    """Tries of days ago are nothing any more."""
    Tries.objects.filter(last__lt=now - FORGOTTEN).delete()

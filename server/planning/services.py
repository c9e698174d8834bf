"""Keeping what is due up to date, as things are written and as days pass."""

from collections import Counter
from collections.abc import Iterable, Sequence
from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID

from django.db import connection, transaction
from django.utils import timezone
from garage.locks import lock_bikes
from garage.models import Bike
from workshop import days
from workshop.touched import generation

from . import selectors
from .models import DueRow, KeptHistory, Roller, Tally, WardRow
from .plans import orders

CHUNK = 250
SAY_AGAIN = timedelta(minutes=1)
_ADD = """
INSERT INTO planning_tally (name, count) VALUES (%s, %s)
ON CONFLICT (name) DO UPDATE SET count = planning_tally.count + EXCLUDED.count
"""


def on_touched(sender: object, bikes: Sequence[UUID], **_: Any) -> None:
    refresh(bikes, days.today())
    KeptHistory.objects.filter(bike__in=bikes).delete()


def _add_to_tally(delta: Counter[str]) -> None:
    # in order of name, so that two refreshes never wait for each other in a ring
    changes = sorted((name, count) for name, count in delta.items() if count)
    with connection.cursor() as cursor:
        cursor.executemany(_ADD, changes)


@transaction.atomic
def refresh(bike_ids: Iterable[UUID], today: date) -> None:
    """Work out anew what is due on these bikes. Archived ones leave the ward."""
    ids = sorted(set(bike_ids))
    # two refreshes of one bike queue up, and the second sees what the first has counted; what
    # changes for every bike meanwhile makes these rows stale at once
    bikes, now = [bike for bike in lock_bikes(ids) if not bike.archived], generation()
    old = list(WardRow.objects.filter(bike_id__in=ids))
    rows, dues = selectors.worked_out(bikes, today)
    delta: Counter[str] = Counter()
    for row in rows:
        row.generation = now
        delta.update(row.tally)
    for row in old:
        delta.subtract(row.tally)
    DueRow.objects.filter(bike_id__in=ids).delete()
    WardRow.objects.filter(bike_id__in=ids).delete()
    WardRow.objects.bulk_create(rows)
    DueRow.objects.bulk_create(dues)
    _add_to_tally(delta)


def roll_forward(today: date) -> int:
    """Bring every stale bike up to today, a piece at a time, the most urgent first. Doing it again
    changes nothing until a bike's own day has come or something changed for every bike."""
    done = 0
    while True:
        stale = selectors.stale(today).order_by(selectors.share_left(today), "bike_id")
        ids = list(stale.values_list("bike_id", flat=True)[:CHUNK])
        if not ids:
            return done
        refresh(ids, today)
        done += len(ids)


def say_it_ran(now: datetime) -> None:
    """Write down that what is due was brought forward."""
    Roller.objects.update_or_create(pk=1, defaults={"ran_at": now})


def roll() -> int:
    """Everything up to today, and a word that it ran."""
    if Bike.objects.filter(archived=False).exists() and not WardRow.objects.exists():
        rebuild(days.today())
    rolled, now = roll_forward(days.today()), timezone.now()
    orders.forget(now)
    if rolled or not Roller.objects.filter(ran_at__gt=now - SAY_AGAIN).exists():
        say_it_ran(now)
    return rolled


def rebuild(today: date) -> int:
    """Work everything out from nothing: after an import, or when the rules have changed."""
    Tally.objects.all().delete()
    WardRow.objects.all().delete()
    ids = list(Bike.objects.filter(archived=False).values_list("pk", flat=True))
    for start in range(0, len(ids), CHUNK):
        refresh(ids[start : start + CHUNK], today)
    return len(ids)

"""How long work takes here, as the latest signed visits took it."""

from collections.abc import Collection
from datetime import timedelta
from uuid import UUID

from django.db.models import Exists, OuterRef
from oilward_core.order import Stamp, hands_on, learned_minutes, waited
from workshop.mapping import seconds_per_minute

from . import rows as to_core
from .models import EntryRow, Visit
from .selectors import LEARNED_FROM


def learned(people: Collection[int] = ()) -> dict[str, tuple[int, int]]:
    """Minutes of work and of waiting by kind, as the latest signed visits took them, with how many
    say so; with ``people``, as it took these where nobody else was at it."""
    latest = Visit.objects.filter(state=Visit.State.SIGNED).order_by("-closed_at")
    # what was written down from memory says little of how long it took
    latest = latest.exclude(entries__data__remembered=True)
    if people:
        others = EntryRow.objects.filter(visit=OuterRef("pk")).exclude(by__in=people)
        latest = latest.filter(~Exists(others))
    ids = list(latest.values_list("pk", flat=True)[:LEARNED_FROM])
    stamps: dict[UUID, list[Stamp]] = {}
    for row in EntryRow.objects.filter(visit_id__in=ids).order_by("at", "id"):
        stamps.setdefault(row.visit_id, []).append(to_core.stamp(row))
    minute = timedelta(seconds=seconds_per_minute())
    return learned_minutes(
        {**hands_on(visit, minute), **waited(visit, minute)} for visit in stamps.values()
    )

"""Visits as they are told on the page of who changed what: they keep their own history."""

from collections.abc import Iterable
from uuid import UUID

from django.db.models import Case, CharField, When
from django.db.models.functions import Cast, Concat
from workshop.happened import Told, told, words

from .models import Visit

OPENED, SIGNED, LEFT = "visit opened", "visit signed", "bike left"
ACTS = (OPENED, SIGNED, LEFT)


def visits_told() -> list[Told]:
    """Each visit twice: as it was opened, and as it was signed or left."""
    about = Concat(words("bike/"), Cast("bike_id", CharField()))
    ended = Case(When(state=Visit.State.SIGNED, then=words(SIGNED)), default=words(LEFT))
    opened, closed = Visit.objects.order_by(), Visit.objects.exclude(state=Visit.State.OPEN)
    return [
        told(opened, at="opened_at", by="opened_by__name", act=words(OPENED), about=about),
        told(closed.order_by(), at="closed_at", by="closed_by__name", act=ended, about=about),
    ]


def bikes_of_visits(ids: Iterable[UUID]) -> dict[UUID, str]:
    """Whose visits these are."""
    found = Visit.objects.filter(pk__in=list(ids)).values_list("pk", "bike__name")
    return {pk: f"visit of {bike}" for pk, bike in found}

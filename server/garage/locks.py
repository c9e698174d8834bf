"""Who writes about bikes locks them first, always in the same order: writers queue up, and never wait for
each other in a ring."""

from collections.abc import Iterable
from uuid import UUID

from django.http import Http404

from .models import Bike


def lock_bikes(ids: Iterable[UUID]) -> list[Bike]:
    """These bikes with their models, locked for this transaction. Rows that refer to them can still
    be written meanwhile."""
    rows = Bike.objects.select_for_update(of=("self",), no_key=True).filter(pk__in=set(ids))
    return list(rows.select_related("model").order_by("pk"))


def lock_bike(bike_id: UUID) -> Bike:
    """One bike, locked; 404 if there is none."""
    found = lock_bikes([bike_id])
    if not found:
        raise Http404
    return found[0]

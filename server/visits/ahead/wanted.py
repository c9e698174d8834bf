"""Asks that it is worked out when a visit will be through."""

from typing import Any

from workshop.background import want

from visits.models import Visit


def want_finish(visit: Visit) -> None:
    """Have it worked out, outside the way of any entry; what comes together is worked out once."""
    from visits.tasks import look_ahead

    want(look_ahead, f"ahead/{visit.pk}", visit=str(visit.pk))


def left(sender: object, **_: Any) -> None:
    """What was written down while nobody worked anything out."""
    for visit in Visit.objects.filter(state=Visit.State.OPEN).order_by("-opened_at"):
        want_finish(visit)

"""Bikes that something was written about, or that are about to leave. What knows more of them listens
here."""

from django.db.models import F
from django.dispatch import Signal

from . import kept
from .models import Workshop

# sent with ``bikes``, their ids, inside the transaction that wrote
bikes_touched = Signal()

# sent with ``bike``, its id, before it leaves the workshop; who raises keeps it
bike_leaving = Signal()


def touch(*bikes: object) -> None:
    """Say that something about these bikes changed."""
    bikes_touched.send(sender=None, bikes=list(bikes))


def touch_all() -> None:
    """Say that something changed that counts for every bike: what is kept of each from before is
    stale."""
    Workshop.objects.update(generation=F("generation") + 1)


def generation() -> int:
    """How often something changed that counts for every bike: a school, a price, or the rules themselves,
    with a new release."""
    found = Workshop.objects.values_list("generation", "release").first()
    if found is None:
        return 0
    counts, rules = found
    if rules == kept.release():
        return counts
    # whoever looks first counts it, once
    Workshop.objects.filter(release=rules).update(
        generation=F("generation") + 1, release=kept.release()
    )
    return Workshop.objects.values_list("generation", flat=True).get()


def leave(bike: object) -> None:
    """Say that this bike is to leave the workshop. Raises what a listener has against it."""
    bike_leaving.send(sender=None, bike=bike)

"""Bikes that something was written about, or that are about to leave. What knows more of them listens
here."""

from django.dispatch import Signal

# sent with ``bikes``, their ids, inside the transaction that wrote
bikes_touched = Signal()

# sent with ``bike``, its id, before it leaves the workshop; who raises keeps it
bike_leaving = Signal()


def touch(*bikes: object) -> None:
    """Say that something about these bikes changed."""
    bikes_touched.send(sender=None, bikes=list(bikes))


def leave(bike: object) -> None:
    """Say that this bike is to leave the workshop. Raises what a listener has against it."""
    bike_leaving.send(sender=None, bike=bike)

"""Bikes that something was written about. What is worked out from them listens here."""

from django.dispatch import Signal

# sent with ``bikes``, their ids, inside the transaction that wrote
bikes_touched = Signal()


def touch(*bikes: object) -> None:
    """Say that something about these bikes changed."""
    bikes_touched.send(sender=None, bikes=list(bikes))

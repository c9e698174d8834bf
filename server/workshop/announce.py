"""Says that something changed, to whoever watches; heard once this transaction is done, or not at all."""

from django.db import connection

CHANNEL = "oilward"


def announce(topic: str) -> None:
    """``visit/…``: who shows it asks again."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, topic])

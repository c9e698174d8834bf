"""Says that something changed, to whoever watches; heard once this transaction is done, or not at all."""

from typing import Any

from django.db import connection

CHANNEL = "oilward"


def listening_to(database: dict[str, Any]) -> dict[str, Any]:
    """How to connect to a database that is only listened to: each line as it comes."""
    named = {
        "host": "HOST",
        "port": "PORT",
        "dbname": "NAME",
        "user": "USER",
        "password": "PASSWORD",
    }
    return {name: database[key] for name, key in named.items()} | {"autocommit": True}


def announce(topic: str) -> None:
    """``visit/…``: who shows it asks again; ``ahead/…``: when it will be through is wanted, and
    ``finish/…``: is known; ``hands``: somebody calls for a second pair of them."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, topic])

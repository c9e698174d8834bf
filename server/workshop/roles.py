"""What the role the server runs as may do in the database.

The owner role makes the tables (migrations, restore). The runtime role reads and writes them, but what
happened it can only add to: of facts it may neither change nor delete a row, and nothing can it empty.
"""

from typing import Any

from django.apps import apps
from django.conf import settings
from django.db import connections
from django.db.migrations.recorder import MigrationRecorder
from psycopg.sql import SQL, Composed, Identifier

from .models import Fact

_MAY = """
GRANT USAGE ON SCHEMA public TO {role};
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO {role};
REVOKE TRUNCATE, REFERENCES, TRIGGER ON ALL TABLES IN SCHEMA public FROM {role};
GRANT SELECT, USAGE ON ALL SEQUENCES IN SCHEMA public TO {role};
"""
_ONLY_ADDS = "REVOKE UPDATE, DELETE ON {table} FROM {role};"
_ONLY_READS = "REVOKE INSERT, UPDATE, DELETE ON {table} FROM {role};"


def _words() -> Composed:
    role = Identifier(settings.RUNTIME_ROLE)
    facts = [model._meta.db_table for model in apps.get_models() if issubclass(model, Fact)]
    read = [MigrationRecorder.Migration._meta.db_table]
    return SQL("").join(
        [
            SQL(_MAY).format(role=role),
            *(SQL(_ONLY_ADDS).format(table=Identifier(t), role=role) for t in facts),
            *(SQL(_ONLY_READS).format(table=Identifier(t), role=role) for t in read),
        ]
    )


def grant(sender: object, using: str, **_: Any) -> None:
    """After every migration: say anew what the runtime role may do. Without such a role in this
    database server there is nobody to say it of."""
    with connections[using].cursor() as cursor:
        cursor.execute("SELECT 1 FROM pg_roles WHERE rolname = %s", [settings.RUNTIME_ROLE])
        if cursor.fetchone():
            cursor.execute(_words())

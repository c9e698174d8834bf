"""Connections to a workshop's databases: by the role named, with nothing but the system's own names in
reach."""

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from typing import Any

from psycopg import Connection, connect
from psycopg.sql import SQL, Composed, Identifier

# as settings.DATABASES describes one
Database = Mapping[str, Any]
Columns = tuple[str, ...]

# who is signed in, and what is on the queue, is nobody's to keep; tries were once counted in a cache
LEFT_OUT = ("cache", "django_session", "workshop_tries")
QUEUE = "procrastinate_"
# pictures never change: each may lie beside the backups, once for all of them
PICTURES = {"findings_picture": "jpeg", "garage_bikephoto": "jpeg"}

_TABLES = """
SELECT c.relname, pg_catalog.array_agg(a.attname ORDER BY a.attnum)::pg_catalog.text[]
FROM pg_catalog.pg_class c JOIN pg_catalog.pg_attribute a ON a.attrelid OPERATOR(pg_catalog.=) c.oid
WHERE c.relnamespace OPERATOR(pg_catalog.=) 'public'::pg_catalog.regnamespace
AND c.relkind OPERATOR(pg_catalog.=) 'r' AND a.attnum OPERATOR(pg_catalog.>) 0
AND a.attgenerated OPERATOR(pg_catalog.=) '' AND NOT a.attisdropped
GROUP BY c.relname ORDER BY c.relname
"""


@contextmanager
def opened(database: Database, name: str = "", role: str = "") -> Iterator[Connection]:
    """A connection to one of the server's databases, another one than described if ``name`` says so; as
    another ``role``, if whoever signs in may be that."""
    options = "-c search_path=" + (f" -c role={role}" if role else "")
    with connect(
        host=database["HOST"],
        port=database["PORT"],
        user=database["USER"],
        password=database["PASSWORD"],
        dbname=name or database["NAME"],
        options=options,
        autocommit=True,
    ) as connection:
        yield connection


def left_out(table: str) -> bool:
    """Whether a backup has nothing of this table."""
    return table in LEFT_OUT or table.startswith(QUEUE)


def tables(connection: Connection) -> dict[str, Columns]:
    """The tables a backup is made of, each with its columns."""
    found = connection.execute(_TABLES).fetchall()
    return {str(name): tuple(columns) for name, columns in found if not left_out(name)}


def table(name: str) -> Composed:
    return SQL("public.{}").format(Identifier(name))


def copying(name: str, columns: Columns, way: str) -> Composed:
    """COPY of these columns, ``FROM STDIN`` or ``TO STDOUT``."""
    listed = SQL(", ").join(map(Identifier, columns))
    return SQL("COPY {} ({}) " + way).format(table(name), listed)


def hashed(name: str, columns: Columns, column: str) -> Composed:
    """COPY of these columns, with the SHA-256 of what is in ``column`` in its place."""
    one = SQL("pg_catalog.sha256({})").format(Identifier(column))
    listed = SQL(", ").join(one if each == column else Identifier(each) for each in columns)
    return SQL("COPY (SELECT {} FROM {}) TO STDOUT").format(listed, table(name))

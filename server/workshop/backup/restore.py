"""A file back into a workshop: tables made by this release's migrations up to those the backup names, its
rows put into them, then the migrations since."""

import json
import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from time import sleep

from django.conf import settings
from django.core.management.base import CommandError
from django.db.migrations.loader import MigrationLoader
from psycopg import Connection, DatabaseError
from psycopg.sql import SQL, Identifier, Literal

from .pictures import with_pictures
from .read import PIECE, Backup, Migrations, Rows, read
from .wire import Columns, Database, copying, opened, table, tables

_MANAGE = Path(settings.ROOT) / "server" / "manage.py"
_MADE_BY_HAND = "django_migrations"  # what the migrations themselves have written there stands
_OTHER = "{file} is not whole: {table} has {found} rows, and had {promised}."
_WORKERS = """
SELECT 1 FROM pg_catalog.pg_stat_activity WHERE datname OPERATOR(pg_catalog.=) %s
AND backend_type OPERATOR(pg_catalog.=) 'client backend'
"""
_THERE = "SELECT 1 FROM pg_catalog.pg_database WHERE datname OPERATOR(pg_catalog.=) %s"
_COUNTERS = """
SELECT a.attname, pg_catalog.pg_get_serial_sequence(
    pg_catalog.format('%%I.%%I', 'public', c.relname), a.attname)
FROM pg_catalog.pg_class c JOIN pg_catalog.pg_attribute a ON a.attrelid OPERATOR(pg_catalog.=) c.oid
WHERE c.relnamespace OPERATOR(pg_catalog.=) 'public'::pg_catalog.regnamespace
AND c.relname OPERATOR(pg_catalog.=) %s AND a.attnum OPERATOR(pg_catalog.>) 0 AND NOT a.attisdropped
"""


def _manage(database: Database, told: str, *words: str) -> None:
    """One of this release's commands on a database, as its owner."""
    keys = ("HOST", "PORT", "NAME", "USER", "PASSWORD")
    where = {f"OILWARD_DB_{key}": str(database[key]) for key in keys}
    env = {**os.environ, **where, "PGOPTIONS": f"-c role={settings.OWNER_ROLE}"}
    done = subprocess.run(
        [sys.executable, str(_MANAGE), *words], cwd=_MANAGE.parent, env=env, input=told, text=True,
        capture_output=True, check=False,
    )  # fmt: skip
    if done.returncode:
        raise CommandError(f"{words[0]} stopped: {done.stderr.strip()[-2000:]}")


def tables_as_of(database: Database, migrations: Migrations) -> None:
    """Make the tables of then in an empty database."""
    _manage(database, json.dumps(sorted(migrations)), "tables_as_of")


def _bring_up_to_date(database: Database) -> None:
    _manage(database, "", "migrate", "--verbosity", "0")


def _known(backup: Backup) -> None:
    """Refuse what no Oil Ward wrote, or one newer than this."""
    ours = MigrationLoader(None).disk_migrations.keys()
    if backup.migrations - ours:
        raise CommandError("That backup is from a newer Oil Ward. Bring this one up to date first.")
    if not any(app == "workshop" for app, _ in backup.migrations):
        raise CommandError("There is no workshop in that file.")


def _fitting(backup: Backup, there: dict[str, Columns]) -> None:
    """Refuse rows for which there is no table, or one with other columns."""
    for name, rows in backup.tables.items():
        if name not in there:
            raise CommandError(f"That file would do more than put a workshop back: {name}")
        if sorted(rows.columns) != sorted(there[name]):
            raise CommandError(f"That file is not whole: {name} has other columns than it had.")


def _pieces(rows: Rows, pictures: Path | None) -> Iterator[bytes]:
    with rows.at.open("rb") as lines:
        if rows.beside:
            yield from with_pictures(lines, rows.columns, rows.beside, pictures)
        while piece := lines.read(PIECE):
            yield piece


def _poured(connection: Connection, name: str, rows: Rows, pictures: Path | None) -> int:
    cursor = connection.cursor()
    with cursor.copy(copying(name, rows.columns, "FROM STDIN")) as copy:
        for piece in _pieces(rows, pictures):
            copy.write(piece)
    return cursor.rowcount


def _count_on(connection: Connection, name: str) -> None:
    """Let the numbers a table gives out go on behind those it holds."""
    for column, sequence in connection.execute(_COUNTERS, [name]).fetchall():
        if sequence is None:
            continue
        words = SQL("SELECT pg_catalog.setval({}, coalesce(max({}), 0) + 1, false) FROM {}")
        connection.execute(words.format(Literal(sequence), Identifier(column), table(name)))


def _triggers(connection: Connection, names: Iterator[str], word: str) -> None:
    for name in names:
        connection.execute(SQL("ALTER TABLE {} " + word + " TRIGGER USER").format(table(name)))


def _filled(database: Database, backup: Backup) -> dict[str, int]:
    """Put the rows in, all or none; how many each table has then."""
    with opened(database, role=settings.OWNER_ROLE) as connection, connection.transaction():
        there = tables(connection)
        _fitting(backup, there)
        emptied = [name for name in there if name != _MADE_BY_HAND]
        connection.execute(SQL("TRUNCATE {} CASCADE").format(SQL(", ").join(map(table, emptied))))
        connection.execute("SET CONSTRAINTS ALL DEFERRED")
        _triggers(connection, iter(emptied), "DISABLE")
        found = dict.fromkeys(emptied, 0)
        for name in emptied:
            if name in backup.tables:
                found[name] = _poured(connection, name, backup.tables[name], backup.pictures)
                _count_on(connection, name)
        connection.execute("SET CONSTRAINTS ALL IMMEDIATE")
        _triggers(connection, iter(emptied), "ENABLE")
    return found


def _restored(database: Database, backup: Backup, file: Path) -> dict[str, int]:
    """A backup in an empty database; how many rows each table has."""
    _known(backup)
    tables_as_of(database, backup.migrations)
    try:
        found = _filled(database, backup)
    except DatabaseError as error:
        said = str(error).strip().splitlines()[0]
        raise CommandError(f"{file} cannot be put back: {said}") from error
    for name, rows in backup.tables.items():
        has = found.get(name, rows.promised)
        if rows.promised is not None and has != rows.promised:
            said = _OTHER.format(file=file, table=name, found=has, promised=rows.promised)
            raise CommandError(said)
    return found


def _exists(server: Connection, name: str) -> bool:
    return server.execute(_THERE, [name]).fetchone() is not None


def _in_use(server: Connection, name: str, looks: int = 20) -> bool:
    """Whether somebody works on a database. PostgreSQL's own housekeeping does not count, and
    whoever has just left takes a moment to be gone."""
    for _ in range(looks):
        if server.execute(_WORKERS, [name]).fetchone() is None:
            return False
        sleep(0.1)
    return True


def _drop(server: Connection, name: str) -> None:
    server.execute(SQL("DROP DATABASE IF EXISTS {}").format(Identifier(name)))


def _rename(server: Connection, name: str, to: str) -> None:
    words = SQL("ALTER DATABASE {} RENAME TO {}")
    server.execute(words.format(Identifier(name), Identifier(to)))


@contextmanager
def _server(database: Database) -> Iterator[Connection]:
    """Where databases are made and dropped: in none of them, as the owner role."""
    with opened(database, "postgres", settings.OWNER_ROLE) as server:
        yield server


@contextmanager
def _empty(database: Database, server: Connection, name: str) -> Iterator[Database]:
    """An empty database; gone again if what is done with it fails."""
    _drop(server, name)
    try:
        server.execute(SQL("CREATE DATABASE {}").format(Identifier(name)))
        yield {**database, "NAME": name}
    except BaseException:
        _drop(server, name)
        raise


def prove(database: Database, file: Path, pictures: Path | None = None) -> dict[str, int]:
    """Put a backup into a database that is thrown away; the rows found there, by table.

    Raises CommandError for a file that is damaged, no backup, too new, or holds other than it promises.
    """
    name = f"{database['NAME']}_drill"
    with read(file, pictures) as backup, _server(database) as server:
        try:
            with _empty(database, server, name) as empty:
                return _restored(empty, backup, file)
        finally:
            _drop(server, name)


def put_back(
    database: Database, file: Path, as_it_was: bool = False, pictures: Path | None = None
) -> str:
    """Put a backup, with the ``pictures`` beside it, in the place of a database; the name under which the
    one before is kept. It is brought up to this release, but for ``as_it_was``: for the release that
    made it.

    Raises CommandError, with nothing changed, for a file that is damaged, no backup or too new, and
    while somebody works on the database.
    """
    name = database["NAME"]
    fresh, before = f"{name}_restoring", f"{name}_before"
    with read(file, pictures) as backup, _server(database) as server:
        if _in_use(server, name):
            raise CommandError("Oil Ward is at work on this database. Stop it, then restore.")
        with _empty(database, server, fresh) as empty:
            _restored(empty, backup, file)
            if not as_it_was:
                _bring_up_to_date(empty)
        _drop(server, before)
        if _exists(server, name):
            _rename(server, name, before)
        _rename(server, fresh, name)
    return before

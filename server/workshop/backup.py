"""Everything in one file, and back: PostgreSQL's own dump of a workshop's database."""

import os
import subprocess
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from time import sleep
from typing import Any

from django.core.management.base import CommandError
from django.db.migrations.loader import MigrationLoader
from psycopg import Connection, connect
from psycopg.errors import UndefinedTable
from psycopg.sql import SQL, Identifier

# as settings.DATABASES describes one
Database = Mapping[str, Any]


def _tool(command: str, database: Database, *words: str | Path, **more: Any) -> None:
    """Run one of PostgreSQL's tools on a database; its own words come with the refusal."""
    where = {
        "PGHOST": database["HOST"],
        "PGPORT": str(database["PORT"]),
        "PGUSER": database["USER"],
        "PGPASSWORD": database["PASSWORD"],
    }
    env = {**os.environ, **where}
    done = subprocess.run([command, *words], env=env, stderr=subprocess.PIPE, text=True, **more)
    if done.returncode:
        raise CommandError(f"{command} stopped: {done.stderr.strip()}")


@contextmanager
def _open(database: Database, name: str) -> Iterator[Connection]:
    with connect(
        host=database["HOST"],
        port=database["PORT"],
        user=database["USER"],
        password=database["PASSWORD"],
        dbname=name,
        autocommit=True,
    ) as connection:
        yield connection


def dump(database: Database, file: Path) -> None:
    """Write everything into a new file, readable for its owner alone. A database at work may be
    dumped: the file shows one moment of it.

    Raises CommandError where the file is there already, or cannot be written.
    """
    if file.exists():
        raise CommandError(f"{file} is there already. Name another file.")
    part = file.with_name(f"{file.name}.part")
    try:
        part.touch(mode=0o600)
        with part.open("wb") as out:
            words = ["--format=custom", "--no-owner", "--exclude-table-data=cache"]
            _tool("pg_dump", database, *words, f"--dbname={database['NAME']}", stdout=out)
        part.rename(file)
    except OSError as error:
        raise CommandError(f"{file} cannot be written: {error.strerror}.") from error
    finally:
        part.unlink(missing_ok=True)


def _known(database: Database, name: str) -> None:
    """Refuse what no Oil Ward wrote, or one newer than this."""
    with _open(database, name) as connection:
        try:
            applied = connection.execute("SELECT app, name FROM django_migrations").fetchall()
        except UndefinedTable as error:
            raise CommandError("There is no workshop in that file.") from error
    if set(applied) - MigrationLoader(None).disk_migrations.keys():
        raise CommandError("That backup is from a newer Oil Ward. Bring this one up to date first.")


def _exists(server: Connection, name: str) -> bool:
    found = server.execute("SELECT 1 FROM pg_database WHERE datname = %s", [name])
    return found.fetchone() is not None


_WORKERS = "SELECT 1 FROM pg_stat_activity WHERE datname = %s AND backend_type = 'client backend'"


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


def put_back(database: Database, file: Path) -> str:
    """Put a backup in the place of a database; the name under which the one before is kept.

    Raises CommandError, with nothing changed, for a file that is no backup or too new, and while
    somebody works on the database.
    """
    name = database["NAME"]
    fresh, before = f"{name}_restoring", f"{name}_before"
    if not file.is_file():
        raise CommandError(f"There is no file {file}.")
    with _open(database, "postgres") as server:
        if _in_use(server, name):
            raise CommandError("Oil Ward is at work on this database. Stop it, then restore.")
        _drop(server, fresh)
        server.execute(SQL("CREATE DATABASE {}").format(Identifier(fresh)))
        try:
            words = ["--no-owner", "--exit-on-error", "--single-transaction", f"--dbname={fresh}"]
            _tool("pg_restore", database, *words, file)
            _known(database, fresh)
        except CommandError:
            _drop(server, fresh)
            raise
        _drop(server, before)
        if _exists(server, name):
            _rename(server, name, before)
        _rename(server, fresh, name)
    return before

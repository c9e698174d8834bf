"""Everything in one file, and back.

A backup is a zip of PostgreSQL's own dump and a manifest with its checksum. It is read before anything of
it runs, and then runs as a role that owns an empty database and nothing else.
"""

import json
import os
import re
import secrets
import subprocess
import tempfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from hashlib import file_digest
from pathlib import Path
from shutil import copyfileobj
from time import sleep
from typing import Any
from zipfile import ZIP_STORED, BadZipFile, ZipFile, is_zipfile

from django.conf import settings
from django.core.management.base import CommandError
from django.db.migrations.loader import MigrationLoader
from django.utils import timezone
from psycopg import Connection, connect
from psycopg.errors import UndefinedTable
from psycopg.sql import SQL, Identifier, Literal

FORMAT = "oilward-backup/1"
MANIFEST, DUMP = "manifest.json", "workshop.dump"
RESTORER = "oilward_restoring"
# what a workshop is made of, as pg_restore lists it
_PARTS = (
    "TABLE DATA", "TABLE", "SEQUENCE SET", "SEQUENCE OWNED BY", "SEQUENCE", "DEFAULT",
    "CHECK CONSTRAINT", "FK CONSTRAINT", "CONSTRAINT", "INDEX", "FUNCTION", "TRIGGER",
)  # fmt: skip
_LISTED = re.compile(rf"\d+; \d+ \d+ ({'|'.join(_PARTS)}) public ")
_LEFT_OUT = ("cache", "django_session")  # who is signed in is nobody's to keep

# as settings.DATABASES describes one
Database = Mapping[str, Any]


def _tool(command: str, database: Database | None, *words: str | Path, **more: Any) -> str:
    """Run one of PostgreSQL's tools, on a database if one is given; what it prints. Its own words
    come with the refusal."""
    where = (
        {
            "PGHOST": database["HOST"],
            "PGPORT": str(database["PORT"]),
            "PGUSER": database["USER"],
            "PGPASSWORD": database["PASSWORD"],
        }
        if database
        else {}
    )
    out = {"stdout": subprocess.PIPE, **more}
    done = subprocess.run(
        [command, *words], env={**os.environ, **where}, stderr=subprocess.PIPE, text=True, **out
    )
    if done.returncode:
        raise CommandError(f"{command} stopped: {done.stderr.strip()}")
    return done.stdout or ""


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


_TABLES = """
SELECT c.relname FROM pg_class c WHERE c.relnamespace = 'public'::regnamespace AND c.relkind = 'r'
ORDER BY c.relname
"""


def _rows(connection: Connection) -> dict[str, int]:
    """How many rows each table holds, but for what a backup leaves out."""
    tables = [table for (table,) in connection.execute(_TABLES) if table not in _LEFT_OUT]
    counted = {}
    for table in tables:
        found = connection.execute(SQL("SELECT count(*) FROM {}").format(Identifier(table)))
        counted[table] = int((found.fetchone() or [0])[0])
    return counted


@contextmanager
def _moment(database: Database) -> Iterator[tuple[str, dict[str, int]]]:
    """One moment of a database at work: the snapshot others may read it by, and the rows in it."""
    with _open(database, database["NAME"]) as connection:
        connection.execute("BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY")
        (snapshot,) = connection.execute("SELECT pg_export_snapshot()").fetchone() or [""]
        yield str(snapshot), _rows(connection)


def _zip(dumped: Path, part: Path, rows: dict[str, int]) -> None:
    with dumped.open("rb") as raw:
        checksum = file_digest(raw, "sha256").hexdigest()
    manifest = {
        "format": FORMAT,
        "made_at": timezone.now().isoformat(),
        "sha256": checksum,
        "rows": rows,
    }
    with ZipFile(part, "w", ZIP_STORED) as whole:
        whole.writestr(MANIFEST, json.dumps(manifest, indent=1))
        whole.write(dumped, DUMP)


def dump(database: Database, file: Path) -> None:
    """Write everything into a new file, readable for its owner alone. A database at work may be
    dumped: the file shows one moment of it.

    Raises CommandError where the file is there already, or cannot be written.
    """
    if file.exists():
        raise CommandError(f"{file} is there already. Name another file.")
    part, raw = file.with_name(f"{file.name}.part"), file.with_name(f"{file.name}.dump")
    try:
        for one in (part, raw):
            one.touch(mode=0o600)
        with _moment(database) as (snapshot, rows), raw.open("wb") as out:
            words = ["--format=custom", "--no-owner", "--no-acl", f"--snapshot={snapshot}"]
            words += [f"--exclude-table-data={table}" for table in _LEFT_OUT]
            _tool("pg_dump", database, *words, f"--dbname={database['NAME']}", stdout=out)
        _zip(raw, part, rows)
        part.rename(file)
    except OSError as error:
        raise CommandError(f"{file} cannot be written: {error.strerror}.") from error
    finally:
        for one in (part, raw):
            one.unlink(missing_ok=True)


@contextmanager
def _dump_of(file: Path) -> Iterator[Path]:
    """PostgreSQL's dump in a backup, once its checksum is right. Backups of earlier releases are the
    dump itself, without a checksum."""
    if not is_zipfile(file):
        yield file
        return
    with tempfile.TemporaryDirectory() as folder, ZipFile(file) as whole:
        taken = Path(folder, DUMP)
        try:
            manifest = json.loads(whole.read(MANIFEST))
            with whole.open(DUMP) as packed, taken.open("wb") as out:
                copyfileobj(packed, out)
            with taken.open("rb") as raw:
                right = file_digest(raw, "sha256").hexdigest() == manifest["sha256"]
        except (BadZipFile, LookupError, TypeError, ValueError) as error:
            raise CommandError(f"{file} is no backup of Oil Ward, or is damaged.") from error
        if manifest.get("format") != FORMAT or not right:
            raise CommandError(f"{file} is damaged: its checksum is not right. Take another one.")
        yield taken


def _read_through(dumped: Path) -> None:
    """Refuse a dump that would do more than put tables back."""
    for line in _tool("pg_restore", None, "--list", dumped).splitlines():
        if line and not line.startswith(";") and not _LISTED.match(line):
            what = line.partition("; ")[2]
            raise CommandError(f"That file would do more than put a workshop back: {what}")


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


def _forget_restorer(server: Connection) -> None:
    server.execute(SQL("DROP ROLE IF EXISTS {}").format(Identifier(RESTORER)))


@contextmanager
def _empty(database: Database, server: Connection, name: str) -> Iterator[Database]:
    """An empty database, of a role that owns nothing else; gone again if what is done with it fails,
    else in the hands of the owner role."""
    _drop(server, name)
    _forget_restorer(server)
    password, role, fresh = secrets.token_urlsafe(24), Identifier(RESTORER), Identifier(name)
    server.execute(SQL("CREATE ROLE {} LOGIN PASSWORD {}").format(role, Literal(password)))
    try:
        server.execute(SQL("CREATE DATABASE {} OWNER {}").format(fresh, role))
        yield {**database, "NAME": name, "USER": RESTORER, "PASSWORD": password}
        owner = Identifier(settings.OWNER_ROLE)
        with _open(database, name) as inside:
            inside.execute(SQL("REASSIGN OWNED BY {} TO {}").format(role, owner))
    except BaseException:
        _drop(server, name)
        raise
    finally:
        _forget_restorer(server)


def _poured(empty: Database, dumped: Path) -> None:
    """A dump into an empty database, whole or not at all."""
    words = ["--no-owner", "--no-acl", "--exit-on-error", "--single-transaction"]
    _tool("pg_restore", empty, *words, f"--dbname={empty['NAME']}", dumped)
    _known(empty, empty["NAME"])


def _promised(file: Path) -> dict[str, int]:
    """The rows a backup says it holds; backups of earlier releases do not say."""
    if not is_zipfile(file):
        return {}
    with ZipFile(file) as whole:
        told = json.loads(whole.read(MANIFEST)).get("rows", {})
    return {str(table): int(count) for table, count in told.items()}


_OTHER = "{file} is not whole: {table} has {found} rows, and had {promised}."


def prove(database: Database, file: Path) -> dict[str, int]:
    """Put a backup into a database that is thrown away; the rows found there, by table.

    Raises CommandError for a file that is damaged, no backup, too new, or holds other than it promises.
    """
    name = f"{database['NAME']}_drill"
    if not file.is_file():
        raise CommandError(f"There is no file {file}.")
    with _dump_of(file) as dumped, _open(database, "postgres") as server:
        _read_through(dumped)
        try:
            with _empty(database, server, name) as empty:
                _poured(empty, dumped)
                with _open(empty, name) as inside:
                    found = _rows(inside)
        finally:
            _drop(server, name)
    for table, promised in _promised(file).items():
        has = found.get(table, 0)
        if has != promised:
            raise CommandError(_OTHER.format(file=file, table=table, found=has, promised=promised))
    return found


def put_back(database: Database, file: Path) -> str:
    """Put a backup in the place of a database; the name under which the one before is kept.

    Raises CommandError, with nothing changed, for a file that is damaged, no backup or too new, and
    while somebody works on the database.
    """
    name = database["NAME"]
    fresh, before = f"{name}_restoring", f"{name}_before"
    if not file.is_file():
        raise CommandError(f"There is no file {file}.")
    with _dump_of(file) as dumped, _open(database, "postgres") as server:
        _read_through(dumped)
        if _in_use(server, name):
            raise CommandError("Oil Ward is at work on this database. Stop it, then restore.")
        with _empty(database, server, fresh) as empty:
            _poured(empty, dumped)
        _drop(server, before)
        if _exists(server, name):
            _rename(server, name, before)
        _rename(server, fresh, name)
    return before

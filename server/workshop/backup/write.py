"""A workshop into a file."""

import json
from hashlib import sha256
from pathlib import Path
from typing import Any
from zipfile import ZIP_DEFLATED, ZipFile, ZipInfo

from django.core.management.base import CommandError
from django.utils import timezone
from psycopg import Connection

from .wire import Columns, Database, copying, opened, tables

FORMAT = "oilward-backup/2"
MANIFEST = "manifest.json"
_APPLIED = "SELECT app, name FROM public.django_migrations ORDER BY id"


def rows_of(name: str) -> str:
    """Where in a backup the rows of a table are."""
    return f"rows/{name}"


def _rows(whole: ZipFile, connection: Connection, name: str, columns: Columns) -> dict[str, Any]:
    """The rows of a table into a backup; what the manifest says of them."""
    checksum, rows = sha256(), 0
    entry = ZipInfo(rows_of(name))
    entry.compress_type = ZIP_DEFLATED
    out = connection.cursor()
    with (
        whole.open(entry, "w", force_zip64=True) as part,
        out.copy(copying(name, columns, "TO STDOUT")) as copy,
    ):
        for piece in copy:
            part.write(piece)
            checksum.update(piece)
            rows += bytes(piece).count(b"\n")
    return {"columns": list(columns), "rows": rows, "sha256": checksum.hexdigest()}


def _everything(database: Database, whole: ZipFile) -> None:
    """One moment of a database at work."""
    with opened(database) as connection:
        connection.execute("BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY")
        applied = connection.execute(_APPLIED).fetchall()
        manifest = {
            "format": FORMAT,
            "made_at": timezone.now().isoformat(),
            "migrations": [list(one) for one in applied],
            "tables": {
                name: _rows(whole, connection, name, columns)
                for name, columns in tables(connection).items()
            },
        }
    whole.writestr(MANIFEST, json.dumps(manifest, indent=1))


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
        with ZipFile(part, "w", ZIP_DEFLATED, compresslevel=1) as whole:
            _everything(database, whole)
        part.rename(file)
    except OSError as error:
        raise CommandError(f"{file} cannot be written: {error.strerror}.") from error
    finally:
        part.unlink(missing_ok=True)

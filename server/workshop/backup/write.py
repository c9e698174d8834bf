"""A workshop into a file."""

import json
from hashlib import sha256
from pathlib import Path
from typing import Any
from zipfile import ZIP_DEFLATED, ZipFile, ZipInfo

from django.core.management.base import CommandError
from django.utils import timezone
from psycopg import Connection

from .pictures import Beside, put_beside
from .wire import PICTURES, Columns, Database, copying, hashed, opened, tables

FORMAT, BESIDE_FORMAT = "oilward-backup/2", "oilward-backup/3"  # the pictures in it, or beside it
MANIFEST = "manifest.json"
_APPLIED = "SELECT app, name FROM public.django_migrations ORDER BY id"


def rows_of(name: str) -> str:
    """Where in a backup the rows of a table are."""
    return f"rows/{name}"


def _rows(
    whole: ZipFile, connection: Connection, name: str, columns: Columns, beside: bool
) -> dict[str, Any]:
    """The rows of a table into a backup; what the manifest says of them."""
    column = PICTURES.get(name, "") if beside else ""
    words = hashed(name, columns, column) if column else copying(name, columns, "TO STDOUT")
    checksum, rows = sha256(), 0
    entry = ZipInfo(rows_of(name))
    entry.compress_type = ZIP_DEFLATED
    out = connection.cursor()
    with (
        whole.open(entry, "w", force_zip64=True) as part,
        out.copy(words) as copy,
    ):
        for piece in copy:
            part.write(piece)
            checksum.update(piece)
            rows += bytes(piece).count(b"\n")
    told = {"columns": list(columns), "rows": rows, "sha256": checksum.hexdigest()}
    return {**told, "beside": column} if column else told


def _everything(database: Database, whole: ZipFile, beside: Beside | None) -> None:
    """One moment of a database at work."""
    with opened(database) as connection:
        connection.execute("BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY")
        applied = connection.execute(_APPLIED).fetchall()
        manifest = {
            "format": BESIDE_FORMAT if beside else FORMAT,
            "made_at": timezone.now().isoformat(),
            "migrations": [list(one) for one in applied],
            "tables": {
                name: _rows(whole, connection, name, columns, beside is not None)
                for name, columns in tables(connection).items()
            },
        }
        if beside:
            manifest["pictures"] = put_beside(connection, beside)
    whole.writestr(MANIFEST, json.dumps(manifest, indent=1))


def dump(database: Database, file: Path, beside: Beside | None = None) -> None:
    """Write everything into a new file, readable for its owner alone; the pictures ``beside`` it, where
    that is told. A database at work may be dumped: the file shows one moment of it.

    Raises CommandError where the file is there already, or cannot be written.
    """
    if file.exists():
        raise CommandError(f"{file} is there already. Name another file.")
    part = file.with_name(f"{file.name}.part")
    try:
        part.touch(mode=0o600)
        with ZipFile(part, "w", ZIP_DEFLATED, compresslevel=1) as whole:
            _everything(database, whole, beside)
        part.rename(file)
    except OSError as error:
        raise CommandError(f"{file} cannot be written: {error.strerror}.") from error
    finally:
        part.unlink(missing_ok=True)

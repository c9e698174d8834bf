"""Pictures beside the backups: named by what is in them, each once for all backups it belongs to."""

from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path

from django.core.management.base import CommandError
from psycopg import Connection
from psycopg.sql import SQL, Identifier

from .wire import PICTURES, Columns, table

_MARK = b"\\\\x"  # how COPY begins what is no text
_GONE = "{name} belongs to this backup and is not beside it, or is damaged."


@dataclass(frozen=True, kw_only=True)
class Beside:
    """Where pictures are kept for all backups, and where those go that are not there yet."""

    kept: Path
    fresh: Path

    def has(self, name: str) -> bool:
        return any(self.kept.glob(f"{name[:2]}/{name}*"))


def put_beside(connection: Connection, beside: Beside) -> list[str]:
    """Write down the pictures that are not kept yet; the names of all of them."""
    names = set[str]()
    beside.fresh.mkdir(mode=0o700, parents=True, exist_ok=True)
    for name, column in PICTURES.items():
        found = SQL("SELECT id, pg_catalog.encode(pg_catalog.sha256({}), 'hex') FROM {}")
        one = SQL("SELECT {} FROM {} WHERE id OPERATOR(pg_catalog.=) %s")
        words = Identifier(column), table(name)
        for pk, digest in connection.execute(found.format(*words)).fetchall():
            names.add(digest)
            if not beside.has(digest) and not (beside.fresh / digest).exists():
                row = connection.execute(one.format(*words), [pk]).fetchone()
                (beside.fresh / digest).write_bytes(row[0] if row else b"")
    return sorted(names)


def with_pictures(
    lines: Iterator[bytes], columns: Columns, column: str, kept: Path | None
) -> Iterator[bytes]:
    """Rows as they were before their pictures were put beside. Raises CommandError for one that is not
    there, or is another."""
    at = columns.index(column)
    for line in lines:
        fields = line.rstrip(b"\n").split(b"\t")
        if len(fields) == len(columns):
            fields[at] = _MARK + _picture(fields[at], kept).hex().encode()
        yield b"\t".join(fields) + b"\n"


def _picture(field: bytes, kept: Path | None) -> bytes:
    name, raw = field.removeprefix(_MARK).decode("ascii", "replace"), b""
    if kept and len(name) == 64 and name.isalnum():
        with suppress(OSError):
            raw = (kept / name).read_bytes()
    if sha256(raw).hexdigest() != name:
        raise CommandError(_GONE.format(name=name[:80]))
    return raw

"""What a backup holds, of either format: rows and the names of migrations. What else is in it is not
looked at, and what would be more than rows is refused."""

import json
import re
import subprocess
import tempfile
from collections.abc import Iterator, Mapping
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass, replace
from hashlib import file_digest, sha256
from pathlib import Path
from shutil import copyfileobj
from typing import IO, Any
from zipfile import BadZipFile, ZipFile, is_zipfile
from zlib import error as zlib_error

from django.core.management.base import CommandError

from .wire import PICTURES, Columns, left_out
from .write import BESIDE_FORMAT, FORMAT, MANIFEST, rows_of

FIRST_FORMAT, DUMP = "oilward-backup/1", "workshop.dump"
MIGRATIONS, PIECE = "django_migrations", 1 << 20
_NAME = r'"?([a-z_][a-z0-9_]*)"?'
_BEGINS = re.compile(rf"COPY public\.{_NAME} \((.*)\) FROM stdin;\n")
# what PostgreSQL's own tool says between the rows; none of it is run, what does not belong is refused
_BETWEEN = re.compile(
    r"(--.*|SET [a-z_]+ = ('[A-Za-z0-9]*'|[a-z]+|0);|\\(un)?restrict [A-Za-z0-9]+"
    r"|SELECT pg_catalog\.set_config\('search_path', '', false\);"
    r"|SELECT pg_catalog\.setval\('public\.[a-z0-9_]+', \d+, (true|false)\);)?\n"
)
_DAMAGED = "{file} is damaged: its checksum is not right. Take another one."
_MORE = "That file would do more than put a workshop back: {what}"
_NONE = "There is no workshop in that file."
Migrations = set[tuple[str, str]]
# in how many ways an archive can be broken
_BROKEN = (
    *(BadZipFile, LookupError, OSError, EOFError, ValueError, RuntimeError, NotImplementedError),
    zlib_error,
)


@dataclass(frozen=True, kw_only=True)
class Rows:
    """The rows of one table: where they lie, in the text form of PostgreSQL's COPY, and what the backup
    promises of them, if it does. What was in the column ``beside`` lies beside the backup."""

    columns: Columns
    at: Path
    promised: int | None
    beside: str = ""


@dataclass(frozen=True, kw_only=True)
class Backup:
    """Which migrations its tables were made by, and their rows; where the pictures beside it are."""

    migrations: Migrations
    tables: Mapping[str, Rows]
    pictures: Path | None = None


@contextmanager
def read(file: Path, pictures: Path | None = None) -> Iterator[Backup]:
    """What a file holds, unpacked for as long as it is looked at, and ``pictures`` beside it.

    Raises CommandError for a file that is not there, damaged, or holds something else.
    """
    if not file.is_file():
        raise CommandError(f"There is no file {file}.")
    with tempfile.TemporaryDirectory() as name, ExitStack() as stack:
        folder, manifest = Path(name), dict[str, Any]()
        dumped = file
        if is_zipfile(file):
            try:
                whole = stack.enter_context(ZipFile(file))
            except _BROKEN as error:
                raise CommandError(_DAMAGED.format(file=file)) from error
            manifest = _manifest(whole, file)
            if manifest.get("format") in (FORMAT, BESIDE_FORMAT):
                yield replace(_second(whole, manifest, folder, file), pictures=pictures)
                return
            dumped = _first(whole, manifest, folder, file)
        promised = manifest.get("rows")
        yield _of_a_dump(dumped, promised if isinstance(promised, dict) else {}, folder)


def _manifest(whole: ZipFile, file: Path) -> dict[str, Any]:
    try:
        told = json.loads(whole.read(MANIFEST))
    except _BROKEN as error:
        raise CommandError(f"{file} is no backup of Oil Ward, or is damaged.") from error
    if not isinstance(told, dict) or told.get("format") not in (
        FORMAT,
        BESIDE_FORMAT,
        FIRST_FORMAT,
    ):
        raise CommandError(f"{file} is no backup of Oil Ward, or is of a newer one.")
    return told


def _pairs(told: Any) -> Migrations:
    if not isinstance(told, list) or not told:
        raise CommandError(_NONE)
    pairs = set()
    for one in told:
        if not isinstance(one, list) or [type(word) for word in one] != [str, str]:
            raise CommandError(_NONE)
        pairs.add((one[0], one[1]))
    return pairs


def _second(whole: ZipFile, manifest: dict[str, Any], folder: Path, file: Path) -> Backup:
    tables, told = dict[str, Rows](), manifest.get("tables")
    for name, of in (told if isinstance(told, dict) else {}).items():
        if not re.fullmatch(_NAME, name) or not isinstance(of, dict) or left_out(name):
            raise CommandError(_MORE.format(what=name[:80]))
        at, checksum = folder / f"{len(tables)}", sha256()
        try:
            with whole.open(rows_of(name)) as packed, at.open("wb") as out:
                while piece := packed.read(PIECE):
                    checksum.update(piece)
                    out.write(piece)
        except _BROKEN as error:
            raise CommandError(_DAMAGED.format(file=file)) from error
        if checksum.hexdigest() != of.get("sha256"):
            raise CommandError(_DAMAGED.format(file=file))
        columns, rows = of.get("columns"), of.get("rows")
        if not isinstance(columns, list) or not all(isinstance(one, str) for one in columns):
            raise CommandError(_MORE.format(what=name))
        promised, beside = rows if isinstance(rows, int) else None, of.get("beside", "")
        if beside and (PICTURES.get(name) != beside or beside not in columns):
            raise CommandError(_MORE.format(what=name))
        tables[name] = Rows(columns=tuple(columns), at=at, promised=promised, beside=beside)
    return Backup(migrations=_pairs(manifest.get("migrations")), tables=tables)


def _first(whole: ZipFile, manifest: dict[str, Any], folder: Path, file: Path) -> Path:
    """The dump in a backup of the first format, once its checksum is right."""
    dumped = folder / DUMP
    try:
        with whole.open(DUMP) as packed, dumped.open("wb") as out:
            copyfileobj(packed, out)
        with dumped.open("rb") as raw:
            right = file_digest(raw, "sha256").hexdigest() == manifest.get("sha256")
    except _BROKEN as error:
        raise CommandError(_DAMAGED.format(file=file)) from error
    if not right:
        raise CommandError(_DAMAGED.format(file=file))
    return dumped


def _of_a_dump(dumped: Path, promised: dict[str, Any], folder: Path) -> Backup:
    """The rows in a dump of PostgreSQL's, as its own tool writes them down; none of it is run."""
    words = ["pg_restore", "--data-only", "--no-owner", "--no-acl", "--file=-", str(dumped)]
    with (
        tempfile.TemporaryFile() as said,
        subprocess.Popen(words, stdout=subprocess.PIPE, stderr=said) as tool,
    ):
        assert tool.stdout is not None
        try:
            tables = _parted(tool.stdout, promised, folder)
        except CommandError:
            tool.kill()
            raise
        if tool.wait():
            said.seek(0)
            why = said.read().decode(errors="replace").strip()[:500]
            raise CommandError(f"pg_restore stopped: {why}")
    return Backup(
        migrations=_applied(tables), tables={n: t for n, t in tables.items() if not left_out(n)}
    )


def _parted(lines: IO[bytes], promised: dict[str, Any], folder: Path) -> dict[str, Rows]:
    """Each table's rows in a file of their own."""
    tables = dict[str, Rows]()
    for raw in lines:
        line = raw.decode(errors="replace")
        begins = _BEGINS.fullmatch(line)
        if not begins:
            if not _BETWEEN.fullmatch(line):
                raise CommandError(_MORE.format(what=line.strip()[:80]))
            continue
        name, at = begins[1], folder / f"{len(tables)}"
        columns = tuple(word.strip('"') for word in begins[2].split(", "))
        with at.open("wb") as out:
            for row in lines:
                if row == b"\\.\n":
                    break
                out.write(row)
        rows = promised.get(name)
        if name in tables:
            raise CommandError(_MORE.format(what=f"{name} twice"))
        tables[name] = Rows(
            columns=columns, at=at, promised=rows if isinstance(rows, int) else None
        )
    return tables


def _applied(tables: Mapping[str, Rows]) -> Migrations:
    found = tables.get(MIGRATIONS)
    if found is None or not {"app", "name"} <= set(found.columns):
        raise CommandError(_NONE)
    app, name = found.columns.index("app"), found.columns.index("name")
    rows = (line.split("\t") for line in found.at.read_text(errors="replace").splitlines())
    pairs = {(row[app], row[name]) for row in rows if len(row) == len(found.columns)}
    if not pairs:
        raise CommandError(_NONE)
    return pairs

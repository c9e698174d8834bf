"""A pasted table as cells: which column says what, and what each row means."""

import csv
import io
import re
from collections.abc import Sequence
from dataclasses import dataclass

from ..codes.roles import Role
from ..errors import CoreError
from ..guard import Sound
from .fields import PART_FIELDS, RESERVOIR_FIELDS, field_of
from .form import Path
from .kinds import ReservoirKind
from .read import read_value

# what a column can mean; a part's own field names can stand over a column as well
COLUMNS = ("reservoir", "part", "field", "written", "document", "page")
IGNORED = ""
_HEADS = {
    "reservoir": ("reservoir", "where it holds", "case", "unit of bike"),
    "part": ("part", "fastener", "plug", "screw", "item", "component"),
    "field": ("field", "what", "value of", "property"),
    "written": ("written", "value", "as written", "amount", "specification", "spec"),
    "document": ("document", "source", "manual"),
    "page": ("page", "p.", "pg"),
}
MOST_ROWS = 500


@dataclass(frozen=True, kw_only=True)
class Proposed(Sound):
    """A value a row of the table would write, or ``fault`` (a core error) in its stead."""

    line: int
    path: Path | None
    written: str
    document: str
    page: str
    fault: CoreError | None = None


def _plain(text: str) -> str:
    return re.sub(r"[^a-z0-9]+", " ", text.lower()).strip()


_FIELD_BY_WORDS = {
    _plain(word): field.name for field in RESERVOIR_FIELDS for word in (field.name, field.label)
}
_PART_BY_WORDS = {
    _plain(word): field.name for field in PART_FIELDS for word in (field.name, field.label)
}


def read_table(text: str) -> list[list[str]]:
    """Rows of a pasted table, tab or comma (or semicolon) separated, blank ones left out.

    Raises CoreError ``table.empty``, ``table.long``.
    """
    lines = [line for line in text.splitlines() if line.strip()]
    if not lines:
        raise CoreError("table.empty", field="table")
    if len(lines) > MOST_ROWS:
        raise CoreError("table.long", field="table", most=MOST_ROWS)
    mark = next((m for m in "\t;" if m in lines[0]), ",")
    rows = csv.reader(io.StringIO("\n".join(lines)), delimiter=mark)
    return [[cell.strip() for cell in row] for row in rows]


def guess_columns(rows: Sequence[Sequence[str]]) -> list[str]:
    """What each column means, by the words of the first row; unknown ones are left out."""
    guessed: list[str] = []
    for head in rows[0] if rows else ():
        word = _plain(head)
        known = next((name for name, words in _HEADS.items() if word in map(_plain, words)), None)
        found = known or _PART_BY_WORDS.get(word, IGNORED)
        guessed.append(IGNORED if found in guessed else found)
    return guessed


def _field_name(words: str, part: str) -> str:
    names = _PART_BY_WORDS if part else _FIELD_BY_WORDS
    found = names.get(_plain(words))
    if found is None:
        raise CoreError("table.field", text=words)
    return found


def _reservoir_key(words: str, known: Sequence[str], fallback: str) -> str:
    plain = _plain(words)
    for key in (*known, *(kind.value for kind in ReservoirKind)):
        if plain and _plain(key) == plain:
            return key
    if plain or not fallback:
        raise CoreError("table.reservoir", text=words)
    return fallback


def _row(line: int, said: dict[str, str], known: Sequence[str], fallback: str) -> list[Proposed]:
    document, page = said.get("document", ""), said.get("page", "")
    wide = {name: said[name] for name in _PART_BY_WORDS.values() if said.get(name)}
    try:
        key = _reservoir_key(said.get("reservoir", ""), known, fallback)
        part = said.get("part", "").lower().replace("/", " ")
        pairs = list(wide.items()) if part else []
        if said.get("field") and said.get("written"):
            pairs.append((_field_name(said["field"], part), said["written"]))
        if not pairs:
            raise CoreError("table.nothing")
    except CoreError as error:
        return [
            Proposed(
                line=line,
                path=None,
                written=said.get("written", ""),
                document=document,
                page=page,
                fault=error,
            )
        ]
    if part and part in tuple(Role) and "role" not in wide:
        pairs.insert(0, ("role", part))
    return [_proposed(line, Path(key, part, name), text, document, page) for name, text in pairs]


def _proposed(line: int, path: Path, text: str, document: str, page: str) -> Proposed:
    try:
        read_value(field_of(path), text)
    except CoreError as error:
        return Proposed(
            line=line, path=path, written=text, document=document, page=page, fault=error
        )
    return Proposed(line=line, path=path, written=text, document=document, page=page)


def propose(
    rows: Sequence[Sequence[str]],
    columns: Sequence[str],
    known: Sequence[str],
    fallback: str = "",
    heading: bool = True,
) -> list[Proposed]:
    """The cells a table would write. ``known`` are the sheet's reservoir keys, ``fallback`` the
    reservoir of rows that name none; with ``heading`` the first row is left out."""
    found: list[Proposed] = []
    for line, row in enumerate(rows, start=1):
        if line == 1 and heading:
            continue
        said = {name: cell for name, cell in zip(columns, row, strict=False) if name}
        found += _row(line, said, known, fallback)
    return found

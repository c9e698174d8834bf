"""What differs between two versions of a sheet, as sentences."""

from dataclasses import dataclass

from .cells import Cell, Cells, by_reservoir
from .fields import Form, Path, field_of


@dataclass(frozen=True)
class Change:
    """One difference: where it stands, and a sentence."""

    path: Path
    text: str


def what(path: Path) -> str:
    """A path in words: ``engine, drain plug, torque``."""
    label = field_of(path).label
    label = label[:1].lower() + label[1:]  # units keep their capitals: 40 °C
    return ", ".join(word for word in (path.reservoir, path.part, label) if word)


def sentence_case(text: str) -> str:
    """The first letter large, the rest as it stands: ``Viscosity at 40 °C``."""
    return text[:1].upper() + text[1:]


def _from(cell: Cell) -> str:
    return f" ({cell.source})" if cell.source else ""


def _changed(path: Path, old: Cell | None, new: Cell | None) -> str:
    name = sentence_case(what(path))
    if old is None and new is not None:
        return f"{name}: now {new.written}{_from(new)}, was missing."
    if new is None and old is not None:
        return f"{name}: {old.written} taken out."
    assert old is not None and new is not None
    if old.written == new.written:
        return f"{name}: still {new.written}, now from {new.source or 'no source'}."
    return f"{name}: was {old.written}, now {new.written}{_from(new)}."


def _moved(path: Path, old: Cell | None, new: Cell | None) -> str:
    verb = "placed" if old is None else "taken off" if new is None else "moved"
    return f"{path.reservoir.capitalize()}, {path.part}: {verb} on the map."


def _said(cell: Cell | None) -> tuple[str, str, str] | None:
    return (cell.written, cell.document, cell.page) if cell else None


def changes(old: Cells, new: Cells) -> tuple[Change, ...]:
    """Every difference from ``old`` to ``new``, reservoir by reservoir. A reservoir or part that
    is new or gone as a whole is said once."""
    before, after = by_reservoir(old), by_reservoir(new)
    found: list[Change] = []
    for key in [*before, *(k for k in after if k not in before)]:
        mine, theirs = before.get(key, {}), after.get(key, {})
        if not mine or not theirs:
            verb = "added" if theirs else "taken out"
            count = len(theirs or mine)
            text = f"{key.capitalize()}: {verb}, with {count} values."
            found.append(Change(Path(key, "", "kind"), text))
            continue
        for path in [*mine, *(p for p in theirs if p not in mine)]:
            one, other = mine.get(path), theirs.get(path)
            if _said(one) == _said(other):
                continue
            say = _moved if field_of(path).form == Form.SPOT else _changed
            found.append(Change(path, say(path, one, other)))
    return tuple(found)

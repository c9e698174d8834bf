"""What differs between two versions of a sheet, as sentences."""

from dataclasses import dataclass

from ..said import sheet as say
from .cells import Cell, Cells, by_reservoir
from .fields import field_of
from .form import Form, Path


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


def _changed(path: Path, old: Cell | None, new: Cell | None) -> str:
    name = sentence_case(what(path))
    if old is None and new is not None:
        return say.was_missing(name, new.written, new.source)
    if new is None and old is not None:
        return say.gone(name, old.written)
    assert old is not None and new is not None
    if old.written == new.written:
        return say.other_source(name, new.written, new.source)
    return say.other_value(name, old.written, new.written, new.source)


def _moved(path: Path, old: Cell | None, new: Cell | None) -> str:
    verb = say.PLACED if old is None else say.TAKEN_OFF if new is None else say.MOVED
    return say.on_the_map(path.reservoir.capitalize(), path.part, verb)


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
            verb = say.ADDED if theirs else say.TAKEN_OUT
            text = say.whole_reservoir(key.capitalize(), verb, len(theirs or mine))
            found.append(Change(Path(key, "", "kind"), text))
            continue
        for path in [*mine, *(p for p in theirs if p not in mine)]:
            one, other = mine.get(path), theirs.get(path)
            if _said(one) == _said(other):
                continue
            words = _moved if field_of(path).form == Form.SPOT else _changed
            found.append(Change(path, words(path, one, other)))
    return tuple(found)

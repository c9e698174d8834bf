"""What a closed visit answered: kept as a document when it is closed, read back and never folded anew."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import Decimal, InvalidOperation
from typing import Any

from cattrs import BaseValidationError
from cattrs.preconf.json import make_converter

from ..errors import CoreError
from ..guard import Sound
from ..spec import Path
from .entries import Entry, in_order
from .fold import Bench, Counted, Sheet, counted
from .steps import TaskPlan

FORMAT = "oilward-closing/1"

_converter = make_converter(detailed_validation=False)
_converter.register_unstructure_hook(Decimal, str)
_converter.register_structure_hook(Decimal, lambda text, _: Decimal(text))
_converter.register_unstructure_hook(Path, str)
_converter.register_structure_hook(Path, lambda text, _: Path.of(text))


@dataclass(frozen=True)
class Closing(Sound):
    """A run sheet as it stood, with all it stands on: the plan, the fluid's name, its bottle in ml
    and what the bike had run, km. ``not_learned`` says why what it took is not to be learned from,
    if so."""

    plan: TaskPlan
    sheet: Sheet
    fluid: str
    bottle_ml: Decimal | None
    km: Decimal
    not_learned: str = ""


def keep(closing: Closing) -> dict[str, Any]:
    """A closing as a JSON document; `kept` is its way back."""
    return {"format": FORMAT, **_converter.unstructure(closing)}


def kept(document: Mapping[str, Any]) -> Closing:
    """The closing a document holds, without folding anything. Raises CoreError ``closing.unreadable``
    for what `keep` did not write."""
    if document.get("format") != FORMAT:
        raise CoreError("closing.unreadable", format=str(document.get("format")))
    try:
        return _converter.structure(dict(document), Closing)
    except CoreError:
        raise
    except (
        BaseValidationError,
        AttributeError,
        InvalidOperation,
        LookupError,
        TypeError,
        ValueError,
    ) as error:
        raise CoreError("closing.unreadable", format=FORMAT) from error


_DISAGREED = "Gauge and book disagreed: {}."
_CHANGED = (
    "A level corrected later changed what was poured at {}: {} ml when written, {} ml in the sum."
)
_GONE = "A level corrected later left what was poured at {} out of the sum."
_NOW_VALID = "The level at {} was not to be used when it was read; corrected later, it counted."


def _poured_changed(entry: Entry, then: Counted, now: Counted) -> str:
    before, after = then.poured.get(entry.id), now.poured.get(entry.id)
    if before == after or before is None:
        return ""
    name = entry.step.rpartition("/")[2]
    return _GONE.format(name) if after is None else _CHANGED.format(name, before, after)


def why_not_learned(task: TaskPlan, entries: Iterable[Entry], bench: Bench) -> str:
    """Why what a visit took is not to be learned from; empty if it is.

    Gauge and book must not have disagreed. Each pour and each corrected reading is held against
    what it counted for when it was written: a later correction must not have changed its meaning.
    Raises as `fold` does.
    """
    listed = sorted({entry.id: entry for entry in entries}.values(), key=lambda e: (e.at, e.id))
    now, standing = counted(task, listed, bench), {entry.id for entry in in_order(listed)}
    for number, entry in enumerate(listed):
        if entry.id not in standing:
            continue
        if entry.kind == "cause":
            return _DISAGREED.format(entry.data["cause"])
        if entry.kind == "pour":
            then = counted(task, listed[: number + 1], bench)
            if changed := _poured_changed(entry, then, now):
                return changed
        corrected = entry.kind == "level" and entry.supersedes and entry.id not in now.unused
        if corrected and entry.supersedes in counted(task, listed[:number], bench).unused:
            return _NOW_VALID.format(entry.step.rpartition("/")[2])
    return ""

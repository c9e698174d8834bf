"""Two people for every number that matters: who wrote it, and who compared it with the manual or answers
for it by name."""

from collections.abc import Collection
from dataclasses import replace
from datetime import date
from decimal import Decimal

from ..errors import CoreError, Question
from ..guard import guarded
from ..torque import TorqueSpec
from .cells import Cell, Cells
from .fields import field_of
from .form import Path, Value
from .read import read_value

_NUMBERS = (
    "torque", "initial", "prefill", "level.between", "level.target", "level.second between",
    "level.air gap",
)  # fmt: skip


def matters(path: Path) -> bool:
    """Whether work goes wrong by this number: a capacity, a torque, a level."""
    return path.field.startswith("capacity.") or path.field in _NUMBERS


def unchecked_that_matter(cells: Cells) -> tuple[Path, ...]:
    """The numbers that matter and that no second person has checked, in the sheet's order."""
    return tuple(path for path, cell in cells.items() if matters(path) and not cell.checked_by)


def sourced(cell: Cell) -> bool:
    """Whether a value names its document and the page, so that anybody can look it up again."""
    return bool(cell.document.strip() and cell.page.strip())


def counts(path: Path, cell: Cell) -> bool:
    """Whether a bike's own value counts already: one that work goes wrong by waits for a second person,
    like a sheet's."""
    return not matters(path) or bool(cell.checked_by)


@guarded
def hold_against_sheet(path: Path, own: str, sheets: str, sure: str) -> None:
    """Hold a bike's own number against its sheet's: more than half as much again, or less than two
    thirds, wants another look [our definition]. ``sure``, the answer to an earlier question, lets it
    stand. Raises the question ``spec.far_from_sheet``, and CoreError as `read_value` does."""
    if not matters(path) or sure == own:
        return
    field = field_of(path)
    mine, theirs = _middle(read_value(field, own)), _middle(read_value(field, sheets))
    if mine and theirs and not theirs / _FAR <= mine <= theirs * _FAR:
        raise Question("spec.far_from_sheet", said=own, sheet=sheets, options=[own], sure=own)


@guarded
def same_value(path: Path, one: str, other: str) -> bool:
    """Whether two cells say the same, in whatever words and units. Raises CoreError as `read_value`
    does."""
    field = field_of(path)
    values = read_value(field, one), read_value(field, other)
    mine, theirs = (_worth(value) for value in values)
    return mine == theirs


def _worth(value: Value) -> object:
    """What a value comes to, without the words and the unit it was written in; to a hundredth, since
    what is converted comes out a hair beside."""
    if isinstance(value, TorqueSpec):
        low, high = (None if end is None else round(end, 2) for end in (value.low, value.high))
        return value.by_wrench, low, high, value.then, value.back
    if isinstance(value, tuple):
        return tuple(round(end, 2) for end in value)
    return round(value, 2) if isinstance(value, Decimal) else value


_FAR = Decimal("1.5")


def _middle(value: Value) -> Decimal:
    """The middle of what a cell says, as far as it is a number; else nought."""
    if isinstance(value, TorqueSpec):
        low, high = value.low, value.high
        return (low + high) / 2 if low is not None and high is not None else Decimal(0)
    if isinstance(value, tuple):
        return (value[0] + value[1]) / 2
    return value if isinstance(value, Decimal) else Decimal(0)


@guarded
def check_approval(
    cells: Cells, named: Collection[str], approver: str, alone: bool = False
) -> tuple[Path, ...]:
    """The unchecked numbers that matter, once the ``approver`` (the person, whatever they are called) has
    ``named`` each of them (`str` of their paths) and wrote none of them; ``alone``, nobody else being
    there to check, what they wrote has to name its document and page.

    Raises CoreError ``spec.own_numbers``, ``spec.own_unsourced`` and ``spec.unchecked_left``, with
    ``paths`` and ``count``.
    """
    left = unchecked_that_matter(cells)
    own = [path for path in left if cells[path].entered_by_who == approver]
    own = [path for path in own if not (alone and sourced(cells[path]))]
    if own:
        code = "spec.own_unsourced" if alone else "spec.own_numbers"
        raise CoreError(code, count=len(own), paths=tuple(own))
    unnamed = [path for path in left if str(path) not in named]
    if unnamed:
        raise CoreError("spec.unchecked_left", count=len(unnamed), paths=tuple(unnamed))
    return left


def in_writing(cells: Cells) -> dict[Path, Cell]:
    """Cells as a document has them: it knows names alone."""
    return {
        path: replace(cell, entered_by_who="", checked_by_who="") for path, cell in cells.items()
    }


def taken_in(
    found: Cells, ours: Cells, by: str, who: str, on: date, trusted: bool = False
) -> dict[Path, Cell]:
    """The cells of a document as they are taken in: the person ``who``, called ``by``, brings them,
    unchecked. What stands here already with the same words and source keeps its names; a ``trusted``
    document keeps its own."""
    taken = {}
    for path, cell in found.items():
        stands = ours.get(path)
        same = stands and (stands.written, stands.document, stands.page) == (
            cell.written,
            cell.document,
            cell.page,
        )
        if trusted and cell.entered_by and cell.entered_on:
            taken[path] = cell
        elif stands and same:
            taken[path] = stands
        else:
            taken[path] = Cell(
                written=cell.written,
                document=cell.document,
                page=cell.page,
                entered_by=by,
                entered_on=on,
                entered_by_who=who,
            )
    return taken

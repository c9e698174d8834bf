"""Two people for every number that matters: who wrote it, and who compared it with the manual or answers
for it by name."""

from collections.abc import Collection
from dataclasses import replace
from datetime import date

from ..errors import CoreError
from ..guard import guarded
from .cells import Cell, Cells
from .fields import Path

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


@guarded
def check_approval(cells: Cells, named: Collection[str], approver: str) -> tuple[Path, ...]:
    """The unchecked numbers that matter, once the ``approver`` (the person, whatever they are called) has
    ``named`` each of them (`str` of their paths) and wrote none of them.

    Raises CoreError ``spec.own_numbers`` and ``spec.unchecked_left``, with ``paths`` and ``count``.
    """
    left = unchecked_that_matter(cells)
    own = [path for path in left if cells[path].entered_by_who == approver]
    if own:
        raise CoreError("spec.own_numbers", count=len(own), paths=tuple(own))
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

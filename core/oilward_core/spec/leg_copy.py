"""What one fork leg's sheet lends the other: all it lacks that the two have alike."""

from collections.abc import Mapping
from dataclasses import replace

from ..codes.roles import PINCHED_LAST, WHEEL_HELD_BY
from ..errors import CoreError
from ..guard import guarded
from .cells import Cell, Cells, reservoir_of
from .form import Path
from .kinds import Recipe

_OWN = ("kind", "label", "leg.function")
# of its side
_WHERE = ("place", "spot")
# where the two do not do the same, what each does is its own as well
_BY_FUNCTION = ("spring.", "set.", "leg.kind", "air.", "capacity.", "level.air gap")
# of the wheel, which has one axle
_WHEELS = tuple(role.value for role in (*WHEEL_HELD_BY, *PINCHED_LAST))


def _of(cells: Cells, key: str) -> Mapping[Path, Cell]:
    found = {path: cell for path, cell in cells.items() if path.reservoir == key}
    if not found or reservoir_of(key, found).facts.recipe != Recipe.FORK:
        raise CoreError("spec.no_leg", field="leg", what=key)
    return found


@guarded
def lent(cells: Cells, source: str, target: str) -> dict[Path, Cell]:
    """What the leg ``target`` lacks and gets from the leg ``source``, nothing of it checked: never what
    it is called or does, and where the two do not do the same, nothing that goes by it; nor where
    its parts are, nor axle and callipers.

    Raises CoreError ``spec.no_leg`` where either is none, or both are the same.
    """
    if source == target:
        raise CoreError("spec.no_leg", field="leg", what=target)
    there, own = _of(cells, source), _of(cells, target)
    specs = [reservoir_of(key, found) for key, found in ((source, there), (target, own))]
    split = any(spec.leg.split for spec in specs)
    kept = (*_OWN, *(_BY_FUNCTION if split else ()))
    found = {}
    for path, cell in there.items():
        at = path._replace(reservoir=target)
        its_own = path.field in _WHERE if path.part else path.field.startswith(kept)
        if at in own or its_own or path.part.startswith(_WHEELS):
            continue
        found[at] = replace(cell, checked_by="", checked_on=None, checked_by_who="")
    return found

"""The stock as a ledger: what comes in, is opened, used, thrown away or counted is a line; what stands
there is their sum."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from enum import StrEnum

from ..errors import CoreError
from ..guard import Sound, guarded
from .bottles import Bottle


class LineKind(StrEnum):
    """What can happen to a bottle or a seal."""

    CAME = "came in"
    OPENED = "opened"
    USED = "used"
    THROWN = "thrown away"
    COUNTED = "counted"


@dataclass(frozen=True)
class Line(Sound):
    """Something that happened: by how much it changes what is there (ml, or pieces), and the day."""

    kind: LineKind
    change: Decimal
    on: date


LEAST = Decimal(1)  # ml, as fine as a bottle is read


@guarded
def bottle_of(id: str, size: Decimal, lines: Iterable[Line]) -> Bottle | None:
    """A bottle of ``size`` ml as its lines, oldest first, leave it; None once it is thrown away."""
    left, opened = Decimal(0), None
    for line in lines:
        if line.kind == LineKind.THROWN:
            return None
        left += line.change
        opened = line.on if line.kind == LineKind.OPENED else opened
    return Bottle(id=id, size=size, left=left, opened_on=opened)


def _written(
    size: Decimal, there: Decimal, opened: date | None, left: Decimal, on: date | None, today: date
) -> tuple[Line, ...]:
    if not 0 <= left <= size:
        raise CoreError("shelf.bottle", field="left")
    if on is not None and on > today:
        raise CoreError("garage.date", field="opened_on")
    day = on or opened or (today if left < size else None)
    opening = [Line(LineKind.OPENED, Decimal(0), day)] if day and day != opened else []
    counting = [Line(LineKind.COUNTED, left - there, today)] if left != there else []
    return (*opening, *counting)


@guarded
def bottle_came(
    size: Decimal, left: Decimal, opened_on: date | None, today: date
) -> tuple[Line, ...]:
    """The lines of a bottle of ``size`` ml that is put there with ``left`` ml in it; one that is not
    full counts as opened today. Raises CoreError ``shelf.bottle`` at ``left``, ``garage.date``."""
    came = Line(LineKind.CAME, size, today)
    return (came, *_written(size, size, None, left, opened_on, today))


@guarded
def bottle_counted(
    bottle: Bottle, left: Decimal, opened_on: date | None, today: date
) -> tuple[Line, ...]:
    """The lines that bring a bottle to what is found in it, ml; none where that stands already, to the
    millilitre. Raises as `bottle_came` does."""
    if abs(left - bottle.left) < LEAST:
        left = bottle.left
    return _written(bottle.size, bottle.left, bottle.opened_on, left, opened_on, today)


@guarded
def bottle_used(bottle: Bottle, ml: Decimal, today: date) -> tuple[Line, ...]:
    """The lines of ``ml`` poured out of a bottle; a sealed one is opened by it. What is within a
    millilitre of all of it is all of it. Raises CoreError ``shelf.not_there`` at ``used`` for more than
    there is."""
    if ml > 0 and abs(bottle.left - ml) < LEAST:
        ml = bottle.left
    if not 0 < ml <= bottle.left:
        raise CoreError("shelf.not_there", field="used")
    opening = [] if bottle.opened_on else [Line(LineKind.OPENED, Decimal(0), today)]
    return (*opening, Line(LineKind.USED, -ml, today))


@guarded
def bottle_thrown(bottle: Bottle, today: date) -> Line:
    """The line of a bottle that goes, with what is left in it."""
    return Line(LineKind.THROWN, -bottle.left, today)


@guarded
def pieces(kind: LineKind, there: int, number: int, today: date) -> Line:
    """The line of so many seals or filters that came in, were used, thrown away or counted, where
    ``there`` are in the drawer. Raises CoreError ``shelf.not_there`` at ``count`` for more than there
    are, ``sheet.choose`` for what does not happen to a seal."""
    changes = {
        LineKind.CAME: number,
        LineKind.USED: -number,
        LineKind.THROWN: -number,
        LineKind.COUNTED: number - there,
    }
    if kind not in changes:
        raise CoreError("sheet.choose", field="kind", options=[str(k) for k in changes])
    if number < 0 or there + changes[kind] < 0:
        raise CoreError("shelf.not_there", field="count")
    return Line(kind, Decimal(changes[kind]), today)

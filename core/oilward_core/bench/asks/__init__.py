"""Each kind of step is one room: which entries it takes, and how they are read, done, said and judged.

A room is a module named like its kind (`Ask.LOOK_UP` → ``look_up``) with one `Room` in it called
``ROOM``; a kind without a room fails at import.
"""

from importlib import import_module
from typing import Any

from ...codes.entries import Ask, EntryKind
from ...guard import whole_table
from ..acts import Act
from ..asides import ASIDE_ACTS
from . import common
from .room import Room


def _room(ask: Ask) -> Room:
    found = import_module(f"{__name__}.{ask.name.lower()}").ROOM
    assert isinstance(found, Room) and found.ask == ask, ask
    return found


ASKS: dict[Ask, Room] = whole_table(Ask, {ask: _room(ask) for ask in Ask})
_OF_ROOMS = tuple(act for room in ASKS.values() for act in room.acts)
ACTS: dict[EntryKind, Act[Any, Any]] = whole_table(
    EntryKind, {act.kind: act for act in (*_OF_ROOMS, *common.ALWAYS, *ASIDE_ACTS)}
)
# what may be written down at any step: why it is skipped, what was found of a stop, asides
ALWAYS = tuple(act.kind for act in (*common.ALWAYS, *ASIDE_ACTS))

"""Ticks."""

from ...codes.entries import Ask
from .common import CONFIRM
from .room import Room
from .tore import TORE

ROOM = Room(ask=Ask.CHECK, acts=(CONFIRM, TORE))

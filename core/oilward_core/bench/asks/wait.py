"""A wait that begins by itself; started anew where it was disturbed."""

from ...codes.entries import Ask
from .common import START, STOP
from .room import Room

ROOM = Room(ask=Ask.WAIT, acts=(STOP, START))

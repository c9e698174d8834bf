"""A wait somebody starts and stops."""

from ...codes.entries import Ask
from .common import START, STOP
from .room import Room

ROOM = Room(ask=Ask.TIMER, acts=(STOP, START))

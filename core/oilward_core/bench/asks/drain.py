"""Oil running out into a pan."""

from ...codes.entries import Ask
from .common import START, STOP
from .room import Room

ROOM = Room(ask=Ask.DRAIN, acts=(STOP, START))

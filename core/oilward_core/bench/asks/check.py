"""Ticks."""

from ...codes.entries import Ask
from .common import CONFIRM
from .room import Room

ROOM = Room(ask=Ask.CHECK, acts=(CONFIRM,))

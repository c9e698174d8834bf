"""Ticks, and what a second person says."""

from ...codes.entries import Ask
from ...runsheet import Step
from ..entries import Entry
from ..fold.known import Known
from ..fold.seconded import is_seconded
from .common import CONFIRM
from .looked import SECOND
from .room import Room
from .tore import TORE


def _completes(step: Step, entry: Entry, known: Known) -> bool:
    return step.looks_at is None or is_seconded(step.id, step.looks_at, known)


ROOM = Room(ask=Ask.CHECK, acts=(CONFIRM, TORE, SECOND), completes=_completes)

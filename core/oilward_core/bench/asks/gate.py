"""Something that has to go before anything else may: a filler that opens."""

from ...codes.entries import Ask
from ...codes.options import Opens
from ...runsheet import Step
from ..entries import Entry
from ..fold.known import Known
from .choice import ANSWER, Chosen
from .room import Room


def _opens(step: Step, entry: Entry, known: Known) -> bool:
    return not (isinstance(entry.data, Chosen) and entry.data.value == Opens.SEIZED)


ROOM = Room(ask=Ask.GATE, acts=(ANSWER,), completes=_opens)

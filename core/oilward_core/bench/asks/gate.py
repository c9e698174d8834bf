"""Something that has to go before anything else may: a filler that opens, oil to start on, pressure."""

from ...codes.entries import Ask
from ...codes.options import Lamp, Opens, Stood
from ...codes.steps import Name
from ...debris import Verdict
from ...runsheet import Step
from ...said import bench as said
from ..entries import Entry
from ..fold.known import Known
from .choice import ANSWER, Chosen
from .room import Room

# answers that keep it shut, until there is another
_KEEPS_SHUT: frozenset[str] = frozenset((Opens.SEIZED, Stood.LOW, Lamp.NOT_LIT, Lamp.STAYED_ON))


def keeps_shut(entry: Entry | None) -> bool:
    """Whether what was answered keeps the gate shut."""
    return bool(entry and isinstance(entry.data, Chosen) and entry.data.value in _KEEPS_SHUT)


def _opens(step: Step, entry: Entry, known: Known) -> bool:
    """Pressure was seen on the oil that is in: not on what was drained again since."""
    if step.name == Name.LAMP and _filled_anew(entry, known):
        return False
    return not keeps_shut(entry)


def _filled_anew(entry: Entry, known: Known) -> bool:
    return any(
        task.reservoir.facts.runs_engine and known.facts.emptied.get(key, entry.at) > entry.at
        for key, task in known.tasks.items()
    )


def _remarks(step: Step, entry: Entry, known: Known, finding: Verdict | None) -> str:
    """What is to be done first; what the lamp says stops the visit, and is said there."""
    data = entry.data
    if step.name == Name.LAMP or not isinstance(data, Chosen):
        return ""
    return said.keeps_shut(data.value)


ROOM = Room(ask=Ask.GATE, acts=(ANSWER,), completes=_opens, remarks=_remarks)

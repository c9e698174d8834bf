"""One of several."""

from dataclasses import dataclass
from typing import ClassVar

from ...codes.bench import Stands
from ...codes.entries import Ask, EntryKind
from ...codes.options import Lamp, Opens, Stayed, Tube
from ...codes.roles import Role
from ...codes.steps import Name
from ...debris import Verdict
from ...runsheet import Step, StepId
from ...said import bench as said
from ...said import debris as said_debris
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.known import Known
from ..fold.taking import Taking
from ..reading import offered
from ..typed import Typed
from .room import Room


@dataclass(frozen=True, kw_only=True)
class Chosen(Data):
    """What was chosen, and how the level stood as the bike came, where that was said."""

    kind: ClassVar[EntryKind] = EntryKind.ANSWER
    value: str
    stood: str = ""


@dataclass(frozen=True, kw_only=True)
class ChosenTyped(Typed):
    """One of the step's options, and how the level stood, by their codes."""

    value: str = ""
    stood: str = ""


def _read(hearing: Hearing, typed: ChosenTyped) -> Chosen:
    value = offered(typed.value, hearing.step.options, "value")
    stood = offered(typed.stood, hearing.step.stood, "stood") if typed.stood else ""
    return Chosen(value=value, stood=stood)


# what was seen of the oil light where the engine goes on running
_RUNS = (Lamp.WENT_OUT, Lamp.LEVEL_ONLY, Lamp.NO_LAMP)
# how a filler that was tried stands
_FILLER: dict[str, Stands] = {Opens.OPEN: Stands.LOOSE, Opens.SEIZED: Stands.SEIZED}


def _take(taking: Taking, entry: Entry, data: Chosen) -> None:
    taking.complete(entry)
    name = StepId.of(entry.step).name
    if name == Name.LAMP and data.value in _RUNS:
        taking.run(entry)
    if name != Name.FILLER:
        return
    taking.open(entry)
    if data.value in _FILLER:
        taking.fastener(entry, Role.FILL_PLUG, _FILLER[data.value])


def _say(data: Chosen, speaker: Speaker) -> str:
    return said.chosen(data.value, data.stood)


ANSWER = Act(typed=ChosenTyped, data=Chosen, field="value", read=_read, take=_take, says=_say)


# a tube that goes nowhere, and what was in the way of the oil: out with it, and the gap is read anew
_GOES_NOWHERE = (Tube.SCORED, Tube.BENT)
_IN_THE_WAY = (Stayed.AIR, Stayed.SPRING_IN)


def was_in_the_way(entry: Entry) -> bool:
    """Whether what stayed in a leg has to come out before its gap means anything."""
    return isinstance(entry.data, Chosen) and entry.data.value in _IN_THE_WAY


def _completes(step: Step, entry: Entry, known: Known) -> bool:
    value = entry.data.value if isinstance(entry.data, Chosen) else ""
    if step.name == Name.LEG_TUBE:
        return value not in _GOES_NOWHERE
    return step.name != Name.LEG_STAYED or not was_in_the_way(entry)


def _remarks(step: Step, entry: Entry, known: Known, finding: Verdict | None) -> str:
    """What a look comes to, where not all is well."""
    if step.name == Name.LEG_TUBE:
        return "" if _completes(step, entry, known) else said.TUBE_DONE
    if step.name == Name.LEG_STAYED and was_in_the_way(entry):
        gap = known.facts.last.get(str(StepId(step.id.reservoir, Name.LEG_GAP)))
        # once it was read anew, it is asked again
        read = gap is not None and (gap.at, gap.id) > (entry.at, entry.id)
        return "" if read else said.GAP_ANEW
    if step.name != Name.LOOK or finding is None:
        return ""
    return said_debris.in_short(finding.level.word, finding.action)


ROOM = Room(ask=Ask.CHOICE, acts=(ANSWER,), completes=_completes, remarks=_remarks)

"""What many kinds of steps take: start and stop, a tick, a reason to skip, what was found of a stop."""

from dataclasses import dataclass
from typing import Any, ClassVar

from ...codes.bench import Stands
from ...codes.entries import Ask, EntryKind
from ...codes.poses import Pose
from ...codes.roles import Role
from ...codes.steps import Name
from ...errors import CoreError
from ...runsheet import StepId
from ...said import bench as said
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.facts import Timer
from ..fold.taking import Taking
from ..reading import ticked, words
from ..typed import Nothing, Typed


@dataclass(frozen=True, kw_only=True)
class Started(Data):
    """A wait has begun; where oil is caught, whether its pan was clean before; ``mistaken``: its plug was
    opened by mistake."""

    kind: ClassVar[EntryKind] = EntryKind.START
    pan_clean: bool | None = None
    mistaken: bool = False


@dataclass(frozen=True, kw_only=True)
class StartTyped(Typed):
    """Whether the pan was clean, where oil is caught."""

    pan_clean: bool | None = None


_OPENING = (Name.DRAIN, Name.LEG_DRAIN)


def _start(taking: Taking, entry: Entry, data: Started) -> None:
    timer, step, facts = Timer(entry.at, None, entry.by), StepId.of(entry.step), taking.facts
    before = facts.timers.get(entry.step)
    if before is not None and before.stopped is None and before in facts.runs:
        # it ran since its light was watched; now somebody says when it began
        facts.runs.remove(before)
    facts.timers[entry.step] = timer
    facts.last.pop(entry.step, None)
    if step.name == Name.RUN:
        facts.runs.append(timer)
    elif step.name in _OPENING:
        taking.open(entry)
        if step.fastener:
            taking.fastener(entry, step.fastener, Stands.OUT)


def say_done(data: Data, speaker: Speaker) -> str:
    """It is done; nothing more was said."""
    return said.DONE


START = Act(
    typed=StartTyped,
    data=Started,
    field="",
    read=lambda hearing, typed: Started(
        pan_clean=typed.pan_clean if hearing.step.ask == Ask.DRAIN else None
    ),
    take=_start,
    says=say_done,
)


@dataclass(frozen=True, kw_only=True)
class Stopped(Data):
    """A wait has ended."""

    kind: ClassVar[EntryKind] = EntryKind.STOP


def _stop(taking: Taking, entry: Entry, data: Stopped) -> None:
    facts = taking.facts
    timer = facts.timers.get(entry.step)
    if timer is None:
        return
    stopped = Timer(timer.started, entry.at, timer.by)
    facts.timers[entry.step] = stopped
    if StepId.of(entry.step).name == Name.RUN and timer in facts.runs:
        facts.runs[facts.runs.index(timer)] = stopped
    taking.complete(entry)


STOP = Act(
    typed=Nothing,
    data=Stopped,
    field="",
    read=lambda hearing, typed: Stopped(),
    take=_stop,
    says=say_done,
)


@dataclass(frozen=True, kw_only=True)
class Confirmed(Data):
    """Everything of it was ticked."""

    kind: ClassVar[EntryKind] = EntryKind.CONFIRM
    items: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class TicksTyped(Typed):
    """What was ticked, by its codes."""

    items: tuple[str, ...] = ()


# what ticking a step does to its fastener, and which ticks open something
_FASTENS: dict[str, Stands] = {
    Name.REFIT: Stands.FINGER_TIGHT,
    Name.TORQUE: Stands.TIGHT,
    Name.CLOSE: Stands.CLOSED,
    Name.CIRCUIT: Stands.NEW,
    Name.ELEMENT: Stands.NEW,
    Name.TORQUE_FILTER: Stands.TIGHT,
    Name.TORQUE_LEVEL: Stands.TIGHT,
    Name.TORQUE_COVER: Stands.TIGHT,
}
_OPENS = (Name.CIRCUIT, Name.LEG_OUT, Name.WHEEL_OUT)
_STANDS = {Name.SUPPORT: Pose.UPRIGHT, Name.WHEEL_OUT: Pose.LIFTED}


def _confirm(taking: Taking, entry: Entry, data: Confirmed) -> None:
    taking.complete(entry)
    name = StepId.of(entry.step).name
    if name in _STANDS:
        taking.stand(entry, _STANDS[Name(name)], strapped=True)
    if name in _FASTENS:
        taking.fastener(entry, StepId.of(entry.step).fastener or Role.FILTER, _FASTENS[name])
    if name in _OPENS:
        taking.open(entry)


CONFIRM = Act(
    typed=TicksTyped,
    data=Confirmed,
    field="items",
    read=lambda hearing, typed: Confirmed(items=ticked(hearing.step.items, typed.items)),
    take=_confirm,
    says=say_done,
)


@dataclass(frozen=True, kw_only=True)
class ReasonTyped(Typed):
    """Why."""

    reason: str = ""


@dataclass(frozen=True, kw_only=True)
class Skipped(Data):
    """It is left out, for a reason."""

    kind: ClassVar[EntryKind] = EntryKind.SKIP
    reason: str


def _skipped(hearing: Hearing, typed: ReasonTyped) -> Skipped:
    if not hearing.step.skippable:
        raise CoreError("sheet.no_skip", step=hearing.step.title)
    return Skipped(reason=words(typed.reason, "reason"))


SKIP = Act(
    typed=ReasonTyped,
    data=Skipped,
    field="reason",
    read=_skipped,
    take=lambda taking, entry, data: taking.complete(entry),
    says=lambda data, speaker: said.SKIPPED,
)


@dataclass(frozen=True, kw_only=True)
class Answered(Data):
    """What was found of something that should not have happened, or why a hold is lifted; or that
    the bike is handed back."""

    kind: ClassVar[EntryKind] = EntryKind.ANSWERED
    entry: str
    reason: str
    handed_back: bool = False


@dataclass(frozen=True, kw_only=True)
class AnsweredTyped(ReasonTyped):
    """Of which entry, why, and whether the bike goes back."""

    entry: str = ""
    handed_back: bool = False


def _answer_stop(taking: Taking, entry: Entry, data: Answered) -> None:
    taking.facts.answered[data.entry] = entry


ANSWERED = Act(
    typed=AnsweredTyped,
    data=Answered,
    field="reason",
    read=lambda hearing, typed: Answered(
        entry=typed.entry[:40], reason=words(typed.reason, "reason"), handed_back=typed.handed_back
    ),
    take=_answer_stop,
    says=lambda data, speaker: data.reason,
)
ALWAYS: tuple[Act[Any, Any], ...] = (SKIP, ANSWERED)

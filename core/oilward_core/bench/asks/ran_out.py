"""A case that was full was opened again, or let oil out: how much of it is gone."""

from dataclasses import dataclass
from decimal import Decimal
from typing import ClassVar

from ...codes.bench import Basis
from ...codes.entries import Ask, EntryKind
from ...codes.options import Lost
from ...codes.steps import Name
from ...expected import Expected
from ...quantity import show
from ...runsheet import Step, StepId, TaskPlan, ran_out_id
from ...said import bench as said
from ...said import expected as words
from ...said import options as choices
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.facts import Way
from ..fold.state import TaskState
from ..fold.taking import Taking
from ..reading import Stood, offered, volume
from ..typed import Typed
from .room import Room


@dataclass(frozen=True, kw_only=True)
class RanOut(Data):
    """How much is gone (``how``), and so many ``ml`` of it where it was some."""

    kind: ClassVar[EntryKind] = EntryKind.RAN_OUT
    how: Lost
    ml: Decimal = Decimal(0)
    said: str = ""
    unit: str = ""
    asked: Stood | None = None


@dataclass(frozen=True, kw_only=True)
class RanOutTyped(Typed):
    """One of the step's options by its code, and how much where it was some."""

    how: str = ""
    amount: str = ""
    sure: str = ""


def _read(hearing: Hearing, typed: RanOutTyped) -> RanOut:
    how = Lost(offered(typed.how, hearing.step.options, "how"))
    if how != Lost.SOME:
        return RanOut(how=how)
    much = volume(typed.amount, typed.sure, hearing)
    return RanOut(how=how, ml=much.ml, said=much.said, unit=much.unit, asked=much.asked)


# what needs not be done again: of a fastener that was only tightened, all but its torque
_STAYS: dict[Lost, tuple[Name, ...]] = {
    Lost.TIGHTENED: (Name.WASHER, Name.REFIT, Name.FILTER, Name.ELEMENT),
    Lost.NOT_OUT: (
        Name.WASHER,
        Name.REFIT,
        Name.FILTER,
        Name.ELEMENT,
        Name.TORQUE,
        Name.TORQUE_COVER,
    ),
}


def _take(taking: Taking, entry: Entry, data: RanOut) -> None:
    """What let it out may have been corrected since: then nothing ran out there."""
    taking.complete(entry)
    step = StepId.of(entry.step)
    facts, key = taking.facts, step.reservoir
    found = (one for one in facts.opened_again.get(key, ()) if ran_out_id(key, one.entry) == step)
    opened = next(found, None)
    if opened is None:
        return
    if data.how in _STAYS:
        taking.restore(entry, opened, _STAYS[data.how])
    elif data.how != Lost.NOTHING:
        inside = max(facts.into(key), Decimal(0))
        taking.events(entry).append(entry)
        taking.flow(entry, Way.LOST, min(data.ml, inside) if data.how == Lost.SOME else inside)
        if facts.into(key) <= 0:
            taking.emptied(entry)


def _say(data: RanOut, speaker: Speaker) -> str:
    amount = said.volume(data.ml, speaker.volume) if data.how == Lost.SOME else ""
    return choices.lost(data.how, amount)


RAN_OUT = Act(typed=RanOutTyped, data=RanOut, field="amount", read=_read, take=_take, says=_say)


def _expects(
    task: TaskPlan, state: TaskState, step: Step, typed: RanOutTyped, corrected: bool
) -> Expected | None:
    """No more can have run out than was in."""
    if state.added <= 0:
        return None
    return Expected(
        value=state.added,
        spread=Decimal(0),
        basis=Basis.IS_IN,
        amount=show(state.added, "ml"),
        more=words.MORE_THAN_WAS_IN,
        most=state.added,
    )


ROOM = Room(ask=Ask.RAN_OUT, acts=(RAN_OUT,), expects=_expects)

"""A new filter, and the oil it was filled with before."""

from dataclasses import dataclass
from decimal import Decimal
from typing import ClassVar

from ...codes.bench import Basis, Stands
from ...codes.entries import Ask, EntryKind
from ...codes.roles import Role
from ...expected import Expected
from ...quantity import show
from ...runsheet import Step, TaskPlan
from ...said import bench as said
from ...said import expected as words
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.facts import Way
from ..fold.state import TaskState
from ..fold.taking import Taking
from ..reading import Stood, ticked, volume
from ..typed import Typed
from .room import Room


@dataclass(frozen=True, kw_only=True)
class FilterOn(Data):
    """A new filter is on, with so many ``ml`` in it."""

    kind: ClassVar[EntryKind] = EntryKind.FILTER
    items: tuple[str, ...] = ()
    ml: Decimal
    said: str
    unit: str
    asked: Stood | None = None


@dataclass(frozen=True, kw_only=True)
class FilterTyped(Typed):
    """What was ticked, and how much went into it; empty or 0: none."""

    items: tuple[str, ...] = ()
    amount: str = ""
    sure: str = ""


def _read(hearing: Hearing, typed: FilterTyped) -> FilterOn:
    items, told = ticked(hearing.step.items, typed.items), typed.amount.strip()
    if told in ("", "0"):
        return FilterOn(items=items, ml=Decimal(0), said=told, unit=hearing.speaker.volume)
    filled = volume(typed.amount, typed.sure, hearing)
    return FilterOn(
        items=items, ml=filled.ml, said=filled.said, unit=filled.unit, asked=filled.asked
    )


def _take(taking: Taking, entry: Entry, data: FilterOn) -> None:
    taking.complete(entry)
    taking.forget_prefill(entry)
    taking.events(entry).append(entry)
    taking.flow(entry, Way.PREFILL, data.ml)
    taking.fastener(entry, Role.FILTER, Stands.NEW)


def _say(data: FilterOn, speaker: Speaker) -> str:
    return said.prefilled(said.volume(data.ml, speaker.volume) if data.ml else "")


FILTER = Act(typed=FilterTyped, data=FilterOn, field="amount", read=_read, take=_take, says=_say)


def _expects(
    task: TaskPlan, state: TaskState, step: Step, typed: Typed, corrected: bool
) -> Expected | None:
    prefill = task.reservoir.prefill
    if not prefill:
        return None
    return Expected(
        value=prefill,
        spread=prefill / 4,
        basis=Basis.FILTER,
        amount=show(prefill, "ml"),
        less="",
        more=words.NO_FILTER_HOLDS,
    )


ROOM = Room(ask=Ask.FILTER, acts=(FILTER,), expects=_expects)

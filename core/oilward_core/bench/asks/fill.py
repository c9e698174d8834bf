"""Oil poured in, and taken out again where it was too much."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import ClassVar

from ...codes.bench import Basis, Stands
from ...codes.entries import Ask, EntryKind
from ...codes.fill import Cause
from ...codes.options import Draw
from ...codes.roles import Role
from ...expected import Expected
from ...fluid import MOST_LABEL, named
from ...quantity import show
from ...runsheet import Step, StepId, TaskPlan
from ...said import bench as said
from ...said import expected as words
from ...spec import FillRule
from ..acts import Act, Hearing
from ..entries import Data, Entry
from ..fold.facts import Way
from ..fold.state import TaskState
from ..fold.taking import Taking
from ..reading import Stood, offered, volume
from ..typed import Typed
from .amount import JUG
from .level import CAUSE, LEFT, LEVEL, CauseNamed, remarks
from .room import Room


@dataclass(frozen=True, kw_only=True)
class PouredIn(Data):
    """So many ``ml`` went in, of which ``fluid``; ``closed``: the filler was shut behind it; ``refused``:
    that oil may not go in there, as it was judged then; ``label``: what stands on the bottle of one that
    is not on the shelf, which its name then ends with."""

    kind: ClassVar[EntryKind] = EntryKind.POUR
    ml: Decimal
    said: str
    unit: str
    fluid: str = ""
    closed: bool = False
    asked: Stood | None = None
    refused: bool = False
    label: str = ""


@dataclass(frozen=True, kw_only=True)
class PourTyped(Typed):
    """How much, of what, and whether the filler was shut; of an oil that is not on the shelf the
    ``label`` as well, grade and class."""

    amount: str = ""
    fluid: str = ""
    label: str = ""
    closed: bool = False
    sure: str = ""


@dataclass(frozen=True, kw_only=True)
class DrawnOff(Data):
    """So many ``ml`` were taken out again, and ``where``: empty where nobody said."""

    kind: ClassVar[EntryKind] = EntryKind.DRAW
    ml: Decimal
    said: str
    unit: str
    where: str = ""
    asked: Stood | None = None


@dataclass(frozen=True, kw_only=True)
class DrawTyped(Typed):
    """How much, and where, by its code."""

    amount: str = ""
    where: str = ""
    sure: str = ""


_IN_A_JUG = (words.JUG, JUG)


def _poured(hearing: Hearing, typed: PourTyped) -> PouredIn:
    much = volume(typed.amount, typed.sure, hearing, _IN_A_JUG)
    return PouredIn(
        ml=much.ml,
        said=much.said,
        unit=much.unit,
        fluid=named(typed.fluid, typed.label),
        closed=typed.closed,
        asked=much.asked,
        label=typed.label.strip()[:MOST_LABEL],
    )


def _drawn(hearing: Hearing, typed: DrawTyped) -> DrawnOff:
    options = hearing.step.options
    where = typed.where or (options[0].code if options else "")
    if options:
        where = offered(where, options, "where")
    much = volume(typed.amount, typed.sure, hearing, _IN_A_JUG)
    return DrawnOff(ml=much.ml, said=much.said, unit=much.unit, where=where, asked=much.asked)


def _pour(taking: Taking, entry: Entry, data: PouredIn) -> None:
    taking.complete(entry)
    taking.events(entry).append(entry)
    taking.flow(entry, Way.IN, data.ml)
    taking.fastener(entry, Role.FILL_PLUG, Stands.CLOSED if data.closed else Stands.LOOSE)


def _is_drained_again(events: Sequence[Entry]) -> bool:
    """Whether what is drawn now is drained again, in however many jugs: old oil was left, or the wrong
    oil went in."""
    before = (one.data for one in reversed(events) if not isinstance(one.data, DrawnOff))
    last = next(before, None)
    if isinstance(last, PouredIn):
        return last.refused
    return isinstance(last, CauseNamed) and last.cause == Cause.OLD_OIL


def _draw(taking: Taking, entry: Entry, data: DrawnOff) -> None:
    taking.complete(entry)
    new = max(taking.facts.into(StepId.of(entry.step).reservoir), Decimal(0))
    again = _is_drained_again(taking.events(entry))
    taking.events(entry).append(entry)
    # drained again, the oil that was left comes with what was poured
    taking.flow(entry, Way.DRAWN, min(data.ml, new) if again else data.ml)
    if again or data.ml >= new:
        taking.emptied(entry)
    if data.where == Draw.PLUG:
        taking.reopen(entry, Role.DRAIN_PLUG, Stands.OUT)
    elif data.where:
        taking.fastener(entry, Role.FILL_PLUG, Stands.LOOSE)


POUR = Act(
    typed=PourTyped,
    data=PouredIn,
    field="amount",
    read=_poured,
    take=_pour,
    says=lambda data, speaker: said.volume(data.ml, speaker.volume),
    keeps=(("closed",), ("fluid", "label")),
)
DRAW = Act(
    typed=DrawTyped,
    data=DrawnOff,
    field="amount",
    read=_drawn,
    take=_draw,
    says=lambda data, speaker: said.drawn(said.volume(data.ml, speaker.volume)),
    keeps=(("where",),),
)


def _by_the_coach(task: TaskPlan, state: TaskState) -> Expected | None:
    advice = state.advice
    if advice is None or (advice.action == "done" and task.reservoir.level is None):
        return None
    if advice.again:  # how much old oil comes with it, nobody knows
        return None
    spread = Decimal(str(round(advice.belief.sd, 3)))
    if advice.action == "remove":
        return Expected(
            value=advice.ml,
            spread=spread,
            basis=Basis.COACH_REMOVES,
            amount=show(advice.ml, "ml"),
            less=words.THEN_OVERFULL,
            more=words.THEN_LOW,
        )
    level = task.reservoir.level
    return Expected(
        value=advice.ml,
        spread=spread,
        basis=Basis.COACH_POURS if advice.ml else Basis.COACH_WAITS,
        amount=show(advice.ml, "ml"),
        more=words.WOULD_OVERFILL if level else words.MORE_THAN_IT_HOLDS,
        most=advice.ml + _past_the_safe_pour(task),
    )


def _past_the_safe_pour(task: TaskPlan) -> Decimal:
    """How much more than is safe may go in without a question: a tenth between the marks, or 5 % of an
    exact quantity [our definition]. A little less is no question: the rest follows."""
    if task.reservoir.level is not None and task.reservoir.fill_rule == FillRule.LEVEL:
        if task.reservoir.level.edge:  # what is too much runs out
            return (task.capacity or Decimal(0)) / 10
        return max(task.reservoir.level.between_marks / 10, Decimal(10))
    return (task.capacity or Decimal(0)) / 20


def _expects(
    task: TaskPlan, state: TaskState, step: Step, typed: Typed, corrected: bool
) -> Expected | None:
    """What the coach says; where a pour is corrected, the coach has gone on since, the book has not."""
    if not corrected:
        return _by_the_coach(task, state)
    if task.capacity is None:
        return None
    return Expected(
        value=task.capacity,
        spread=Decimal(0),
        basis=Basis.HOLDS,
        amount=show(task.capacity, "ml"),
        less="",
        more=words.MORE_THAN_IT_HOLDS,
    )


ROOM = Room(ask=Ask.FILL, acts=(POUR, DRAW, LEVEL, CAUSE, LEFT), expects=_expects, remarks=remarks)

"""What a visit has let out: used oil, on its way into the container."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal

from ..codes.steps import Name
from ..guard import Sound, guarded
from ..runsheet import StepId
from .asks.fill import DrawnOff
from .closing import TaskClosing
from .entries import Entry, in_order
from .fold.facts import Facts, Flow, Way
from .fold.gather import gathered

_EMPTIES = (Name.DRAIN, Name.LEG_DRAIN)


@dataclass(frozen=True, kw_only=True)
class LetOut(Sound):
    """So many ``ml`` out of a reservoir, by its ``label``; ``measured``: by a jug or a scale, not by the
    book."""

    label: str
    ml: Decimal
    measured: bool


def _drawn(flow: Flow) -> Decimal:
    """All that was in the jug, old oil with it."""
    return flow.entry.data.ml if isinstance(flow.entry.data, DrawnOff) else flow.ml


def _out_of(task: TaskClosing, facts: Facts) -> LetOut:
    key = task.plan.reservoir.key
    measured = facts.drained(key)
    emptied = any(str(StepId(key, name)) in facts.last for name in _EMPTIES)
    by_the_book = emptied and measured is None
    first = task.plan.capacity if by_the_book else measured
    later = (
        _drawn(flow)
        for flow in facts.flows
        if flow.reservoir == key and flow.way in (Way.DRAWN, Way.LOST)
    )
    ml = sum(later, first or Decimal(0))
    return LetOut(label=task.plan.reservoir.label, ml=ml, measured=not by_the_book)


@guarded
def let_out(tasks: Sequence[TaskClosing], entries: Iterable[Entry]) -> tuple[LetOut, ...]:
    """What came out of each of these reservoirs: drained, as it was measured, else by the book; drawn off
    again, drained again, run out while a full case was open."""
    facts = gathered(in_order(entries))
    found = (_out_of(task, facts) for task in tasks)
    return tuple(one for one in found if one.ml > 0)

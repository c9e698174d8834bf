"""How much of what was in came out, and whether the plug went back before all of it had."""

from decimal import Decimal

from ...codes.options import Emptied
from ...codes.steps import Name
from ...runsheet import StepId, TaskPlan
from ..asks.amount import LITTLE
from ..asks.choice import Chosen
from ..entries import Entry
from .facts import Facts, Way

LEAST_OUT = Decimal(10)  # ml, as little as anybody catches


def gave_little(task: TaskPlan, facts: Facts) -> bool:
    """Whether less came out than half of what was in, by the last filling, else by the book."""
    out, was_in = facts.drained(task.reservoir.key), task.put_in or task.capacity
    return out is not None and was_in is not None and out < LITTLE * was_in


def asks_if_empty(task: TaskPlan, facts: Facts) -> bool:
    """Whether somebody is to say if all of it is out: not where the fill went on without an answer."""
    if not gave_little(task, facts) or _answer(task, facts) is not None:
        return gave_little(task, facts)
    key = task.reservoir.key
    measured = [flow.at for flow in facts.flows if (flow.reservoir, flow.way) == (key, Way.OUT)]
    poured = facts.poured(key)
    return not poured or measured[-1] > poured[0].at


def _answer(task: TaskPlan, facts: Facts) -> Entry | None:
    return facts.last.get(str(StepId(task.reservoir.key, Name.ALL_OUT)))


def out_before_it_was_shut(task: TaskPlan, facts: Facts) -> Decimal | None:
    """How much came out before the plug went back early, ml; None where all of it was let out."""
    entry = _answer(task, facts)
    if entry is None or not isinstance(entry.data, Chosen) or not gave_little(task, facts):
        return None
    if entry.data.value != Emptied.CLOSED_EARLY:
        return None
    return max(facts.drained(task.reservoir.key) or Decimal(0), LEAST_OUT)


def takes_at_most(task: TaskPlan, facts: Facts) -> Decimal | None:
    """How much goes in, by the book; or by what came out where the rest stayed in, and what it may have
    been short of as it came: from its low mark to its high."""
    out, level = out_before_it_was_shut(task, facts), task.reservoir.level
    if out is None:
        return task.capacity
    return out + (level.between_marks if level else 0)

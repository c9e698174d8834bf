"""What a correction reopens, said before it is written down."""

from collections.abc import Iterable
from typing import Any

from ..guard import guarded
from .entries import Data, Entry
from .filling import Bench
from .known import VisitPlan
from .state import Sheet, StepState, fold

_UNSAID = ("closed", "fluid", "from", "wrench")


@guarded
def as_before(old: Entry, raw: Data) -> dict[str, Any]:
    """The raw input of a correction, with what it does not speak of as it was written down before:
    whether the filler was closed, which oil, where it was drawn off, which wrench."""
    kept = {name: old.data[name] for name in _UNSAID if name in old.data and name not in raw}
    return {**kept, **raw}


def _was_closed(before: Sheet, state: StepState) -> bool:
    then = before.step(str(state.step.id))
    return then is not None and then.closed


@guarded
def reopens(
    plan: VisitPlan, entries: Iterable[Entry], correction: Entry, bench: Bench
) -> tuple[str, ...]:
    """The titles of the steps that were done and would not be any more. Raises as `fold` does."""
    written = list(entries)
    before = fold(plan, written, bench)
    after = fold(plan, [*written, correction], bench)
    found = [
        state.step.title
        for state in after.steps
        if not state.closed and _was_closed(before, state) and str(state.step.id) != correction.step
    ]
    gone = {str(state.step.id) for state in after.steps}
    found += [
        state.step.title
        for state in before.steps
        if state.closed and str(state.step.id) not in gone
    ]
    return tuple(dict.fromkeys(found))

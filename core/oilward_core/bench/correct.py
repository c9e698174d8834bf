"""What a correction reopens, said before it is written down."""

from collections.abc import Iterable

from ..guard import guarded
from ..runsheet import Option
from .entries import Entry
from .fold.known import Bench, VisitPlan
from .fold.sheet import fold
from .fold.state import Sheet, StepState


def _was_closed(before: Sheet, state: StepState) -> bool:
    then = before.step(str(state.step.id))
    return then is not None and then.closed


@guarded
def reopens(
    plan: VisitPlan, entries: Iterable[Entry], correction: Entry, bench: Bench
) -> tuple[Option, ...]:
    """The steps that were done and would not be any more, by their ids and titles. Raises as `fold`
    does."""
    written = list(entries)
    before = fold(plan, written, bench)
    after = fold(plan, [*written, correction], bench)
    found = [
        state.step
        for state in after.steps
        if not state.closed and _was_closed(before, state) and str(state.step.id) != correction.step
    ]
    gone = {str(state.step.id) for state in after.steps}
    found += [
        state.step for state in before.steps if state.closed and str(state.step.id) not in gone
    ]
    unique: dict[str, Option] = {}
    for step in found:
        unique.setdefault(step.title, Option(str(step.id), step.title))
    return tuple(unique.values())

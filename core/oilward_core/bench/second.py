"""A second person at a fastener that two stand for: never whoever pulled it, or the same one later where
there is nobody else."""

from datetime import datetime

from ..codes.bench import Status
from ..errors import CoreError
from ..guard import guarded
from ..runsheet import StepId
from .entries import Entry
from .fold.known import Bench
from .fold.seconded import ALONE
from .fold.state import Sheet


@guarded
def check_second(
    sheet: Sheet, step: str, person: str, *, alone: bool, at: datetime, bench: Bench
) -> None:
    """Raises CoreError ``second.not_pulled`` where there is nothing to look at yet, ``second.same`` for
    whoever pulled it, ``second.later`` for the only person there is, sooner than ten minutes after."""
    did = _done_at(sheet, step)
    if did is None:
        raise CoreError("second.not_pulled", field="step")
    if alone:
        if at - did.at < bench.length(ALONE):
            raise CoreError("second.later", field="username", minutes=ALONE)
    elif did.who == person:
        raise CoreError("second.same", field="username")


def _done_at(sheet: Sheet, step: str) -> Entry | None:
    """What was done that a second person looks at: what the step names, or a right pull."""
    state, task = sheet.step(step), sheet.task(StepId.of(step).reservoir)
    if state is not None and state.step.looks_at is not None:
        did = sheet.step(str(state.step.looks_at))
        return did.entry if did and did.status == Status.DONE else None
    card = task.cards.get(step) if task else None
    return card.entry if card and card.pulled and card.second else None

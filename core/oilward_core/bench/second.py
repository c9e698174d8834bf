"""A second person at a fastener that two stand for: never whoever pulled it, or the same one later where
there is nobody else."""

from datetime import datetime

from ..errors import CoreError
from ..guard import guarded
from ..runsheet import StepId
from .fold.known import Bench
from .fold.pulls import ALONE
from .fold.state import Sheet


@guarded
def check_second(
    sheet: Sheet, step: str, person: str, *, alone: bool, at: datetime, bench: Bench
) -> None:
    """Raises CoreError ``second.not_pulled`` where there is nothing to look at yet, ``second.same`` for
    whoever pulled it, ``second.later`` for the only person there is, sooner than ten minutes after."""
    task = sheet.task(StepId.of(step).reservoir)
    card = task.cards.get(step) if task else None
    if card is None or card.entry is None or not card.pulled or not card.second:
        raise CoreError("second.not_pulled", field="step")
    if alone:
        if at - card.entry.at < bench.length(ALONE):
            raise CoreError("second.later", field="username", minutes=ALONE)
    elif card.entry.who == person:
        raise CoreError("second.same", field="username")

"""A second pair of eyes on a plug: its reading counts, the first stands beside it."""

from collections.abc import Iterable
from dataclasses import replace

from ..codes.debris import Level
from ..errors import CoreError
from ..guard import guarded
from .asks.finding import AlsoSeen, Graded, with_more
from .entries import Entry, ordered
from .fold.judged import is_grading
from .fold.state import Sheet, StepState


def _graded(state: StepState | None) -> Entry | None:
    entry = state.entry if state else None
    return entry if entry is not None and is_grading(entry) else None


@guarded
def may_regrade(state: StepState, who: str) -> bool:
    """Whether somebody who stands alone may read this plug anew: it was read, and not by them."""
    entry = _graded(state)
    return entry is not None and entry.who != who


@guarded
def check_regrade(sheet: Sheet, step: str, who: str, stands_alone: bool, lead: bool) -> None:
    """Raises CoreError ``finding.not_graded`` where nobody has read it yet, ``finding.own_grade`` for
    whoever read it last, ``finding.mentor`` for an apprentice, and ``visit.hold_lead`` where it holds
    the visit and no lead looks."""
    state = sheet.step(step)
    entry = _graded(state)
    if state is None or entry is None:
        raise CoreError("finding.not_graded")
    if entry.who == who:
        raise CoreError("finding.own_grade")
    if not stands_alone:
        raise CoreError("finding.mentor")
    task = sheet.task(state.step.id.reservoir)
    if task and task.finding and task.finding.level >= Level.HOLD and not lead:
        raise CoreError("visit.hold_lead")


@guarded
def check_also(sheet: Sheet, step: str) -> None:
    """Raises CoreError ``finding.not_graded`` where nothing has been read yet that more could be added
    to."""
    if _graded(sheet.step(step)) is None:
        raise CoreError("finding.not_graded", field="parts")


@guarded
def gradings(entries: Iterable[Entry], step: str) -> tuple[Entry, ...]:
    """How a plug was read in a visit, as last corrected, the first reading first: the last one counts,
    with what was seen after it."""
    found: list[Entry] = []
    for one in ordered(entries):
        if one.step != step:
            continue
        last = found[-1].data if found else None
        if is_grading(one):
            found.append(one)
        elif isinstance(one.data, AlsoSeen) and isinstance(last, Graded):
            found[-1] = replace(found[-1], data=with_more(last, one.data))
    return tuple(found)

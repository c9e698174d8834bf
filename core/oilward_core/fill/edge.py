"""A level plug, or an overflow's edge: no marks and no glass. Oil runs out of it, or it is dry.

It tells one side only, until what ran out is measured; what ran out is gone from the sum.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from ..codes.fill import Start
from ..guard import Sound
from ..reasons import Reason, Source
from ..said import fill as said
from .belief import Belief, combine, prior, truncate_above, truncate_below
from .case import EdgeRead, FillCase, FillEvent, FilterAnew, Lost, Poured, Ran, WrongOil
from .learned import STAYS, STEP

MEASURED, LEAST_MEASURED = 0.01, 5.0  # how surely a jug tells what ran out: of the book, and ml
LOW, LOW_SPREADS = (
    0.05,
    2.0,
)  # of the book, or spreads, below what it takes: an engine may run [def]
WORTH = 0.02  # of the book: less than that waits for the next look


@dataclass(frozen=True, kw_only=True)
class EdgeState(Sound):
    """What is known: what brings it to the edge (``belief``), what is in (``added``), the last look
    (``ran_out``: oil came; None: nobody has looked since oil flowed)."""

    belief: Belief
    added: float
    reasons: tuple[Reason, ...]
    before_start: bool
    ran_out: bool | None = None
    drains: bool = False


def _looked(case: FillCase, state: EdgeState, event: EdgeRead) -> EdgeState:
    ran_out = float(event.ml or 0) if event.runs else 0.0
    added = max(state.added - ran_out, 0.0)
    if not event.valid:
        return replace(state, added=added, ran_out=None)
    if not event.runs:
        belief, text = truncate_below(state.belief, state.added), said.EDGE_DRY
    elif event.ml is None:
        belief, text = truncate_above(state.belief, state.added), said.EDGE_RUNS
    else:
        spread = max(LEAST_MEASURED, MEASURED * float(case.capacity))
        belief = combine(state.belief, added, spread)
        text = said.edge_measured(f"{ran_out:.0f}", f"{added:.0f}")
    why = Reason("level plug", text, Source.DEFINED)
    return replace(
        state, belief=belief, added=added, ran_out=event.runs, reasons=(*state.reasons, why)
    )


def _flowed(case: FillCase, state: EdgeState, event: Poured) -> EdgeState:
    added = state.added + float(event.ml)
    if event.prefill:
        return replace(state, added=added)
    if state.drains and event.ml < 0 and added < max(STEP, STAYS * float(case.capacity)):
        begun = _begun(case, before_start=state.before_start)
        return replace(begun, added=max(added, 0.0))
    return replace(state, added=added, ran_out=None)


def _begun(case: FillCase, *, before_start: bool) -> EdgeState:
    belief, reason = prior(case)
    return EdgeState(belief=belief, added=0.0, reasons=(reason,), before_start=before_start)


def known_at_edge(case: FillCase, events: Sequence[FillEvent]) -> EdgeState:
    """All that is known by what happened, oldest first. Raises CoreError ``fill.no_capacity``."""
    state = _begun(case, before_start=case.start != Start.NONE)
    for event in events:
        if isinstance(event, Poured):
            state = _flowed(case, state, event)
        elif isinstance(event, EdgeRead):
            state = _looked(case, state, event)
        elif isinstance(event, Ran):
            # filter and galleries have taken their share: it is looked at anew
            ran_out = None if state.before_start else state.ran_out
            state = replace(state, before_start=False, ran_out=ran_out)
        elif isinstance(event, FilterAnew):
            state = replace(state, added=state.added + float(event.ml), ran_out=None)
        elif isinstance(event, Lost):
            state = replace(state, added=max(0.0, state.added - float(event.ml)), ran_out=None)
        elif isinstance(event, WrongOil):
            state = replace(state, drains=True)
    return state


def enough_at_edge(case: FillCase, state: EdgeState) -> bool:
    """Whether an engine may run on what is in: 5 % of the book, or two spreads, below what it takes
    [def]."""
    if state.drains or state.added <= 0:
        return False
    below = max(LOW_SPREADS * state.belief.sd, LOW * float(case.capacity))
    return state.added >= round(state.belief.mean - below)


def missing_at_edge(case: FillCase, state: EdgeState) -> Decimal:
    """How much more to pour before it is looked at again, ml to the ten; 0: look. What is too much runs
    out, so a dry one is poured to a spread above what it is believed to take."""
    dry = state.ran_out is False
    more = state.belief.mean - state.added + (state.belief.sd if dry else 0.0)
    if not dry and more < max(STEP, WORTH * float(case.capacity)):
        return Decimal(0)
    return Decimal(max(int(more // STEP) * STEP, STEP if dry else 0))

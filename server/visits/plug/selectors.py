"""What is said of a plug while somebody reads it: what will be signed, rules and chance together."""

from dataclasses import replace
from datetime import datetime

from oilward_bench import verdict_shape
from oilward_bench.shapes import VerdictShape
from oilward_core.bench import (
    EntryKind,
    Graded,
    growing,
    observed,
    pan_said,
    read_entry,
)
from oilward_core.debris import verdict, would_change
from oilward_core.errors import CoreError
from workshop.mapping import speaker
from workshop.models import Person

from visits import rows as to_core
from visits.models import Visit
from visits.selectors import entries_of, standing

from .shapes import PlugSoFar


def so_far(visit: Visit, plug: PlugSoFar, person: Person, now: datetime) -> VerdictShape:
    """Raises what writing it down would, and CoreError ``sheet.no_such_step``."""
    stands = standing(visit)
    state = stands.sheet.step(plug.step)
    plans = {one.plan.reservoir.key: one.plan for one in stands.tasks}
    if state is None or state.step.id.reservoir not in plans:
        raise CoreError("sheet.no_such_step", step=plug.step)
    plan = plans[state.step.id.reservoir]
    seen = read_entry(state.step, EntryKind.FINDING, plug.data, speaker(person))
    assert isinstance(seen, Graded)
    if seen.pan_clean is None:
        whole = to_core.visit_plan(visit, plans.values())
        written = entries_of(visit, whole)
        seen = replace(seen, pan_clean=pan_said(written, state.step.id.reservoir))
    judged = observed(plan, seen)
    grown = growing(plan, seen, str(person.pk), now.date())
    return verdict_shape(verdict(judged, grown), judged, would_change(judged, grown))

"""What the rules say of a plug while somebody reads it; the chance that something grows comes with the
finding that is kept."""

from datetime import datetime

from oilward_bench import verdict_shape
from oilward_bench.shapes import VerdictShape
from oilward_core.bench import Entry, observed, pan_said, read_entry
from oilward_core.debris import verdict, would_change
from oilward_core.errors import CoreError
from workshop.mapping import speaker
from workshop.models import Person

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
    data = read_entry(state.step, "finding", plug.data, speaker(person))
    if data["pan_clean"] is None:
        written = entries_of(visit, list(plans.values()))
        data["pan_clean"] = pan_said(written, state.step.id.reservoir)
    entry = Entry(id="", step=plug.step, kind="finding", data=data, at=now, by=person.name)
    seen = observed(plans[state.step.id.reservoir], entry)
    return verdict_shape(verdict(seen), entry, would_change(seen))

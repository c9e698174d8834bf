"""From a visit's rows to the core."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from decimal import Decimal
from itertools import pairwise
from typing import cast

from garage.mapping import BikeSpec, odometer_at, when_new
from garage.models import OdometerReading
from oilward_bench import About
from oilward_bench.shapes import BikeName, FluidChoice, MapPlug, TipShape, VisitState
from oilward_core.bench import (
    DESCRIPTION,
    Bench,
    Closing,
    Entry,
    OffBike,
    Sheet,
    TaskClosing,
    VisitPlan,
    Written,
    carried_over,
    entry_from,
    read_kept,
)
from oilward_core.codes.fill import LeftFor
from oilward_core.codes.options import Did
from oilward_core.debris import SoFar, running_in
from oilward_core.drained import Out
from oilward_core.due import Meter
from oilward_core.fill import Before, Fell, Filled, OfModel, of_model_from
from oilward_core.odometer import shown
from oilward_core.order import Stamp
from oilward_core.runsheet import COLD_JOBS, TaskPlan
from oilward_core.schools import Choice, Schools
from oilward_core.spec import Variant, reservoir_of, unpack
from shelf.mapping import wrenches
from workshop.mapping import seconds_per_minute

from .models import EntryRow, Service, Task, Tip, Visit


def bench() -> Bench:
    return Bench(wrenches(), seconds_per_minute())


def valid_takes(services: Iterable[Service], variant: Variant) -> tuple[Decimal, ...]:
    """What brings it to the target, where gauge and book agreed; the coach learns from these."""
    found = (_takes(s) for s in services if s.variant == variant and not s.not_learned)
    return tuple(ml for ml in found if ml is not None)


def _takes(row: Service) -> Decimal | None:
    """Of services of before, and those from elsewhere, only what went in is known."""
    takes: Decimal | None = getattr(row, "takes_ml", None)
    return row.took_ml if takes is None else takes


def fells(services: Iterable[Service], variant: Variant) -> tuple[Fell, ...]:
    """How far the level fell at the first starts, where gauge and book agreed."""
    found = (_fell(s) for s in services if s.variant == variant and not s.not_learned)
    return tuple(fell for fell in found if fell is not None)


def tilts(services: Iterable[Service]) -> tuple[Decimal, ...]:
    """How much higher its gauge read on a lift, where gauge and book agreed."""
    # rows of the last release, on their way here, say nothing of it
    found = (getattr(s, "tilt", None) for s in services if not s.not_learned)
    return tuple(one for one in found if one is not None)


def _fell(row: Service) -> Fell | None:
    if row.fell_ml is None or row.fell_sd_ml is None:
        return None
    return Fell(row.fell_ml, row.fell_sd_ml)


def filled(row: Service) -> Filled:
    """A service that is learned from, as a filling of its model."""
    return Filled(bike=str(row.bike_id), took=_takes(row) or Decimal(0), fell=_fell(row))


def before(services: Sequence[Service], variant: Variant, model: OfModel) -> Before:
    """What is known of a reservoir before it is filled: by its own services, and its model's others."""
    return Before(took=valid_takes(services, variant), fell=fells(services, variant), model=model)


def outs(services: Sequence[Service], variant: Variant) -> tuple[Out, ...]:
    """What came out at each service of what the one before had put in, oldest first."""
    return tuple(
        Out(last.took_ml, one.drained_ml, one.km - last.km)
        for last, one in pairwise(services)
        if last.took_ml and one.drained_ml and last.variant == one.variant == variant
    )


def past(services: Iterable[Service]) -> dict[str, tuple[Decimal, ...]]:
    """What was measured there at services, oldest first, by name."""
    found: dict[str, list[Decimal]] = {}
    for row in services:
        # rows of the last release, on their way here, have none
        for name, value in getattr(row, "measured", {}).items():
            found.setdefault(name, []).append(Decimal(value))
    return {name: tuple(values) for name, values in found.items()}


def changes(services: Iterable[Service]) -> list[Service]:
    """Those of services in which what is in the reservoir was changed."""
    # rows of the last release, on their way here, do not say
    return [row for row in services if getattr(row, "did", Did.CHANGED) == Did.CHANGED]


def last_looked(services: Iterable[Service]) -> Service | None:
    """The newest of services, oldest first, in which it was seen: looked at, topped up or changed."""
    seen = [row for row in services if getattr(row, "did", Did.CHANGED) != Did.UNSEEN]
    return seen[-1] if seen else None


def left_last(earlier: Sequence[Service]) -> LeftFor | None:
    """Why its level was left where it stood at the last of these services, if it was."""
    code = getattr(earlier[-1], "left", "") if earlier else ""
    return LeftFor(code) if code else None


def task_plan(task: Task, history: Iterable[Service]) -> TaskPlan:
    """A task with what was known of its reservoir then. ``history``: its services, oldest first;
    its own and later ones are left out, so that an old sheet reads as it did."""
    read = task.visit.odometer
    km = read.km
    before = [s for s in history if s.visit_id != task.visit_id and s.km <= km]
    earlier = changes(before)
    same = [s for s in earlier if s.variant == task.variant]
    cells = unpack(task.spec)
    spec = reservoir_of(task.reservoir, cells)
    now, new = Meter(read.read_on, km, read.hours), when_new(task.visit.bike)
    begun = getattr(task, "so_far", None)
    return TaskPlan(
        reservoir=spec,
        variant=Variant(task.variant),
        took=valid_takes(earlier, Variant(task.variant)),
        last_put_in=same[-1].took_ml if same else None,
        km_since_wiped=km - earlier[-1].km if earlier else km,
        first_service=running_in(now, new, spec.limits, bool(earlier)),
        cells=cells,
        schools=Schools(tuple(Choice(**choice) for choice in task.schools)),
        # rows of the last release, on their way here, have none of these
        fine_last_time=getattr(task, "fine_last_time", False),
        dipstick_excused=getattr(task, "dipstick_excused", False),
        topped_up=getattr(task, "topped_up", Decimal(0)),
        outs=outs(earlier, Variant(task.variant)),
        density15=getattr(task, "density15", None),
        sample=getattr(task, "sample", False),
        fell=fells(earlier, Variant(task.variant)),
        tilts=tilts(earlier),
        model=of_model_from(getattr(task, "of_model", {})),
        left=left_last(earlier),
        low_last=getattr(task, "low_last", False),
        so_far=read_kept(begun, SoFar) if begun else None,
        waiting=unpack(getattr(task, "waiting", {})),
        past=past(before),
    ).asking()


def visit_plan(
    visit: Visit, tasks: Iterable[TaskPlan], away: tuple[OffBike, ...] = ()
) -> VisitPlan:
    """What a visit is worked out from; ``away``: what of its bike is."""
    cold = tuple(COLD_JOBS[key] for key in visit.cold if key in COLD_JOBS)
    return VisitPlan(
        tasks=tuple(tasks), cold=cold, order=tuple(visit.order), learned=visit.learned, away=away
    )


def entries(rows: Iterable[EntryRow], plan: VisitPlan) -> list[Entry]:
    """A visit's entries; those an earlier description wrote down, as this one keeps them."""
    found = list(rows)
    earlier = [_written(row) for row in found if row.description != DESCRIPTION]
    now = [_entry(row) for row in found if row.description == DESCRIPTION]
    return [*(carried_over(plan, earlier) if earlier else ()), *now]


def _corrects(row: EntryRow) -> str | None:
    return str(row.supersedes_id) if row.supersedes_id else None


def _written(row: EntryRow) -> Written:
    return Written(
        id=str(row.id),
        step=row.step,
        kind=row.kind,
        data=row.data,
        at=row.at,
        by=row.by.name,
        who=str(row.by_id),
        description=row.description,
        supersedes=_corrects(row),
    )


def _entry(row: EntryRow) -> Entry:
    return entry_from(
        row.data,
        entry_id=str(row.id),
        step=row.step,
        kind=row.kind,
        at=row.at,
        by=row.by.name,
        who=str(row.by_id),
        supersedes=_corrects(row),
    )


def plugs(spec: BikeSpec) -> list[MapPlug]:
    """Everything of a sheet that is placed on the bike map."""
    return [
        MapPlug(
            reservoir=reservoir.key,
            reservoir_label=reservoir.label,
            part=fastener.key or fastener.role,
            role=fastener.role,
            place=fastener.place,
            torque=fastener.torque.text if fastener.torque else "",
            x=float(fastener.spot.x),
            y=float(fastener.spot.y),
        )
        for reservoir in spec.reservoirs
        for fastener in reservoir.fasteners
        if fastener.spot
    ]


def closing(
    visit: Visit,
    tasks: Iterable[Task],
    plan: VisitPlan,
    sheet: Sheet,
    not_learned: Mapping[str, str] | None = None,
    batches: Mapping[str, Sequence[str]] | None = None,
) -> Closing:
    """A visit as it stands now, with all it stands on. ``not_learned`` by reservoir; ``batches`` by
    fluid, of the bottles that were taken."""
    rows = {task.reservoir: task for task in tasks}
    why, printed = not_learned or {}, batches or {}
    found = [
        _task_closing(rows[one.reservoir.key], one, sheet, why.get(one.reservoir.key, ""))
        for one in plan.tasks
    ]
    return Closing(
        tuple(replace(one, batch=", ".join(printed.get(one.fluid, ()))) for one in found),
        sheet,
        visit.odometer.km,
    )


def _task_closing(task: Task, plan: TaskPlan, sheet: Sheet, why: str) -> TaskClosing:
    fluid, stands = task.fluid, sheet.task(task.reservoir)
    # rows of the last release, on their way here, have no other oil than the shelf's
    other = getattr(task, "other_fluid", "")
    chosen = other or (fluid.name if fluid else plan.reservoir.fluid)
    confirmed = (stands.fluid if stands else "") or chosen
    bottle = fluid.bottle_ml if fluid and confirmed == fluid.name else None
    label = task.other_label if other and confirmed == other else ""
    return TaskClosing(plan=plan, fluid=confirmed, bottle_ml=bottle, not_learned=why, label=label)


@dataclass(frozen=True, kw_only=True)
class Around:
    """What is read for the bench besides the visit: its odometer reading as it stands now, the plugs on
    the map, fluids that fit by reservoir, tips by place, who may read a plug anew."""

    read: OdometerReading
    placed: list[MapPlug]
    fluids: Mapping[str, list[FluidChoice]]
    tips: Mapping[str, Tip]
    mentor: str | None


def about(visit: Visit, km: Decimal, around: Around, now: datetime) -> About:
    """What the bench shows besides the visit itself, which stood at so many ``km``."""
    read = around.read
    return About(
        id=str(visit.id),
        state=cast(VisitState, visit.state),
        bike=bike_name(visit),
        layout=visit.bike.model.layout,
        sheet_version=visit.sheet.version,
        odometer=shown(km, odometer_at(visit.bike, visit.odometer)),
        corrected="" if read.km == km else shown(read.km, odometer_at(visit.bike, read)),
        closed_by=visit.closed_by.name if visit.closed_by else "",
        wants=visit.wants,
        ride_in=visit.ride_in,
        ride_out=visit.ride_out,
        now=now,
        seconds_per_minute=seconds_per_minute(),
        placed=around.placed,
        fluids=around.fluids,
        tips={place: _tip(tip) for place, tip in around.tips.items()},
        mentor=around.mentor,
    )


def _tip(tip: Tip) -> TipShape:
    return TipShape(text=tip.text, tools=tip.tools, by=tip.by.name, at=tip.at.isoformat())


def bike_name(visit: Visit) -> BikeName:
    bike = visit.bike
    return BikeName(str(bike.id), bike.name, f"{bike.model.make} {bike.model.name}")


def stamp(row: EntryRow) -> Stamp:
    return Stamp(row.step, row.kind, row.at)

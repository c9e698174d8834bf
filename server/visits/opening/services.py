"""Opening a visit, and what it consists of while it is open."""

from dataclasses import asdict
from datetime import datetime
from uuid import UUID

from config.problems import Conflict
from django.db import transaction
from django.http import Http404
from findings.selectors import dipstick_excused, fine_last_time, watched_last_time
from garage.locks import lock_bike
from garage.mapping import BikeSpec
from garage.models import Bike
from garage.odometer.services import record_odometer
from garage.selectors import schools_of, specs_of
from oilward_core.bench import EntryKind, Started, data_document
from oilward_core.errors import CoreError
from oilward_core.fluid import named
from oilward_core.order import solve
from oilward_core.runsheet import COLD_JOBS, Name, PlannedTask, StepId, jobs_for
from oilward_core.schools import Schools
from oilward_core.spec import ReservoirSpec, Variant, pack, why_not_serviceable
from shelf.models import Fluid
from shelf.selectors import best_fluid
from workshop.access import as_id
from workshop.days import day_of
from workshop.models import Person
from workshop.touched import touch
from workshop.traces import trace

from visits.minutes import learned
from visits.models import EntryRow, Task, Visit
from visits.selectors import (
    density_of_last,
    filled_of,
    findings_so_far,
    known_of_model,
    low_last,
    topped_up,
    visits,
)
from visits.services import locked, note_standing, stands_of, still_open
from visits.shapes import AddedTask, NewTask, NewVisit

Chosen = list[tuple[ReservoirSpec, Variant, NewTask]]


def _variant(reservoir: ReservoirSpec, said: str) -> Variant:
    """The capacity that applies; where the sheet gives none, there is nothing to choose."""
    if not said and not reservoir.capacities:
        return Variant.DRAIN_ONLY
    variant = Variant.of(said or next(iter(reservoir.capacities)))
    if reservoir.facts.drained and reservoir.capacities and variant not in reservoir.capacities:
        raise CoreError("fill.no_capacity", field="variant")
    return variant


def _chosen(spec: BikeSpec, tasks: list[NewTask]) -> Chosen:
    """What is to be serviced, in the order a bike is drawn. Raises CoreError at ``tasks`` for what
    has no run sheet."""
    wanted = {task.reservoir: task for task in tasks}
    for key in wanted:
        reservoir = spec.reservoir(key)
        if reservoir is None:
            raise CoreError("visit.no_such_reservoir", field="tasks")
        if why := why_not_serviceable(reservoir):
            raise CoreError("visit.not_serviceable", field="tasks", text=why)
    if not wanted:
        raise CoreError("planning.nothing", field="tasks")
    return [
        (reservoir, _variant(reservoir, wanted[reservoir.key].variant), wanted[reservoir.key])
        for reservoir in spec.reservoirs
        if reservoir.key in wanted
    ]


SOLVE_SECONDS = 1.0


def _ordered(chosen: Chosen, new: NewVisit, minutes: dict[str, int]) -> list[str]:
    """The jobs as they were planned, or else in the shortest order there is."""
    if new.order or len(chosen) < 2:
        return [str(job)[:80] for job in new.order[:400]]
    tasks = [PlannedTask(spec=reservoir, variant=variant) for reservoir, variant, _ in chosen]
    jobs = jobs_for(tasks, [COLD_JOBS[key] for key in _cold(new)], minutes)
    placed = solve(jobs, seconds=SOLVE_SECONDS).placed
    return [one.job.id for one in sorted(placed, key=lambda one: one.start)]


def _cold(new: NewVisit) -> list[str]:
    return [key for key in COLD_JOBS if key in new.cold]


def _add(
    visit: Visit, reservoir: ReservoirSpec, variant: Variant, new: NewTask, spec: BikeSpec
) -> Task:
    """A reservoir of the visit, with its values and schools as they are now; also one that had been
    taken out again."""
    schools = schools_of([visit.bike_id])[visit.bike_id]
    other = named(new.fluid, new.label) if new.label.strip() else ""
    filled = filled_of([visit.bike.model_id])
    task, _ = Task.objects.update_or_create(
        visit=visit,
        reservoir=reservoir.key,
        defaults={
            "variant": variant,
            "fluid": None if other else _fluid(reservoir, new.fluid, schools),
            "other_fluid": other,
            "other_label": new.label.strip() if other else "",
            "spec": pack(spec.cells_of(reservoir.key)),
            "waiting": pack(spec.waiting_of(reservoir.key)),
            "schools": [vars(choice) for choice in schools.choices],
            "fine_last_time": fine_last_time(visit.bike_id, reservoir),
            "dipstick_excused": dipstick_excused(visit.bike_id, reservoir.key),
            "sample": watched_last_time(visit.bike_id, reservoir.key),
            "of_model": asdict(known_of_model(visit.bike, reservoir, variant, filled)),
            "so_far": findings_so_far(visit.bike, reservoir),
            "topped_up": topped_up(visit.bike_id, reservoir.key),
            "low_last": reservoir.facts.watched and low_last(visit.bike_id, reservoir.key),
            "density15": density_of_last(visit.bike_id, reservoir.key),
            "taken_out": False,
        },
    )
    return task


def _note_opened(
    visit: Visit, reservoir: str, entry_id: UUID, actor: Person, now: datetime
) -> None:
    """That a plug was opened by mistake; twice is once, and one that is out already is out. Raises
    Conflict ``visit.id_taken``."""
    step = str(StepId(reservoir, Name.DRAIN))
    said = EntryRow.objects.filter(visit=visit, step=step, kind=EntryKind.START)
    if said.exclude(id=entry_id).exists():
        return
    row, _ = EntryRow.objects.get_or_create(
        id=entry_id,
        defaults={
            "visit": visit,
            "step": step,
            "kind": EntryKind.START,
            "data": data_document(Started(mistaken=True)),
            "at": now,
            "by": actor,
        },
    )
    if (row.visit_id, row.step, row.kind) != (visit.pk, step, EntryKind.START):
        raise Conflict("visit.id_taken")


def _fluid(reservoir: ReservoirSpec, name: str, schools: Schools) -> Fluid | None:
    named = Fluid.objects.filter(name=name).first() if name else None
    if named or not reservoir.facts.poured:
        return named
    return best_fluid(reservoir.requirement, reservoir.kind, schools)


def _spec_of(bike: Bike) -> BikeSpec:
    spec = specs_of([bike]).get(bike.pk)
    if spec is None:
        raise CoreError("visit.no_sheet")
    return spec


def open_visit(new: NewVisit, *, actor: Person, now: datetime) -> Visit:
    """Open a visit for one reservoir or several. The same id again gives the same visit."""
    bike = Bike.objects.select_related("model").filter(pk=as_id(new.bike)).first()
    if bike is None or bike.archived:
        raise Http404
    minutes = {kind: took for kind, (took, _) in learned().items()}
    # solved before any row is locked: what is chosen is looked at again inside
    spec = specs_of([bike]).get(bike.pk)
    order = _ordered(_chosen(spec, new.tasks), new, minutes) if spec else []
    return _open(new, order, minutes, actor=actor, now=now)


@transaction.atomic
def _open(
    new: NewVisit, order: list[str], minutes: dict[str, int], *, actor: Person, now: datetime
) -> Visit:
    visit_id = as_id(new.id)
    bike = lock_bike(as_id(new.bike))
    if bike.archived:
        raise Http404
    existing = visits().filter(pk=visit_id).first()
    if existing:
        if existing.bike_id != bike.pk:
            raise Conflict("visit.id_taken")
        return existing
    if Visit.objects.filter(bike=bike, state=Visit.State.OPEN).exists():
        raise Conflict("visit.open_already")
    spec = _spec_of(bike)
    chosen = _chosen(spec, new.tasks)
    odometer = record_odometer(
        bike,
        new.odometer,
        reading_id=visit_id,
        read_on=day_of(now),
        actor=actor,
        hours=new.hours,
        sure=new.sure,
    )
    visit = Visit.objects.create(
        id=visit_id,
        bike=bike,
        sheet=spec.sheet,
        odometer=odometer,
        opened_by=actor,
        opened_at=now,
        cold=_cold(new),
        order=order,
        learned=minutes,
        wants=new.wants.strip(),
        ride_in=new.ride_in.strip(),
    )
    for reservoir, variant, task in chosen:
        _add(visit, reservoir, variant, task, spec)
    note_standing(visit)  # a sheet that cannot be made refuses the visit
    touch(bike.pk)
    return visit


@transaction.atomic
def add_task(visit_id: UUID, new: AddedTask, *, actor: Person, now: datetime) -> Visit:
    """Take a reservoir into an open visit; twice changes nothing. With an ``entry`` its plug has been
    opened by mistake: that is written down, and the visit goes on with it. Raises Conflict
    ``visit.id_taken`` where that id stands for something else."""
    visit = locked(visit_id)
    still_open(visit)
    spec = _spec_of(visit.bike)
    wanted = NewTask(reservoir=new.reservoir, variant=new.variant, fluid=new.fluid, label=new.label)
    ((reservoir, variant, task),) = _chosen(spec, [wanted])
    row = Task.objects.filter(visit=visit, reservoir=reservoir.key).first()
    if row is None or row.taken_out:
        trace("reservoir added to a visit", f"{visit.pk}/{reservoir.key}", actor=actor)
        _add(visit, reservoir, variant, task, spec)
    if new.entry:
        _note_opened(visit, reservoir.key, as_id(new.entry), actor, now)
    return note_standing(visit)


@transaction.atomic
def take_out(visit_id: UUID, reservoir: str, *, actor: Person) -> Visit:
    """Take a reservoir out of an open visit, while nothing of it has been opened; twice changes
    nothing. Raises Conflict ``visit.opened`` and ``visit.last_task``."""
    visit = locked(visit_id)
    still_open(visit)
    tasks, _, sheet = stands_of(visit)
    row = next((task for task in tasks if task.reservoir == reservoir), None)
    if row is None:
        return visit
    stands = sheet.task(reservoir)
    if stands is not None and stands.opened:
        raise Conflict("visit.opened")
    if len(tasks) == 1:
        raise Conflict("visit.last_task")
    row.taken_out = True
    row.save(update_fields=["taken_out"])
    trace("reservoir taken out of a visit", f"{visit.pk}/{reservoir}", actor=actor)
    return note_standing(visit)

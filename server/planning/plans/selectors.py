from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from decimal import Decimal
from uuid import UUID

from config.sentences import sentence_of
from django.http import Http404
from garage.mapping import BikeSpec
from garage.models import Bike
from garage.selectors import schools_of, specs_of
from oilward_core.bundle import Costs, Load, Upkeep, compare, propose
from oilward_core.errors import CoreError
from oilward_core.kit import cautions, things
from oilward_core.order import PlannedTask, Wish, jobs_for, learned_minutes, solve
from oilward_core.schools import Schools
from shelf.devices import SimulatedCounter
from shelf.mapping import wrenches
from shelf.models import BottleRow, SealRow
from shelf.selectors import best_fluid
from visits.models import Service
from visits.selectors import services_of, step_minutes
from workshop.mapping import speaker
from workshop.models import Person, Workshop

from planning.mapping import variants
from planning.models import DueRow, PlannedVisit

from . import mapping
from .papers import as_ics, as_pdf
from .shapes import (
    Calendar,
    ColdLine,
    KitShape,
    LoadShape,
    OrderShape,
    PlanAsked,
    PlannedLine,
    PlanPage,
    SealLine,
    Shopping,
    TaskLine,
)

COUNTER = SimulatedCounter()
SECONDS = 2.0


@dataclass(frozen=True)
class Ground:
    """Everything a plan of one bike stands on."""

    bike: Bike
    spec: BikeSpec
    schools: Schools
    services: Mapping[str, Sequence[Service]]
    dues: Mapping[str, DueRow]
    upkeeps: Sequence[Upkeep]


def _ground(bike_id: UUID, today: date) -> Ground:
    bike = Bike.objects.select_related("model").filter(pk=bike_id).first()
    if bike is None:
        raise Http404
    spec = specs_of([bike]).get(bike.pk)
    if spec is None:
        raise CoreError("visit.no_sheet")
    dues = {row.reservoir: row for row in DueRow.objects.filter(bike=bike)}
    found = (
        mapping.upkeep(dues[reservoir.key], reservoir, today)
        for reservoir in spec.reservoirs
        if reservoir.key in dues
    )
    services = {key: rows for (_, key), rows in services_of([bike.pk]).items()}
    return Ground(
        bike, spec, schools_of([bike.pk])[bike.pk], services, dues, [u for u in found if u]
    )


def _lines(ground: Ground, asked: PlanAsked, today: date) -> list[TaskLine]:
    proposals = propose(ground.upkeeps, today, Costs())
    chosen = {task.reservoir: task.variant for task in asked.tasks}
    known = {reservoir.key for reservoir in ground.spec.reservoirs}
    if unknown := set(chosen) - known:
        raise CoreError("visit.no_such_reservoir", field="tasks", text=min(unknown))
    lines = []
    for proposal in proposals:
        reservoir = ground.spec.reservoir(proposal.upkeep.key)
        assert reservoir is not None
        services = ground.services.get(reservoir.key, ())
        offered = variants(reservoir, services, ground.schools)
        if asked.proposed and proposal.do:
            chosen[reservoir.key] = offered[0]
        row = ground.dues[reservoir.key]
        when = f"{row.forecast_on:%d %b %Y}" if row.forecast_on else "no record: now"
        lines.append(mapping.task_line(proposal, when, offered, chosen))
    return lines


def _order(
    tasks: Sequence[PlannedTask], asked: PlanAsked, cold: Sequence[str]
) -> tuple[OrderShape | None, str]:
    if not tasks and not cold:
        return None, ""
    learned = learned_minutes(step_minutes())
    minutes = {kind: value for kind, (value, _) in learned.items()}
    jobs = jobs_for(tasks, [mapping.COLD_JOBS[key] for key in cold], minutes)
    wishes = [Wish(wish.first, wish.then) for wish in asked.wishes]
    try:
        found = solve(
            jobs, technicians=asked.technicians, pans=asked.pans, wishes=wishes, seconds=SECONDS
        )
    except CoreError as error:
        if not error.code.startswith("order."):
            raise
        return None, sentence_of(error)
    return mapping.order_shape(found, learned), ""


def _needs(ground: Ground, tasks: Sequence[PlannedTask]) -> list[mapping.Need]:
    fluids = {
        task.spec.key: best_fluid(task.spec.requirement, task.spec.kind, ground.schools)
        for task in tasks
    }
    return mapping.needs(tasks, fluids, ground.services)


def _kit(
    ground: Ground, tasks: Sequence[PlannedTask], minutes: int, person: Person, today: date
) -> KitShape:
    laid, workshop = things(tasks, ground.schools), Workshop.objects.first()
    needs = _needs(ground, tasks)
    bottles = list(BottleRow.objects.filter(fluid__in=[need.fluid for need in needs]))
    picks = [(need, mapping.picked(need, bottles, COUNTER, today)) for need in needs]
    drawer = dict(SealRow.objects.values_list("name", "count"))
    parts = sum((found.cost for _, found in picks), Decimal(0))
    hour = workshop.hour_price if workshop else Decimal(0)
    labour = (hour * minutes / 60).quantize(Decimal("0.01"))
    return KitShape(
        [mapping.fluid_line(need, found, speaker(person)) for need, found in picks],
        [SealLine(name, count, drawer.get(name, 0)) for name, count in laid.seals],
        list(laid.tools),
        mapping.torque_lines(laid, tasks, wrenches(), ground.schools),
        list(laid.consumables),
        f"{parts:.2f}",
        f"{labour:.2f}",
        f"{parts + labour:.2f}",
        f"{workshop.flat_price:.2f}" if workshop else "",
        True,
    )


def _load(load: Load) -> LoadShape:
    return LoadShape(load.visits, load.hours, load.litres)


def plan(bike_id: UUID, asked: PlanAsked, person: Person, today: date) -> PlanPage:
    """The plan of a visit to this bike: proposal, run order, kit and cautions. Writes nothing."""
    ground = _ground(bike_id, today)
    lines = _lines(ground, asked, today)
    chosen = {line.reservoir: line.variant for line in lines if line.chosen}
    tasks = mapping.planned_tasks(ground.spec, chosen, ground.services)
    cold = [key for key in mapping.COLD_JOBS if key in asked.cold]
    order, refused = _order(tasks, asked, cold)
    together, alone = compare(ground.upkeeps, today, Costs())
    return PlanPage(
        ground.bike.name,
        str(ground.bike.pk),
        lines,
        [
            ColdLine(key, job.label, job.minutes, key in cold)
            for key, job in mapping.COLD_JOBS.items()
        ],
        asked.technicians,
        asked.pans,
        order,
        refused,
        _kit(ground, tasks, order.hands_on if order else 0, person, today),
        list(cautions(tasks)),
        _load(together),
        _load(alone),
    )


def planned_or_404(visit_id: UUID) -> PlannedVisit:
    visit = PlannedVisit.objects.select_related("bike__model").filter(pk=visit_id).first()
    if visit is None:
        raise Http404
    return visit


def coming() -> list[PlannedVisit]:
    return list(
        PlannedVisit.objects.filter(state=PlannedVisit.State.PLANNED).select_related("bike__model")
    )


def _line(visit: PlannedVisit) -> PlannedLine:
    what = ", ".join(task["reservoir"] for task in visit.tasks)
    return PlannedLine(
        str(visit.pk),
        visit.bike.name,
        str(visit.bike_id),
        visit.on.isoformat(),
        what,
        visit.minutes,
        visit.planned_by,
        visit.version,
    )


def shopping(visits: Sequence[PlannedVisit], today: date) -> list[Shopping]:
    """What the planned visits together need and the shelf does not have."""
    fluids: dict[int, mapping.Need] = {}
    seals: Counter[str] = Counter()
    bikes: dict[str, dict[str, None]] = {}
    for visit in visits:
        ground = _ground(visit.bike_id, today)
        chosen = {task["reservoir"]: task["variant"] for task in visit.tasks}
        tasks = mapping.planned_tasks(ground.spec, chosen, ground.services)
        for need in _needs(ground, tasks):
            before = fluids.get(need.fluid.pk, mapping.Need(need.fluid, Decimal(0), ()))
            fluids[need.fluid.pk] = mapping.Need(need.fluid, before.ml + need.ml, ())
            bikes.setdefault(need.fluid.name, {})[visit.bike.name] = None
        for name, count in things(tasks, ground.schools).seals:
            seals[name] += count
            bikes.setdefault(name, {})[visit.bike.name] = None
    bottles, drawer = (
        list(BottleRow.objects.all()),
        dict(SealRow.objects.values_list("name", "count")),
    )
    found = []
    for need in fluids.values():
        missing = mapping.picked(need, bottles, COUNTER, today).buy
        if missing:
            words = ", ".join(f"{count} × {size.ml} ml" for size, count in missing)
            at_counter = COUNTER.available(need.fluid.name)
            for_bikes = ", ".join(sorted(bikes[need.fluid.name]))
            found.append(Shopping(need.fluid.name, words, for_bikes, at_counter))
    for name, count in sorted(seals.items()):
        if count > drawer.get(name, 0):
            short = f"{count - drawer.get(name, 0)}"
            found.append(
                Shopping(name, short, ", ".join(sorted(bikes[name])), COUNTER.available(name))
            )
    return found


def calendar(today: date) -> Calendar:
    visits, workshop = coming(), Workshop.objects.first()
    feed = f"/api/calendar/{workshop.calendar_token}.ics" if workshop else ""
    return Calendar([_line(visit) for visit in visits], shopping(visits, today), feed)


def ics(token: str, now: datetime) -> bytes:
    """The planned visits and what is expected to be due, as a calendar others can read."""
    if not Workshop.objects.filter(calendar_token=token).exists():
        raise Http404
    expected = (
        DueRow.objects.filter(forecast_on__isnull=False, bike__archived=False)
        .select_related("bike")
        .order_by("forecast_on")[:500]
    )
    return as_ics(coming(), expected, now)


def kit_pdf(visit_id: UUID, person: Person, today: date) -> bytes:
    """The pick list of a planned visit, for the printer."""
    visit = planned_or_404(visit_id)
    page = plan(visit.bike_id, mapping.asked_of(visit), person, today)
    return as_pdf(page, visit.on)

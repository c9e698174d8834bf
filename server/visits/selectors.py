from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from datetime import datetime
from decimal import Decimal
from functools import lru_cache
from typing import Any, cast
from uuid import UUID

from django.db.models import Count, Exists, F, Max, OuterRef, QuerySet, Sum, Window
from django.db.models.functions import RowNumber
from django.http import Http404
from findings.selectors import so_far_of
from garage.mapping import model_spec
from garage.models import Bike, OdometerReading, OwnCell, SpecSheet
from garage.odometer.selectors import corrections, follow
from garage.selectors import schools_of, specs_of
from oilward_bench import RunSheet
from oilward_bench import in_short as said_in_short
from oilward_bench import run_sheet as said
from oilward_bench.shapes import FitWord, FluidChoice, MapPlug
from oilward_core.bench import Closing, Entry, VisitPlan, as_kept, fold, kept
from oilward_core.codes.options import Did
from oilward_core.fill import Filled, OfModel, of_model
from oilward_core.fluid import Fit
from oilward_core.renewals import variants
from oilward_core.runsheet import TaskPlan
from oilward_core.schools import Schools
from oilward_core.spec import (
    Requirement,
    ReservoirKind,
    ReservoirSpec,
    Variant,
    why_not_serviceable,
)
from shelf.models import Fluid, StockLine
from shelf.selectors import judged
from shelf.stock.selectors import stock_words
from workshop.access import stands_alone
from workshop.days import today
from workshop.kept import IN_SHORT
from workshop.mapping import speaker
from workshop.models import Person

from . import rows as to_core
from .away.selectors import off_bike
from .marks import counted
from .models import ClosingRow, EntryRow, Service, Shelf, Task, Tip, TopUp, Visit
from .shapes import Offer


def visits() -> QuerySet[Visit]:
    return Visit.objects.select_related("bike__model", "sheet", "odometer")


def _read(visit: Visit) -> OdometerReading:
    """The visit's odometer reading as it stands now."""
    return corrections([visit.bike_id]).get(visit.odometer.pk, visit.odometer)


def tasks_of(visit: Visit) -> list[Task]:
    """The visit's tasks, at the odometer reading that stands now."""
    visit.odometer = _read(visit)
    rows = Task.objects.select_related("fluid").filter(visit=visit, taken_out=False)
    for task in rows:
        task.visit = visit
    return list(rows)


def findings_so_far(bike: Bike, reservoir: ReservoirSpec) -> dict[str, Any] | None:
    """What a reservoir's findings come to, as a task keeps it; None where none are read."""
    if not reservoir.facts.drained:
        return None
    return as_kept(so_far_of(bike, reservoir.key, reservoir.kind, today()))


def task_plans(tasks: Sequence[Task]) -> list[TaskPlan]:
    """What the tasks of one visit stand on."""
    if not tasks:
        return []
    bike = tasks[0].visit.bike_id
    services = services_of([bike])
    plans = [to_core.task_plan(task, services.get((bike, task.reservoir), [])) for task in tasks]
    return [_with_so_far(plan, task.visit.bike) for plan, task in zip(plans, tasks, strict=True)]


def _with_so_far(plan: TaskPlan, bike: Bike) -> TaskPlan:
    """What its findings come to, where the visit was begun by a release that did not keep that."""
    spec = plan.reservoir
    if plan.so_far is not None or not spec.facts.drained:
        return plan
    return replace(plan, so_far=so_far_of(bike, spec.key, spec.kind, today()))


def plan_of(visit: Visit, tasks: Sequence[Task]) -> VisitPlan:
    return to_core.visit_plan(visit, task_plans(tasks), off_bike(visit.bike))


def entries_of(visit: Visit, plan: VisitPlan) -> list[Entry]:
    found = EntryRow.objects.filter(visit=visit).select_related("by")
    return to_core.entries(found, plan)


def standing(visit: Visit) -> Closing:
    """A visit as it stands: a closed one as it was closed, an open one folded now."""
    if visit.state != Visit.State.OPEN:
        row = ClosingRow.objects.filter(visit=visit).first()
        if row is not None:
            return kept(row.document)
    if visit.worked_out is None:
        tasks = tasks_of(visit)
        plan = plan_of(visit, tasks)
        sheet = fold(plan, entries_of(visit, plan), to_core.bench())
        visit.worked_out = to_core.closing(visit, tasks, plan, sheet)
    return visit.worked_out


def _shelf() -> Shelf:
    fluids = Fluid.objects.aggregate(Count("pk"), Max("pk"), Sum("version"))
    return (*fluids.values(), StockLine.objects.aggregate(Max("pk"))["pk__max"])


def _fluids(stands: Closing, unit: str, shelf: Shelf) -> dict[str, list[FluidChoice]]:
    """What may go into each reservoir of a visit, best first, with what stands of it on the shelf."""
    return {
        one.plan.reservoir.key: _fitting(one.plan.reservoir, one.plan.schools, unit, shelf)
        for one in stands.tasks
    }


def _fitting(spec: ReservoirSpec, schools: Schools, unit: str, shelf: Shelf) -> list[FluidChoice]:
    return _asked(spec.requirement, spec.kind, schools, unit, shelf) if spec.facts.poured else []


@lru_cache(maxsize=512)
def _asked(
    need: Requirement,
    kind: ReservoirKind,
    schools: Schools,
    unit: str,
    shelf: Shelf,
) -> list[FluidChoice]:
    """Each is asked on every entry, and a shelf stays as it is for many of them."""
    stock = _stock(unit, shelf)
    return [
        FluidChoice(
            name=row.name,
            stock=stock.get(row.pk, "none on the shelf"),
            fit=cast(FitWord, found.fit.word),
            why=found.reasons[0].text if found.fit >= Fit.CAUTION else "",
        )
        for row, found in judged(need, kind, schools)
    ]


@lru_cache(maxsize=16)
def _stock(unit: str, shelf: Shelf) -> dict[int, str]:
    return stock_words(unit)


def _variants(spec: ReservoirSpec, schools: Schools, services: Sequence[Service]) -> list[str]:
    if not spec.facts.drained:
        return []
    done = [row.variant for row in to_core.changes(services)]
    return [one.value for one in variants(spec, schools, done)]


def offers(bike_id: UUID, person: Person) -> list[Offer]:
    """What a visit of this bike can consist of."""
    bike = Bike.objects.select_related("model").filter(pk=bike_id).first()
    if bike is None:
        raise Http404
    spec = specs_of([bike]).get(bike.pk)
    services, schools = services_of([bike.pk]), schools_of([bike.pk])[bike.pk]
    unit, shelf = speaker(person).volume, _shelf()
    return [
        Offer(
            key=reservoir.key,
            label=reservoir.label,
            variants=_variants(reservoir, schools, services.get((bike.pk, reservoir.key), [])),
            pours=reservoir.facts.poured,
            fluids=_fitting(reservoir, schools, unit, shelf),
        )
        for reservoir in (spec.reservoirs if spec else ())
        if not why_not_serviceable(reservoir)
    ]


@lru_cache(maxsize=256)
def _plugs(sheet_id: int, approved_at: datetime | None) -> list[MapPlug]:
    """What a sheet places on the map. A visit's sheet is approved, so it never changes."""
    return to_core.plugs(model_spec(SpecSheet.objects.select_related("model").get(pk=sheet_id)))


def run_sheet(visit: Visit, person: Person, now: datetime) -> RunSheet:
    stands, is_open, speaks = standing(visit), visit.state == Visit.State.OPEN, speaker(person)
    around = to_core.Around(
        read=visit.odometer if is_open else _read(visit),
        placed=_plugs(visit.sheet_id, visit.sheet.approved_at),
        fluids=_fluids(stands, speaks.volume, counted(visit).shelf) if is_open else {},
        tips=tips_of(visit.bike.model_id) if is_open else {},
        mentor=str(person.pk) if is_open and stands_alone(person) else None,
    )
    return said(stands, to_core.about(visit, stands.km, around, now), speaks)


def tips_of(model_id: int) -> dict[str, Tip]:
    """The tip that counts at each place of a model's bikes."""
    rows = Tip.objects.filter(model=model_id).select_related("by")
    newest = {tip.step: tip for tip in rows}
    return {step: tip for step, tip in newest.items() if tip.text or tip.tools}


def services_of(bike_ids: Iterable[UUID]) -> dict[tuple[UUID, str], list[Service]]:
    """Every service of each reservoir of these bikes, oldest first."""
    ids = list(bike_ids)
    rows = list(Service.objects.filter(bike_id__in=ids).select_related("reading"))
    follow(rows, corrections(ids))
    grouped: dict[tuple[UUID, str], list[Service]] = {}
    for row in sorted(rows, key=lambda row: (row.done_on, row.km)):
        grouped.setdefault((row.bike_id, row.reservoir), []).append(row)
    return grouped


def filled_of(models: Iterable[int]) -> dict[tuple[int, str, str], list[Filled]]:
    """The latest fillings that are learned from, by model, reservoir and variant. What a bike of its own
    takes otherwise than its model is left out."""
    own = OwnCell.objects.filter(
        bike=OuterRef("bike"), reservoir=OuterRef("reservoir"), field__startswith="capacity."
    )
    same = [F("bike__model"), F("reservoir"), F("variant")]
    newest = Window(RowNumber(), partition_by=same, order_by=[F("done_on").desc(), F("pk")])
    rows = (
        Service.objects.filter(bike__model__in=list(models), not_learned="")
        .filter(~Exists(own), took_ml__gt=0)
        .annotate(nth=newest)
        .filter(nth__lte=LEARNED_FROM)
        .select_related("bike")
    )
    found: dict[tuple[int, str, str], list[Filled]] = {}
    for row in rows:
        key = (row.bike.model_id, row.reservoir, row.variant)
        found.setdefault(key, []).append(to_core.filled(row))
    return found


def known_of_model(
    bike: Bike,
    spec: ReservoirSpec,
    variant: Variant,
    filled: Mapping[tuple[int, str, str], Sequence[Filled]],
) -> OfModel:
    """What the other bikes of its model tell of a reservoir."""
    capacity = spec.capacities.get(variant) or Decimal(0)
    others = filled.get((bike.model_id, spec.key, variant.value), ())
    return of_model(variant, capacity, [one for one in others if one.bike != str(bike.pk)])


def top_ups_of(bike_id: UUID) -> dict[str, list[TopUp]]:
    """What was added to each reservoir of a bike between services, newest first."""
    grouped: dict[str, list[TopUp]] = {}
    for row in TopUp.objects.filter(bike_id=bike_id).select_related("reading").order_by("-done_on"):
        grouped.setdefault(row.reservoir, []).append(row)
    return grouped


def topped_up(bike_id: UUID, reservoir: str) -> Decimal:
    """What was added to a reservoir since its last change, ml."""
    last = to_core.changes(services_of([bike_id]).get((bike_id, reservoir), []))
    since = top_ups_of(bike_id).get(reservoir, [])
    # one of the very day of the service belongs to the service
    return sum((one.ml for one in since if not last or one.done_on > last[-1].done_on), Decimal(0))


def low_last(bike_id: UUID, reservoir: str) -> bool:
    """Whether it had to be topped up at the last look, or since."""
    seen = to_core.last_looked(services_of([bike_id]).get((bike_id, reservoir), []))
    added = top_ups_of(bike_id).get(reservoir, [])
    if seen is None:
        return bool(added)
    return seen.did == Did.TOPPED_UP or any(one.done_on > seen.done_on for one in added)


def density_of_last(bike_id: UUID, reservoir: str) -> Decimal | None:
    """What the oil weighs that went in at the last service, kg/m³ at 15 °C, if its sheet says."""
    last = Service.objects.filter(bike=bike_id, reservoir=reservoir).exclude(fluid="")
    name = last.order_by("-done_on", "-reading__km").values_list("fluid", flat=True).first()
    return Fluid.objects.filter(name=name).values_list("density15", flat=True).first()


def in_shop(bike_ids: Iterable[UUID]) -> set[UUID]:
    """Which of these bikes have an open visit."""
    rows = Visit.objects.filter(bike_id__in=list(bike_ids), state=Visit.State.OPEN)
    return set(rows.values_list("bike_id", flat=True))


LEARNED_FROM = 60  # visits


def in_short(visit_id: UUID) -> dict[str, Any]:
    """Where a visit stands in short, worked out."""
    closed = standing(visits().get(pk=visit_id))
    return said_in_short(closed.sheet, [one.plan for one in closed.tasks])


def open_visits(bike_ids: Iterable[UUID]) -> dict[UUID, tuple[UUID, dict[str, Any]]]:
    """The open visit of each bike that has one, with where it stands in short: as it was written down
    with its last entry, or worked out anew where that was by other rules."""
    rows = Visit.objects.filter(bike_id__in=list(bike_ids), state=Visit.State.OPEN)
    found = rows.values_list("bike_id", "pk", "stands")
    return {bike: (visit, _by_these_rules(visit, stands)) for bike, visit, stands in found}


def _by_these_rules(visit: UUID, stands: dict[str, Any]) -> dict[str, Any]:
    of = IN_SHORT.of(visit=str(visit))
    if stands.get("of") == of:
        return stands
    anew = {**in_short(visit), "of": of}
    # an entry that came meanwhile has written down something newer
    Visit.objects.filter(pk=visit, stands=stands).update(stands=anew)
    return anew

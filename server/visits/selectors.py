from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from django.db.models import Prefetch, QuerySet
from garage.mapping import model_spec
from garage.models import OdometerReading
from garage.odometer.selectors import corrections, follow
from oilward_core.order import Stamp, hands_on, learned_minutes
from oilward_core.sheet import Closing, Entry, Sheet, TaskPlan, fold, kept
from workshop.mapping import seconds_per_minute, speaker
from workshop.models import Person

from . import mapping
from .models import ClosingRow, EntryRow, Service, Task, Visit
from .shapes import RunSheet


def visits() -> QuerySet[Visit]:
    return Visit.objects.select_related(
        "bike__model", "sheet", "odometer", "opened_by", "closed_by"
    )


def _read(visit: Visit) -> OdometerReading:
    """The visit's odometer reading as it stands now."""
    return corrections([visit.bike_id]).get(visit.odometer.pk, visit.odometer)


def task_of(visit: Visit) -> Task:
    """The visit's task, at the odometer reading that stands now."""
    task = Task.objects.select_related("fluid").get(visit=visit)
    visit.odometer = _read(visit)
    task.visit = visit
    return task


def plan_of(task: Task) -> TaskPlan:
    bike = task.visit.bike_id
    return mapping.task_plan(task, services_of([bike]).get((bike, task.reservoir), []))


def entries_of(visit: Visit) -> list[Entry]:
    rows = EntryRow.objects.filter(visit=visit).select_related("by")
    return [mapping.entry(row) for row in rows]


def sheet_of(visit: Visit, plan: TaskPlan) -> Sheet:
    return fold(plan, entries_of(visit), mapping.bench())


def standing(visit: Visit) -> Closing:
    """A visit as it stands: a closed one as it was closed, an open one folded now."""
    row = ClosingRow.objects.filter(visit=visit).first()
    if row is not None:
        return kept(row.document)
    task = task_of(visit)
    plan = plan_of(task)
    return mapping.closing(task, plan, sheet_of(visit, plan))


def run_sheet(visit: Visit, person: Person, now: datetime) -> RunSheet:
    placed = mapping.plugs(model_spec(visit.sheet))
    stands, read = standing(visit), _read(visit)
    return mapping.run_sheet(visit, stands, read, speaker(person), now, placed)


def services_of(bike_ids: Iterable[UUID]) -> dict[tuple[UUID, str], list[Service]]:
    """Every service of each reservoir of these bikes, oldest first."""
    ids = list(bike_ids)
    rows = list(Service.objects.filter(bike_id__in=ids).select_related("reading"))
    follow(rows, corrections(ids))
    grouped: dict[tuple[UUID, str], list[Service]] = {}
    for row in sorted(rows, key=lambda row: (row.done_on, row.km)):
        grouped.setdefault((row.bike_id, row.reservoir), []).append(row)
    return grouped


def in_shop(bike_ids: Iterable[UUID]) -> set[UUID]:
    """Which of these bikes have an open visit."""
    rows = Visit.objects.filter(bike_id__in=list(bike_ids), state=Visit.State.OPEN)
    return set(rows.values_list("bike_id", flat=True))


LEARNED_FROM = 60  # visits


def learned() -> dict[str, tuple[int, int]]:
    """Minutes by kind of job as the latest signed visits took them, with how many say so."""
    latest = Visit.objects.filter(state=Visit.State.SIGNED).order_by("-closed_at")
    ids = list(latest.values_list("pk", flat=True)[:LEARNED_FROM])
    stamps: dict[UUID, list[Stamp]] = {}
    for row in EntryRow.objects.filter(visit_id__in=ids).order_by("at", "id"):
        stamps.setdefault(row.visit_id, []).append(mapping.stamp(row))
    minute = timedelta(seconds=seconds_per_minute())
    return learned_minutes(hands_on(visit, minute) for visit in stamps.values())


@dataclass(frozen=True)
class OpenSheet:
    """An open visit with its run sheet as it stands."""

    visit: Visit
    label: str
    sheet: Sheet


def open_sheets(
    bike_ids: Iterable[UUID], services: dict[tuple[UUID, str], list[Service]]
) -> dict[UUID, OpenSheet]:
    """The open visit of each bike that has one, in a number of queries that does not grow."""
    ids = list(bike_ids)
    rows = (
        visits()
        .filter(bike_id__in=ids, state=Visit.State.OPEN)
        .prefetch_related(
            Prefetch("tasks", queryset=Task.objects.select_related("fluid")),
            Prefetch("entries", queryset=EntryRow.objects.select_related("by")),
        )
    )
    bench, corrected, found = mapping.bench(), corrections(ids), {}
    for visit in rows:
        visit.odometer = corrected.get(visit.odometer.pk, visit.odometer)
        task = visit.tasks.all()[0]
        task.visit = visit
        plan = mapping.task_plan(task, services.get((visit.bike_id, task.reservoir), []))
        entries = [mapping.entry(row) for row in visit.entries.all()]
        found[visit.bike_id] = OpenSheet(visit, plan.reservoir.label, fold(plan, entries, bench))
    return found

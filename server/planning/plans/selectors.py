from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from datetime import date, datetime
from uuid import UUID

from django.db.models import Q
from django.http import Http404
from oilward_core.bundle import Costs, Load, compare, next_visit, propose
from oilward_core.calendar import Signed
from oilward_core.codes.options import Did
from oilward_core.errors import CoreError
from oilward_core.renewals import goes_on_new, variants
from oilward_core.runsheet import COLD_JOBS, Job, PlannedTask, cautions, jobs_for
from oilward_core.spec import Variant
from visits.minutes import learned
from visits.models import Service
from workshop.access import as_id
from workshop.days import week_begins
from workshop.models import Person, Workshop
from workshop.rights import Right, with_right

from planning.mapping import done_so_far, seals_so_far
from planning.models import DueRow, PlannedVisit
from planning.selectors import asks_of, open_visit

from . import by_week, kits, mapping
from .ground import Ground, ground, grounds
from .orders import order_of
from .papers import as_ics, as_pdf
from .shapes import (
    Booked,
    Calendar,
    ColdLine,
    Hand,
    LoadShape,
    PlanAsked,
    PlanPage,
    TaskLine,
)


def workers_here() -> list[Person]:
    """Everybody who services bikes here now, by name."""
    working = Person.objects.filter(is_active=True, role__in=with_right(Right.WORK))
    return list(working.order_by("name", "pk"))


def names_of(visits: Iterable[PlannedVisit]) -> dict[str, str]:
    """What those who are named for visits are called, and everybody who works here."""
    hands = {who for visit in visits for who in visit.hands}
    found = Person.objects.filter(Q(pk__in=hands) | Q(role__in=with_right(Right.WORK)))
    return {str(pk): name for pk, name in found.values_list("pk", "name")}


def _day(ground: Ground, asked: PlanAsked, today: date) -> date:
    """The day a visit is planned for; one half typed or gone by counts as none."""
    try:
        day = date.fromisoformat(asked.on or "")
    except ValueError:
        return next_visit(ground.upkeeps, today)
    return max(day, today)


def _lines(ground: Ground, asked: PlanAsked, done: dict[str, str], day: date) -> list[TaskLine]:
    proposals = {p.upkeep.key: p for p in propose(ground.upkeeps, day, Costs())}
    chosen = {task.reservoir: task.variant for task in asked.tasks}
    if unknown := [key for key in chosen if ground.spec.reservoir(key) is None]:
        raise CoreError("visit.no_such_reservoir", field="tasks", text=min(unknown))
    lines = []
    for spec in ground.spec.reservoirs:
        rows = ground.services.get(spec.key, ())
        services = done_so_far(rows)
        offered = variants(spec, ground.schools, services)
        proposal, row = proposals.get(spec.key), ground.dues.get(spec.key)
        if asked.proposed and proposal and proposal.do:
            chosen[spec.key] = offered[0]
        given = chosen.get(spec.key)
        variant = Variant.of(given, "tasks") if given is not None else offered[0]
        along = goes_on_new(spec, ground.schools, services, variant, seals_so_far(rows))
        task = mapping.task_line(spec, proposal, mapping.when(row), offered, variant, along)
        lines.append(replace(task, chosen=spec.key in chosen, done=done.get(spec.key, "")))
    return lines


def _jobs(
    tasks: Sequence[PlannedTask], cold: Sequence[str], took: Mapping[str, tuple[int, int]]
) -> tuple[Job, ...]:
    if not tasks and not cold:
        return ()
    minutes = {kind: value for kind, (value, _) in took.items()}
    return jobs_for(tasks, [COLD_JOBS[key] for key in cold], minutes)


def _load(load: Load) -> LoadShape:
    return LoadShape(load.visits, load.hours, load.litres)


def plan(bike_id: UUID, asked: PlanAsked, person: Person, today: date) -> PlanPage:
    """The plan of a visit to this bike: proposal, run order, kit and cautions. Writes nothing.

    Its kit is picked from what the visits before it in the calendar leave; from what all of them
    leave if it does not stand there."""
    found = ground(bike_id, today)
    booked = planned_or_404(as_id(asked.planned)) if asked.planned else None
    done = dict(booked.done) if booked else {}
    if booked:
        asked = mapping.still_there(asked, booked, found.spec)
    workers = workers_here()
    asked = mapping.with_hands(asked, workers, kept=booked.hands if booked else ())
    day = _day(found, asked, today)
    lines = _lines(found, asked, done, day)
    left = {line.reservoir: line.variant for line in lines if line.chosen and not line.done}
    tasks = mapping.planned_tasks(found.spec, left, found.services)
    cold, took = [key for key in COLD_JOBS if key in asked.cold], learned()
    jobs = _jobs(tasks, cold, took)
    order, refused = order_of(jobs, asked, took, person) if jobs else (None, "")
    visits, stands = coming(), kits.shelf()
    names = names_of(visits)
    before = visits[: visits.index(booked)] if booked in visits else visits
    earlier = kits.wanted_by(before, _grounds_of(before, today), stands)
    minutes = sum(job.minutes for job in jobs)
    together, alone = compare(found.upkeeps, today, Costs())
    return PlanPage(
        bike=found.bike.name,
        bike_id=str(found.bike.pk),
        day=day.isoformat(),
        tasks=lines,
        cold=[
            ColdLine(key=key, label=job.label, minutes=job.minutes, chosen=key in cold)
            for key, job in COLD_JOBS.items()
        ],
        technicians=asked.technicians,
        people=[Hand(str(one.pk), one.name) for one in workers],
        hands=asked.hands,
        pans=asked.pans,
        order=order,
        refused=refused,
        kit=kits.kit(found, tasks, minutes, earlier, stands, person, today),
        cautions=list(cautions(jobs)),
        together=_load(together),
        alone=_load(alone),
        visit=open_visit(bike_id),
        planned=[
            by_week.planned_line(visit, (), today, names)
            for visit in visits
            if visit.bike_id == bike_id and visit != booked
        ],
        asks=asks_of(bike_id),
    )


def planned_or_404(visit_id: UUID) -> PlannedVisit:
    visit = PlannedVisit.objects.select_related("bike__model").filter(pk=visit_id).first()
    if visit is None:
        raise Http404
    return visit


def coming() -> list[PlannedVisit]:
    """The visits to come, soonest first; bikes that have left the workshop have none."""
    rows = PlannedVisit.objects.filter(state=PlannedVisit.State.PLANNED, bike__archived=False)
    return list(rows.select_related("bike__model"))


def signed_since(bikes: Mapping[UUID, datetime]) -> dict[UUID, list[Signed]]:
    """What signed visits have serviced on each of these bikes since its moment, leaving out what
    could not be seen, and what an earlier planned visit has been ticked off with."""
    counted = {
        (reservoir, visit)
        for done in PlannedVisit.objects.filter(bike_id__in=bikes).values_list("done", flat=True)
        for reservoir, visit in done.items()
    }
    rows = Service.objects.filter(bike_id__in=bikes, visit__closed_at__gte=min(bikes.values()))
    found: dict[UUID, list[Signed]] = {}
    for row in rows.exclude(did=Did.UNSEEN).select_related("visit"):
        if row.visit and row.visit.closed_at and (row.reservoir, str(row.visit_id)) not in counted:
            one = Signed(str(row.visit_id), row.reservoir, row.visit.closed_at)
            found.setdefault(row.bike_id, []).append(one)
    return found


def _grounds_of(visits: Sequence[PlannedVisit], today: date) -> dict[UUID, Ground]:
    return grounds(list({visit.bike_id: visit.bike for visit in visits}.values()), today)


def booked(visit_id: UUID, today: date) -> Booked:
    """A planned visit as it stands in the calendar."""
    visit = planned_or_404(visit_id)
    line = by_week.planned_line(visit, (), today, names_of([visit]))
    return Booked(line, visit.state, mapping.asked_of(visit))


def calendar(today: date) -> Calendar:
    """The visits to come by week, what each still lacks, and what to buy for all of them; in a
    number of queries that does not grow."""
    visits, stands, workshop = coming(), kits.shelf(), Workshop.objects.first()
    wants = kits.wanted_by(visits, _grounds_of(visits, today), stands)
    served = kits.in_turn(stands, wants, today)
    names = names_of(visits)
    lines = [
        by_week.planned_line(
            visit, [*kits.missing(one), *kits.from_elsewhere(wanted)], today, names
        )
        for visit, one, wanted in zip(visits, served, wants, strict=True)
    ]
    workers = [str(one.pk) for one in workers_here()]
    feed = f"/api/calendar/{workshop.calendar_token}.ics" if workshop else ""
    to_buy = kits.shopping(visits, wants, stands, today)
    return Calendar(
        count=len(visits),
        weeks=by_week.weeks(visits, lines, today, week_begins(), workers, names),
        shopping=to_buy,
        feed=feed,
    )


def ics(token: str, now: datetime) -> bytes:
    """The planned visits and what is expected to be due, as a calendar others can read."""
    if not Workshop.objects.filter(calendar_token=token).exists():
        raise Http404
    expected = (
        DueRow.objects.filter(forecast_on__isnull=False, bike__archived=False)
        .select_related("bike")
        .order_by("forecast_on")[:500]
    )
    return as_ics([(visit, by_week.labels(visit)) for visit in coming()], expected, now)


def kit_pdf(visit_id: UUID, person: Person, today: date) -> bytes:
    """The pick list of a planned visit, for the printer."""
    visit = planned_or_404(visit_id)
    page = plan(visit.bike_id, mapping.asked_of(visit), person, today)
    return as_pdf(page, visit.on)

"""Solves over what is left of a visit, outside the way of any entry."""

from collections.abc import Collection
from dataclasses import asdict, replace
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from oilward_core.bench import ahead, fold, in_hand, pans_held
from oilward_core.order import Order, slack, solve
from workshop.announce import announce
from workshop.kept import FINISH
from workshop.mapping import seconds_per_minute

from visits import rows as to_core
from visits.minutes import learned
from visits.models import AheadRow, EntryRow, Visit
from visits.selectors import entries_of, plan_of, standing, tasks_of, visits

from .selectors import STALE
from .shapes import NextJob

AT_WORK = timedelta(hours=1)
PANS, MOST_PEOPLE, MOST_PANS, SECONDS, NEXT = 2, 4, 8, 1.0, 3


def people_at(visit: Visit, now: datetime) -> list[int]:
    """Who has written something down in the last hour."""
    lately = EntryRow.objects.filter(visit=visit, recorded_at__gte=now - AT_WORK)
    return sorted(set(lately.values_list("by", flat=True)))


def _come_so_far(visit: Visit, people: Collection[int]) -> str:
    """What a finish is told apart by: it is solved again when a job is done or begun, when somebody
    joins in, not with every entry."""
    sheet = standing(visit).sheet
    steps = [[str(s.step.id), s.status] for s in sheet.steps]
    return FINISH.of(people=sorted(people), waits=bool(sheet.waits), steps=steps)


def _then(order: Order, job: str, title: str) -> list[dict[str, Any]]:
    """What comes next; of the ``job`` in hand what its step in focus is called."""
    todo = sorted((one for one in order.placed if not one.job.begun), key=lambda one: one.start)
    todo.sort(key=lambda one: one.job.id != job)
    spare = slack(order)
    return [
        asdict(NextJob(title if one.job.id == job else one.job.label, spare[one.job.id]))
        for one in todo[:NEXT]
    ]


def _worked_out(visit: Visit, people: Collection[int], now: datetime) -> dict[str, Any]:
    tasks = tasks_of(visit)
    plan = plan_of(visit, tasks)
    theirs = {kind: minutes for kind, (minutes, _) in learned(people).items()}
    plan = replace(plan, learned={**plan.learned, **theirs})
    entries, bench = entries_of(visit, plan), to_core.bench()
    jobs = ahead(plan, entries, bench, now)
    job, title = in_hand(fold(plan, entries, bench))
    number = min(max(len(people), 1), MOST_PEOPLE)
    pans = min(max(PANS, pans_held(jobs)), MOST_PANS)
    order = solve(jobs, technicians=number, pans=pans, seconds=SECONDS, first=job)
    return {
        "at": (now + timedelta(seconds=order.minutes * seconds_per_minute())).isoformat(),
        "minutes": order.minutes,
        "hands_on": order.hands_on,
        "less": 0 if order.proven else order.minutes - order.bound,
        "then": _then(order, job, title),
        "people": number,
    }


def look_ahead(visit_id: UUID, now: datetime) -> bool:
    """Works out anew when an open visit will be through, if that may have changed, and tells who
    watches. Answers whether it did."""
    visit = visits().filter(pk=visit_id, state=Visit.State.OPEN).first()
    if visit is None:
        return False
    people = people_at(visit, now)
    of, row = _come_so_far(visit, people), AheadRow.objects.filter(visit=visit).first()
    if row is not None and row.of == of and now - row.worked_out < STALE:
        return False
    document = _worked_out(visit, people, now)
    AheadRow.objects.update_or_create(
        visit=visit, defaults={"of": of, "worked_out": now, "document": document}
    )
    announce(f"finish/{visit.pk}")
    return True

"""What is ahead in a visit: solved over what is left of it, outside the way of any entry."""

from datetime import datetime, timedelta

from oilward_core.bench import ahead, pans_held
from oilward_core.order import solve
from workshop.mapping import seconds_per_minute

from visits import mapping
from visits.models import EntryRow, Visit
from visits.selectors import entries_of, plan_of, tasks_of

from .shapes import Finish

AT_WORK = timedelta(hours=1)
PANS, MOST_PEOPLE, SECONDS, NEXT = 2, 4, 1.0, 3


def people_at(visit: Visit, now: datetime) -> int:
    """How many have written something down in the last hour; at least one is at work."""
    lately = EntryRow.objects.filter(visit=visit, recorded_at__gte=now - AT_WORK)
    return min(max(lately.values("by").distinct().count(), 1), MOST_PEOPLE)


def finish(visit: Visit, now: datetime) -> Finish:
    """When the visit will be through if it goes on in the shortest order there is."""
    plan = plan_of(visit, tasks_of(visit))
    jobs = ahead(plan, entries_of(visit, plan.tasks), mapping.bench(), now)
    people = people_at(visit, now)
    pans = min(max(PANS, pans_held(jobs)), 8)
    order = solve(jobs, technicians=people, pans=pans, seconds=SECONDS)
    todo = sorted((one for one in order.placed if not one.job.begun), key=lambda one: one.start)
    return Finish(
        (now + timedelta(seconds=order.minutes * seconds_per_minute())).isoformat(),
        order.minutes,
        order.hands_on,
        0 if order.proven else order.minutes - order.bound,
        [one.job.label for one in todo[:NEXT]],
        people,
    )

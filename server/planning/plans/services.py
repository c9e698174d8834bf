"""Every write to the calendar of planned visits. Safe to repeat; a change names its version."""

from datetime import date
from uuid import UUID

from config.problems import Conflict
from django.db import transaction
from django.http import Http404
from garage.models import Bike
from oilward_core.errors import CoreError
from workshop.access import as_id
from workshop.models import Person

from planning.models import PlannedVisit

from . import selectors
from .shapes import NewPlannedVisit


def _day(text: str, today: date) -> date:
    try:
        day = date.fromisoformat(text.strip())
    except ValueError as error:
        raise CoreError("planning.day", field="on") from error
    if day < today:
        raise CoreError("planning.day", field="on")
    return day


@transaction.atomic
def plan_visit(new: NewPlannedVisit, *, actor: Person, today: date) -> PlannedVisit:
    """Put a visit into the calendar, or change one. Raises Conflict ``planning.edited``."""
    day, bike = _day(new.on, today), Bike.objects.filter(pk=as_id(new.bike)).first()
    if bike is None:
        raise Http404
    page = selectors.plan(bike.pk, new.asked, actor, today)
    if page.refused:
        raise CoreError("planning.refused", field="asked", text=page.refused)
    tasks = [
        {"reservoir": line.reservoir, "variant": line.variant} for line in page.tasks if line.chosen
    ]
    if not tasks:
        raise CoreError("planning.nothing", field="asked")
    columns = {
        "on": day,
        "tasks": tasks,
        "cold": [line.key for line in page.cold if line.chosen],
        "wishes": [vars(wish) for wish in new.asked.wishes],
        "technicians": new.asked.technicians,
        "pans": new.asked.pans,
        "minutes": page.order.minutes if page.order else 0,
    }
    visit = PlannedVisit.objects.select_for_update().filter(pk=as_id(new.id)).first()
    if visit is None:
        return PlannedVisit.objects.create(
            pk=as_id(new.id), bike=bike, planned_by=actor.name, **columns
        )
    if all(getattr(visit, name) == value for name, value in columns.items()):
        return visit
    if visit.version != new.version:
        raise Conflict("planning.edited", by=visit.planned_by)
    for name, value in columns.items():
        setattr(visit, name, value)
    visit.version, visit.planned_by = visit.version + 1, actor.name
    visit.save()
    return visit


@transaction.atomic
def drop(visit_id: UUID, *, actor: Person) -> None:
    """Take a planned visit out of the calendar; doing it twice changes nothing."""
    PlannedVisit.objects.filter(pk=visit_id, state=PlannedVisit.State.PLANNED).update(
        state=PlannedVisit.State.DROPPED, planned_by=actor.name
    )

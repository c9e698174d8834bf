"""Every write to the calendar of planned visits. Safe to repeat; a change names its version."""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import date
from typing import Any
from uuid import UUID

from config.problems import Conflict
from django.db import transaction
from django.http import Http404
from garage.locks import lock_bike, lock_bikes
from garage.models import Bike
from oilward_core import calendar as core
from oilward_core.dates import read_day
from oilward_core.errors import CoreError, Question
from workshop.access import as_id
from workshop.models import Person
from workshop.repeated import stands, unchanged
from workshop.traces import trace

from planning.models import PlannedVisit

from . import by_week, selectors
from .shapes import NewPlannedVisit


def _day(text: str, today: date, stood: date | None) -> date:
    """The day somebody typed: today or later, or the day it ``stood`` on."""
    try:
        day = read_day(text, today)
    except Question as question:
        raise question.at("on") from question
    except CoreError as error:
        raise CoreError("planning.day", field="on") from error
    if day < today and day != stood:
        raise CoreError("planning.day", field="on")
    return day


def _asked(new: NewPlannedVisit, bike: Bike, actor: Person, today: date) -> dict[str, Any]:
    """What is written of a planned visit; the order is solved for it, so no row is locked yet."""
    booked = PlannedVisit.objects.filter(pk=as_id(new.id)).first()
    if booked and booked.bike_id != bike.pk:
        raise Conflict("visit.id_taken")
    asked = replace(new.asked, planned=str(booked.pk) if booked else None, on=new.on)
    day = _day(new.on, today, booked.on if booked else None)
    return {"on": day, **_columns(replace(new, asked=asked), bike, actor, today)}


def _columns(new: NewPlannedVisit, bike: Bike, actor: Person, today: date) -> dict[str, Any]:
    """What is written of a planned visit. Raises CoreError ``planning.refused`` for an order that
    does not work, ``planning.nothing``."""
    page = selectors.plan(bike.pk, new.asked, actor, today)
    if page.refused:
        raise CoreError("planning.refused", field="asked", text=page.refused)
    tasks = [
        {"reservoir": line.reservoir, "variant": line.variant, "label": line.label}
        for line in page.tasks
        if line.chosen
    ]
    if not tasks:
        raise CoreError("planning.nothing", field="asked")
    return {
        "tasks": tasks,
        "cold": [line.key for line in page.cold if line.chosen],
        "wishes": [vars(wish) for wish in new.asked.wishes],
        "technicians": page.technicians,
        "hands": page.hands,
        "pans": new.asked.pans,
        "minutes": page.order.minutes if page.order else 0,
    }


def plan_visit(new: NewPlannedVisit, *, actor: Person, today: date) -> PlannedVisit:
    """Put a visit into the calendar, or change one. Raises Conflict ``planning.edited``,
    ``planning.closed``."""
    bike = Bike.objects.filter(pk=as_id(new.bike), archived=False).first()
    if bike is None:
        raise Http404
    return _book(new, bike, _asked(new, bike, actor, today), actor)


@transaction.atomic
def _book(new: NewPlannedVisit, bike: Bike, columns: dict[str, Any], actor: Person) -> PlannedVisit:
    lock_bike(bike.pk)
    visit = PlannedVisit.objects.select_for_update().filter(pk=as_id(new.id)).first()
    if visit is None:
        made = {"bike": bike, "planned_by": actor.name, **columns}
        visit, new_one = PlannedVisit.objects.get_or_create(pk=as_id(new.id), defaults=made)
        if new_one:
            trace("visit planned", _about(visit), actor=actor)
        return visit
    # the minutes are what came out, not what was asked for
    if stands(visit, {name: columns[name] for name in columns if name != "minutes"}):
        return visit
    if visit.state != PlannedVisit.State.PLANNED:
        raise Conflict("planning.closed")
    unchanged(visit, new.version, "planning.edited", by=visit.planned_by)
    trace("planned visit changed", _about(visit), actor=actor, was=_was(visit))
    for name, value in columns.items():
        setattr(visit, name, value)
    visit.version, visit.planned_by = visit.version + 1, actor.name
    visit.save()
    tick_off([bike.pk])
    return visit


def _about(visit: PlannedVisit) -> str:
    return f"bike/{visit.bike_id}"


def _was(visit: PlannedVisit) -> dict[str, Any]:
    """What stood in the calendar."""
    return {"on": visit.on.isoformat(), "what": by_week.labels(visit)}


@transaction.atomic
def drop(visit_id: UUID, *, actor: Person) -> None:
    """Take a planned visit out of the calendar; doing it twice changes nothing. One of which
    something is done already counts as done, without the rest."""
    bike = PlannedVisit.objects.filter(pk=visit_id).values_list("bike_id", flat=True).first()
    if bike is None:
        return
    lock_bike(bike)
    visit = PlannedVisit.objects.select_for_update().get(pk=visit_id)
    if visit.state != PlannedVisit.State.PLANNED:
        return
    trace("planned visit dropped", _about(visit), actor=actor, was=_was(visit))
    visit.state = PlannedVisit.State.DONE if visit.done else PlannedVisit.State.DROPPED
    visit.planned_by = actor.name
    visit.save(update_fields=["state", "planned_by"])


@transaction.atomic
def tick_off(bike_ids: Iterable[UUID]) -> None:
    """Tick off in these bikes' planned visits what signed visits have serviced since; a visit of
    which everything is done leaves the calendar."""
    lock_bikes(bike_ids)
    rows = PlannedVisit.objects.select_for_update().filter(bike_id__in=list(bike_ids))
    coming: dict[UUID, list[PlannedVisit]] = {}
    for row in rows.filter(state=PlannedVisit.State.PLANNED).order_by("on", "id"):
        coming.setdefault(row.bike_id, []).append(row)
    if not coming:
        return
    signed = selectors.signed_since(
        {bike: min(visit.planned_at for visit in visits) for bike, visits in coming.items()}
    )
    for bike, visits in coming.items():
        found = core.tick_off([by_week.planned(visit) for visit in visits], signed.get(bike, []))
        for visit, planned in zip(visits, found, strict=True):
            done = dict(planned.done)
            if done != visit.done or planned.finished:
                visit.done = done
                visit.state = visit.State.DONE if planned.finished else visit.State.PLANNED
                visit.save(update_fields=["done", "state"])


def on_touched(sender: object, bikes: Sequence[UUID], **_: Any) -> None:
    tick_off(bikes)

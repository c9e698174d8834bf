"""Keeping what plugs and oil showed, with the verdict of the day."""

from datetime import date
from typing import Any
from uuid import UUID

from django.db import transaction
from garage.models import Bike, OdometerReading
from oilward_core.debris import Found, Growth, Observation, growth, verdict
from workshop.models import Person

from . import mapping
from .models import Debris, Finding
from .selectors import cohort_at, history_of


def chance_of(
    bike: Bike, reservoir: str, seen: Observation, day: date, grader: Person
) -> Growth | None:
    """The chance after this finding that a fault is growing there; none while running in."""
    now = Found(day, seen.parts, seen.km_since_wiped, str(grader.pk), seen.first_service)
    before = history_of(bike.pk, reservoir)
    said = growth([*before, now], cohort_at(seen.reservoir, day), day)
    return said[-1] if said and not seen.first_service else None


@transaction.atomic
def keep_finding(
    bike: Bike,
    reservoir: str,
    seen: Observation,
    note: str,
    *,
    finding_id: UUID,
    found_on: date,
    reading: OdometerReading,
    actor: Person,
) -> Finding:
    """Keep what a plug showed, with its verdict and the chance that something grows. Same id, same row:
    safe to repeat."""
    kept = Finding.objects.filter(pk=finding_id).first()
    if kept is not None:
        return kept
    grown = chance_of(bike, reservoir, seen, found_on, actor)
    judged = verdict(seen, grown)
    chance: dict[str, Any] = {}
    if grown is not None:
        chance = {
            "chance": grown.raw,
            "said": grown.said,
            "form_times": min(grown.form, mapping.MOST_TIMES),
            "amount_times": None if grown.amount is None else min(grown.amount, mapping.MOST_TIMES),
        }
    row = Finding.objects.create(
        id=finding_id,
        bike=bike,
        reservoir=reservoir,
        kind=seen.reservoir.value,
        found_on=found_on,
        reading=reading,
        km_since_wiped=seen.km_since_wiped,
        run_in=seen.first_service,
        oil=sorted(seen.oil),
        note=note,
        level=judged.level.word,
        origin=judged.origin,
        action=judged.action,
        rules=[f"{rule.rule}: {rule.text}" for rule in judged.spoke],
        wear={matter.value: str(value) for matter, value in judged.wear.items()},
        found_by=actor,
        **chance,
    )
    Debris.objects.bulk_create(mapping.debris(row, part) for part in seen.parts)
    return row

"""Keeping what plugs and oil showed, with the verdict of the day."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from config.problems import Conflict
from django.db import transaction
from django.http import Http404
from garage.models import Bike, OdometerReading
from oilward_core.debris import (
    Found,
    Growth,
    Level,
    Observation,
    Outcome,
    growth,
    outcomes_of,
    verdict,
)
from oilward_core.errors import CoreError
from workshop.access import as_id
from workshop.models import Person, Role
from workshop.repeated import digest
from workshop.touched import touch

from . import mapping
from .models import Answer, Debris, Finding
from .selectors import cohort_at, history_of
from .shapes import NewAnswer


def chance_of(
    bike: Bike, reservoir: str, seen: Observation, day: date, grader: Person
) -> Growth | None:
    """The chance after this finding that a fault is growing there; none while running in."""
    before, repaired = history_of(bike.pk, reservoir)
    now = Found(day, seen.parts, seen.km_since_wiped, str(grader.pk), seen.first_service, repaired)
    said = growth([*before, now], cohort_at(seen.reservoir, day), day)
    return said[-1] if said and not seen.first_service else None


@transaction.atomic
def answer(new: NewAnswer, finding_id: UUID, *, actor: Person, now: datetime) -> Answer:
    """Write down what came of looking into a finding. Sent twice, it stands once. Raises CoreError
    ``sheet.choose`` for an outcome that does not fit, ``sheet.reason`` without a word on it, and
    ``finding.lead`` where only a lead may; Conflict ``finding.id_taken``."""
    finding = Finding.objects.filter(pk=finding_id).select_related("bike").first()
    if finding is None:
        raise Http404
    answer_id, sent = as_id(new.id), digest([str(finding_id), new.outcome, new.words])
    before = Answer.objects.filter(pk=answer_id).first()
    if before is not None:
        if before.sent != sent:
            raise Conflict("finding.id_taken")
        return before
    level = mapping.level(finding)
    fits = outcomes_of(level)
    if new.outcome not in fits:
        raise CoreError("sheet.choose", field="outcome", options=[str(one) for one in fits])
    if not new.words.strip():
        raise CoreError("sheet.reason", field="words")
    if level == Level.HOLD and actor.role != Role.LEAD:
        raise CoreError("finding.lead")
    outcome = Outcome(new.outcome)
    row = keep_answer(finding, outcome, new.words, answer_id, sent, actor=actor, at=now)
    touch(finding.bike_id)
    return row


def keep_answer(
    finding: Finding,
    outcome: Outcome,
    words: str,
    answer_id: UUID,
    sent: str,
    *,
    actor: Person,
    at: datetime,
) -> Answer:
    """Same id, same row: safe to repeat."""
    told = {"finding": finding, "outcome": outcome, "words": words.strip()[:500]}
    row, _ = Answer.objects.get_or_create(
        id=answer_id, defaults={**told, "by": actor, "at": at, "sent": sent}
    )
    return row


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

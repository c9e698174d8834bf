"""Keeping what plugs and oil showed, with the verdict of the day."""

from collections.abc import Sequence
from datetime import date, datetime
from decimal import Decimal
from typing import Any
from uuid import UUID, uuid5

from config.problems import Conflict
from django.db import transaction
from django.http import Http404
from garage.models import Bike, OdometerReading
from oilward_core.away import is_answered
from oilward_core.bench import Pictured as Picturing
from oilward_core.codes.away import Came
from oilward_core.codes.options import Look
from oilward_core.debris import (
    Found,
    Growth,
    LevelWord,
    Observation,
    Outcome,
    Verdict,
    closed_by_look,
    growth_next,
    leads_answer,
    verdict,
)
from oilward_core.errors import CoreError
from oilward_core.spec import ReservoirKind
from workshop.access import as_id, leads, require_lead
from workshop.models import Person
from workshop.pictures import clean_picture
from workshop.repeated import digest, written
from workshop.touched import touch

from . import mapping
from . import seen as seen_as
from .models import Answer, Debris, Finding, Overruling, Picture, Pictured
from .selectors import so_far_of, still_asking
from .shapes import NewAnswer, NewOverruling


def chance_of(
    bike: Bike,
    reservoir: str,
    seen: Observation,
    day: date,
    grader: Person,
    instead_of: UUID | None = None,
) -> Growth | None:
    """The chance after this finding that a fault is growing there; none while running in, nor where there
    is no magnet. It counts ``instead_of`` the one it regrades."""
    now = Found(
        day=day,
        parts=seen.parts,
        km_since_wiped=seen.km_since_wiped,
        grader=str(grader.pk),
        run_in=seen.first_service or seen.no_magnet,
    )
    return growth_next(so_far_of(bike, reservoir, seen.reservoir, day, instead_of), now)


@transaction.atomic
def answer(new: NewAnswer, finding_id: UUID, *, actor: Person, now: datetime) -> Answer:
    """Write down what came of looking into a finding. Sent twice, it stands once. Raises CoreError
    ``sheet.choose`` for an outcome that does not fit, ``sheet.reason`` without a word on it, and
    ``finding.lead`` where only a lead may; Conflict ``finding.id_taken``."""
    finding = Finding.objects.filter(pk=finding_id).select_related("bike").first()
    if finding is None:
        raise Http404
    answer_id, sent = as_id(new.id), digest([str(finding_id), new.outcome, new.words])
    before = written(Answer.objects.filter(pk=answer_id).first(), sent, "finding.id_taken")
    if before is not None:
        return before
    level, fits = mapping.level(finding), mapping.outcomes(finding)
    if new.outcome not in fits:
        raise CoreError("sheet.choose", field="outcome", options=[str(one) for one in fits])
    if not new.words.strip():
        raise CoreError("sheet.reason", field="words")
    outcome = Outcome(new.outcome)
    if leads_answer(outcome, level) and not leads(actor):
        raise CoreError("finding.lead")
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
    regrade_of: Finding | None = None,
) -> Finding:
    """Keep what a plug showed that no bench has judged: the chance is worked out by what was found before
    that day."""
    instead_of = regrade_of.pk if regrade_of else None
    return keep_judged(
        bike,
        reservoir,
        seen,
        note,
        finding_id=finding_id,
        found_on=found_on,
        reading=reading,
        actor=actor,
        grown=chance_of(bike, reservoir, seen, found_on, actor, instead_of),
        regrade_of=regrade_of,
    )


@transaction.atomic
def keep_judged(
    bike: Bike,
    reservoir: str,
    seen: Observation,
    note: str,
    *,
    finding_id: UUID,
    found_on: date,
    reading: OdometerReading,
    actor: Person,
    grown: Growth | None,
    regrade_of: Finding | None = None,
    kept: str = "",
    pictures: Sequence[Picturing] = (),
) -> Finding:
    """Keep what a plug showed, with its verdict and the chance that something grows (``grown``, as the
    bench said it). Same id, same row: safe to repeat. ``pictures`` by their id, with the spot marked on
    each."""
    before = Finding.objects.filter(pk=finding_id).first()
    if before is not None:
        return before
    judged = verdict(seen, grown)
    chance: dict[str, Any] = {}
    if grown is not None:
        chance = {
            "chance": grown.raw,
            "said": grown.said,
            "form_times": grown.form,
            "amount_times": grown.amount,
            "chance_before": grown.before,
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
        **seen_as.known(seen),
        kept=kept,
        note=note,
        level=judged.level.word,
        origin=judged.origin,
        action=judged.action,
        rules=[{"rule": rule.rule, "text": rule.text} for rule in judged.spoke],
        wear={matter.value: str(value) for matter, value in judged.wear.items()},
        found_by=actor,
        regrade_of=regrade_of,
        **chance,
    )
    Debris.objects.bulk_create(seen_as.debris(row, part) for part in seen.parts)
    _keep_pictured(row, pictures)
    return row


@transaction.atomic
def keep_look(
    bike: Bike,
    reservoir: str,
    kind: ReservoirKind,
    look: Look,
    judged: Verdict,
    *,
    finding_id: UUID,
    found_on: date,
    reading: OdometerReading,
    actor: Person,
) -> Finding:
    """Keep what a look showed that is not as it should be, with its verdict. Same id, same row: safe to
    repeat."""
    row, _ = Finding.objects.get_or_create(
        id=finding_id,
        defaults={
            "bike": bike,
            "reservoir": reservoir,
            "kind": kind.value,
            "look": look.value,
            "found_on": found_on,
            "reading": reading,
            "km_since_wiped": 0,
            "no_magnet": True,
            "oil": [],
            "level": judged.level.word,
            "origin": judged.origin,
            "action": judged.action,
            "rules": [{"rule": one.rule, "text": one.text} for one in judged.spoke],
            "wear": {},
            "found_by": actor,
        },
    )
    return row


def answer_by_look(
    bike_id: UUID,
    reservoir: str,
    look: Look,
    words: str,
    *,
    on: date,
    actor: Person,
    at: datetime,
) -> None:
    """What a look, or a topping up, of a day answers to earlier looks there that still ask."""
    asking = still_asking([bike_id]).get((bike_id, reservoir), [])
    for row in asking:
        if not row.look or row.found_on > on:
            continue
        outcome = closed_by_look(mapping.look_rule(row), look)
        if outcome is not None:
            keep_answer(row, outcome, words, uuid5(row.pk, outcome), "", actor=actor, at=at)


def answer_by_what_was_done(
    bike_id: UUID,
    reservoir: str,
    came: Came,
    words: str,
    back: UUID,
    *,
    actor: Person,
    at: datetime,
) -> None:
    """What was done to a part at a specialist's answers the looks there that asked for it."""
    for row in still_asking([bike_id]).get((bike_id, reservoir), []):
        if row.look and is_answered(mapping.look_rule(row), came):
            made = uuid5(row.pk, str(back))
            keep_answer(row, Outcome.HANDED_OUT, words, made, "", actor=actor, at=at)


def _share(place: Decimal | None) -> float | None:
    return None if place is None else float(place)


def _keep_pictured(row: Finding, pictures: Sequence[Picturing]) -> None:
    """Only pictures of this bike; one that never arrived is not there."""
    named = {as_id(one.id): one for one in pictures}
    there = Picture.objects.filter(pk__in=named, bike_id=row.bike_id).values_list("pk", flat=True)
    Pictured.objects.bulk_create(
        Pictured(finding=row, picture_id=pk, x=_share(named[pk].x), y=_share(named[pk].y))
        for pk in named
        if pk in set(there)
    )


@transaction.atomic
def overrule(new: NewOverruling, finding_id: UUID, *, actor: Person, now: datetime) -> Overruling:
    """A lead sees a finding otherwise, for a reason; what was said of it stands. Sent twice, it stands
    once. Raises CoreError ``sheet.choose`` and ``sheet.reason``; Conflict ``finding.id_taken``."""
    require_lead(actor)
    finding = Finding.objects.filter(pk=finding_id).first()
    if finding is None:
        raise Http404
    row_id, sent = as_id(new.id), digest([str(finding_id), new.level, new.reason])
    before = written(Overruling.objects.filter(pk=row_id).first(), sent, "finding.id_taken")
    if before is not None:
        return before
    if new.level not in tuple(LevelWord):
        raise CoreError("sheet.choose", field="level", options=[str(one) for one in LevelWord])
    if not new.reason.strip():
        raise CoreError("sheet.reason", field="reason")
    row = Overruling.objects.create(
        id=row_id,
        finding=finding,
        level=new.level,
        reason=new.reason.strip(),
        by=actor,
        at=now,
        sent=sent,
    )
    touch(finding.bike_id)
    return row


@transaction.atomic
def add_picture(
    bike_id: UUID, picture_id: UUID, raw: bytes, *, actor: Person, now: datetime
) -> UUID:
    """Keep a picture of a plug, cleaned. The same id again keeps the first. Raises CoreError
    ``picture.large`` and ``picture.kind``; Conflict ``finding.id_taken`` where it is another bike's."""
    if not Bike.objects.filter(pk=bike_id).exists():
        raise Http404
    before = Picture.objects.filter(pk=picture_id).values_list("bike_id", flat=True).first()
    if before is not None:
        if before != bike_id:
            raise Conflict("finding.id_taken")
        return picture_id
    told = {"bike_id": bike_id, "jpeg": clean_picture(raw), "by": actor, "at": now}
    Picture.objects.get_or_create(pk=picture_id, defaults=told)
    return picture_id

"""Writing down what was done without a run sheet: an owner's word, another workshop's invoice, a top-up.
What nobody has a record of is marked as such wherever it counts."""

from dataclasses import dataclass
from datetime import date, datetime
from decimal import Decimal
from uuid import UUID

from config.problems import Conflict
from django.db import transaction
from findings.services import answer_by_look
from garage.locks import lock_bike
from garage.mapping import last_reading, odometer, odometer_at
from garage.models import Bike, OdometerReading
from garage.odometer.selectors import standing
from garage.selectors import specs_of
from oilward_core.codes.options import Did, Look
from oilward_core.errors import CoreError, at
from oilward_core.odometer import Odometer, corrected_odometer
from oilward_core.quantity import Kind, parse_single
from oilward_core.spec import Variant
from workshop.access import as_id
from workshop.days import day_typed
from workshop.mapping import speaker
from workshop.models import Person
from workshop.touched import touch

from visits.models import Service, TopUp

from .shapes import Elsewhere

SAID, ELSEWHERE = "the owner says", "done elsewhere"
NOT_MEASURED = "It was not measured in this workshop."


def _again(bike: Bike, told: Elsewhere, day: date) -> bool:
    """Whether the same was written down already. Raises Conflict ``visit.id_taken`` where the id
    stands for something else."""
    rows = TopUp if told.what == "top-up" else Service
    row = rows.objects.filter(pk=as_id(told.id)).first()
    if row and (row.bike_id, row.reservoir, row.done_on) != (bike.pk, told.reservoir, day):
        raise Conflict("visit.id_taken")
    return row is not None


@dataclass(frozen=True)
class _Then:
    """A bike on a day past: the odometer fitted then, and its readings around that day."""

    fitted: Odometer
    before: OdometerReading | None
    after: OdometerReading | None


def _then(bike: Bike, day: date) -> _Then:
    rows = standing(bike.pk)
    before = [row for row in rows if row.read_on <= day]
    after = [row for row in rows if row.read_on > day]
    fitted = odometer_at(bike, after[0]) if after else odometer(bike)
    return _Then(fitted, before[-1] if before else None, after[0] if after else None)


def _km(told: Elsewhere, then: _Then, day: date) -> Decimal:
    """What the bike had run that day: between the readings before and after it."""
    with at("odometer"):
        return corrected_odometer(
            told.odometer,
            then.fitted,
            last_reading(then.before) if then.before else None,
            last_reading(then.after) if then.after else None,
            day,
            told.sure,
        )


def _amount(told: Elsewhere, actor: Person) -> Decimal | None:
    """What went in, ml; of a service it need not be known."""
    said, speaks = told.amount.strip(), speaker(actor)
    if not said and told.what == "service":
        return None
    with at("amount"):
        return parse_single(said, Kind.VOLUME, speaks.volume, speaks.preference).low


def _by(told: Elsewhere, actor: Person) -> str:
    """Who did it, and who wrote it down."""
    who = told.by.strip() or (ELSEWHERE if told.proof.strip() else SAID)
    return f"{who}, {actor.name} wrote it down"[:80]


@transaction.atomic
def write_down(
    bike_id: UUID, told: Elsewhere, *, actor: Person, now: datetime, today: date
) -> None:
    """Write down what was done without a run sheet: a service, so that what it was done to need not
    count as due, or what was added between two. Without proof a service is somebody's word, and a
    record always goes before it. The same id again changes nothing.

    Raises CoreError at ``reservoir``, ``done_on``, ``odometer`` or ``amount``; Conflict
    ``owner.recorded``.
    """
    bike = lock_bike(bike_id)
    day = day_typed(told.done_on, "done_on", latest=today)
    if _again(bike, told, day):
        return
    spec = specs_of([bike]).get(bike.pk)
    reservoir = spec.reservoir(told.reservoir) if spec else None
    if reservoir is None:
        raise CoreError("visit.no_such_reservoir", field="reservoir")
    by_word = told.what == "service" and not told.proof.strip()
    recorded = Service.objects.filter(
        bike=bike, reservoir=reservoir.key, by_word=False, did=Did.CHANGED
    )
    if by_word and recorded.exists():
        raise Conflict("owner.recorded", what=reservoir.label)
    ml, then = _amount(told, actor), _then(bike, day)
    reading = OdometerReading.objects.create(
        id=as_id(told.id),
        bike=bike,
        km=_km(told, then, day),
        as_written=told.odometer.strip()[:40],
        read_on=day,
        read_by=actor,
        offset_km=then.fitted.offset,
        reason=SAID if by_word else ELSEWHERE,
    )
    common = {
        "id": as_id(told.id),
        "bike": bike,
        "reservoir": reservoir.key,
        "done_on": day,
        "reading": reading,
        "fluid": told.fluid.strip(),
        "done_by": _by(told, actor),
    }
    if told.what == "top-up" and ml is not None:
        TopUp.objects.create(**common, ml=ml)
    else:
        Service.objects.create(
            **common,
            variant=next(iter(reservoir.capacities), Variant.DRAIN_ONLY),
            did=Did.CHANGED,
            took_ml=ml,
            not_learned=NOT_MEASURED if ml is not None else "",
            by_word=by_word,
            proof=told.proof.strip(),
        )
    words = f"{told.what}, {common['done_by']}"
    look = Look.TOPPED_UP
    answer_by_look(bike.pk, reservoir.key, look, words, on=day, actor=actor, at=now)
    touch(bike.pk)

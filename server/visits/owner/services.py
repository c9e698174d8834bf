"""Taking an owner's word for what nobody has a record of. It is marked as such wherever it counts."""

from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from uuid import UUID

from config.problems import Conflict
from django.db import transaction
from garage.locks import lock_bike
from garage.mapping import last_reading, odometer, odometer_at
from garage.models import Bike, OdometerReading
from garage.odometer.selectors import standing
from garage.selectors import specs_of
from oilward_core.errors import CoreError, at
from oilward_core.odometer import Odometer, corrected_odometer
from oilward_core.spec import Variant
from workshop.access import as_id
from workshop.days import day_typed
from workshop.models import Person
from workshop.touched import touch

from visits.models import Service

from .shapes import OwnersWord

SAID = "the owner says"


def _again(bike: Bike, word: OwnersWord, day: date) -> bool:
    """Whether the same was taken down already. Raises Conflict ``visit.id_taken`` where the id stands
    for something else."""
    row = Service.objects.filter(pk=as_id(word.id)).first()
    if row and (row.bike_id, row.reservoir, row.done_on) != (bike.pk, word.reservoir, day):
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


def _km(word: OwnersWord, then: _Then, day: date) -> Decimal:
    """What the bike had run that day: between the readings before and after it."""
    with at("odometer"):
        return corrected_odometer(
            word.odometer,
            then.fitted,
            last_reading(then.before) if then.before else None,
            last_reading(then.after) if then.after else None,
            day,
            word.sure,
        )


@transaction.atomic
def take_word(bike_id: UUID, word: OwnersWord, *, actor: Person, today: date) -> None:
    """Write down what the owner says was done when, so that a used bike need not count as due in
    everything. A record always goes before a word. The same id again changes nothing.

    Raises CoreError at ``reservoir``, ``done_on`` or ``odometer``; Conflict ``owner.recorded``.
    """
    bike = lock_bike(bike_id)
    day = day_typed(word.done_on, "done_on", latest=today)
    if _again(bike, word, day):
        return
    spec = specs_of([bike]).get(bike.pk)
    reservoir = spec.reservoir(word.reservoir) if spec else None
    if reservoir is None:
        raise CoreError("visit.no_such_reservoir", field="reservoir")
    if Service.objects.filter(bike=bike, reservoir=reservoir.key, by_word=False).exists():
        raise Conflict("owner.recorded", what=reservoir.label)
    then = _then(bike, day)
    reading = OdometerReading.objects.create(
        id=as_id(word.id),
        bike=bike,
        km=_km(word, then, day),
        as_written=word.odometer.strip()[:40],
        read_on=day,
        read_by=actor,
        offset_km=then.fitted.offset,
        reason=SAID,
    )
    Service.objects.create(
        id=as_id(word.id),
        bike=bike,
        reservoir=reservoir.key,
        variant=Variant.DRAIN_ONLY,
        done_on=day,
        reading=reading,
        done_by=f"{SAID}, {actor.name} wrote it down"[:80],
        by_word=True,
    )
    touch(bike.pk)

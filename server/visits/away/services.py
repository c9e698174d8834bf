"""A part that only a specialist opens: it leaves, comes back, is fitted again. Only what was opened, or
exchanged for one that was, begins its time anew."""

from datetime import date, datetime
from uuid import UUID, uuid5

from config.problems import Conflict
from django.db import transaction
from django.http import Http404
from findings.services import answer_by_what_was_done
from garage.locks import lock_bike
from garage.models import Bike
from garage.odometer.selectors import last_odometer
from garage.selectors import specs_of
from oilward_core.away import (
    check_back_by,
    check_came,
    check_looked,
    is_rebuild,
    part_of,
    read_gas,
    tag_of,
)
from oilward_core.codes.away import Came, Part, Waits
from oilward_core.codes.options import Did
from oilward_core.errors import CoreError
from oilward_core.said import away as words
from oilward_core.spec import ReservoirSpec, Variant
from workshop.access import as_id, may_work
from workshop.days import day_typed
from workshop.models import Person
from workshop.touched import touch

from visits.models import CameBack, FittedAgain, HandedOut, Service

from .selectors import to_whom
from .shapes import Back, Fitted, HandOut


def _said(text: str, field: str) -> str:
    """Raises CoreError ``away.missing`` at a field that was left empty."""
    if not text.strip():
        raise CoreError("away.missing", field=field)
    return text.strip()


def _on_the_sheet(bike: Bike, key: str) -> ReservoirSpec | None:
    """None: its sheet has changed since."""
    spec = specs_of([bike]).get(bike.pk)
    return spec.reservoir(key) if spec else None


def _reservoir(bike: Bike, key: str) -> ReservoirSpec:
    reservoir = _on_the_sheet(bike, key)
    if reservoir is None:
        raise CoreError("visit.no_such_reservoir", field="reservoir")
    return reservoir


def _own(person: str) -> Person | None:
    """One of the house, by their id. Raises CoreError ``away.nobody`` at ``own``."""
    if not person:
        return None
    number = int(person) if person.isdecimal() else 0
    found = Person.objects.filter(pk=number, is_active=True).first()
    if found is None or not may_work(found):
        raise CoreError("away.nobody", field="own")
    return found


@transaction.atomic
def hand_out(bike_id: UUID, told: HandOut, *, actor: Person, now: datetime, today: date) -> None:
    """It leaves, under a tag made from its id. What a look there asks for goes on asking until something
    was done. The same id again changes nothing.

    Raises CoreError at the field that is not as it should be, ``away.nothing`` where no specialist opens
    anything; Conflict ``away.out`` where it is not there.
    """
    bike, handed_id = lock_bike(bike_id), as_id(told.id)
    again = HandedOut.objects.filter(pk=handed_id).first()
    if again:
        if (again.bike_id, again.reservoir) != (bike.pk, told.reservoir):
            raise Conflict("visit.id_taken")
        return
    reservoir = _reservoir(bike, told.reservoir)
    part = part_of(reservoir)
    if part is None:
        raise CoreError("away.nothing", field="reservoir", what=reservoir.label)
    if HandedOut.objects.filter(bike=bike, reservoir=reservoir.key, fitted=None).exists():
        raise Conflict("away.out", what=reservoir.label)
    own = _own(told.own)
    to, wanted = "" if own else _said(told.to, "to"), _said(told.wanted, "wanted")
    qualified = _said(told.qualified, "qualified") if own else told.qualified.strip()
    back_by = day_typed(_said(told.back_by, "back_by"), "back_by")
    check_back_by(back_by, today)
    if told.waits is None:
        raise CoreError("away.missing", field="waits")
    HandedOut.objects.create(
        id=handed_id,
        bike=bike,
        reservoir=reservoir.key,
        part=part.value,
        to=to,
        own=own,
        qualified=qualified,
        wanted=wanted,
        waits=Waits(told.waits).value,
        back_by=back_by,
        out_on=today,
        by=actor,
        at=now,
    )
    touch(bike.pk)


def _locked(handed_id: UUID) -> HandedOut:
    row = HandedOut.objects.filter(pk=handed_id).first()
    if row is None:
        raise Http404
    lock_bike(row.bike_id)
    return row


@transaction.atomic
def take_back(handed_id: UUID, told: Back, *, actor: Person, now: datetime, today: date) -> None:
    """It is back; what was done answers what a look there asked for. Raises CoreError at the field that
    is not as it should be; Conflict ``away.back`` where it is back already, ``visit.id_taken``."""
    row, back_id = _locked(handed_id), as_id(told.id)
    if again := CameBack.objects.filter(pk=back_id).first():
        _check_its(again, row)
        return
    if CameBack.objects.filter(handed=row).exists():
        raise Conflict("away.back")
    if told.came is None:
        raise CoreError("away.missing", field="came")
    came, part = Came(told.came), Part(row.part)
    reservoir = _on_the_sheet(row.bike, row.reservoir)
    check_came(part, came, told.oil, told.paper)
    charged = reservoir.ride.gas if reservoir else None
    gas = read_gas(told.pressure, told.temperature, charged, told.sure)
    back = CameBack.objects.create(
        id=back_id,
        handed=row,
        came=came.value,
        oil=told.oil.strip(),
        pressure=gas.pressure if gas else None,
        celsius=gas.celsius if gas else None,
        paper=told.paper.strip(),
        note=told.note.strip(),
        came_on=today,
        by=actor,
        at=now,
    )
    if is_rebuild(part, came):
        _keep_rebuild(row, came, told, actor=actor, today=today)
    answer_by_what_was_done(
        row.bike_id, row.reservoir, came, _found(row, came), back.pk, actor=actor, at=now
    )
    touch(row.bike_id)


def _found(row: HandedOut, came: Came) -> str:
    return f"{words.CAME[came]}, tag {tag_of(str(row.pk))}"


def _check_its(again: CameBack | FittedAgain, row: HandedOut) -> None:
    """Raises Conflict ``visit.id_taken`` where what was sent before was another part's."""
    if again.handed_id != row.pk:
        raise Conflict("visit.id_taken")


def _keep_rebuild(row: HandedOut, came: Came, told: Back, *, actor: Person, today: date) -> None:
    """Its time begins anew, at what the bike had run as it came back."""
    reading = last_odometer([row.bike_id]).get(row.bike_id)
    if reading is None:
        raise CoreError("away.no_reading", field="came")
    Service.objects.create(
        id=uuid5(row.pk, "rebuild"),
        bike_id=row.bike_id,
        reservoir=row.reservoir,
        variant=Variant.DRAIN_ONLY,
        did=Did.CHANGED,
        done_on=today,
        reading=reading,
        fluid=told.oil.strip(),
        done_by=f"{to_whom(row)}, {actor.name} wrote it down"[:80],
        proof=told.paper.strip(),
        found=_found(row, came),
    )


@transaction.atomic
def fit(
    handed_id: UUID, told: Fitted, *, beside: Person, alone: bool, actor: Person, now: datetime
) -> None:
    """It is on its bike again, and somebody ``beside`` has looked at what holds it. Raises CoreError
    ``away.missing`` at ``torqued``, ``second.same`` where whoever fitted it is asked and not alone;
    Conflict ``away.not_back``, ``away.fitted``, ``visit.id_taken``."""
    row, fitted_id = _locked(handed_id), as_id(told.id)
    if again := FittedAgain.objects.filter(pk=fitted_id).first():
        _check_its(again, row)
        return
    if FittedAgain.objects.filter(handed=row).exists():
        raise Conflict("away.fitted")
    if not CameBack.objects.filter(handed=row).exists():
        raise Conflict("away.not_back")
    check_looked(str(actor.pk), str(beside.pk), alone)
    FittedAgain.objects.create(
        id=fitted_id,
        handed=row,
        torqued=_said(told.torqued, "torqued"),
        by=actor,
        looked=beside,
        alone=alone,
        at=now,
    )
    touch(row.bike_id)

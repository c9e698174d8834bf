"""Every write of a visit. Each is safe to repeat; the actor is always named."""

from datetime import datetime, timedelta
from typing import Any
from uuid import UUID, uuid5

from config.problems import Conflict
from django.db import IntegrityError, transaction
from django.http import Http404
from findings.services import keep_finding
from garage.locks import lock_bike
from garage.odometer.services import record_odometer
from garage.selectors import schools_of, specs_of
from garage.sheets.services import note_looked_up
from oilward_core.errors import CoreError
from oilward_core.sheet import (
    Closing,
    Sheet,
    Speaker,
    StepKind,
    check_entry,
    expected_at,
    keep,
    read_entry,
    result,
    why_not_learned,
)
from oilward_core.spec import Cell, Path, Variant, pack
from shelf.models import Fluid
from shelf.selectors import best_fluid
from workshop.access import as_id
from workshop.days import day_of
from workshop.mapping import speaker
from workshop.models import Person, Role
from workshop.repeated import digest
from workshop.services import countersign
from workshop.touched import touch

from . import mapping
from .models import ClosingRow, EntryRow, Service, Task, Visit
from .selectors import entries_of, plan_of, sheet_of, standing, task_of, visits
from .shapes import NewEntry, NewVisit


def locked(visit_id: UUID) -> Visit:
    """The visit, locked for this transaction: writes to one visit queue up."""
    visit = visits().select_for_update(of=("self",)).filter(pk=visit_id).first()
    if visit is None:
        raise Http404
    return visit


@transaction.atomic
def open_visit(new: NewVisit, *, actor: Person, now: datetime) -> Visit:
    """Open a visit for one reservoir. The same id again gives the same visit."""
    visit_id = as_id(new.id)
    bike = lock_bike(as_id(new.bike))
    if bike.archived:
        raise Http404
    existing = visits().filter(pk=visit_id).first()
    if existing:
        if existing.bike_id != bike.pk:
            raise Conflict("visit.id_taken")
        return existing
    if Visit.objects.filter(bike=bike, state=Visit.State.OPEN).exists():
        raise Conflict("visit.open_already")
    spec = specs_of([bike]).get(bike.pk)
    if spec is None:
        raise CoreError("visit.no_sheet")
    reservoir, variant = spec.reservoir(new.reservoir), Variant.of(new.variant)
    if reservoir is None:
        raise CoreError("visit.no_such_reservoir", field="reservoir")
    if reservoir.capacities and variant not in reservoir.capacities:
        raise CoreError("fill.no_capacity", field="variant")
    odometer = record_odometer(
        bike,
        new.odometer,
        reading_id=visit_id,
        read_on=day_of(now),
        actor=actor,
        hours=new.hours,
        sure=new.sure,
    )
    visit = Visit.objects.create(
        id=visit_id, bike=bike, sheet=spec.sheet, odometer=odometer, opened_by=actor, opened_at=now
    )
    schools = schools_of([bike.pk])[bike.pk]
    fluid = Fluid.objects.filter(name=new.fluid).first() if new.fluid else None
    task = Task.objects.create(
        visit=visit,
        reservoir=reservoir.key,
        variant=variant,
        fluid=fluid or best_fluid(reservoir.requirement, reservoir.kind, schools),
        spec=pack(spec.cells_of(reservoir.key)),
        schools=[vars(choice) for choice in schools.choices],
    )
    sheet_of(visit, plan_of(task))  # a sheet that cannot be made refuses the visit
    touch(bike.pk)
    return visit


def on_leaving(sender: object, bike: UUID, **_: Any) -> None:
    """A bike with an open visit does not leave the workshop."""
    if Visit.objects.filter(bike_id=bike, state=Visit.State.OPEN).exists():
        raise Conflict("visit.still_open")


def _digest(new: NewEntry) -> str:
    return digest([new.step, new.kind, new.data, new.supersedes or ""])


def _repeated(visit: Visit, new: NewEntry, entry_id: UUID) -> bool:
    """Whether this entry is already written down here. The same id for something else clashes."""
    row = EntryRow.objects.filter(pk=entry_id).first()
    if row is None:
        return False
    same = (row.visit_id, row.step, row.kind) == (visit.pk, new.step, new.kind)
    if not same or row.sent not in ("", _digest(new)):
        raise Conflict("visit.id_taken")
    return True


def _clock(text: str) -> datetime | None:
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        return None
    return at if at.tzinfo else None


def _when(new: NewEntry, visit: Visit, now: datetime) -> datetime:
    """When it happened, placed by how far the tablet's clock is off; never after now, never before
    the visit was opened. A tablet that does not say when is taken to write at once."""
    at, sent = _clock(new.at), _clock(new.sent_at)
    if at is None:
        return now
    off = now - sent if sent else timedelta(0)
    try:
        return max(min(at + off, now), visit.opened_at)
    except OverflowError:
        return now


def _superseded(visit: Visit, new: NewEntry, speaks: Speaker) -> EntryRow | None:
    """The entry this one corrects. One that somebody corrected meanwhile is not corrected again
    unseen: raises Conflict ``visit.corrected`` with the first correction."""
    if not new.supersedes:
        return None
    row = EntryRow.objects.filter(pk=as_id(new.supersedes), visit=visit, step=new.step).first()
    if row is None:
        raise Http404
    first = EntryRow.objects.filter(supersedes=row).select_related("by").first()
    if first is not None:
        said = result(mapping.entry(first), speaks)
        raise Conflict("visit.corrected", by=first.by.name, said=said)
    return row


@transaction.atomic
def record_entry(visit_id: UUID, new: NewEntry, *, actor: Person, now: datetime) -> Visit:
    """Write one entry down. Sent twice, it stands once."""
    visit = locked(visit_id)
    entry_id = as_id(new.id)
    if _repeated(visit, new, entry_id):
        return visit
    if visit.state != Visit.State.OPEN:
        raise Conflict("visit.closed")
    speaks = speaker(actor)
    at, old = _when(new, visit, now), _superseded(visit, new, speaks)
    plan = plan_of(task_of(visit))
    sheet = sheet_of(visit, plan)
    step = check_entry(sheet, new.step, new.kind, at, str(old.pk) if old else None)
    expected = expected_at(plan, sheet, step.kind, new.data, old is not None)
    data = read_entry(step, new.kind, new.data, speaks, expected)
    try:
        with transaction.atomic():
            EntryRow.objects.create(
                id=entry_id,
                visit=visit,
                step=new.step,
                kind=new.kind,
                data=data,
                at=at,
                by=actor,
                supersedes=old,
                sent=_digest(new),
            )
    except IntegrityError as error:  # the same id, at the same moment, on another visit
        raise Conflict("visit.id_taken") from error
    return visit


def _close(
    visit: Visit,
    stands: Closing,
    state: Visit.State,
    *,
    actor: Person,
    now: datetime,
    reason: str = "",
) -> None:
    """Close a visit and keep what it answers, once for all."""
    ClosingRow.objects.create(visit=visit, document=keep(stands))
    visit.state, visit.reason = state, reason
    visit.closed_by, visit.closed_at = actor, now
    visit.save(update_fields=["state", "reason", "closed_by", "closed_at"])
    touch(visit.bike_id)


def _keep_service(visit: Visit, stands: Closing, *, actor: Person, now: datetime) -> None:
    odometer, plan, sheet = visit.odometer, stands.plan, stands.sheet
    Service.objects.create(
        bike=visit.bike,
        reservoir=plan.reservoir.key,
        variant=plan.variant,
        visit=visit,
        done_on=day_of(now),
        reading=odometer,
        drained_ml=sheet.drained,
        took_ml=sheet.added,
        not_learned=stands.not_learned[:300],
        fluid=stands.fluid,
        done_by=actor.name,
    )
    for state in sheet.steps:
        entry = state.entry
        if sheet.finding and entry and entry.kind == "finding":
            keep_finding(
                visit.bike,
                plan.reservoir.key,
                dict(entry.data),
                sheet.finding,
                finding_id=uuid5(visit.pk, entry.id),
                found_on=day_of(now),
                reading=odometer,
                km_since_wiped=plan.km_since_wiped,
                actor=actor,
            )


def _pass_on_looked_up(visit: Visit, sheet: Sheet, *, actor: Person, now: datetime) -> None:
    """What was looked up at the bench goes into the model's draft, for a lead to approve."""
    found = {
        Path.of(entry.data["path"]): Cell(
            entry.data["written"],
            entry.data["document"],
            entry.data["page"],
            entry.by,
            day_of(entry.at),
        )
        for state in sheet.steps
        if (entry := state.entry) and state.step.kind == StepKind.LOOKUP
    }
    if found:
        note_looked_up(visit.bike.model_id, found, actor=actor)


@transaction.atomic
def sign(visit_id: UUID, *, actor: Person, now: datetime, beside: Person | None = None) -> Visit:
    """Close a finished visit and keep its service and finding. Signing twice changes nothing. An
    apprentice signs with a lead ``beside``. Raises Conflict ``visit.countersign`` without one."""
    visit = locked(visit_id)
    if visit.state == Visit.State.SIGNED:
        return visit
    if visit.state == Visit.State.LEFT:
        raise Conflict("visit.closed")
    lock_bike(visit.bike_id)
    task = task_of(visit)
    plan = plan_of(task)
    sheet = sheet_of(visit, plan)
    if not sheet.ready_to_sign:
        state = sheet.step(sheet.focus or "")
        raise Conflict("visit.not_ready", step=state.step.title if state else "")
    if actor.role == Role.APPRENTICE:
        if beside is None:
            raise Conflict("visit.countersign")
        countersign(f"visit/{visit.pk}", lead=beside, actor=actor)
    why = why_not_learned(plan, entries_of(visit), mapping.bench())
    stands = mapping.closing(task, plan, sheet, why)
    _keep_service(visit, stands, actor=actor, now=now)
    _pass_on_looked_up(visit, sheet, actor=actor, now=now)
    _close(visit, stands, Visit.State.SIGNED, actor=actor, now=now)
    return visit


@transaction.atomic
def leave(visit_id: UUID, reason: str, *, actor: Person, now: datetime) -> Visit:
    """Close a visit in which nothing was drained, with a reason."""
    visit = locked(visit_id)
    if visit.state == Visit.State.LEFT:
        return visit
    if visit.state == Visit.State.SIGNED:
        raise Conflict("visit.closed")
    if not reason.strip():
        raise CoreError("sheet.reason", field="reason")
    stands = standing(visit)
    if stands.sheet.opened_drain:
        raise Conflict("visit.oil_is_out")
    why = reason.strip()
    _close(visit, stands, Visit.State.LEFT, actor=actor, now=now, reason=why)
    return visit

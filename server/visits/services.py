"""Every write of a visit. Each is safe to repeat; the actor is always named."""

from datetime import datetime, timedelta
from decimal import Decimal
from typing import Any
from uuid import UUID, uuid5

from config.problems import Conflict
from django.db import IntegrityError, transaction
from django.http import Http404
from findings.services import keep_finding
from garage.locks import lock_bike
from garage.mapping import BikeSpec
from garage.models import Bike
from garage.odometer.services import record_odometer
from garage.selectors import schools_of, specs_of
from garage.sheets.services import note_looked_up
from oilward_core.bench import (
    Closing,
    Entry,
    Sheet,
    Speaker,
    Status,
    TaskClosing,
    VisitPlan,
    as_before,
    check_entry,
    expected_at,
    fold,
    held_by,
    in_order,
    keep,
    read_entry,
    reopens,
    result,
    why_not_learned,
)
from oilward_core.errors import CoreError, Question
from oilward_core.order import solve
from oilward_core.runsheet import COLD_JOBS, Name, PlannedTask, Step, StepId, jobs_for
from oilward_core.schools import Schools
from oilward_core.spec import Cell, Path, ReservoirSpec, Variant, pack, why_not_serviceable
from shelf.models import Fluid
from shelf.selectors import best_fluid
from workshop.access import as_id, stands_alone
from workshop.days import day_of
from workshop.mapping import speaker
from workshop.models import Person
from workshop.repeated import digest
from workshop.services import countersign
from workshop.touched import touch
from workshop.traces import trace

from . import mapping
from .models import ClosingRow, EntryRow, Service, Task, Visit
from .selectors import (
    entries_of,
    learned,
    plan_of,
    sheet_of,
    standing,
    tasks_of,
    visits,
)
from .shapes import AddedTask, NewEntry, NewTask, NewVisit

Chosen = list[tuple[ReservoirSpec, Variant, str]]


def locked(visit_id: UUID) -> Visit:
    """The visit, locked for this transaction: writes to one visit queue up."""
    visit = visits().select_for_update(of=("self",)).filter(pk=visit_id).first()
    if visit is None:
        raise Http404
    return visit


def _variant(reservoir: ReservoirSpec, said: str) -> Variant:
    """The capacity that applies; where the sheet gives none, there is nothing to choose."""
    if not said and not reservoir.capacities:
        return Variant.DRAIN_ONLY
    variant = Variant.of(said or next(iter(reservoir.capacities)))
    if reservoir.facts.drained and reservoir.capacities and variant not in reservoir.capacities:
        raise CoreError("fill.no_capacity", field="variant")
    return variant


def _chosen(spec: BikeSpec, tasks: list[NewTask]) -> Chosen:
    """What is to be serviced, in the order a bike is drawn. Raises CoreError at ``tasks`` for what
    has no run sheet."""
    wanted = {task.reservoir: task for task in tasks}
    for key in wanted:
        reservoir = spec.reservoir(key)
        if reservoir is None:
            raise CoreError("visit.no_such_reservoir", field="tasks")
        if why := why_not_serviceable(reservoir):
            raise CoreError("visit.not_serviceable", field="tasks", text=why)
    if not wanted:
        raise CoreError("planning.nothing", field="tasks")
    return [
        (reservoir, _variant(reservoir, wanted[reservoir.key].variant), wanted[reservoir.key].fluid)
        for reservoir in spec.reservoirs
        if reservoir.key in wanted
    ]


SOLVE_SECONDS = 1.0


def _ordered(chosen: Chosen, new: NewVisit, minutes: dict[str, int]) -> list[str]:
    """The jobs as they were planned, or else in the shortest order there is."""
    if new.order or len(chosen) < 2:
        return [str(job)[:80] for job in new.order[:400]]
    tasks = [PlannedTask(reservoir, variant) for reservoir, variant, _ in chosen]
    jobs = jobs_for(tasks, [COLD_JOBS[key] for key in _cold(new)], minutes)
    placed = solve(jobs, seconds=SOLVE_SECONDS).placed
    return [one.job.id for one in sorted(placed, key=lambda one: one.start)]


def _cold(new: NewVisit) -> list[str]:
    return [key for key in COLD_JOBS if key in new.cold]


def _add(
    visit: Visit, reservoir: ReservoirSpec, variant: Variant, fluid: str, spec: BikeSpec
) -> Task:
    """A reservoir of the visit, with its values and schools as they are now."""
    schools = schools_of([visit.bike_id])[visit.bike_id]
    return Task.objects.create(
        visit=visit,
        reservoir=reservoir.key,
        variant=variant,
        fluid=_fluid(reservoir, fluid, schools),
        spec=pack(spec.cells_of(reservoir.key)),
        schools=[vars(choice) for choice in schools.choices],
    )


def _fluid(reservoir: ReservoirSpec, name: str, schools: Schools) -> Fluid | None:
    named = Fluid.objects.filter(name=name).first() if name else None
    if named or not reservoir.facts.poured:
        return named
    return best_fluid(reservoir.requirement, reservoir.kind, schools)


def _spec_of(bike: Bike) -> BikeSpec:
    spec = specs_of([bike]).get(bike.pk)
    if spec is None:
        raise CoreError("visit.no_sheet")
    return spec


def open_visit(new: NewVisit, *, actor: Person, now: datetime) -> Visit:
    """Open a visit for one reservoir or several. The same id again gives the same visit."""
    bike = Bike.objects.select_related("model").filter(pk=as_id(new.bike)).first()
    if bike is None or bike.archived:
        raise Http404
    minutes = {kind: took for kind, (took, _) in learned().items()}
    # solved before any row is locked: what is chosen is looked at again inside
    spec = specs_of([bike]).get(bike.pk)
    order = _ordered(_chosen(spec, new.tasks), new, minutes) if spec else []
    return _open(new, order, minutes, actor=actor, now=now)


@transaction.atomic
def _open(
    new: NewVisit, order: list[str], minutes: dict[str, int], *, actor: Person, now: datetime
) -> Visit:
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
    spec = _spec_of(bike)
    chosen = _chosen(spec, new.tasks)
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
        id=visit_id,
        bike=bike,
        sheet=spec.sheet,
        odometer=odometer,
        opened_by=actor,
        opened_at=now,
        cold=_cold(new),
        order=order,
        learned=minutes,
    )
    for reservoir, variant, fluid in chosen:
        _add(visit, reservoir, variant, fluid, spec)
    _note_standing(visit)  # a sheet that cannot be made refuses the visit
    touch(bike.pk)
    return visit


def _stands(visit: Visit) -> tuple[list[Task], VisitPlan, Sheet]:
    tasks = tasks_of(visit)
    plan = plan_of(visit, tasks)
    return tasks, plan, sheet_of(visit, plan)


def _note_standing(visit: Visit) -> Visit:
    """Write down where it stands, for those who look at many visits at once."""
    tasks, plan, sheet = _stands(visit)
    closed = mapping.closing(visit, tasks, plan, sheet)
    visit.stands = mapping.in_short(sheet, mapping.title(closed))
    visit.save(update_fields=["stands"])
    return visit


def _still_open(visit: Visit) -> None:
    if visit.state != Visit.State.OPEN:
        raise Conflict("visit.closed")


@transaction.atomic
def add_task(visit_id: UUID, new: AddedTask, *, actor: Person, now: datetime) -> Visit:
    """Take a reservoir into an open visit; twice changes nothing. With an ``entry`` its plug has been
    opened by mistake: that is written down, and the visit goes on with it."""
    visit = locked(visit_id)
    _still_open(visit)
    spec = _spec_of(visit.bike)
    ((reservoir, variant, fluid),) = _chosen(spec, [NewTask(new.reservoir, new.variant, new.fluid)])
    row = Task.objects.filter(visit=visit, reservoir=reservoir.key).first()
    if row is None or row.taken_out:
        trace("reservoir added to a visit", f"{visit.pk}/{reservoir.key}", actor=actor)
    if row is None:
        _add(visit, reservoir, variant, fluid, spec)
    elif row.taken_out:
        row.taken_out = False
        row.save(update_fields=["taken_out"])
    if new.entry and not EntryRow.objects.filter(pk=as_id(new.entry)).exists():
        EntryRow.objects.create(
            id=as_id(new.entry),
            visit=visit,
            step=str(StepId(reservoir.key, Name.DRAIN)),
            kind="start",
            data={"mistaken": True},
            at=now,
            by=actor,
        )
    return _note_standing(visit)


@transaction.atomic
def take_out(visit_id: UUID, reservoir: str, *, actor: Person) -> Visit:
    """Take a reservoir out of an open visit, while nothing of it has been opened; twice changes
    nothing. Raises Conflict ``visit.opened`` and ``visit.last_task``."""
    visit = locked(visit_id)
    _still_open(visit)
    tasks, _, sheet = _stands(visit)
    row = next((task for task in tasks if task.reservoir == reservoir), None)
    if row is None:
        return visit
    stands = sheet.task(reservoir)
    if stands is not None and stands.opened:
        raise Conflict("visit.opened")
    if len(tasks) == 1:
        raise Conflict("visit.last_task")
    row.taken_out = True
    row.save(update_fields=["taken_out"])
    trace("reservoir taken out of a visit", f"{visit.pk}/{reservoir}", actor=actor)
    return _note_standing(visit)


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


def _against(unmet: tuple[str, ...], new: NewEntry) -> dict[str, Any]:
    """What an entry goes against, to be kept with it once somebody said that it happened all the
    same. Raises the question ``sheet.not_yet``."""
    if not unmet:
        return {}
    said = "; ".join(unmet)
    if new.accepts != said:
        raise Question("sheet.not_yet", field="accepts", text=said, options=[said], sure=said)
    return {"despite": list(unmet)}


def _reopened(plan: VisitPlan, entries: list[Entry], correction: Entry, new: NewEntry) -> None:
    """Raises the question ``sheet.reopens`` with the steps a correction undoes, unless it was asked."""
    titles = reopens(plan, entries, correction, mapping.bench())
    said = ", ".join(titles)
    if titles and new.accepts != said:
        raise Question("sheet.reopens", field="accepts", text=said, options=[said], sure=said)


def _read(
    plan: VisitPlan,
    sheet: Sheet,
    step: Step,
    new: NewEntry,
    speaks: Speaker,
    old: EntryRow | None,
) -> dict[str, Any]:
    """What was typed, as it is kept; an amount held against its vessel and what is expected."""
    plans = {task.reservoir.key: task for task in plan.tasks}
    stands, task = sheet.task(step.id.reservoir), plans.get(step.id.reservoir)
    expected = None
    if stands is not None and task is not None:
        expected = expected_at(task, stands, step, new.data, old is not None)
    raw = as_before(mapping.entry(old), new.data) if old is not None else new.data
    data = read_entry(step, new.kind, raw, speaks, expected)
    if "ml" in data:
        held_by(step, Decimal(data["ml"]), str(new.data.get("sure") or ""))
    fluid = data.get("fluid")
    if fluid and not Fluid.objects.filter(name=fluid).exists():
        raise CoreError("visit.no_fluid", field="fluid")
    return data


@transaction.atomic
def record_entry(visit_id: UUID, new: NewEntry, *, actor: Person, now: datetime) -> Visit:
    """Write one entry down. Sent twice, it stands once. A correction stands at the time of what it
    corrects, and says beforehand what it reopens."""
    visit = locked(visit_id)
    entry_id = as_id(new.id)
    if _repeated(visit, new, entry_id):
        return visit
    _still_open(visit)
    speaks = speaker(actor)
    at, old = _when(new, visit, now), _superseded(visit, new, speaks)
    plan = plan_of(visit, tasks_of(visit))
    entries = entries_of(visit, plan.tasks)
    sheet = fold(plan, entries, mapping.bench())
    step, unmet = check_entry(sheet, new.step, new.kind, at, str(old.pk) if old else None)
    if old is not None and new.kind != old.kind and new.kind != "skip":
        raise CoreError("sheet.wrong_kind", step=step.title)
    data = _read(plan, sheet, step, new, speaks, old) | _against(unmet, new)
    if old is not None:
        corrects = Entry(str(entry_id), new.step, new.kind, data, at, actor.name, str(old.pk))
        _reopened(plan, entries, corrects, new)
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
    return _note_standing(visit)


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


def _found(one: TaskClosing, sheet: Sheet) -> str:
    """What was found where nothing was drained, in words."""
    key = one.plan.reservoir.key
    said = [
        result(state.entry, Speaker())
        for state in sheet.steps
        if state.entry
        and state.step.id.reservoir == key
        and state.step.name in (Name.LOOK, Name.LEG_GAP)
    ]
    return "; ".join(said)[:200]


def _keep_service(
    visit: Visit, one: TaskClosing, stands: Closing, *, actor: Person, now: datetime
) -> None:
    plan, task = one.plan, stands.sheet.task(one.plan.reservoir.key)
    if task is None:
        return
    poured = plan.reservoir.facts.poured
    Service.objects.create(
        bike=visit.bike,
        reservoir=plan.reservoir.key,
        variant=plan.variant,
        visit=visit,
        done_on=day_of(now),
        reading=visit.odometer,
        drained_ml=task.drained,
        took_ml=Decimal(round(task.added)) if poured and task.added else None,
        not_learned=one.not_learned[:300],
        fluid=one.fluid if poured else "",
        found=_found(one, stands.sheet),
        done_by=actor.name,
    )
    inspected = stands.sheet.step(str(StepId(plan.reservoir.key, Name.INSPECT)))
    entry = inspected.entry if inspected else None
    if task.finding and entry and entry.kind == "finding":
        keep_finding(
            visit.bike,
            plan.reservoir.key,
            dict(entry.data),
            task.finding,
            finding_id=uuid5(visit.pk, entry.id),
            found_on=day_of(now),
            reading=visit.odometer,
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
        if (entry := state.entry) and state.step.name == Name.LOOK_UP and entry.kind != "skip"
    }
    if found:
        note_looked_up(visit.bike.model_id, found, actor=actor)


def _check_finished(sheet: Sheet) -> None:
    """Raises Conflict ``visit.not_ready`` with the step that is open."""
    if sheet.ready_to_sign:
        return
    closed = (Status.DONE, Status.SKIPPED)
    focus = sheet.step(sheet.focus or "")
    left = focus or next((state for state in sheet.steps if state.status not in closed), None)
    raise Conflict("visit.not_ready", step=left.step.title if left else "")


@transaction.atomic
def sign(visit_id: UUID, *, actor: Person, now: datetime, beside: Person | None = None) -> Visit:
    """Close a finished visit and keep its services and findings. Signing twice changes nothing. An
    apprentice signs with a lead ``beside``. Raises Conflict ``visit.countersign`` without one."""
    visit = locked(visit_id)
    if visit.state == Visit.State.SIGNED:
        return visit
    if visit.state == Visit.State.LEFT:
        raise Conflict("visit.closed")
    lock_bike(visit.bike_id)
    tasks, plan, sheet = _stands(visit)
    _check_finished(sheet)
    if not stands_alone(actor):
        if beside is None:
            raise Conflict("visit.countersign")
        countersign(f"visit/{visit.pk}", lead=beside, actor=actor)
    happened = in_order(entries_of(visit, plan.tasks))
    why = {task.reservoir: why_not_learned(task.reservoir, happened) for task in tasks}
    stands = mapping.closing(visit, tasks, plan, sheet, why)
    for one in stands.tasks:
        _keep_service(visit, one, stands, actor=actor, now=now)
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

"""Closing a visit: by a signature, or left before anything was opened."""

from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import datetime
from decimal import Decimal
from uuid import UUID, uuid5

from config.problems import Conflict
from django.db import transaction
from findings.models import Finding
from findings.services import answer_by_look, keep_answer, keep_judged, keep_look
from garage.locks import lock_bike
from garage.sheets.whole import note_looked_up
from oilward_core.bench import (
    Answered,
    Closing,
    Entry,
    Graded,
    LookedUp,
    Pulled,
    Sheet,
    Speaker,
    TaskClosing,
    TaskState,
    gradings,
    growing,
    in_order,
    keep,
    left_for,
    measures,
    observed,
    result,
    seals_on,
    why_not_learned,
)
from oilward_core.codes.fill import LeftFor
from oilward_core.codes.options import Did
from oilward_core.debris import DID, LevelWord, Outcome
from oilward_core.errors import CoreError
from oilward_core.runsheet import Name, StepId, TaskPlan
from oilward_core.spec import Cell, Path
from shelf.wrenches.services import count_pulls
from workshop.access import stands_alone
from workshop.announce import announce
from workshop.days import day_of
from workshop.models import Person
from workshop.services import countersign
from workshop.touched import touch

from visits import rows as to_core
from visits.models import ClosingRow, EntryRow, Service, TopUp, Visit
from visits.selectors import entries_of, standing
from visits.services import locked, stands_of
from visits.shapes import TakenOff
from visits.taken.services import keep_waste, printed, take_off

# where a value stands that nobody looked up
TWO_READINGS = "two readings at the bench"


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
    visit.save(update_fields=["state", "reason", "closed_by", "closed_at", "ride_out"])
    touch(visit.bike_id)
    announce(f"visit/{visit.pk}")


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


def _keep_findings(visit: Visit, stands: Closing, *, now: datetime) -> None:
    """What the plugs showed, by whom each reading is, and what a lead answered to it at the bench."""
    plan = to_core.visit_plan(visit, [one.plan for one in stands.tasks])
    entries = in_order(entries_of(visit, plan))
    graders = {
        str(row.pk): row.by for row in EntryRow.objects.filter(visit=visit).select_related("by")
    }
    answers = {entry.data.entry: entry for entry in entries if isinstance(entry.data, Answered)}
    for one in stands.tasks:
        _keep_look(visit, one.plan, stands.sheet, answers, graders, now)
        inspect = str(StepId(one.plan.reservoir.key, Name.INSPECT))
        state, before = stands.sheet.step(inspect), None
        if state is None or state.entry is None or not isinstance(state.entry.data, Graded):
            continue  # skipped in the end
        for entry in gradings(entries, inspect):
            by = graders.get(entry.id, visit.opened_by)
            before = _keep_finding(visit, one.plan, entry, by, before, now)
            lifted = answers.get(entry.id)
            if lifted is not None and before.level == LevelWord.HOLD:
                _keep_lifted(before, lifted, graders[lifted.id])


def _keep_look(
    visit: Visit,
    plan: TaskPlan,
    sheet: Sheet,
    answers: Mapping[str, Entry],
    graders: Mapping[str, Person],
    now: datetime,
) -> None:
    """What a look showed that is not as it should be, and what it answers to an earlier one."""
    key = plan.reservoir.key
    task, state = sheet.task(key), sheet.step(str(StepId(key, Name.LOOK)))
    entry = state.entry if state else None
    if task is None or task.look is None or entry is None:
        return
    by = graders.get(entry.id, visit.opened_by)
    said = result(entry, Speaker())
    day = day_of(now)
    answer_by_look(visit.bike_id, key, task.look, said, on=day, actor=by, at=now)
    if task.finding is None:
        return
    row = keep_look(
        visit.bike,
        key,
        plan.reservoir.kind,
        task.look,
        task.finding,
        finding_id=uuid5(visit.pk, entry.id),
        found_on=day,
        reading=visit.odometer,
        actor=by,
    )
    lifted = answers.get(entry.id)
    if lifted is not None and row.level == LevelWord.HOLD:
        _keep_lifted(row, lifted, graders[lifted.id])


def _keep_finding(
    visit: Visit, plan: TaskPlan, entry: Entry, by: Person, before: Finding | None, now: datetime
) -> Finding:
    seen, day = entry.data, day_of(now)
    assert isinstance(seen, Graded)
    return keep_judged(
        visit.bike,
        plan.reservoir.key,
        observed(plan, seen),
        seen.note,
        finding_id=uuid5(visit.pk, entry.id),
        found_on=day,
        reading=visit.odometer,
        actor=by,
        grown=growing(plan, seen, entry.who, entry.at.date()),
        regrade_of=before,
        kept=seen.kept,
        pictures=seen.pictures,
    )


def _keep_lifted(finding: Finding, lifted: Entry, by: Person) -> None:
    said = lifted.data
    assert isinstance(said, Answered)
    keep_answer(
        finding,
        Outcome.HANDED_BACK if said.handed_back else Outcome.LIFTED,
        said.reason,
        UUID(lifted.id),
        "",
        actor=by,
        at=lifted.at,
    )


def _keep_service(
    visit: Visit,
    one: TaskClosing,
    stands: Closing,
    left: LeftFor | None,
    *,
    actor: Person,
    now: datetime,
) -> None:
    plan, task = one.plan, stands.sheet.task(one.plan.reservoir.key)
    if task is None:
        return
    if task.closed_early:
        _keep_top_up(visit, one, task, actor=actor, now=now)
        return
    did = DID[task.look] if task.look else Did.CHANGED
    drained = plan.reservoir.facts.drained
    poured = plan.reservoir.facts.poured and did in (Did.CHANGED, Did.TOPPED_UP)
    Service.objects.create(
        bike=visit.bike,
        reservoir=plan.reservoir.key,
        variant=plan.variant,
        did=did,
        visit=visit,
        done_on=day_of(now),
        reading=visit.odometer,
        drained_ml=task.drained,
        took_ml=Decimal(round(task.added)) if drained or (poured and task.added > 0) else None,
        takes_ml=task.takes,
        not_learned=one.not_learned[:300],
        left=left or "",
        fell_ml=task.fell.ml if task.fell else None,
        fell_sd_ml=task.fell.sd if task.fell else None,
        tilt=task.tilt,
        fluid=one.fluid if poured else "",
        batch=one.batch[:200],
        seals=seals_on(one.plan, stands.sheet),
        measured={name: str(value) for name, value in measures(stands.sheet, task.key).items()},
        found=_found(one, stands.sheet),
        done_by=actor.name,
    )


def _keep_top_up(
    visit: Visit, one: TaskClosing, task: TaskState, *, actor: Person, now: datetime
) -> None:
    """Its oil was not changed: more than came out is oil added between two services."""
    more = round(task.added - (task.drained or 0))
    if more <= 0:
        return
    TopUp.objects.create(
        id=uuid5(visit.pk, task.key),
        bike=visit.bike,
        reservoir=task.key,
        done_on=day_of(now),
        reading=visit.odometer,
        ml=more,
        fluid=one.fluid,
        done_by=actor.name,
    )


def _pass_on_looked_up(visit: Visit, sheet: Sheet, *, actor: Person, now: datetime) -> None:
    """What was looked up at the bench, or two readings told of its marks, goes into the model's draft,
    for a lead to approve; not what stands for this bike alone."""
    entries = [state.entry for state in sheet.steps if state.entry]
    found = {
        Path.of(entry.data.path): Cell(
            written=entry.data.written,
            document=entry.data.document,
            page=entry.data.page,
            entered_by=entry.by,
            entered_on=day_of(entry.at),
            entered_by_who=entry.who,
        )
        for entry in entries
        if isinstance(entry.data, LookedUp) and not entry.data.stands
    }
    for task in sheet.tasks:
        if task.marks is not None:
            found[Path(task.key, "", "level.between")] = Cell(
                written=f"{task.marks:f} ml",
                document=TWO_READINGS,
                entered_by=actor.name,
                entered_on=visit.odometer.read_on,
                entered_by_who=str(actor.pk),
            )
    if found:
        note_looked_up(visit.bike.model_id, found, actor=actor)


def _check_finished(sheet: Sheet) -> None:
    """Raises Conflict ``visit.not_ready`` with the step that is open."""
    if sheet.ready_to_sign:
        return
    left = sheet.step(sheet.focus or "") or sheet.unfinished
    raise Conflict("visit.not_ready", step=left.step.title if left else "")


@transaction.atomic
def sign(
    visit_id: UUID,
    *,
    actor: Person,
    now: datetime,
    beside: Person | None = None,
    ride_out: str = "",
    taken: Sequence[TakenOff] = (),
) -> Visit:
    """Close a finished visit and keep its services and findings, and how the bike felt on the ride
    out; what it took goes off the shelf. Signing twice changes nothing. An apprentice signs with a lead
    ``beside``. Raises Conflict ``visit.countersign`` without one."""
    visit = locked(visit_id)
    if visit.state == Visit.State.SIGNED:
        return visit
    if visit.state == Visit.State.LEFT:
        raise Conflict("visit.closed")
    lock_bike(visit.bike_id)
    tasks, plan, sheet = stands_of(visit)
    _check_finished(sheet)
    if not stands_alone(actor):
        if beside is None:
            raise Conflict("visit.countersign")
        countersign(f"visit/{visit.pk}", lead=beside, actor=actor)
    happened = in_order(entries_of(visit, plan))
    why = {task.reservoir: why_not_learned(task.reservoir, happened) for task in tasks}
    stands = to_core.closing(visit, tasks, plan, sheet, why, printed(taken))
    for one in stands.tasks:
        left = left_for(one.plan.reservoir.key, happened)
        _keep_service(visit, one, stands, left, actor=actor, now=now)
    _keep_findings(visit, stands, now=now)
    _pass_on_looked_up(visit, sheet, actor=actor, now=now)
    take_off(visit, taken, actor=actor, today=day_of(now))
    pulled = (entry.data.wrench for entry in happened if isinstance(entry.data, Pulled))
    count_pulls(Counter(wrench for wrench in pulled if wrench))
    keep_waste(visit, stands, happened, actor=actor, today=day_of(now))
    visit.ride_out = ride_out.strip()
    _close(visit, stands, Visit.State.SIGNED, actor=actor, now=now)
    return visit


@transaction.atomic
def leave(visit_id: UUID, reason: str, *, actor: Person, now: datetime) -> Visit:
    """Close a visit in which nothing was drained, with a reason; or one that a finding holds, whose bike
    a lead hands back, not to be ridden: what its plugs and looks showed is kept, and its oil is used
    oil."""
    visit = locked(visit_id)
    if visit.state == Visit.State.LEFT:
        return visit
    if visit.state == Visit.State.SIGNED:
        raise Conflict("visit.closed")
    if not reason.strip():
        raise CoreError("sheet.reason", field="reason")
    stands = standing(visit)
    back = bool(stands.sheet.handed_back)
    if stands.sheet.opened_drain and not back:
        raise Conflict("visit.oil_is_out")
    _keep_findings(visit, stands, now=now)
    if back:
        _, plan, _ = stands_of(visit)
        happened = in_order(entries_of(visit, plan))
        keep_waste(visit, stands, happened, actor=actor, today=day_of(now))
    why = reason.strip()
    _close(visit, stands, Visit.State.LEFT, actor=actor, now=now, reason=why)
    return visit

"""Writing down what happens in a visit. Each write is safe to repeat; the actor is always named."""

from datetime import datetime, timedelta
from decimal import Decimal
from typing import Any
from uuid import UUID

from config.problems import Conflict
from django.db import IntegrityError, transaction
from django.http import Http404
from oilward_bench import in_short
from oilward_core.bench import (
    GRADINGS,
    REGRADE,
    Bench,
    Entry,
    Sheet,
    Speaker,
    VisitPlan,
    as_before,
    check_entry,
    check_hands,
    check_regrade,
    expected_at,
    fold,
    held_by,
    pan_said,
    read_entry,
    reopens,
    result,
)
from oilward_core.errors import CoreError, Question
from oilward_core.runsheet import Aside, Step
from shelf.models import Fluid
from workshop.access import as_id, stands_alone
from workshop.announce import announce
from workshop.mapping import speaker
from workshop.models import Person, Role
from workshop.repeated import digest

from . import mapping
from .marks import counted
from .models import EntryRow, Task, Visit
from .selectors import entries_of, plan_of, tasks_of, visits
from .shapes import NewEntry


def locked(visit_id: UUID) -> Visit:
    """The visit, locked for this transaction: writes to one visit queue up."""
    visit = visits().select_for_update(of=("self",)).filter(pk=visit_id).first()
    if visit is None:
        raise Http404
    return visit


def stands_of(visit: Visit) -> tuple[list[Task], VisitPlan, Sheet]:
    """A visit as it stands: its tasks, what it is worked out from, and what its entries come to."""
    tasks = tasks_of(visit)
    plan = plan_of(visit, tasks)
    return tasks, plan, fold(plan, entries_of(visit, plan.tasks), mapping.bench())


def note_standing(visit: Visit) -> Visit:
    """Write down where it stands, for those who look at many visits at once."""
    return _note(visit, *stands_of(visit))


def _note(visit: Visit, tasks: list[Task], plan: VisitPlan, sheet: Sheet) -> Visit:
    visit.worked_out = mapping.closing(visit, tasks, plan, sheet)
    counted(visit)
    called = visit.stands.get("hands")
    visit.stands = in_short(sheet, plan.tasks)
    visit.save(update_fields=["stands"])
    announce(f"visit/{visit.pk}")
    if visit.stands["hands"] != called:
        announce("hands")
    return visit


def still_open(visit: Visit) -> None:
    """Raises Conflict ``visit.closed``."""
    if visit.state != Visit.State.OPEN:
        raise Conflict("visit.closed")


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
    row = EntryRow.objects.filter(pk=as_id(new.supersedes), visit=visit).first()
    if row is None:
        raise Http404
    first = EntryRow.objects.filter(supersedes=row).select_related("by").first()
    if first is not None:
        said = result(mapping.entry(first), speaks)
        raise Conflict("visit.corrected", by=first.by.name, said=said)
    return row


def _same_kind(entries: list[Entry], old: EntryRow, new: NewEntry, step: Step) -> None:
    """A correction is of the same step and the same kind, or it says that the step was skipped, or
    that it was not. Old entries are of the step and kind this description gives them."""
    was = next((entry for entry in entries if entry.id == str(old.pk)), None)
    if was is None or was.step != new.step:
        raise Http404
    if new.kind != was.kind and "skip" not in (new.kind, was.kind):
        raise CoreError("sheet.wrong_kind", step=step.title)


def _against(unmet: tuple[str, ...], new: NewEntry) -> dict[str, Any]:
    """What an entry goes against, to be kept with it once somebody said that it happened all the
    same. Raises the question ``sheet.not_yet``."""
    if not unmet:
        return {}
    said = "; ".join(unmet)
    if new.accepts != said:
        raise Question("sheet.not_yet", field="accepts", text=said, options=[said], sure=said)
    return {"despite": list(unmet)}


def _reopened(
    plan: VisitPlan, entries: list[Entry], correction: Entry, new: NewEntry, bench: Bench
) -> None:
    """Raises the question ``sheet.reopens`` with the steps a correction undoes, unless it was asked."""
    titles = reopens(plan, entries, correction, bench)
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
        held_by(step, Decimal(data["ml"]), data["unit"], str(new.data.get("sure") or ""))
    fluid = data.get("fluid")
    if fluid and not Fluid.objects.filter(name=fluid).exists():
        raise CoreError("visit.no_fluid", field="fluid")
    return data


def _as_it_was(new: NewEntry, old: EntryRow | None) -> dict[str, Any]:
    """What stays true of an entry, corrected or not: that it went against a need, that it was written
    down from memory."""
    said: dict[str, Any] = {"remembered": True} if new.remembered and old is None else {}
    if old is not None:
        said |= {name: old.data[name] for name in ("remembered",) if name in old.data}
        if new.kind == old.kind and "despite" in old.data:
            said["despite"] = old.data["despite"]
    return said


def _check_lead(sheet: Sheet, kind: str, data: dict[str, Any], actor: Person) -> None:
    """Only a lead lifts a hold, or hands a bike back that is not to be ridden. Raises CoreError
    ``visit.hold_lead``."""
    if kind != "answered" or actor.role == Role.LEAD:
        return
    holds = [stop for stop in sheet.stops if stop.hold and stop.entry == data["entry"]]
    if holds or data.get("handed_back"):
        raise CoreError("visit.hold_lead")


@transaction.atomic
def record_entry(visit_id: UUID, new: NewEntry, *, actor: Person, now: datetime) -> Visit:
    """Write one entry down. Sent twice, it stands once. A correction stands at the time of what it
    corrects, and says beforehand what it reopens."""
    visit = locked(visit_id)
    entry_id = as_id(new.id)
    if _repeated(visit, new, entry_id):
        return visit
    still_open(visit)
    speaks = speaker(actor)
    at, old = _when(new, visit, now), _superseded(visit, new, speaks)
    tasks = tasks_of(visit)
    plan = plan_of(visit, tasks)
    entries = entries_of(visit, plan.tasks)
    bench = mapping.bench()
    sheet = fold(plan, entries, bench)
    step, unmet = check_entry(sheet, new.step, new.kind, at, str(old.pk) if old else None)
    if old is not None:
        _same_kind(entries, old, new, step)
    data = _read(plan, sheet, step, new, speaks, old) | _against(unmet, new)
    _check_lead(sheet, new.kind, data, actor)
    if new.kind in GRADINGS and data["pan_clean"] is None:
        data["pan_clean"] = pan_said(entries, step.id.reservoir)
    if new.kind == Aside.TAKES_OVER:
        check_hands(plan.tasks, sheet, data)
    if new.kind == REGRADE and old is None:
        lead = actor.role == Role.LEAD
        check_regrade(sheet, new.step, actor.name, stands_alone(actor), lead)
    data |= _as_it_was(new, old)
    if old is not None:
        corrects = Entry(
            id=str(entry_id),
            step=new.step,
            kind=new.kind,
            data=data,
            at=at,
            by=actor.name,
            supersedes=str(old.pk),
        )
        _reopened(plan, entries, corrects, new, bench)
    try:
        with transaction.atomic():
            row = EntryRow.objects.create(
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
    return _note(visit, tasks, plan, fold(plan, [*entries, mapping.entry(row)], bench))

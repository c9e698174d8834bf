"""Writing down what happens in a visit. Each write is safe to repeat; the actor is always named."""

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import replace
from datetime import datetime
from typing import Any
from uuid import UUID

from config.problems import Conflict
from django.db import IntegrityError, transaction
from django.http import Http404
from oilward_bench import in_short
from oilward_core.bench import (
    DESCRIPTION,
    Answered,
    Bench,
    CauseNamed,
    Data,
    Entry,
    EntryKind,
    Graded,
    LookedUp,
    PouredIn,
    Pulled,
    Sheet,
    Speaker,
    TakesOver,
    VisitPlan,
    as_before,
    check_also,
    check_entry,
    check_hands,
    check_regrade,
    check_second,
    entry_document,
    expected_at,
    fold,
    goes_against,
    kind_of,
    own_words_again,
    pan_said,
    raw_carried_over,
    read_entry,
    reopens,
    result,
)
from oilward_core.codes.fill import Cause
from oilward_core.errors import CoreError, Question
from oilward_core.runsheet import Option, Step, TaskPlan
from shelf.models import Fluid
from shelf.selectors import is_refused
from workshop.access import as_id, leads, only_one, stands_alone
from workshop.announce import announce
from workshop.days import zone
from workshop.kept import IN_SHORT
from workshop.mapping import speaker
from workshop.models import Person
from workshop.repeated import digest, written

from . import rows as to_core
from .ahead.wanted import want_finish
from .happened import when
from .marks import counted
from .models import EntryRow, Task, Visit
from .selectors import entries_of, plan_of, tasks_of, visits
from .shapes import NewEntry, SecondLook

ACCEPTED = "; "  # between the codes somebody agreed to


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
    return tasks, plan, fold(plan, entries_of(visit, plan), to_core.bench())


def note_standing(visit: Visit) -> Visit:
    """Write down where it stands, for those who look at many visits at once."""
    return _note(visit, *stands_of(visit))


def _note(visit: Visit, tasks: list[Task], plan: VisitPlan, sheet: Sheet) -> Visit:
    visit.worked_out = to_core.closing(visit, tasks, plan, sheet)
    counted(visit)
    called = visit.stands.get("hands")
    visit.stands = {**in_short(sheet, plan.tasks), "of": IN_SHORT.of(visit=str(visit.pk))}
    visit.save(update_fields=["stands"])
    announce(f"visit/{visit.pk}")
    want_finish(visit)
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
    row = written(EntryRow.objects.filter(pk=entry_id).first(), _digest(new))
    if row is not None and (row.visit_id, row.step, row.kind) != (visit.pk, new.step, new.kind):
        raise Conflict("visit.id_taken")
    return row is not None


def _superseded(
    visit: Visit, new: NewEntry, entries: Sequence[Entry], speaks: Speaker
) -> Entry | None:
    """The entry this one corrects. One that somebody corrected meanwhile is not corrected again
    unseen: raises Conflict ``visit.corrected`` with the first correction."""
    if not new.supersedes:
        return None
    row = EntryRow.objects.filter(pk=as_id(new.supersedes), visit=visit).first()
    old = next((entry for entry in entries if row and entry.id == str(row.pk)), None)
    if old is None:
        raise Http404
    first = next((entry for entry in entries if entry.supersedes == old.id), None)
    if first is not None:
        raise Conflict("visit.corrected", by=first.by, said=result(first, speaks))
    return old


def _same_kind(old: Entry, new: NewEntry, kind: EntryKind, step: Step) -> None:
    """A correction is of the same step and the same kind, or it says that the step was skipped, or
    that it was not."""
    if old.step != new.step:
        raise Http404
    if kind != old.kind and EntryKind.SKIP not in (kind, old.kind):
        raise CoreError("sheet.wrong_kind", step=step.title)


def _against(unmet: Sequence[Option], new: NewEntry) -> tuple[str, ...]:
    """What an entry goes against, to be kept with it once somebody said that it happened all the
    same: ``accepts`` names the codes that were asked about. Raises the question ``sheet.not_yet``."""
    return _accepted("sheet.not_yet", unmet, "; ", new)


def _accepted(code: str, asked: Sequence[Option], between: str, new: NewEntry) -> tuple[str, ...]:
    codes = tuple(one.code for one in asked)
    agreed = ACCEPTED.join(codes)
    if codes and new.accepts != agreed:
        text = between.join(dict.fromkeys(one.words for one in asked))
        raise Question(code, field="accepts", text=text, options=[agreed], sure=agreed)
    return codes


def _reopened(
    plan: VisitPlan, entries: list[Entry], correction: Entry, new: NewEntry, bench: Bench
) -> None:
    """Raises the question ``sheet.reopens`` with the steps a correction undoes, unless it was asked."""
    _accepted("sheet.reopens", reopens(plan, entries, correction, bench), ", ", new)


def _read(
    plan: VisitPlan,
    sheet: Sheet,
    step: Step,
    kind: EntryKind,
    new: NewEntry,
    speaks: Speaker,
    old: Entry | None,
    chosen: tuple[str, str],
) -> Data:
    """What was typed, as it is kept; an amount held against its vessel and what is expected, an oil
    against what may go in there: the one named, or else the ``chosen`` one."""
    plans = {task.reservoir.key: task for task in plan.tasks}
    stands, task = sheet.task(step.id.reservoir), plans.get(step.id.reservoir)
    raw: Mapping[str, Any] = new.data
    if new.description != DESCRIPTION:
        raw = raw_carried_over(step, kind, raw)
    if old is not None and kind == old.kind:
        raw = as_before(old, raw)
    expected = None
    if stands is not None and task is not None:
        expected = expected_at(task, stands, step, kind, raw, old is not None)
    data = read_entry(step, kind, raw, speaks, expected)
    return _judged(data, task, chosen) if isinstance(data, PouredIn) and task else data


@contextmanager
def _in_the_workshops_time() -> Iterator[None]:
    """Somebody did it already: who, and when by the clock on the wall."""
    try:
        yield
    except CoreError as error:
        if error.code == "sheet.already_done" and "at" in error.fields:
            said = f"{error.fields['at'].astimezone(zone()):%H:%M}"
            raise CoreError("sheet.done_by", **{**error.fields, "at": said}) from error
        raise


def _judged(data: PouredIn, task: TaskPlan, chosen: tuple[str, str]) -> PouredIn:
    """A pour with what is to be said of its oil, or of the ``chosen`` one (and its label) where none is
    named: whether it may go in there. Raises CoreError ``visit.no_fluid``."""
    if data.fluid and not data.label and not Fluid.objects.filter(name=data.fluid).exists():
        raise CoreError("visit.no_fluid", field="fluid")
    spec = task.reservoir
    name, label = (data.fluid, data.label) if data.fluid else chosen
    refused = is_refused(name, spec.requirement, spec.kind, task.schools, label)
    return replace(data, refused=refused)


def _check_lead(sheet: Sheet, data: Data, actor: Person) -> None:
    """Only a lead lifts a hold, hands a bike back that is not to be ridden, stands by a gauge that the
    book contradicts, or by a value that nobody has compared; and nobody lifts what lasts. Raises
    CoreError ``visit.hold_lead``, ``visit.gauge_lead``, ``visit.own_lead`` and ``visit.lasts``."""
    answered = data.entry if isinstance(data, Answered) and not data.handed_back else ""
    if any(stop.lasts and stop.entry == answered for stop in sheet.stops):
        raise CoreError("visit.lasts")
    if leads(actor):
        return
    if isinstance(data, CauseNamed) and data.cause in (Cause.GAUGE, Cause.UNREADABLE):
        raise CoreError("visit.gauge_lead")
    if isinstance(data, LookedUp) and data.stands:
        raise CoreError("visit.own_lead")
    if not isinstance(data, Answered):
        return
    holds = [stop for stop in sheet.stops if stop.hold and stop.entry == data.entry]
    if holds or data.handed_back:
        raise CoreError("visit.hold_lead")


def _check_second_pair(step: Step, data: LookedUp, actor: Person) -> None:
    """Whoever wrote a value for this bike does not look it up as the second person. Raises CoreError
    ``visit.own_again``."""
    if own_words_again(step, data, str(actor.pk)) and not (leads(actor) or only_one(actor)):
        raise CoreError("visit.own_again", field="written")


def _checked(
    data: Data,
    step: Step,
    sheet: Sheet,
    plan: VisitPlan,
    new: NewEntry,
    old: Entry | None,
    actor: Person,
) -> None:
    """What only somebody may write down, or only with a hand on it."""
    _check_lead(sheet, data, actor)
    if isinstance(data, LookedUp):
        _check_second_pair(step, data, actor)
    if isinstance(data, TakesOver):
        check_hands(plan.tasks, sheet, data)
    if data.kind == EntryKind.ALSO_SEEN:
        check_also(sheet, new.step)
    if data.kind == EntryKind.REGRADE and old is None:
        lead = leads(actor)
        check_regrade(sheet, new.step, str(actor.pk), stands_alone(actor), lead)


def _by_what(data: Pulled, bench: Bench) -> Pulled:
    """A pull with what its wrench is called, and when that was calibrated."""
    used = next((one for one in bench.wrenches if one.id == data.wrench), None)
    if used is None or data.feel:
        return data
    return replace(data, by_what=", ".join(filter(None, (used.name, used.calibration))))


@transaction.atomic
def record_entry(visit_id: UUID, new: NewEntry, *, actor: Person, now: datetime) -> Visit:
    """Write one entry down. Sent twice, it stands once. A correction stands at the time of what it
    corrects, and says beforehand what it reopens. Raises CoreError ``second.door`` for a second look,
    which has a door of its own."""
    if new.kind == EntryKind.SECOND:
        raise CoreError("second.door", field="kind")
    return _record(visit_id, new, actor=actor, now=now)


@transaction.atomic
def second_look(
    visit_id: UUID, given: SecondLook, *, beside: Person, alone: bool, actor: Person, now: datetime
) -> Visit:
    """Somebody ``beside``, who was asked for their PIN or password, stands for a fastener; ``alone``:
    there is nobody else. Sent twice, it stands once. Raises as `check_second`."""
    visit = locked(visit_id)
    looked = {"name": beside.name, "person": str(beside.pk), "alone": alone}
    new = NewEntry(
        id=given.id,
        step=given.step,
        kind=EntryKind.SECOND,
        at=now.isoformat(),
        data=looked,
        description=DESCRIPTION,
    )
    if not _repeated(visit, new, as_id(new.id)):
        still_open(visit)
        _, _, sheet = stands_of(visit)
        check_second(sheet, given.step, str(beside.pk), alone=alone, at=now, bench=to_core.bench())
    return _record(visit_id, new, actor=actor, now=now)


def _record(visit_id: UUID, new: NewEntry, *, actor: Person, now: datetime) -> Visit:
    visit = locked(visit_id)
    entry_id = as_id(new.id)
    if _repeated(visit, new, entry_id):
        return visit
    still_open(visit)
    speaks, kind, at = speaker(actor), kind_of(new.kind), when(new, visit, now)
    tasks = tasks_of(visit)
    plan = plan_of(visit, tasks)
    entries, bench = entries_of(visit, plan), to_core.bench()
    old = _superseded(visit, new, entries, speaks)
    sheet = fold(plan, entries, bench)
    with _in_the_workshops_time():
        step, unmet = check_entry(sheet, new.step, kind, at, old.id if old else None)
    if old is not None:
        _same_kind(old, new, kind, step)
    row = next((one for one in tasks if one.reservoir == step.id.reservoir), None)
    chosen = (row.chosen, row.other_label) if row else ("", "")
    data = _read(plan, sheet, step, kind, new, speaks, old, chosen)
    against = _against(goes_against(unmet, data), new)
    _checked(data, step, sheet, plan, new, old, actor)
    if isinstance(data, Graded) and data.pan_clean is None:
        data = replace(data, pan_clean=pan_said(entries, step.id.reservoir))
    if isinstance(data, Pulled):
        data = _by_what(data, bench)
    if old is not None and kind == old.kind:
        against = old.against
    entry = Entry(
        id=str(entry_id),
        step=new.step,
        data=data,
        at=at,
        by=actor.name,
        who=str(actor.pk),
        supersedes=old.id if old else None,
        against=against,
        remembered=old.remembered if old else new.remembered,
    )
    if old is not None:
        _reopened(plan, entries, entry, new, bench)
    _append(visit, entry, _digest(new), actor)
    return _note(visit, tasks, plan, fold(plan, [*entries, entry], bench))


def _append(visit: Visit, entry: Entry, sent: str, actor: Person) -> None:
    """Keep an entry. Raises Conflict ``visit.id_taken`` for an id that is another visit's by now."""
    try:
        with transaction.atomic():
            EntryRow.objects.create(
                id=entry.id,
                visit=visit,
                step=entry.step,
                kind=entry.kind,
                data=entry_document(entry),
                at=entry.at,
                by=actor,
                supersedes_id=entry.supersedes,
                sent=sent,
            )
    except IntegrityError as error:  # the same id, at the same moment, on another visit
        raise Conflict("visit.id_taken") from error

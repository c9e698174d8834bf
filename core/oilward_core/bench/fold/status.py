"""Where each step stands: done, skipped, running, ready, or blocked and by what."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime

from ...codes.bench import Status
from ...codes.entries import Ask, EntryKind
from ...codes.roles import Role
from ...codes.steps import Name
from ...debris import Verdict
from ...runsheet import Option, Step, StepId, of_bike
from ..asks import ASKS
from ..asks.common import Skipped
from ..asks.gate import keeps_shut
from ..asks.leaks import stands_since, stood_until
from ..entries import Entry
from .facts import Facts, shut
from .known import Known
from .needs import in_words, settling, unmet
from .overpulled import undone
from .state import StepState


def is_complete(step: Step, known: Known) -> bool:
    """Whether what was recorded completes the step."""
    entry = known.facts.last.get(str(step.id))
    if undone(step.id, entry, known):
        return False
    if step.name == Name.CLOSE:
        fact = known.facts.fastener(step.id.reservoir, Role.FILL_PLUG)
        return bool(known.facts.poured(step.id.reservoir)) and shut(fact)
    if step.name == Name.STANDS:
        return stands_since(known) is not None
    if step.ask == Ask.WAIT:
        # by the book, nothing more is read after it
        return settling(step, known) is not None or known.fillings[step.id.reservoir].right
    if step.ask == Ask.FILL:
        return _filled(step, known)
    if entry is None:
        return False
    return entry.kind == EntryKind.SKIP or ASKS[step.ask].completes(step, entry, known)


def _filled(step: Step, known: Known) -> bool:
    """A filling stays until nothing more is to go in: its level is read, or its filler was shut on what
    an engine may run on."""
    key = step.id.reservoir
    filling = known.fillings.get(key)
    if filling is None or filling.advice is None:
        return str(step.id) in known.facts.last
    if step.id.round < len(filling.rounds):
        return True
    return filling.right or filling.rounds[-1].read


def _remark(step: Step, entry: Entry | None, known: Known, finding: Verdict | None) -> str:
    if entry is None:
        return ""
    if isinstance(entry.data, Skipped):
        return entry.data.reason
    return ASKS[step.ask].remarks(step, entry, known, finding)


def _status(step: Step, known: Known, entry: Entry | None) -> Status | None:
    """Where a step stands that is done with or runs; None for one that asks its needs."""
    if step.ask == Ask.WAIT:
        return _wait_status(step, known)
    if known.complete[step.id]:
        skipped = entry is not None and entry.kind == EntryKind.SKIP
        return Status.SKIPPED if skipped else Status.DONE
    timer = known.facts.timers.get(str(step.id))
    return Status.RUNNING if timer is not None and timer.stopped is None else None


def _wait_status(step: Step, known: Known) -> Status:
    """Settling runs by itself from the engine's stop until its level has been read; so does standing,
    from the first look for leaks until the second."""
    if not known.complete[step.id]:
        return Status.BLOCKED
    follows = StepId(step.id.reservoir, Name.LEVEL, "", step.id.round)
    if step.name == Name.STANDS:
        follows = of_bike(Name.LEAKS_AGAIN)
    return Status.DONE if known.complete.get(follows) else Status.RUNNING


def _begun(step: Step, known: Known) -> datetime | None:
    """When a wait that nobody starts began."""
    return stands_since(known) if step.name == Name.STANDS else settling(step, known)


def state_of(step: Step, known: Known, findings: Mapping[str, Verdict | None]) -> StepState:
    """Where a step stands, with what was recorded on it."""
    key, facts = str(step.id), known.facts
    entry, taken, timer = facts.last.get(key), facts.taken.get(key), facts.timers.get(key)
    anew = undone(step.id, entry, known)
    status = _status(step, known, entry)
    missing = unmet(step, known) if status in (None, Status.BLOCKED) else ()
    if status is None:
        status = Status.BLOCKED if missing else Status.READY
    started = _begun(step, known) if step.ask == Ask.WAIT else timer and timer.started
    ends = None
    if started and step.minutes is not None:
        ends = started + known.bench.length(step.minutes)
    return StepState(
        step=_offered(step, entry, undone=key in facts.undone),
        status=status,
        entry=entry,
        started_at=started or None,
        ends_at=ends,
        not_before=_not_before(step, known),
        remark="" if anew else _remark(step, entry, known, findings.get(step.id.reservoir)),
        unmet=tuple(Option(need.code, in_words(need, known)) for need in missing),
        reopened=key in facts.undone or anew,
        taken_by=taken.by if taken else "",
        taken_by_who=taken.who if taken else "",
        caution=_caution(step, known),
        entries=_filled_by(step, facts) if step.ask == Ask.FILL else (),
    )


def _filled_by(step: Step, facts: Facts) -> tuple[Entry, ...]:
    """What was poured, drawn and read at a filling, oldest first."""
    kinds = (EntryKind.POUR, EntryKind.DRAW, EntryKind.LEVEL, EntryKind.CAUSE, EntryKind.LEFT)
    return tuple(one for one in facts.by_step.get(str(step.id), ()) if one.kind in kinds)


def _caution(step: Step, known: Known) -> str:
    """What its job is to be careful of, and what it is itself: both stand."""
    of_job = known.cautions.get(step.job, ()) if step.name != Name.LOOK_UP else ()
    return " ".join((*of_job, step.caution)).strip()


def _offered(step: Step, entry: Entry | None, *, undone: bool) -> Step:
    """What was only tightened again needs no new seal; a reason says so. Once somebody has said what
    keeps a gate shut, no reason opens it."""
    if step.ask == Ask.GATE and keeps_shut(entry):
        return replace(step, skippable=False)
    again = undone and step.name in (Name.WASHER, Name.REFIT)
    return replace(step, skippable=True) if again else step


def _not_before(step: Step, known: Known) -> datetime | None:
    """When what a level waits for is over, or a second look for leaks."""
    if step.name == Name.LEAKS_AGAIN:
        return stood_until(known)
    if step.ask != Ask.LEVEL:
        return None
    settle = known.steps.get(StepId(step.id.reservoir, Name.SETTLE, "", step.id.round))
    begun = settling(settle, known) if settle else None
    if settle is None or begun is None or settle.minutes is None:
        return None
    return begun + known.bench.length(settle.minutes)

"""What is still ahead in a visit, as jobs an order can be solved over."""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import datetime
from decimal import Decimal
from math import ceil

from ..codes.bench import Status
from ..codes.entries import Ask
from ..guard import guarded
from ..runsheet import Job
from .entries import Entry
from .fold.gather import gathered
from .fold.knowing import known_of
from .fold.known import Bench, VisitPlan
from .fold.sheet import fold
from .fold.state import Sheet, StepState


def _runs_on(states: Iterable[StepState], now: datetime, bench: Bench) -> int:
    """Whole minutes until the last wait among these steps that runs is over."""
    ends = [state.ends_at for state in states if state.status == Status.RUNNING and state.ends_at]
    left = max(((end - now) / bench.length(Decimal(1)) for end in ends), default=0.0)
    return max(0, ceil(left))


def _left_of(job: Job, states: Sequence[StepState], now: datetime, bench: Bench) -> Job | None:
    """What is left of a job; none if all of it is done and its wait is over."""
    work = [state for state in states if state.step.ask != Ask.WAIT]
    todo = [state for state in work if not state.closed and state.status != Status.RUNNING]
    wait = _runs_on(states, now, bench)
    if todo:
        minutes = ceil(job.minutes * len(todo) / len(work))
        return replace(job, minutes=minutes, wait=max(job.wait, wait))
    if wait or any(state.status == Status.RUNNING for state in work):
        return replace(job, minutes=0, wait=wait, after=(), while_waits=(), begun=True)
    return None


def _linked(left: Sequence[Job], done: Sequence[Job]) -> list[Job]:
    """The jobs with only each other to wait for. What a done job took, a pan or how the bike stands,
    is held from the first minute on until the job that gives it back."""
    ids = {job.id for job in left}
    holding = [
        replace(job, minutes=0, wait=0, after=(), while_waits=(), begun=True)
        for job in done
        if job.pan_until in ids or job.held_until in ids
    ]
    linked = [
        replace(
            job,
            after=tuple(name for name in job.after if name in ids),
            while_waits=tuple(name for name in job.while_waits if name in ids),
            pan_until=job.pan_until if job.pan_until in ids else "",
            held_until=job.held_until if job.held_until in ids else "",
            soon_after=job.soon_after if job.soon_after in ids else "",
        )
        for job in (*holding, *left)
    ]
    stands = {job.attitude for job in linked if job.begun and job.attitude}
    if len(stands) < 2:
        return linked
    # it cannot stand in two ways: what has begun goes on however it does
    return [replace(job, attitude="", held_until="") if job.begun else job for job in linked]


@guarded
def pans_held(jobs: Iterable[Job]) -> int:
    """How many pans stand under the bike now."""
    return sum(1 for job in jobs if job.begun and job.pan_until)


@guarded
def in_hand(sheet: Sheet) -> tuple[str, str]:
    """The job of the step in focus, and what that step is called; empty where nothing is in focus, or a
    wait alone."""
    state = sheet.step(sheet.focus or "")
    if state is None or state.status == Status.RUNNING:
        return "", ""
    return state.step.job, state.step.title


@guarded
def ahead(
    plan: VisitPlan, entries: Iterable[Entry], bench: Bench, now: datetime
) -> tuple[Job, ...]:
    """The jobs that are left of a visit at a moment: done ones are gone, what runs is left with its
    rest, what is half done with its share. `order.solve` says when they can be through. Raises as
    `fold` does."""
    written = list(entries)
    sheet = fold(plan, written, bench)
    jobs = known_of(plan, gathered(written), bench).sheet.jobs
    states: dict[str, list[StepState]] = {}
    for state in sheet.steps:
        states.setdefault(state.step.job, []).append(state)
    rest = {job.id: _left_of(job, states.get(job.id, ()), now, bench) for job in jobs}
    left = [found for found in rest.values() if found is not None]
    return tuple(_linked(left, [job for job in jobs if rest[job.id] is None]))

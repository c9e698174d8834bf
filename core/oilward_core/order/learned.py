"""How long jobs really take: learned from what was written down at the bench."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from statistics import median

from ..codes.entries import ASIDES, EntryKind
from ..guard import guarded
from ..runsheet import JOB_OF, JOBS, JobKind, Name, StepId

LEAST_VISITS = 3
_INTERRUPTED = 60.0  # minutes; whoever was away longer was not at work on it


@dataclass(frozen=True)
class Stamp:
    """That something was recorded: at which step, of what kind, when."""

    step: str
    kind: str
    at: datetime


_NAMES = {name.value: name for name in Name}


def _job_of(step: str) -> JobKind | None:
    name = _NAMES.get(StepId.of(step).name)
    return JOB_OF[name] if name else None


def kind_of_step(step: str) -> str:
    """The kind of job a step is learned under (``engine/filler`` → ``prove filler``); empty for
    what is no work of its own. Cold jobs are learned each under its own name."""
    kind = _job_of(step)
    return "" if kind in (None, JobKind.COLD) else str(kind)


@guarded
def waited(stamps: Sequence[Stamp], minute: timedelta) -> dict[str, float]:
    """Minutes by kind of wait (``dripping``) in one visit: from each timer's start to its stop, the
    longest where there were several."""
    begun: dict[str, datetime] = {}
    found: dict[str, float] = {}
    for stamp in stamps:
        kind = _job_of(stamp.step)
        name = JOBS[kind].waiting if kind else ""
        if not name:
            continue
        if stamp.kind == EntryKind.START:
            begun[stamp.step] = stamp.at
        elif stamp.kind == EntryKind.STOP and stamp.step in begun:
            minutes = (stamp.at - begun.pop(stamp.step)) / minute
            if 0 < minutes <= _INTERRUPTED:
                found[name] = max(found.get(name, 0.0), minutes)
    return found


def hands_on(stamps: Sequence[Stamp], minute: timedelta) -> dict[str, float]:
    """Minutes of work by kind of job in one visit, from its stamps in their order: each from the
    one before it. What ends a timer ends a wait, and is left out; so are interruptions of over an
    hour, and who has a step or what the visit waits for is no work."""
    found: dict[str, float] = {}
    no_work = (EntryKind.STOP, *ASIDES)
    for before, stamp in pairwise(stamps):
        minutes, kind = (stamp.at - before.at) / minute, kind_of_step(stamp.step)
        if kind and stamp.kind not in no_work and 0 < minutes <= _INTERRUPTED:
            found[kind] = found.get(kind, 0.0) + minutes
    return found


@guarded
def learned_minutes(visits: Iterable[Mapping[str, float]]) -> dict[str, tuple[int, int]]:
    """Whole minutes by kind of job, with how many visits say so: the median of what it took
    (`hands_on`), where three or more did it."""
    samples: dict[str, list[float]] = {}
    for visit in visits:
        for kind, minutes in visit.items():
            samples.setdefault(kind, []).append(minutes)
    return {
        kind: (max(1, round(median(took))), len(took))
        for kind, took in samples.items()
        if len(took) >= LEAST_VISITS
    }

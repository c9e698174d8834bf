"""How long jobs really take: learned from what was written down at the bench."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from statistics import median

from ..guard import guarded

# the kind of job each step of a run sheet belongs to; settling is a wait and belongs to none
_OF_STEP = {
    "cold": "cold checks",
    "warm": "warm up",
    "support": "support",
    "filler": "prove filler",
    "drain": "drain",
    "measure": "read plug",
    "inspect": "read plug",
    "washer": "refit",
    "refit": "refit",
    "torque": "torque",
    "filter": "filter",
    "fill": "fill",
    "run": "run",
    "level": "level",
    "leaks": "leaks",
    "finish": "finish",
}
LEAST_VISITS = 3
_INTERRUPTED = 60.0  # minutes; whoever was away longer was not at work on it


@dataclass(frozen=True)
class Stamp:
    """That something was recorded: at which step, of what kind, when."""

    step: str
    kind: str
    at: datetime


def kind_of_step(step: str) -> str:
    """The kind of job a step is learned under (``engine/filler`` → ``prove filler``); empty for
    what is no work of its own."""
    return _OF_STEP.get(step.rpartition("/")[2].partition(".")[0], "")


def hands_on(stamps: Sequence[Stamp], minute: timedelta) -> dict[str, float]:
    """Minutes of work by kind of job in one visit, from its stamps in their order: each from the
    one before it. What ends a timer ends a wait, and is left out; so are interruptions of over an
    hour."""
    found: dict[str, float] = {}
    for before, stamp in pairwise(stamps):
        minutes, kind = (stamp.at - before.at) / minute, kind_of_step(stamp.step)
        if kind and stamp.kind != "stop" and 0 < minutes <= _INTERRUPTED:
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

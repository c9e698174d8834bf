"""The jobs of a visit, with what each waits for. Minutes are common practice, no source."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from math import ceil
from statistics import median

from ..spec import DRAINED, WATCHED_ONLY, FillRule, ReservoirKind, ReservoirSpec, Variant

CHANGE_MINUTES = 3  # from one attitude to another, strapped again
UPRIGHT, LIFTED = "upright", "lifted"

# hands-on minutes by kind of job, until a workshop's own visits say otherwise [trade]
MINUTES = {
    "cold checks": 5,
    "warm up": 2,
    "support": 4,
    "prove filler": 2,
    "drain": 3,
    "read plug": 4,
    "refit": 4,
    "torque": 2,
    "filter": 6,
    "fill": 4,
    "run": 2,
    "level": 3,
    "leaks": 4,
    "finish": 5,
    "fork leg": 35,
    "look": 2,
}
WARM_WAIT, DRIP_WAIT = 15, 10  # ten minutes at idle and five to cool; dripping


@dataclass(frozen=True)
class Job:
    """One job: hands-on ``minutes``, then ``wait`` hands-off before what comes ``after`` it.

    ``attitude`` has to hold while it is done (and while it drips); a pan is taken when it starts
    and given back when the job named ``pan_until`` ends. ``group`` is the reservoir, empty for what
    belongs to the whole bike. ``kind`` is what durations are learned by.
    """

    id: str
    label: str
    kind: str
    minutes: int
    wait: int = 0
    after: tuple[str, ...] = ()
    group: str = ""
    attitude: str = ""
    pan_until: str = ""


@dataclass(frozen=True)
class PlannedTask:
    """A reservoir to be serviced in this visit; ``done`` counts its services so far."""

    spec: ReservoirSpec
    variant: Variant
    done: int = 0


@dataclass(frozen=True)
class ColdJob:
    """Something done on a cold engine, before it is warmed up: valve clearances, tyre pressures."""

    key: str
    label: str
    minutes: int


class _List:
    """Jobs as they are made, with the learned minutes."""

    def __init__(self, learned: Mapping[str, int]) -> None:
        self.minutes = {**MINUTES, **learned}
        self.jobs: list[Job] = []

    def add(
        self,
        key: str,
        label: str,
        kind: str,
        after: Iterable[str],
        *,
        wait: int = 0,
        group: str = "",
        attitude: str = "",
        pan_until: str = "",
    ) -> str:
        job = Job(
            key,
            label,
            kind,
            self.minutes[kind],
            wait,
            tuple(dict.fromkeys(name for name in after if name)),
            group,
            attitude,
            pan_until,
        )
        self.jobs.append(job)
        return key


def _drained(jobs: _List, task: PlannedTask, ready: str) -> str:
    """From the filler to the fill; what comes back is the job after which it holds oil again."""
    spec = task.spec
    key, label = spec.key, spec.label

    def add(name: str, words: str, after: Iterable[str], wait: int = 0, pan: str = "") -> str:
        return jobs.add(
            f"{key}/{name}",
            words,
            name,
            after,
            wait=wait,
            group=key,
            attitude=UPRIGHT,
            pan_until=pan,
        )

    filler = add("prove filler", f"Prove the {label} filler opens", [ready])
    drain = add("drain", f"Drain the {label}", [filler], DRIP_WAIT, f"{key}/refit")
    read = add("read plug", f"Measure, read the {label} plug", [drain])
    refit = add("refit", f"New seal, {label} plug in by hand", [read])
    closed = add("torque", f"Torque the {label} plug", [refit])
    if task.variant != Variant.DRAIN_ONLY and spec.fastener("filter"):
        closed = add("filter", f"Change the {label} filter", [drain, closed])
    return add("fill", f"Fill the {label}", [closed])


def _levels(jobs: _List, tasks: Sequence[PlannedTask], run: str) -> list[str]:
    done = []
    for task in tasks:
        level = task.spec.level
        if level is None or task.spec.fill_rule != FillRule.LEVEL:
            continue
        # settling is hands-off: a job of no minutes that only waits
        settle = Job(
            f"{task.spec.key}/settle",
            f"{task.spec.label} settles",
            "settle",
            0,
            ceil(level.settle_minutes),
            (run,),
            task.spec.key,
        )
        jobs.jobs.append(settle)
        done.append(
            jobs.add(
                f"{task.spec.key}/level",
                f"Read the {task.spec.label} level",
                "level",
                [settle.id],
                group=task.spec.key,
                attitude=level.attitude or UPRIGHT,
            )
        )
    return done


def _others(jobs: _List, tasks: Sequence[PlannedTask], support: str) -> list[str]:
    """Fork legs and what is only looked at."""
    done = []
    for task in tasks:
        spec = task.spec
        if spec.kind == ReservoirKind.FORK:
            words = f"{spec.label}: drain, fill, set the air gap"
            done.append(
                jobs.add(
                    f"{spec.key}/leg", words, "fork leg", [support], group=spec.key, attitude=LIFTED
                )
            )
        elif spec.kind in WATCHED_ONLY:
            words = f"Look at the {spec.label}"
            done.append(
                jobs.add(
                    f"{spec.key}/look", words, "look", [support], group=spec.key, attitude=UPRIGHT
                )
            )
    return done


def jobs_for(
    tasks: Sequence[PlannedTask],
    cold: Sequence[ColdJob] = (),
    learned: Mapping[str, int] | None = None,
) -> tuple[Job, ...]:
    """Every job of a visit: cold jobs, warm-up, each reservoir, one run for all levels, leaks.

    ``learned`` are hands-on minutes by kind, from finished visits.
    """
    jobs = _List(learned or {})
    checks = jobs.add("cold checks", "Look it over cold, lay out", "cold checks", [])
    cold_done = [checks]
    for one in cold:
        jobs.jobs.append(Job(one.key, one.label, "cold", one.minutes, 0, (checks,)))
        cold_done.append(one.key)
    drained = [task for task in tasks if task.spec.kind in DRAINED]
    ready = checks
    if drained:
        ready = jobs.add(
            "warm up", "Warm it up, let it cool a little", "warm up", cold_done, wait=WARM_WAIT
        )
    support = jobs.add("support", "Support it, strap it down", "support", [ready], attitude=UPRIGHT)
    filled = [_drained(jobs, task, support) for task in drained]
    done = _others(jobs, tasks, support)
    if drained:
        longest = max((ceil(t.spec.level.run_minutes) for t in drained if t.spec.level), default=2)
        run = jobs.add("run", "Run the engine, watch the oil light", "run", filled, wait=longest)
        levels = _levels(jobs, drained, run)
        done.append(jobs.add("leaks", "Look for leaks", "leaks", [run, *levels], attitude=UPRIGHT))
    jobs.add("finish", "Finish, waste oil, sign", "finish", [*done, support, *cold_done])
    return tuple(jobs.jobs)


LEAST_SAMPLES, _LONGEST = 3, 60.0


def learned_minutes(samples: Mapping[str, Sequence[float]]) -> dict[str, tuple[int, int]]:
    """Hands-on minutes by kind of job, with how many visits say so: the median of what it really
    took, where three or more did. Interruptions of over an hour are left out."""
    found = {}
    for kind, minutes in samples.items():
        kept = [m for m in minutes if 0 < m <= _LONGEST]
        if kind in MINUTES and len(kept) >= LEAST_SAMPLES:
            found[kind] = (max(1, round(median(kept))), len(kept))
    return found

"""The jobs of a visit, with what each waits for. Minutes are common practice, no source."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from math import ceil

from .. import cautions as said
from ..guard import Sound
from ..spec import DRAINED, WATCHED_ONLY, FillRule, ReservoirKind, ReservoirSpec, Variant

_AT_KIND = {
    "warm up": (said.RUNNING,),
    "support": (said.STRAPPED,),
    "drain": (said.HOT_OIL,),
    "refit": (said.SOLVENT,),
    "run": (said.WHEEL,),
    "leaks": (said.ESCAPED,),
    "finish": (said.WASTE,),
    "front wheel out": (said.AXLE,),
    "leg drain": (said.SPRING,),
    "front wheel in": (said.AXLE,),
    "tyres": (said.TYRES,),
}
# where work on a reservoir begins, its sheet's own caution is said
_BEGINS = ("drain", "leg out", "look", "circuit filter")


def at_job(kind: str, spec: ReservoirSpec | None = None) -> tuple[str, ...]:
    """What to be careful of at a kind of job, what the reservoir's sheet says included."""
    careful = _AT_KIND.get(kind, ())
    if spec is None or kind not in _BEGINS:
        return careful
    looked = (spec.facts.look,) if kind == "look" and spec.facts.look else ()
    own = (f"{spec.label.capitalize()}: {spec.caution}",) if spec.caution else ()
    return (*careful, *looked, *own)


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
    "front wheel out": 10,
    "leg out": 4,
    "leg drain": 3,
    "leg fill": 6,
    "leg gap": 5,
    "leg in": 4,
    "front wheel in": 10,
    "look": 2,
    "circuit filter": 12,
    "settle": 0,
}
WARM_WAIT, DRIP_WAIT = 15, 10  # ten minutes at idle and five to cool; dripping
LEG_DRIP_WAIT, LEG_AIR_WAIT = 15, 10  # hung upside down; until the air is out of new oil


@dataclass(frozen=True)
class Job(Sound):
    """One job: hands-on ``minutes``, then ``wait`` hands-off before what comes ``after`` it.

    ``attitude`` has to hold while it is done (and while it drips), with ``held_until`` to the end of
    the job named there: no bike comes off the lift without its forks. A pan is taken when it starts
    and given back when the job named ``pan_until`` ends. ``group`` is the reservoir, empty for what
    belongs to the whole bike; ``kind`` is what durations are learned by; ``cautions`` are what to be
    careful of at it.
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
    held_until: str = ""
    cautions: tuple[str, ...] = ()


@dataclass(frozen=True)
class PlannedTask:
    """A reservoir to be serviced in this visit; ``done`` are the variants of its services so far,
    oldest first."""

    spec: ReservoirSpec
    variant: Variant
    done: tuple[str, ...] = ()


@dataclass(frozen=True)
class ColdJob(Sound):
    """Something done on a cold engine, before it is warmed up: valve clearances, tyre pressures."""

    key: str
    label: str
    minutes: int


COLD_JOBS = {
    job.key: job
    for job in (
        ColdJob("valves", "Valve clearances, engine cold six hours", 45),
        ColdJob("tyres", "Tyre pressures, cold", 6),
    )
}


class _List:
    """Jobs as they are made, with the learned minutes."""

    def __init__(self, learned: Mapping[str, int]) -> None:
        self.minutes = {**MINUTES, **learned}
        self.jobs: list[Job] = []

    def add(
        self,
        name: str,
        label: str,
        after: Iterable[str],
        *,
        kind: str = "",
        spec: ReservoirSpec | None = None,
        wait: int = 0,
        attitude: str = "",
        pan_until: str = "",
        held_until: str = "",
    ) -> str:
        """A job of the kind it is named after, or of ``kind``; ``spec``: of that reservoir."""
        kind = kind or name
        job = Job(
            f"{spec.key}/{name}" if spec else name,
            label,
            kind,
            self.minutes[kind],
            wait,
            tuple(dict.fromkeys(after)),
            spec.key if spec else "",
            attitude,
            pan_until,
            held_until,
            at_job(kind, spec),
        )
        self.jobs.append(job)
        return job.id


def _drained(jobs: _List, task: PlannedTask, ready: str, circuits: Sequence[ReservoirSpec]) -> str:
    """From the filler to the fill; what comes back is the job after which it holds oil again. The
    filters of ``circuits`` that share its oil are changed while it is empty."""
    spec = task.spec
    label = spec.label

    def add(name: str, words: str, after: Iterable[str], wait: int = 0, pan: str = "") -> str:
        return jobs.add(name, words, after, spec=spec, wait=wait, attitude=UPRIGHT, pan_until=pan)

    filler = add("prove filler", f"Prove the {label} filler opens", [ready])
    drain = add("drain", f"Drain the {label}", [filler], DRIP_WAIT, f"{spec.key}/refit")
    read = add("read plug", f"Measure, read the {label} plug", [drain])
    refit = add("refit", f"New seal, {label} plug in by hand", [read])
    closed = [add("torque", f"Torque the {label} plug", [refit])]
    if task.variant != Variant.DRAIN_ONLY and spec.fastener("filter"):
        closed = [add("filter", f"Change the {label} filter", [drain, *closed])]
    closed += [_circuit(jobs, circuit, drain) for circuit in circuits]
    return add("fill", f"Fill the {label}", closed)


def _circuit(jobs: _List, spec: ReservoirSpec, after: str) -> str:
    words = f"Change the {spec.label} filter, look at spring and seal"
    return jobs.add("circuit filter", words, [after], spec=spec, attitude=UPRIGHT)


def _levels(jobs: _List, tasks: Sequence[PlannedTask], run: str) -> list[str]:
    done = []
    for spec in (task.spec for task in tasks):
        level = spec.level
        if level is None or spec.fill_rule != FillRule.LEVEL:
            continue
        # settling is hands-off: a job of no minutes that only waits
        settle = jobs.add(
            "settle", f"{spec.label} settles", [run], spec=spec, wait=ceil(level.settle_minutes)
        )
        words = f"Read the {spec.label} level"
        done.append(
            jobs.add("level", words, [settle], spec=spec, attitude=level.attitude or UPRIGHT)
        )
    return done


def _looks(jobs: _List, tasks: Sequence[PlannedTask], support: str) -> list[str]:
    """What is only looked at."""
    looked = [
        task.spec
        for task in tasks
        if task.spec.kind in WATCHED_ONLY or task.spec.kind == ReservoirKind.SHOCK
    ]
    return [
        jobs.add("look", f"Look at the {spec.label}", [support], spec=spec, attitude=UPRIGHT)
        for spec in looked
    ]


WHEEL_OUT, WHEEL_IN = "front wheel out", "front wheel in"


def _leg(jobs: _List, spec: ReservoirSpec) -> str:
    """One fork leg, out and in again; its waits are long."""
    label = spec.label.capitalize()

    def add(name: str, words: str, after: str, *, wait: int = 0, attitude: str = "") -> str:
        return jobs.add(name, words, [after], spec=spec, wait=wait, attitude=attitude)

    out = add("leg out", f"{label}: take it out", WHEEL_OUT, attitude=LIFTED)
    words = f"{label}: open it, pour out, hang it to drip"
    drained = add("leg drain", words, out, wait=LEG_DRIP_WAIT)
    words = f"{label}: fill a little over, stroke the air out"
    filled = add("leg fill", words, drained, wait=LEG_AIR_WAIT)
    words = f"{label}: draw down to the air gap, close it"
    level = add("leg gap", words, filled)
    return add("leg in", f"{label}: put it back", level, attitude=LIFTED)


def _forks(jobs: _List, tasks: Sequence[PlannedTask], support: str) -> list[str]:
    """The fork legs of a visit, behind one front wheel."""
    legs = [task.spec for task in tasks if task.spec.kind == ReservoirKind.FORK]
    if not legs:
        return []
    words = "Lift the front, wheel and brake off"
    jobs.add(WHEEL_OUT, words, [support], attitude=LIFTED, held_until=WHEEL_IN)
    done = [_leg(jobs, spec) for spec in legs]
    return [jobs.add(WHEEL_IN, "Front wheel and brake on", done, attitude=LIFTED)]


_WITH_CIRCUIT = (ReservoirKind.ENGINE, ReservoirKind.ENGINE_DRY)


def jobs_for(
    tasks: Sequence[PlannedTask],
    cold: Sequence[ColdJob] = (),
    learned: Mapping[str, int] | None = None,
) -> tuple[Job, ...]:
    """Every job of a visit: cold jobs, warm-up, each reservoir, one run for all levels, leaks.

    A clutch circuit's filter is changed while the engine it shares its oil with is empty.
    ``learned`` are hands-on minutes by kind, from finished visits.
    """
    jobs = _List(learned or {})
    checks = jobs.add("cold checks", "Look it over cold, lay out", [])
    cold_done = [checks]
    for one in cold:
        cautions = at_job(one.key)
        job = Job(one.key, one.label, "cold", one.minutes, after=(checks,), cautions=cautions)
        jobs.jobs.append(job)
        cold_done.append(one.key)
    drained = [task for task in tasks if task.spec.kind in DRAINED]
    circuits = [t.spec for t in tasks if t.spec.kind == ReservoirKind.CLUTCH_CIRCUIT]
    ready = checks
    if drained:
        words = "Warm it up, let it cool a little"
        ready = jobs.add("warm up", words, cold_done, wait=WARM_WAIT)
    support = jobs.add("support", "Support it, strap it down", [ready], attitude=UPRIGHT)
    filled = []
    done = [*_forks(jobs, tasks, support), *_looks(jobs, tasks, support)]
    for task in drained:
        shared = circuits if task.spec.kind in _WITH_CIRCUIT else []
        filled.append(_drained(jobs, task, support, shared))
        circuits = [spec for spec in circuits if spec not in shared]
    done += [_circuit(jobs, spec, support) for spec in circuits]
    if drained:
        longest = max((ceil(t.spec.level.run_minutes) for t in drained if t.spec.level), default=2)
        words = "Run the engine, watch the oil light"
        run = jobs.add("run", words, filled, wait=longest, attitude=UPRIGHT)
        levels = _levels(jobs, drained, run)
        done.append(jobs.add("leaks", "Look for leaks", [run, *levels], attitude=UPRIGHT))
    jobs.add("finish", "Finish, waste oil, sign", [*done, support, *cold_done])
    return tuple(jobs.jobs)


def cautions(jobs: Iterable[Job]) -> tuple[str, ...]:
    """Everything to be careful of in a visit, each once, in the order of its jobs."""
    return tuple(dict.fromkeys(text for job in jobs for text in job.cautions))

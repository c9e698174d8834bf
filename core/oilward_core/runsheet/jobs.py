"""The jobs of a visit: what the order is solved over. One row a kind.

Minutes and waits are common practice, no source; a workshop's own visits replace them.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import Decimal

from ..codes.poses import Pose
from ..codes.steps import JobKind, Name
from ..guard import Sound, whole_table
from ..said import cautions as careful
from ..said import steps as words
from ..spec import Recipe, ReservoirSpec

CHANGE_MINUTES = 3  # from one attitude to another, strapped again
UPRIGHT, LIFTED = Pose.UPRIGHT.value, Pose.LIFTED.value
IDLE_MINUTES, COOL_MINUTES = 10, 5  # ten minutes at idle, five to cool
AIR_MINUTES = 5  # at idle where air alone cools, and none blows (common practice, no source)
STANDS_MINUTES = 5  # until what creeps out shows (common practice, no source)


@dataclass(frozen=True, kw_only=True)
class JobFacts:
    """Hands-on ``minutes``, then ``wait`` hands-off; ``waiting`` is what a learned wait is called,
    empty where the sheet says how long. ``begins``: a reservoir's own caution is said here."""

    minutes: int
    wait: int
    waiting: str
    begins: bool


def _job(minutes: int, *, wait: int = 0, waiting: str = "", begins: bool = False) -> JobFacts:
    return JobFacts(minutes=minutes, wait=wait, waiting=waiting, begins=begins)


JOBS: dict[JobKind, JobFacts] = whole_table(
    JobKind,
    {
        JobKind.COLD_CHECKS: _job(5),
        JobKind.COLD: _job(0),
        JobKind.WARM_UP: _job(2, wait=IDLE_MINUTES + COOL_MINUTES, waiting="warming up"),
        JobKind.SUPPORT: _job(4),
        JobKind.PROVE_FILLER: _job(2),
        JobKind.DRAIN: _job(3, wait=10, waiting="dripping", begins=True),
        JobKind.READ_PLUG: _job(4),
        JobKind.REFIT: _job(4),
        JobKind.TORQUE: _job(2),
        JobKind.FILTER: _job(6),
        JobKind.CIRCUIT_FILTER: _job(12, begins=True),
        JobKind.FILL: _job(4),
        JobKind.RUN: _job(2),
        JobKind.SETTLE: _job(0),
        JobKind.LEVEL: _job(3),
        JobKind.TORQUE_FILLER: _job(1),
        JobKind.LEAKS: _job(4, wait=STANDS_MINUTES),
        JobKind.LEAKS_AGAIN: _job(2),
        JobKind.FINISH: _job(5),
        JobKind.WHEEL_OUT: _job(10),
        JobKind.LEG_OUT: _job(4, begins=True),
        JobKind.LEG_DRAIN: _job(3, wait=15, waiting="a leg hung to drip"),
        JobKind.LEG_LOOK: _job(8),
        JobKind.LEG_FILL: _job(6, wait=10, waiting="air leaving a leg"),
        JobKind.LEG_GAP: _job(5),
        JobKind.LEG_IN: _job(4),
        JobKind.WHEEL_IN: _job(10),
        JobKind.LOOK: _job(2, begins=True),
    },
)
WAITS = {facts.waiting: kind for kind, facts in JOBS.items() if facts.waiting}


@dataclass(frozen=True, kw_only=True)
class Job(Sound):
    """One job: hands-on ``minutes``, then ``wait`` hands-off before what comes ``after`` it. It may be
    done while jobs named in ``while_waits`` still wait: a filter comes off while the case drips.

    ``attitude`` has to hold while it is done (and while it drips), with ``held_until`` to the end of
    the job named there: no bike comes off the lift without its forks. A pan is taken when it starts and
    given back when the job named ``pan_until`` ends. ``group`` is the reservoir, empty for what belongs
    to the whole bike; ``kind`` is what durations are learned by; ``cautions`` are what to be careful of
    at it. It begins no later than ``latest`` minutes after the wait of the job named ``soon_after``.
    ``begun``: it runs, or holds a pan or the bike, from the first minute on. ``heat``: how warm what it
    lets out is, more is warmer; 0: nothing."""

    id: str
    label: str
    kind: str
    minutes: int
    wait: int = 0
    after: tuple[str, ...] = ()
    while_waits: tuple[str, ...] = ()
    group: str = ""
    attitude: str = ""
    pan_until: str = ""
    held_until: str = ""
    cautions: tuple[str, ...] = ()
    soon_after: str = ""
    latest: int = 0
    begun: bool = False
    heat: int = 0


def job_id(kind: JobKind, reservoir: str = "") -> str:
    """``engine/drain``, ``warm up``."""
    return f"{reservoir}/{kind}" if reservoir else str(kind)


def cautions_at(kind: JobKind, spec: ReservoirSpec | None = None) -> tuple[str, ...]:
    """What to be careful of at a kind of job, what the reservoir's sheet says included."""
    always = careful.at_job(kind)
    if spec is None or not JOBS[kind].begins:
        return always
    facts = spec.facts
    looked = (
        careful.at_look(hydraulic=facts.hydraulic, gas=facts.recipe == Recipe.SHOCK)
        if kind == JobKind.LOOK
        else ()
    )
    own = (careful.of_reservoir(spec.label, spec.caution),) if spec.caution else ()
    return (*always, *looked, *own)


def minutes_of(kind: JobKind, learned: Mapping[str, int]) -> tuple[int, int]:
    """Hands-on minutes and wait of a kind of job: ``learned`` ones before common practice."""
    facts = JOBS[kind]
    return learned.get(kind, facts.minutes), learned.get(facts.waiting, facts.wait)


@dataclass(frozen=True, kw_only=True)
class ColdJob(Sound):
    """Something done on a cold engine, before it is warmed up: valve clearances, tyre pressures.
    ``measured`` are the values it takes, as found and as left, with the kind of quantity."""

    key: str
    label: str
    minutes: int
    measured: tuple[tuple[str, str], ...] = ()
    cautions: tuple[str, ...] = ()


def _cold(key: Name, minutes: int, *measured: tuple[str, str]) -> ColdJob:
    said = careful.COLD_AT.get(key, ())
    label = words.cold_job(key)
    return ColdJob(key=key, label=label, minutes=minutes, measured=measured, cautions=said)


# where a cold job's values lie, mm and kPa; outside it is asked [trade: common practice, no source]
WINDOWS = {
    "length": (Decimal("0.02"), Decimal("0.6")),
    "pressure": (Decimal(100), Decimal(350)),
}
COLD_JOBS = {
    job.key: job
    for job in (
        _cold(Name.VALVES, 45, ("inlet", "length"), ("exhaust", "length")),
        _cold(Name.TYRES, 6, ("front", "pressure"), ("rear", "pressure")),
    )
}


def cautions(jobs: Iterable[Job]) -> tuple[str, ...]:
    """Everything to be careful of in a visit, each once, in the order of its jobs."""
    return tuple(dict.fromkeys(text for job in jobs for text in job.cautions))


# the job each step belongs to; None: what is no work of its own
JOB_OF: dict[Name, JobKind | None] = whole_table(
    Name,
    {
        Name.LOOK_UP: None,
        Name.COLD: JobKind.COLD_CHECKS,
        Name.CAME: JobKind.COLD_CHECKS,
        Name.TOPPED: JobKind.COLD_CHECKS,
        Name.VALVES: JobKind.COLD,
        Name.TYRES: JobKind.COLD,
        Name.WARM: JobKind.WARM_UP,
        Name.SUPPORT: JobKind.SUPPORT,
        Name.FILLER: JobKind.PROVE_FILLER,
        Name.SAMPLE: JobKind.DRAIN,
        Name.DRAIN: JobKind.DRAIN,
        Name.MEASURE: JobKind.READ_PLUG,
        Name.ALL_OUT: JobKind.READ_PLUG,
        Name.INSPECT: JobKind.READ_PLUG,
        Name.RAN_OUT: JobKind.REFIT,
        Name.WASHER: JobKind.REFIT,
        Name.REFIT: JobKind.REFIT,
        Name.TORQUE: JobKind.TORQUE,
        Name.THREAD: JobKind.REFIT,
        Name.COVER: JobKind.REFIT,
        Name.FILTER: JobKind.FILTER,
        Name.ELEMENT: JobKind.FILTER,
        Name.CIRCUIT: JobKind.CIRCUIT_FILTER,
        Name.TORQUE_FILTER: JobKind.FILTER,
        Name.FILL: JobKind.FILL,
        Name.CLOSE: JobKind.FILL,
        Name.TORQUE_FILLER: JobKind.TORQUE_FILLER,
        Name.TORQUE_LEVEL: JobKind.TORQUE_FILLER,
        Name.TORQUE_COVER: JobKind.FILL,
        Name.LAMP: JobKind.RUN,
        Name.RUN: JobKind.RUN,
        Name.SETTLE: None,
        Name.LEVEL: JobKind.LEVEL,
        Name.WHEEL_OUT: JobKind.WHEEL_OUT,
        Name.LEG_SET: JobKind.LEG_OUT,
        Name.LEG_AIR: JobKind.LEG_OUT,
        Name.LEG_OUT: JobKind.LEG_OUT,
        Name.LEG_DRAIN: JobKind.LEG_DRAIN,
        Name.LEG_SPRING: JobKind.LEG_LOOK,
        Name.LEG_TUBE: JobKind.LEG_LOOK,
        Name.LEG_SEALS: JobKind.LEG_LOOK,
        Name.LEG_FILL: JobKind.LEG_FILL,
        Name.LEG_GAP: JobKind.LEG_GAP,
        Name.LEG_STAYED: JobKind.LEG_GAP,
        Name.LEG_IN: JobKind.LEG_IN,
        Name.LEG_PRESSURE: JobKind.LEG_IN,
        Name.LEG_BACK: JobKind.LEG_IN,
        Name.TORQUE_LEG: JobKind.LEG_IN,
        Name.WHEEL_IN: JobKind.WHEEL_IN,
        Name.TORQUE_WHEEL: JobKind.WHEEL_IN,
        Name.STROKE: JobKind.WHEEL_IN,
        Name.WHEEL_LOOKED: JobKind.WHEEL_IN,
        Name.SHOCK_FELT: JobKind.LOOK,
        Name.LOOK: JobKind.LOOK,
        Name.LEAKS: JobKind.LEAKS,
        Name.STANDS: None,
        Name.LEAKS_AGAIN: JobKind.LEAKS_AGAIN,
        Name.FINISH: JobKind.FINISH,
    },
)

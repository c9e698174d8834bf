"""The jobs and steps of a visit while they are being written down, and what they come to."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from ..codes.steps import JobKind, Name
from ..guard import Sound
from ..said import steps as words
from ..spec import ReservoirSpec
from .ids import StepId
from .jobs import ColdJob, Job, cautions_at, job_id, minutes_of
from .needs import MAKERS, Need
from .steps import PlannedTask, Step


@dataclass(frozen=True)
class Round:
    """One filling of a reservoir: ``draws``: oil is taken out; ``read``: a level is read after it;
    ``again``: it is drained once more, at its plug."""

    draws: bool = False
    read: bool = True
    again: bool = False


@dataclass(frozen=True)
class Opened:
    """A part of a full case that leaked, or was ``out`` again, and the entry that says so."""

    part: str
    entry: str
    out: bool


@dataclass(frozen=True, kw_only=True)
class LegSoFar:
    """What a leg's steps tell those that come later, in words: how it was set before it came out
    (``read``), how much to ``begin`` with where no sheet says, and how its oil does not go with its gap
    (``odd``)."""

    read: str = ""
    begin: str = ""
    odd: str = ""


@dataclass(frozen=True, kw_only=True)
class Rounds:
    """How often each reservoir is filled and the engine is run; once where nothing is said. ``opened``:
    what let oil out of a full one, each time. ``little``: of which
    little came out when they were drained; ``early``: of which the plug went back before all was out;
    ``topped``: which were topped up before the engine was started; ``unasked``: questions the visit is
    past, and no release asked then; ``over``: threads that were pulled too far, by the step that looks at
    them, and to how much, N·m, if known; ``gone``: steps at which the old seal cannot serve again;
    ``covers`` that leaked, each time, by the entry that says so; ``legs``: what their steps so
    far tell the next."""

    fills: Mapping[str, tuple[Round, ...]] = field(default_factory=dict)
    runs: int = 1
    opened: Mapping[str, tuple[Opened, ...]] = field(default_factory=dict)
    little: frozenset[str] = frozenset()
    early: frozenset[str] = frozenset()
    topped: frozenset[str] = frozenset()
    unasked: frozenset[StepId] = frozenset()
    over: Mapping[str, tuple[tuple[StepId, Decimal | None], ...]] = field(default_factory=dict)
    gone: frozenset[StepId] = frozenset()
    covers: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    legs: Mapping[str, LegSoFar] = field(default_factory=dict)

    def of(self, reservoir: str) -> tuple[Round, ...]:
        """The fillings of a reservoir, the one in hand last."""
        return self.fills.get(reservoir, (Round(),))


class Makers:
    """Which steps bring about what is needed."""

    def __init__(self, steps: Iterable[Step]) -> None:
        self._by_name: dict[str, list[StepId]] = {}
        for step in steps:
            self._by_name.setdefault(step.id.name, []).append(step.id)

    def of(self, need: Need) -> tuple[StepId, ...]:
        """The steps that bring about a need: those of that reservoir, or of every one."""
        if need.step is not None:
            return (need.step,)
        maker, whose = MAKERS[need.fact], ("", need.reservoir)
        return tuple(
            step
            for name in maker.names
            for step in self._by_name.get(name, ())
            if maker.whole_bike or step.reservoir in whose
        )


@dataclass(frozen=True)
class RunSheet(Sound):
    """What a visit consists of: its tasks, the jobs the order is solved over, the steps in them."""

    tasks: tuple[PlannedTask, ...]
    jobs: tuple[Job, ...]
    steps: tuple[Step, ...]

    def makers(self) -> Makers:
        """Which of its steps bring about what is needed."""
        return Makers(self.steps)

    def cautions(self) -> dict[str, tuple[str, ...]]:
        """What each job is to be careful of, by its id."""
        return {job.id: job.cautions for job in self.jobs}


class Work:
    """A visit's jobs and steps as recipes write them, with learned minutes."""

    def __init__(
        self, tasks: Sequence[PlannedTask], learned: Mapping[str, int], rounds: Rounds
    ) -> None:
        self.tasks = tuple(tasks)
        self.learned = learned
        self.rounds = rounds
        self.jobs: list[dict[str, Any]] = []
        self.steps: list[Step] = []

    @property
    def several(self) -> bool:
        """Whether labels have to say which reservoir is meant."""
        return len(self.tasks) > 1

    def job(
        self,
        kind: JobKind,
        spec: ReservoirSpec | None = None,
        *,
        label: str = "",
        wait: int | None = None,
        attitude: str = "",
        pan_until: JobKind | None = None,
        held_until: str = "",
        latest: Decimal | None = None,
        heat: int = 0,
    ) -> str:
        """A job of a kind, of that reservoir or of the whole bike. ``wait``: what the sheet says;
        ``label``: what it is called there, where that is not what the reservoir is; ``latest``: it begins
        no later than so many minutes after the run."""
        minutes, usual = minutes_of(kind, self.learned)
        key = spec.key if spec else ""
        name = job_id(kind, key)
        self.jobs.append(
            {
                "id": name,
                "label": words.job(kind, label or (spec.label if spec else "")),
                "kind": kind.value,
                "minutes": minutes,
                "wait": usual if wait is None else wait,
                "group": key,
                "attitude": attitude,
                "pan_until": job_id(pan_until, key) if pan_until else "",
                "held_until": held_until,
                "soon_after": str(JobKind.RUN) if latest else "",
                "latest": int(latest or 0),
                "heat": heat,
                "cautions": cautions_at(kind, spec),
            }
        )
        return name

    def cold_job(self, one: ColdJob) -> str:
        """A job on the cold engine; its minutes are its own."""
        kind = JobKind.COLD.value
        told = {"label": one.label, "kind": kind, "minutes": one.minutes}
        self.jobs.append({"id": one.key, **told, "cautions": one.cautions})
        return one.key

    def step(self, step: Step) -> StepId:
        """A step of the job it names."""
        self.steps.append(step)
        return step.id

    def named(self, *names: Name) -> list[StepId]:
        """The steps of these names so far, whosever they are."""
        return [step.id for step in self.steps if step.id.name in names]

    def sheet(self) -> RunSheet:
        """All of it, with each job waiting for the jobs whose steps it needs."""
        job_of = {step.id: step.job for step in self.steps}
        place = {job["id"]: n for n, job in enumerate(self.jobs)}
        after: dict[str, dict[str, None]] = {key: {} for key in place}
        meanwhile: dict[str, dict[str, None]] = {key: {} for key in place}
        makers = Makers(self.steps)
        for step in self.steps:
            for need in step.needs:
                for maker in makers.of(need):
                    job = job_of.get(maker, step.job)
                    if place[job] < place[step.job]:  # jobs stand behind what they wait for
                        begun = need.step is None and MAKERS[need.fact].begun
                        (meanwhile if begun else after)[step.job][job] = None
        jobs = tuple(
            Job(
                **job,
                after=tuple(after[job["id"]]),
                while_waits=tuple(
                    one for one in meanwhile[job["id"]] if one not in after[job["id"]]
                ),
            )
            for job in self.jobs
        )
        # what has to be looked up comes before anything is done
        in_order = sorted(self.steps, key=lambda s: (s.name != Name.LOOK_UP, place[s.job]))
        return RunSheet(self.tasks, jobs, tuple(in_order))

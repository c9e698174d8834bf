"""The shortest way through a visit's jobs, with CP-SAT, and how sure that is."""

from collections.abc import Sequence
from dataclasses import dataclass

from ortools.sat.python import cp_model

from ..errors import CoreError
from ..guard import Sound
from ..runsheet import CHANGE_MINUTES, Job


@dataclass(frozen=True)
class Wish:
    """Somebody wants ``first`` done before ``then``."""

    first: str
    then: str


@dataclass(frozen=True, kw_only=True)
class Placed(Sound):
    """A job in its place: minutes from the start; ``free`` is when its wait is over; technicians
    count from 0."""

    job: Job
    start: int
    end: int
    free: int
    technician: int


@dataclass(frozen=True, kw_only=True)
class Order(Sound):
    """The run order. ``bound``: nothing shorter than this exists; ``proven``: this is the shortest.
    ``in_turn`` is the same work one job after another."""

    placed: tuple[Placed, ...]
    minutes: int
    bound: int
    proven: bool
    in_turn: int

    @property
    def gap(self) -> float:
        """How much shorter a better order could still be, as a share."""
        return (self.minutes - self.bound) / self.minutes if self.minutes else 0.0

    @property
    def hands_on(self) -> int:
        """Minutes of work in it."""
        return sum(placed.job.minutes for placed in self.placed)


def in_turn(jobs: Sequence[Job]) -> int:
    """Minutes when every job and every wait is done one after another, reservoir by reservoir."""
    return sum(job.minutes + job.wait for job in jobs)


def _before(jobs: Sequence[Job]) -> dict[str, set[str]]:
    """Everything that comes before each job by the work's own order."""
    before: dict[str, set[str]] = {}
    for job in jobs:  # jobs stand after what they wait for
        before[job.id] = set(job.after).union(*(before.get(name, ()) for name in job.after))
    return before


class _Model:
    """The jobs as a constraint model. Time is in whole minutes."""

    def __init__(self, jobs: Sequence[Job], technicians: int, pans: int) -> None:
        self.jobs = {job.id: job for job in jobs}
        self.before = _before(jobs)
        self.model = cp_model.CpModel()
        changes = CHANGE_MINUTES * sum(bool(job.attitude) for job in jobs)
        self.horizon = in_turn(jobs) + changes
        new = self.model.new_int_var
        self.start = {job.id: new(0, self.horizon, job.id) for job in jobs}
        self.makespan = new(0, self.horizon, "makespan")
        self._sequence()
        self._hands(technicians)
        self._pans(pans)
        self._attitudes()

    def end(self, key: str) -> cp_model.LinearExpr:
        return self.start[key] + self.jobs[key].minutes

    def _sequence(self) -> None:
        for job in self.jobs.values():
            if job.begun:
                self.model.add(self.start[job.id] == 0)
            self.model.add(self.makespan >= self.end(job.id) + job.wait)
            for name in job.after:
                before = self.jobs[name]
                self.model.add(self.start[job.id] >= self.end(name) + before.wait)
            if job.soon_after:
                over = self.end(job.soon_after) + self.jobs[job.soon_after].wait
                self.model.add(self.start[job.id] <= over + job.latest)

    def _hands(self, technicians: int) -> None:
        model, worked = self.model, [job for job in self.jobs.values() if job.minutes]
        intervals = [
            model.new_fixed_size_interval_var(self.start[job.id], job.minutes, f"hands {job.id}")
            for job in worked
        ]
        if technicians == 1:
            model.add_no_overlap(intervals)
        else:
            model.add_cumulative(intervals, [1] * len(intervals), technicians)
        # as much work as there is has to fit between the hands there are
        model.add(technicians * self.makespan >= sum(job.minutes for job in worked))

    def _pans(self, pans: int) -> None:
        model, held = self.model, []
        for job in self.jobs.values():
            if not job.pan_until:
                continue
            size = model.new_int_var(0, self.horizon, f"pan size {job.id}")
            until = self.end(job.pan_until)
            held.append(model.new_interval_var(self.start[job.id], size, until, f"pan {job.id}"))
        if held:
            model.add_cumulative(held, [1] * len(held), pans)

    def _attitudes(self) -> None:
        """Two jobs in different attitudes never overlap, and the change between takes its time."""
        posed = [job for job in self.jobs.values() if job.attitude and not self._covered(job)]
        for n, one in enumerate(posed):
            for other in posed[n + 1 :]:
                if one.attitude != other.attitude:
                    self._apart(one, other)

    def _covered(self, job: Job) -> bool:
        """Whether a longer hold of the same attitude lies around it anyway."""
        return any(
            holder.attitude == job.attitude
            and holder.id in self.before[job.id]
            and job.id in self.before[holder.held_until] | {holder.held_until}
            for holder in self.jobs.values()
            if holder.held_until
        )

    def _apart(self, one: Job, other: Job) -> None:
        model = self.model
        first = model.new_bool_var(f"{one.id} before {other.id}")
        for a, b, literal in ((one, other, first), (other, one, first.negated())):
            held = self.end(a.held_until or a.id) + (a.wait if a.pan_until else 0)
            model.add(self.start[b.id] >= held + CHANGE_MINUTES).only_enforce_if(literal)


_ENOUGH_SECONDS = 30.0
"""A machine too busy to find any order within the time asked for gets this long for its first."""


def _solver() -> cp_model.CpSolver:
    """One worker and one seed: the same jobs give the same order each time they are looked at."""
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.linearization_level = 0
    return solver


def _search(model: cp_model.CpModel, seconds: float) -> tuple[cp_model.CpSolver, int]:
    """The best within the time; where that time gives no answer at all, the first there is."""
    solver = _solver()
    solver.parameters.max_time_in_seconds = seconds
    status = int(solver.solve(model))
    if status == cp_model.UNKNOWN:
        solver.parameters.max_time_in_seconds = _ENOUGH_SECONDS
        solver.parameters.stop_after_first_solution = True
        status = int(solver.solve(model))
    return solver, status


def _assign(rows: list[tuple[Job, int]], technicians: int) -> tuple[Placed, ...]:
    """Hand the jobs out: to whoever worked on that reservoir last, else to who is free longest."""
    free = [0] * technicians
    last: dict[str, int] = {}
    placed = []
    for job, start in sorted(rows, key=lambda row: (row[1], row[0].minutes)):
        able = [n for n in range(technicians) if free[n] <= start] or [0]
        who = last.get(job.group, -1)
        who = who if who in able else min(able, key=lambda n: free[n])
        end = start + job.minutes
        if job.minutes:
            free[who], last[job.group] = end, who
        placed.append(Placed(job=job, start=start, end=end, free=end + job.wait, technician=who))
    return tuple(placed)


def _check(jobs: Sequence[Job], technicians: int, pans: int, wishes: Sequence[Wish]) -> None:
    if not 1 <= technicians <= 4:
        raise CoreError("order.technicians", field="technicians")
    if not 1 <= pans <= 8:
        raise CoreError("order.pans", field="pans")
    known = {job.id for job in jobs}
    for job in jobs:
        named = {*job.after, job.pan_until, job.held_until, job.soon_after} - {""}
        if not named <= known or min(job.minutes, job.wait, job.latest) < 0:
            raise CoreError("order.no_job", field="jobs")
    for wish in wishes:
        if not {wish.first, wish.then} <= known:
            raise CoreError("order.no_job", field="wishes")


def _why_not(jobs: Sequence[Job], wishes: Sequence[Wish]) -> CoreError:
    """The wish that runs against the order the work has to have."""
    labels, before = {job.id: job.label for job in jobs}, _before(jobs)
    for wish in wishes:
        if wish.then in before[wish.first]:
            first, then = labels[wish.first], labels[wish.then]
            return CoreError("order.rule", field="wishes", words=first, other=then)
    return CoreError("order.wishes", field="wishes")


def solve(
    jobs: Sequence[Job],
    *,
    technicians: int = 1,
    pans: int = 2,
    wishes: Sequence[Wish] = (),
    seconds: float = 2.0,
) -> Order:
    """The shortest order; among those as short, the one that stays longest at one reservoir.

    Raises CoreError ``order.rule`` for a wish the work's own order forbids, ``order.wishes`` for
    wishes that contradict each other, ``order.technicians``, ``order.pans``, ``order.no_job``,
    ``order.time`` when the machine is too busy to find any.
    """
    _check(jobs, technicians, pans, wishes)
    built = _Model(jobs, technicians, pans)
    for wish in wishes:
        built.model.add(built.start[wish.then] >= built.end(wish.first))
    built.model.minimize(built.makespan)
    solver, status = _search(built.model, seconds)
    if status == cp_model.INFEASIBLE:
        raise _why_not(jobs, wishes)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        raise CoreError("order.time")
    best, bound = solver.value(built.makespan), round(solver.best_objective_bound)
    starts = {key: solver.value(var) for key, var in built.start.items()}
    starts = _tidy(built, starts, best)
    rows = [(job, starts[job.id]) for job in jobs]
    proven = status == cp_model.OPTIMAL
    return Order(
        placed=_assign(rows, technicians),
        minutes=best,
        bound=best if proven else bound,
        proven=proven,
        in_turn=in_turn(jobs),
    )


def solve_as_wished(
    jobs: Sequence[Job],
    *,
    technicians: int = 1,
    pans: int = 2,
    wishes: Sequence[Wish] = (),
    seconds: float = 2.0,
) -> tuple[Order, CoreError | None]:
    """The order with as much of the wishes as can be kept, and what stands against the others.

    Left out are those the work's own order forbids (``order.rule``), then the latest ones for as
    long as the rest cannot be kept together (``order.wishes``). Raises what else `solve` raises.
    """
    _check(jobs, technicians, pans, wishes)
    before = _before(jobs)
    kept = [wish for wish in wishes if wish.then not in before[wish.first]]
    refused = _why_not(jobs, wishes) if len(kept) < len(wishes) else None
    while True:
        try:
            found = solve(jobs, technicians=technicians, pans=pans, wishes=kept, seconds=seconds)
        except CoreError as error:
            if error.code != "order.wishes" or not kept:
                raise
            refused = refused or error
            kept.pop()
        else:
            return found, refused


_TIDY_EFFORT = 0.03
"""In the solver's own count of work, not in seconds, so that it ends at the same order."""


def _tidy(built: _Model, starts: dict[str, int], best: int) -> dict[str, int]:
    """Within the shortest time, stay at a reservoir once begun: fewer ways round the bike."""
    model = built.model
    groups: dict[str, list[Job]] = {}
    for job in built.jobs.values():
        if job.group:
            groups.setdefault(job.group, []).append(job)
    spans = []
    for name, members in groups.items():
        opened = model.new_int_var(0, built.horizon, f"open {name}")
        closed = model.new_int_var(0, built.horizon, f"close {name}")
        model.add_min_equality(opened, [built.start[job.id] for job in members])
        model.add_max_equality(closed, [built.end(job.id) for job in members])
        spans.append(closed - opened)
    model.add(built.makespan <= best)
    for key, var in built.start.items():
        model.add_hint(var, starts[key])
    model.minimize(sum(spans) + sum(built.start.values()))
    solver = _solver()
    solver.parameters.max_deterministic_time = _TIDY_EFFORT
    if int(solver.solve(model)) not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return starts
    return {key: solver.value(var) for key, var in built.start.items()}

"""The search for the shortest order, with CP-SAT."""

from collections.abc import Sequence
from dataclasses import dataclass

from ortools.sat.python import cp_model

from ..errors import CoreError
from ..runsheet import CHANGE_MINUTES, Job
from .placed import Wish, before, in_turn


@dataclass(frozen=True, kw_only=True)
class Found:
    """When each job starts, minutes; as `Order` else."""

    starts: dict[str, int]
    minutes: int
    bound: int
    proven: bool


class _Model:
    """The jobs as a constraint model. Time is in whole minutes."""

    def __init__(self, jobs: Sequence[Job], technicians: int, pans: int) -> None:
        self.jobs = {job.id: job for job in jobs}
        self.before = before(jobs)
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
            for name in job.while_waits:
                self.model.add(self.start[job.id] >= self.end(name))
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


_TIDY_EFFORT = 0.1
"""In the solver's own count of work, not in seconds, so that it ends at the same order."""
# what an order among equally short ones is preferred for, and how much [our definition]
_HOTTEST_FIRST, _STAY, _SOON = 400, 3, 1


def _colder_first(built: _Model) -> list[cp_model.IntVar]:
    """Each pair of reservoirs of which the cooler one is drained before the hotter one."""
    drains = [job for job in built.jobs.values() if job.heat]
    found = []
    for hot in drains:
        for cold in (one for one in drains if one.heat < hot.heat):
            late = built.model.new_bool_var(f"{cold.id} before {hot.id}")
            first = built.start[hot.id] <= built.start[cold.id]
            built.model.add(first).only_enforce_if(late.negated())
            found.append(late)
    return found


def _spans(built: _Model) -> list[cp_model.LinearExpr]:
    """How long each reservoir is open."""
    groups: dict[str, list[Job]] = {}
    for job in built.jobs.values():
        if job.group:
            groups.setdefault(job.group, []).append(job)
    spans = []
    for name, members in groups.items():
        opened = built.model.new_int_var(0, built.horizon, f"open {name}")
        closed = built.model.new_int_var(0, built.horizon, f"close {name}")
        built.model.add_min_equality(opened, [built.start[job.id] for job in members])
        built.model.add_max_equality(closed, [built.end(job.id) for job in members])
        spans.append(closed - opened)
    return spans


def _tidy(built: _Model, starts: dict[str, int], best: int) -> dict[str, int]:
    """Within the shortest time as a mechanic would: what the warm-up warmed is drained hottest first, and
    one stays at a reservoir once it is begun: few ways round the bike."""
    model = built.model
    model.add(built.makespan <= best)
    for key, var in built.start.items():
        model.add_hint(var, starts[key])
    model.minimize(
        _HOTTEST_FIRST * sum(_colder_first(built))
        + _STAY * sum(_spans(built))
        + _SOON * sum(built.start.values())
    )
    solver = _solver()
    solver.parameters.max_deterministic_time = _TIDY_EFFORT
    if int(solver.solve(model)) not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return starts
    return {key: solver.value(var) for key, var in built.start.items()}


def shortest(
    jobs: Sequence[Job],
    technicians: int,
    pans: int,
    wishes: Sequence[Wish],
    seconds: float,
    first: str = "",
) -> Found | None:
    """The shortest order, tidied; none where the jobs' needs and the wishes contradict each other, or the
    ``first`` cannot begin at once.

    Raises CoreError ``order.time`` when the machine is too busy to find any.
    """
    built = _Model(jobs, technicians, pans)
    for wish in wishes:
        built.model.add(built.start[wish.then] >= built.end(wish.first))
    if first in built.start:
        built.model.add(built.start[first] == 0)
    built.model.minimize(built.makespan)
    solver, status = _search(built.model, seconds)
    if status == cp_model.INFEASIBLE:
        return None
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        raise CoreError("order.time")
    best, proven = solver.value(built.makespan), status == cp_model.OPTIMAL
    starts = {key: solver.value(var) for key, var in built.start.items()}
    return Found(
        starts=_tidy(built, starts, best),
        minutes=best,
        bound=best if proven else round(solver.best_objective_bound),
        proven=proven,
    )

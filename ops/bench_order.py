"""Figures of the run order for ./ward bench."""

import random
import statistics
import time

from oilward_core.order import cooled, solve, walks
from oilward_core.runsheet import CHANGE_MINUTES, Job, jobs_for
from tests.test_order import SEVEN, THREE_DRAINS, VALVES, random_visit  # core/tests


def greedy(jobs: tuple[Job, ...]) -> int:
    """One technician takes the job of the list that may begin soonest, and waits if none may. The
    bike is moved when the next job wants it, but not while something drips or a part of it is off."""
    free: dict[str, int] = {}
    left, now = list(jobs), 0
    pans: set[str] = set()
    held: set[str] = set()
    stands, drips = "upright", 0

    def begins(job: Job) -> int:
        start = max([now, *(free[name] for name in (*job.after, *job.while_waits))])
        moved = job.attitude not in ("", stands)
        return max(start, drips) + CHANGE_MINUTES if moved else start

    while left:
        ready = [
            job
            for job in left
            if all(name in free for name in (*job.after, *job.while_waits))
            and (not job.pan_until or len(pans) < 2)
            and (not held or job.attitude in ("", stands))
        ]
        job = min(ready, key=begins)
        now = begins(job) + job.minutes
        stands = job.attitude or stands
        free[job.id] = now + job.wait
        if job.pan_until:
            pans.add(job.pan_until)
            drips = max(drips, free[job.id])
        held |= {job.held_until} - {""}
        pans.discard(job.id)
        held.discard(job.id)
        left.remove(job)
    return max(free.values())


def proofs() -> list[str]:
    said = []
    for name, jobs in (
        ("three drains", jobs_for(THREE_DRAINS)),
        ("seven reservoirs and cold valves", jobs_for(SEVEN, [VALVES])),
    ):
        for technicians in (1, 2):
            begun = time.perf_counter()
            found = solve(jobs, technicians=technicians, seconds=2.0)
            took = time.perf_counter() - begun
            proof = "proven" if found.proven else f"gap {found.gap:.1%}"
            long = (
                solve(jobs, technicians=technicians, seconds=60.0).minutes
                if not found.proven
                else found.minutes
            )
            said.append(
                f"order, {name} ({len(jobs)} jobs), {technicians} technician(s): {found.minutes} min "
                f"{proof} in {took:.2f} s; 60 s of search: {long} min; in turn {found.in_turn} min"
            )
    return said


def many(count: int = 500) -> str:
    """Random visits against doing one thing after another and against a greedy list; as a mechanic sees
    them: whether the hottest is drained first, and how often one walks to another reservoir."""
    rng = random.Random(7)
    turn, list_order, unproven, longer, cold, walked, groups = [], [], 0, 0, 0, [], []
    for _ in range(count):
        jobs = random_visit(rng)
        found = solve(jobs, seconds=1.0)
        unproven += not found.proven
        longer += max(one.free for one in found.placed) > found.minutes
        cold += cooled(found) > 0
        walked.append(walks(found))
        groups.append(len({job.group for job in jobs if job.group}))
        turn.append(found.minutes / found.in_turn)
        list_order.append(found.minutes / greedy(jobs))
    return (
        f"order, {count} random visits: {statistics.mean(turn):.0%} of one thing after another, "
        f"{statistics.mean(list_order):.0%} of a greedy list; {unproven} not proven in 1 s; "
        f"{longer} longer than the shortest; a cooler one drained before a hotter in {cold}; "
        f"{statistics.mean(walked):.1f} walks to another reservoir of {statistics.mean(groups):.1f}"
    )

"""The shortest way through a visit's jobs, and how sure that is."""

from collections.abc import Sequence

from ..errors import CoreError
from ..runsheet import Job
from .placed import Order, Placed, Wish, before, in_turn


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
        named = {*job.after, *job.while_waits, job.pan_until, job.held_until, job.soon_after} - {""}
        if not named <= known or min(job.minutes, job.wait, job.latest) < 0:
            raise CoreError("order.no_job", field="jobs")
    for wish in wishes:
        if not {wish.first, wish.then} <= known:
            raise CoreError("order.no_job", field="wishes")


def _why_not(jobs: Sequence[Job], wishes: Sequence[Wish]) -> CoreError:
    """The wish that runs against the order the work has to have."""
    labels, earlier = {job.id: job.label for job in jobs}, before(jobs)
    for wish in wishes:
        if wish.then in earlier[wish.first]:
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
    first: str = "",
) -> Order:
    """The shortest order; among those as short, the one a mechanic would take: what is hottest is
    drained first, and one stays longest at a reservoir. ``first``: the job that is in hand, which comes
    before all others wherever it can begin now.

    Raises CoreError ``order.rule`` for a wish the work's own order forbids, ``order.wishes`` for
    wishes that contradict each other, ``order.technicians``, ``order.pans``, ``order.no_job``,
    ``order.time`` when the machine is too busy to find any.
    """
    # the solver takes seconds to load, and most processes solve nothing
    from .search import shortest

    _check(jobs, technicians, pans, wishes)
    found = shortest(jobs, technicians, pans, wishes, seconds, first) if first else None
    found = found or shortest(jobs, technicians, pans, wishes, seconds)
    if found is None:
        raise _why_not(jobs, wishes)
    rows = [(job, found.starts[job.id]) for job in jobs]
    return Order(
        placed=_assign(rows, technicians),
        minutes=found.minutes,
        bound=found.bound,
        proven=found.proven,
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
    earlier = before(jobs)
    kept = [wish for wish in wishes if wish.then not in earlier[wish.first]]
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

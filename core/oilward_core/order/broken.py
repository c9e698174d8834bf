"""Every rule an order breaks, worked out without the solver's model: what a solver says is held against
it."""

from collections.abc import Iterator, Mapping, Sequence

from ..guard import guarded
from ..runsheet import CHANGE_MINUTES
from .placed import Placed


def _too_early_or_late(one: Placed, at: Mapping[str, Placed]) -> Iterator[str]:
    """What a job begins before, or too long after."""
    job = one.job
    if job.begun and one.start:
        yield f"{job.id} has begun already"
    for name in job.after:
        if one.start < at[name].free:
            yield f"{job.id} begins before {name} is through"
    for name in job.while_waits:
        if one.start < at[name].end:
            yield f"{job.id} begins before {name} has begun to wait"
    if job.soon_after and one.start > at[job.soon_after].free + job.latest:
        yield f"{job.id} begins too long after {job.soon_after}"


@guarded
def broken_rules(placed: Sequence[Placed], technicians: int, pans: int) -> list[str]:
    """Every rule an order breaks, in words; worked out from the placed jobs alone, without the
    solver's model. Empty: none."""
    at = {one.job.id: one for one in placed}
    said: list[str] = []
    for one in placed:
        said += _too_early_or_late(one, at)
    said += _too_many(placed, technicians, pans, at)
    posed = [one for one in placed if one.job.attitude]
    for n, one in enumerate(posed):
        for other in posed[n + 1 :]:
            a, b = sorted((one, other), key=lambda p: p.start)
            held = at[a.job.held_until].end if a.job.held_until else a.end
            held = a.free if a.job.pan_until else held
            if a.job.attitude != b.job.attitude and b.start < held + CHANGE_MINUTES:
                said.append(f"no time to move the bike from {a.job.id} to {b.job.id}")
    return said


def _too_many(
    placed: Sequence[Placed], technicians: int, pans: int, at: dict[str, Placed]
) -> list[str]:
    said = []
    for minute in {one.start for one in placed}:
        busy = [one for one in placed if one.start <= minute < one.end]
        if len(busy) > technicians:
            said.append(f"{len(busy)} jobs at once in minute {minute}")
        if len({one.technician for one in busy}) < len(busy):
            said.append(f"one technician has two jobs in minute {minute}")
        held = [
            one
            for one in placed
            if one.job.pan_until and one.start <= minute < at[one.job.pan_until].end
        ]
        if len(held) > pans:
            said.append(f"{len(held)} pans in use in minute {minute}")
    return said

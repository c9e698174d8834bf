"""Every rule an order breaks, worked out without the solver's model: what a solver says is held against
it."""

from collections.abc import Sequence

from ..guard import guarded
from ..runsheet import CHANGE_MINUTES
from .placed import Placed


@guarded
def broken_rules(placed: Sequence[Placed], technicians: int, pans: int) -> list[str]:
    """Every rule an order breaks, in words; worked out from the placed jobs alone, without the
    solver's model. Empty: none."""
    at = {one.job.id: one for one in placed}
    said = []
    for one in placed:
        if one.job.begun and one.start:
            said.append(f"{one.job.id} has begun already")
        for name in one.job.after:
            if one.start < at[name].free:
                said.append(f"{one.job.id} begins before {name} is through")
        soon = one.job.soon_after
        if soon and one.start > at[soon].free + one.job.latest:
            said.append(f"{one.job.id} begins too long after {soon}")
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

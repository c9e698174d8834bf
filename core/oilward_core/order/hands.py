"""What a mechanic sees in an order besides its length: how often one walks round the bike, and whether
what is hottest runs out first."""

from itertools import pairwise

from ..guard import guarded
from .placed import Order


@guarded
def walks(order: Order) -> int:
    """How often hands go on to another reservoir, one person's after the other's."""
    count = 0
    for technician in {one.technician for one in order.placed}:
        theirs = [one for one in order.placed if one.technician == technician and one.job.group]
        at = [one.job.group for one in sorted(theirs, key=lambda one: one.start) if one.job.minutes]
        count += sum(one != other for one, other in pairwise(at))
    return count


@guarded
def cooled(order: Order) -> int:
    """How many pairs of reservoirs are drained the cooler one first, while the hotter one cools."""
    drains = sorted((one for one in order.placed if one.job.heat), key=lambda one: one.start)
    return sum(
        one.job.heat < later.job.heat and one.start < later.start
        for n, one in enumerate(drains)
        for later in drains[n + 1 :]
    )

"""What can wait and what cannot: how much later each job of an order may begin without making the whole
later. The critical path method, over the order's own sequence."""

from collections.abc import Iterator, Sequence

from ..guard import guarded
from ..runsheet import CHANGE_MINUTES
from .placed import Order, Placed


def _gaps(a: Placed, b: Placed, at: dict[str, Placed]) -> Iterator[int]:
    """The least minutes from the start of ``a`` to that of ``b``, which begins no earlier, for each
    reason that holds them apart."""
    if a.job.id in b.job.after:
        yield a.free - a.start
    if a.job.id in b.job.while_waits:
        yield a.end - a.start
    if a.technician == b.technician and a.job.minutes and b.start >= a.end:
        yield a.end - a.start
    if a.job.attitude and b.job.attitude and a.job.attitude != b.job.attitude:
        held = a.free if a.job.pan_until else a.end
        yield held - a.start + CHANGE_MINUTES
    # who gives the bike back does so before it is moved
    holder = next((one for one in at.values() if one.job.held_until == a.job.id), None)
    moved = holder and b.job.attitude and b.job.attitude != holder.job.attitude
    if moved and b.start >= a.end:
        yield a.end - a.start + CHANGE_MINUTES


def _pans(a: Placed, b: Placed, placed: Sequence[Placed]) -> bool:
    """Whether ``b`` takes a pan that ``a`` gave back."""
    returns = any(one.job.pan_until == a.job.id for one in placed)
    return returns and bool(b.job.pan_until) and b.start >= a.end


def _limits(
    a: Placed, order: Order, at: dict[str, Placed], latest: dict[str, int]
) -> Iterator[int]:
    """By when a job has to begin for each of those it holds up."""
    yield latest[a.job.id]
    if a.job.soon_after:
        yield at[a.job.soon_after].free + a.job.latest
    for b in order.placed:
        if b.job.id == a.job.id or b.start < a.start:
            continue
        gaps = list(_gaps(a, b, at))
        if _pans(a, b, order.placed):
            gaps.append(a.end - a.start)
        if gaps:
            yield latest[b.job.id] - max(gaps)


@guarded
def slack(order: Order) -> dict[str, int]:
    """By job, how many minutes later it may begin with everything else in its order and the whole as
    soon as now; 0: every minute lost there makes it later. What has begun has none to give.

    Pans are taken in the order they come free, so the figure is never too large.
    """
    at = {one.job.id: one for one in order.placed}
    latest = {key: order.minutes - (one.free - one.start) for key, one in at.items()}
    # the last first, so that one round is enough but where jobs begin in the same minute
    backwards = sorted(order.placed, key=lambda one: (one.start, one.end, one.free), reverse=True)
    settled = False
    while not settled:
        before = dict(latest)
        for a in backwards:
            latest[a.job.id] = min(latest[a.job.id], *_limits(a, order, at, latest))
        settled = latest == before
    return {
        key: 0 if at[key].job.begun else max(0, limit - at[key].start)
        for key, limit in latest.items()
    }

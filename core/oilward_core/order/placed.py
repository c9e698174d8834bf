"""What a run order is made of: jobs in their places, and what somebody wishes of it."""

from collections.abc import Sequence
from dataclasses import dataclass

from ..guard import Sound
from ..runsheet import Job


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


def before(jobs: Sequence[Job]) -> dict[str, set[str]]:
    """Everything that comes before each job by the work's own order."""
    found: dict[str, set[str]] = {}
    for job in jobs:  # jobs stand after what they wait for
        named = (*job.after, *job.while_waits)
        found[job.id] = set(named).union(*(found.get(name, ()) for name in named))
    return found

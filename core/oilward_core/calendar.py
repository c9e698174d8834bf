"""The visits to come: which of their reservoirs have been serviced, and the weeks they fall into."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta


@dataclass(frozen=True, kw_only=True)
class Planned:
    """A planned visit: its reservoirs, since when it is planned, and which signed visit has done
    which of them."""

    id: str
    since: datetime
    reservoirs: tuple[str, ...]
    done: tuple[tuple[str, str], ...] = ()

    @property
    def finished(self) -> bool:
        """Whether nothing of it is left to do."""
        return {reservoir for reservoir, _ in self.done} >= set(self.reservoirs)


@dataclass(frozen=True)
class Signed:
    """That a signed visit serviced a reservoir."""

    visit: str
    reservoir: str
    at: datetime


def tick_off(planned: Sequence[Planned], signed: Iterable[Signed]) -> tuple[Planned, ...]:
    """Tick off in one bike's planned visits, soonest first, what has been serviced since they were
    planned. A service counts for one planned visit only: for the soonest that waits for it."""
    found = list(planned)
    counted = {pair for one in planned for pair in one.done}
    for service in sorted(signed, key=lambda s: (s.at, s.visit)):
        pair = (service.reservoir, service.visit)
        if pair in counted:
            continue
        for n, one in enumerate(found):
            open_ones = set(one.reservoirs) - {reservoir for reservoir, _ in one.done}
            if service.reservoir in open_ones and service.at >= one.since:
                found[n] = Planned(
                    id=one.id, since=one.since, reservoirs=one.reservoirs, done=(*one.done, pair)
                )
                break
    return tuple(found)


def date_words(day: date) -> str:
    """``2 Apr 2028``."""
    return f"{day.day} {day:%b %Y}"


def week_of(day: date, begins: int = 0) -> date:
    """The first day of its week. ``begins``: the weekday a week begins with here, 0 for Monday (as in ISO
    8601) to 6 for Sunday."""
    return day - timedelta(days=(day.weekday() - begins) % 7)

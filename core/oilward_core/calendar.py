"""The visits to come: which of their reservoirs have been serviced, and the weeks they fall into."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from .guard import guarded


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


DAY_MINUTES = 480  # of work that go into a day [common practice, no source]


@dataclass(frozen=True, kw_only=True)
class Booking:
    """A planned visit as work: on which ``day``, how many ``minutes``, for how many ``technicians``, and
    which people (``hands``) are named for it."""

    id: str
    day: date
    minutes: int
    technicians: int = 1
    hands: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Lane:
    """A person's week (nobody's: ``person`` is empty): the visits of each of its seven days, and the
    minutes of work they come to."""

    person: str
    visits: tuple[tuple[str, ...], ...]
    minutes: tuple[int, ...]

    @property
    def total(self) -> int:
        """Minutes of the week."""
        return sum(self.minutes)

    @property
    def full(self) -> tuple[bool, ...]:
        """On which days there is more than a day's work."""
        return tuple(one > DAY_MINUTES for one in self.minutes)


@guarded
def lanes(first: date, bookings: Iterable[Booking], people: Iterable[str]) -> tuple[Lane, ...]:
    """The week from ``first`` by people and hours, the given ``people`` first. Whoever is named for a
    visit is at it from start to finish; where fewer are named than it needs, it is nobody's as well."""
    found = [one for one in bookings if 0 <= (one.day - first).days < 7]
    named = [who for one in found for who in one.hands]
    whose = list(dict.fromkeys([*people, *named]))
    if any(len(one.hands) < one.technicians for one in found):
        whose.append("")
    return tuple(_lane(first, found, who) for who in whose)


def _lane(first: date, bookings: Sequence[Booking], who: str) -> Lane:
    def is_theirs(one: Booking) -> bool:
        return who in one.hands if who else len(one.hands) < one.technicians

    mine = [one for one in bookings if is_theirs(one)]
    by_day = [[one for one in mine if (one.day - first).days == n] for n in range(7)]
    return Lane(
        person=who,
        visits=tuple(tuple(one.id for one in day) for day in by_day),
        minutes=tuple(sum(one.minutes for one in day) for day in by_day),
    )

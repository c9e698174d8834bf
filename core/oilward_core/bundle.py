"""What to do together: pulling neighbouring reservoirs into a visit that happens anyway.

Hours and prices are common practice, no source, until a workshop sets its own.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from .guard import Sound, guarded
from .reasons import Reason, Source
from .said import due as say
from .spec import KINDS, ReservoirKind

HORIZON_DAYS = 730
USUAL_LIFE_DAYS = 365  # of what nobody gave an interval that counts [trade]
SAME_VISIT_DAYS = 7  # what falls due within a week of a visit is done in it anyway


@dataclass(frozen=True)
class Costs(Sound):
    """In hours of work: what every visit costs before any oil runs (warm-up, lift, clean-up), and
    what a litre of oil is worth."""

    visit: float = 1.2
    litre: float = 0.25


@dataclass(frozen=True, kw_only=True)
class Upkeep(Sound):
    """A reservoir's next service: when it is expected, how long it lasts then, its oil in litres."""

    key: str
    label: str
    kind: ReservoirKind
    due: date
    lasts_days: int
    litres: float

    @property
    def hours(self) -> float:
        """Hands-on hours of its service."""
        return KINDS[self.kind].hours

    def left(self, on: date) -> float:
        """The share of life it would still have on that day, 0–1."""
        days = (self.due - on).days
        return max(0.0, min(1.0, days / self.lasts_days)) if self.lasts_days else 0.0


@dataclass(frozen=True)
class Proposal:
    """Whether to do a reservoir in this visit, and why."""

    upkeep: Upkeep
    do: bool
    reason: Reason


@guarded
def thrown_away(upkeep: Upkeep, on: date, costs: Costs) -> float:
    """What doing it on that day throws away: its share of life left × its service, in hours."""
    return upkeep.left(on) * (upkeep.hours + upkeep.litres * costs.litre)


def _due(upkeep: Upkeep, on: date) -> bool:
    return upkeep.due <= on + timedelta(days=SAME_VISIT_DAYS)


@guarded
def next_visit(upkeeps: Sequence[Upkeep], today: date) -> date:
    """The day the next visit is for: today if anything is due, else when the first thing will be."""
    return max(today, min((upkeep.due for upkeep in upkeeps), default=today))


@guarded
def propose(upkeeps: Sequence[Upkeep], on: date, costs: Costs) -> tuple[Proposal, ...]:
    """What to do in a visit on that day: what is due, and what it pays to pull forward.

    How much may be thrown away is what comes out cheapest over two years of visits to this bike
    (`patience`), so that a proposal is never dearer than each reservoir when it is due.
    """
    most = patience(upkeeps, on, costs)
    found = []
    for upkeep in upkeeps:
        if _due(upkeep, on):
            why = Reason("due", say.when_due(upkeep.due, on), Source.MANUAL)
            found.append(Proposal(upkeep, True, why))
            continue
        thrown = thrown_away(upkeep, on, costs)
        worth = thrown <= most
        text = say.pulled_forward(upkeep.left(on), say.worth(thrown), worth)
        found.append(Proposal(upkeep, worth, Reason("pull forward", text, Source.DEFINED)))
    return tuple(found)


_PATIENCES = (-1.0, 0.02, 0.05, 0.08, 0.12, 0.16, 0.2, 0.25, 0.3, 0.4, 0.5, 0.7)


@guarded
def patience(upkeeps: Sequence[Upkeep], on: date, costs: Costs) -> float:
    """How much life, in hours' worth, may be thrown away by pulling a reservoir forward: the one of
    a few amounts whose two years cost least. Below nought: pull nothing forward."""
    return min(_PATIENCES, key=lambda most: _cost(_walk(upkeeps, on, costs, most), costs))


@dataclass(frozen=True)
class Load(Sound):
    """What a way of working comes to over two years."""

    visits: int
    hours: float
    litres: float


def _renewed(upkeep: Upkeep, on: date) -> Upkeep:
    return replace(upkeep, due=on + timedelta(days=max(1, upkeep.lasts_days)))


def _cost(load: Load, costs: Costs) -> float:
    return load.hours + load.litres * costs.litre


def _walk(upkeeps: Sequence[Upkeep], today: date, costs: Costs, most: float) -> Load:
    """Go from one due day to the next for two years, pulling forward what throws away at most
    ``most`` hours' worth."""
    state = list(upkeeps)
    end = today + timedelta(days=HORIZON_DAYS)
    visits, hours, litres = 0, 0.0, 0.0
    while state:
        on = max(today, min(upkeep.due for upkeep in state))
        if on > end:
            break
        visits, hours = visits + 1, hours + costs.visit
        for n, upkeep in enumerate(state):
            if _due(upkeep, on) or thrown_away(upkeep, on, costs) <= most:
                hours, litres = hours + upkeep.hours, litres + upkeep.litres
                state[n] = _renewed(upkeep, on)
    return Load(visits, round(hours, 1), round(litres, 2))


@guarded
def compare(upkeeps: Sequence[Upkeep], today: date, costs: Costs) -> tuple[Load, Load]:
    """Two years of bundled visits, and the same with each reservoir when it is due."""
    most = patience(upkeeps, today, costs)
    return _walk(upkeeps, today, costs, most), _walk(upkeeps, today, costs, _PATIENCES[0])

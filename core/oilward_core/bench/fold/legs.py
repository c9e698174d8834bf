"""What is known of fork legs: their gaps, how their oil goes with it, their springs beside each other."""

from collections.abc import Iterator, Mapping
from decimal import Decimal

from ...codes.steps import Name
from ...quantity import show
from ...runsheet import StepId, TaskPlan
from ...said import bench as said
from ...spec import Recipe, ReservoirSpec
from ...suspension import Filled, FreeLength, apart, off_book, renew_both, surface, worn
from ..asks.values import Taken
from .facts import Facts

Tasks = Mapping[str, TaskPlan]


def _taken(key: str, name: Name, facts: Facts) -> Taken | None:
    entry = facts.last.get(str(StepId(key, name)))
    return entry.data if entry and isinstance(entry.data, Taken) else None


def gaps(key: str, facts: Facts) -> tuple[Decimal | None, Decimal | None]:
    """The air gap of a leg as found and as left; where nothing was changed it is left as found."""
    taken = _taken(key, Name.LEG_GAP, facts)
    if taken is None:
        return None, None
    found = next((value.low for value in taken.found.values()), None)
    return found, next((value.low for value in taken.stands.values()), None)


def _filled(spec: ReservoirSpec, facts: Facts) -> Filled | None:
    """What is in a leg whose gap is set, where it is known how much was drawn out: by its bore, and the
    gap it had before."""
    (found, gap), book = gaps(spec.key, facts), next(iter(spec.capacities.values()), None)
    by_gap = spec.air_gap is not None and surface(spec.leg) and (book or not spec.leg.split)
    if found is None or gap is None or spec.air_gap is None or not by_gap:
        return None
    return Filled(
        gap=float(gap),
        poured=float(facts.into(spec.key)),
        book_gap=float(spec.air_gap),
        book_poured=float(book) if book else None,
    )


def _others(key: str, tasks: Tasks) -> Iterator[ReservoirSpec]:
    """The other legs of the visit."""
    for task in tasks.values():
        if task.reservoir.facts.recipe == Recipe.FORK and task.reservoir.key != key:
            yield task.reservoir


def _more_than_other(key: str, tasks: Tasks, facts: Facts) -> int:
    """How much more oil, ml, a leg took than the other one at an equal gap; less with a minus, 0 where
    they are alike or nothing can be said."""
    leg = _filled(tasks[key].reservoir, facts) if key in tasks else None
    found = (_filled(spec, facts) for spec in _others(key, tasks))
    other = next(filter(None, found), None)
    return round(apart(other, leg).poured) if leg and other else 0


def _off_its_book(key: str, tasks: Tasks, facts: Facts) -> float:
    """By which share of its book a leg took more at the right gap; 0 where it did not, or where nothing
    can be said."""
    leg = _filled(tasks[key].reservoir, facts) if key in tasks else None
    return off_book(leg) if leg else 0.0


def oddly(key: str, tasks: Tasks, facts: Facts) -> str:
    """How the oil in a leg does not go with its gap, beside the other leg and by its sheet; empty where
    it does, or where nothing can be said."""
    more, share = _more_than_other(key, tasks, facts), _off_its_book(key, tasks, facts)
    told = said.beside(show(Decimal(abs(more)), "ml"), more > 0) if more else ""
    by_book = said.off_book(round(abs(share) * 100), share > 0) if share else ""
    return " ".join(filter(None, (told, by_book)))


def spring(key: str, facts: Facts) -> Decimal | None:
    """The free length of the spring that goes back into a leg, mm."""
    taken = _taken(key, Name.LEG_SPRING, facts)
    return next((value.low for value in taken.stands.values()), None) if taken else None


def air(key: str, facts: Facts) -> Decimal | None:
    """The pressure a leg was pumped to, kPa."""
    taken = _taken(key, Name.LEG_PRESSURE, facts)
    return next((value.low for value in taken.stands.values()), None) if taken else None


def way_to_limit(key: str, tasks: Tasks, facts: Facts) -> float | None:
    """How far a spring is on its way from new to its limit, where the sheet gives both."""
    length, leg = spring(key, facts), tasks[key].reservoir.leg
    if length is None or leg.spring_new is None or leg.spring_limit is None:
        return None
    if length <= 0 or not 0 < leg.spring_limit < leg.spring_new:
        return None
    return worn(float(length), FreeLength(new=float(leg.spring_new), limit=float(leg.spring_limit)))


def under_limit(key: str, tasks: Tasks, facts: Facts) -> bool:
    """Whether the spring that goes back is under its limit."""
    length, limit = spring(key, facts), tasks[key].reservoir.leg.spring_limit
    return length is not None and limit is not None and length < limit


def other_spring(key: str, tasks: Tasks, facts: Facts) -> Decimal | None:
    """By how much a spring is longer than the other leg's, mm, where the two are no pair."""
    length = spring(key, facts)
    found = (spring(spec.key, facts) for spec in _others(key, tasks))
    other = next((one for one in found if one is not None), None)
    if length is None or other is None or min(length, other) <= 0:
        return None
    if not renew_both(float(length), float(other)):
        return None
    return length - other

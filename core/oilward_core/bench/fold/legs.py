"""What is known of fork legs: their gaps, how their oil goes with it, their springs beside each other."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal

from ...codes.steps import Name
from ...quantity import show
from ...runsheet import LegSoFar, StepId, TaskPlan
from ...said import bench as said
from ...spec import LegSpec, Recipe, ReservoirSpec
from ...suspension import Filled, FreeLength, apart, off_book, renew_both, surface, worn
from ..asks.values import Taken
from .facts import Facts

Tasks = Mapping[str, TaskPlan]
# of what came out of a leg whose sheet gives no amount [our definition]
BEGIN_WITH = Decimal("1.05")


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


def of(tasks: Tasks) -> list[str]:
    """The legs of a visit."""
    return [key for key, task in tasks.items() if task.reservoir.facts.recipe == Recipe.FORK]


def _others(key: str, tasks: Tasks) -> Iterator[ReservoirSpec]:
    return (tasks[one].reservoir for one in of(tasks) if one != key)


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


def so_far(key: str, tasks: Tasks, facts: Facts) -> LegSoFar:
    """What a leg's steps tell those that come later."""
    read, out = _taken(key, Name.LEG_SET, facts), facts.drained(key)
    begin = ""
    if out is not None and not tasks[key].reservoir.capacities:
        begin = said.start_with(show(Decimal(round(out * BEGIN_WITH)), "ml"))
    told = {name: value.said for name, value in read.stands.items()} if read else {}
    return LegSoFar(
        read=said.as_read(told) if told else "", begin=begin, odd=oddly(key, tasks, facts)
    )


def air(key: str, facts: Facts) -> Decimal | None:
    """The pressure a leg was pumped to, kPa."""
    taken = _taken(key, Name.LEG_PRESSURE, facts)
    return next((value.low for value in taken.stands.values()), None) if taken else None


@dataclass(frozen=True, kw_only=True)
class Spring:
    """A leg's spring: its free length as ``found`` and as it goes back (``length``), mm; whether another
    one went in (``renewed``), and whether the found one was ``done``: under its limit."""

    found: Decimal
    length: Decimal
    renewed: bool
    done: bool


def spring(key: str, tasks: Tasks, facts: Facts) -> Spring | None:
    """A leg's spring, once it was measured."""
    taken, limit = _taken(key, Name.LEG_SPRING, facts), tasks[key].reservoir.leg.spring_limit
    if taken is None:
        return None
    length = next(iter(taken.stands.values())).low
    found = next(iter(taken.found.values())).low if taken.found else length
    done = limit is not None and found < limit
    return Spring(found=found, length=length, renewed=bool(taken.left), done=done)


def way_to_limit(length: Decimal, leg: LegSpec) -> float | None:
    """How far a spring is on its way from new to its limit, where the sheet gives both."""
    if leg.spring_new is None or leg.spring_limit is None or length <= 0:
        return None
    if not 0 < leg.spring_limit < leg.spring_new:
        return None
    return worn(float(length), FreeLength(new=float(leg.spring_new), limit=float(leg.spring_limit)))


def _apart(length: Decimal, other: Decimal) -> Decimal:
    """By how much a spring is longer than another, mm, where the two are no pair; else 0."""
    if min(length, other) <= 0 or not renew_both(float(length), float(other)):
        return Decimal(0)
    return length - other


def spring_wants(key: str, tasks: Tasks, facts: Facts) -> str:
    """Why a leg's spring may not go back, in words: it is under its limit, the two are no pair, or one of
    them is renewed without the other. Empty where it may."""
    own, limit = spring(key, tasks, facts), tasks[key].reservoir.leg.spring_limit
    if own is None:
        return ""
    if limit is not None and own.length < limit:
        return said.spring_short(show(limit, "mm"))
    springs = (spring(spec.key, tasks, facts) for spec in _others(key, tasks))
    other = next(filter(None, springs), None)
    if other is None:
        return ""
    if longer := _apart(own.length, other.length):
        return said.springs_apart(show(abs(longer), "mm"), longer > 0)
    both = other.done or own.done or bool(_apart(own.found, other.found))
    return said.OTHER_SPRING_DONE if both and not own.renewed else ""

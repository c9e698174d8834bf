"""What of which bike is with a specialist."""

from collections import defaultdict
from collections.abc import Iterable
from datetime import date
from uuid import UUID

from garage.models import Bike
from garage.selectors import reservoir_or_404, specs_of
from oilward_core.away import is_overdue, part_of, tag_of
from oilward_core.bench import OffBike
from oilward_core.codes.away import Came, Part, Waits
from oilward_core.quantity import show
from oilward_core.said import away as words
from workshop.access import may_work
from workshop.models import Person

from visits.models import HandedOut

from .shapes import Away, AwayLine, Way

OUT, BACK, FITTED = "out", "back", "fitted"


def is_late(row: HandedOut, today: date) -> bool:
    return state_of(row) == OUT and is_overdue(row.back_by, today)


def to_whom(row: HandedOut) -> str:
    return row.own.name if row.own else row.to


def state_of(row: HandedOut) -> str:
    if hasattr(row, "fitted"):
        return FITTED
    return BACK if hasattr(row, "back") else OUT


def not_on_the_bike(bike_ids: Iterable[UUID]) -> dict[UUID, list[HandedOut]]:
    """What is out or back and not fitted, by bike, the oldest first."""
    found: dict[UUID, list[HandedOut]] = defaultdict(list)
    rows = HandedOut.objects.filter(bike_id__in=list(bike_ids), fitted=None)
    for row in rows.select_related("back", "fitted", "own"):
        found[row.bike_id].append(row)
    return found


def in_words(row: HandedOut, label: str) -> str:
    """``shock is away, at a specialist, tag K7QD``."""
    part = words.PARTS[Part(row.part)]
    if state_of(row) == BACK:
        return words.not_fitted(label, part)
    return words.out(label, part, to_whom(row), tag_of(str(row.pk)))


def off_bike(bike: Bike) -> tuple[OffBike, ...]:
    """What of a bike is away, as its visits know it."""
    rows = not_on_the_bike([bike.pk]).get(bike.pk, [])
    if not rows:
        return ()
    spec = specs_of([bike]).get(bike.pk)
    reservoirs = {row: spec.reservoir(row.reservoir) if spec else None for row in rows}
    return tuple(
        OffBike(reservoir=row.reservoir, words=in_words(row, it.label if it else row.reservoir))
        for row, it in reservoirs.items()
    )


def _back(row: HandedOut) -> str:
    if not hasattr(row, "back"):
        return ""
    back = row.back
    gas = ""
    if back.pressure is not None and back.celsius is not None:
        gas = words.gas(show(back.pressure, "bar"), f"{back.celsius.normalize():f}")
    told = (words.CAME[Came(back.came)], back.oil, gas, back.paper, back.note)
    return "; ".join(one for one in told if one)


def _fitted(row: HandedOut) -> str:
    if not hasattr(row, "fitted"):
        return ""
    fitted = row.fitted
    looked = "" if fitted.alone else fitted.looked.name
    return words.fitted(fitted.torqued, fitted.by.name, looked)


def line(row: HandedOut, today: date) -> AwayLine:
    state = state_of(row)
    return AwayLine(
        id=str(row.pk),
        tag=tag_of(str(row.pk)),
        part=words.PARTS[Part(row.part)],
        state=state,
        to=to_whom(row),
        qualified=row.qualified,
        wanted=row.wanted,
        waits=words.WAITS[Waits(row.waits)],
        out_on=row.out_on.isoformat(),
        back_by=row.back_by.isoformat(),
        overdue=is_late(row, today),
        by=row.by.name,
        back=_back(row),
        back_on=row.back.came_on.isoformat() if hasattr(row, "back") else "",
        fitted=_fitted(row),
    )


def away(bike_id: UUID, key: str, today: date) -> Away:
    """What of a reservoir went out, and what may be said about it."""
    reservoir = reservoir_or_404(bike_id, key)
    part = part_of(reservoir)
    rows = HandedOut.objects.filter(bike_id=bike_id, reservoir=key).select_related(
        "by", "own", "back", "fitted__by", "fitted__looked"
    )
    people = Person.objects.filter(is_active=True).order_by("name")
    return Away(
        reservoir=key,
        part=words.PARTS[part] if part else "",
        gas=reservoir.ride.gas_read,
        lines=[line(row, today) for row in reversed(rows)],
        waits=[Way(code, words.WAITS[code]) for code in Waits],
        came=[Way(code, words.CAME[code]) for code in Came],
        own=[Way(str(one.pk), one.name) for one in people if may_work(one)],
    )

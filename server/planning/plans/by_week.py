"""Between rows and the core for the calendar: planned visits, day by day and week by week."""

from collections.abc import Mapping, Sequence
from datetime import date, timedelta

from oilward_core.calendar import Booking, Lane, Planned, lanes, week_of

from planning.models import PlannedVisit
from planning.warded import day_words

from .shapes import LaneDay, PlannedLine, PlannedPart, Week, WeekDay, WeekLane


def labels(visit: PlannedVisit) -> list[str]:
    """What is planned, reservoir by reservoir, as it was called then."""
    return [task["label"] for task in visit.tasks]


def planned(visit: PlannedVisit) -> Planned:
    reservoirs = tuple(task["reservoir"] for task in visit.tasks)
    return Planned(
        id=str(visit.pk),
        since=visit.planned_at,
        reservoirs=reservoirs,
        done=tuple(visit.done.items()),
    )


def planned_line(
    visit: PlannedVisit, missing: Sequence[str], today: date, names: Mapping[str, str]
) -> PlannedLine:
    return PlannedLine(
        id=str(visit.pk),
        bike=visit.bike.name,
        bike_id=str(visit.bike_id),
        on=visit.on.isoformat(),
        day=day_words(visit.on),
        late=visit.on < today,
        parts=[PlannedPart(t["label"], visit.done.get(t["reservoir"], "")) for t in visit.tasks],
        minutes=visit.minutes,
        hands=", ".join(names.get(who, "") for who in visit.hands),
        planned_by=visit.planned_by,
        version=visit.version,
        missing=list(missing),
    )


def week_words(first: date, today: date, begins: int) -> str:
    """``This week`` or ``7–13 Dec``."""
    if week_of(today, begins) == first:
        return "This week"
    last = first + timedelta(days=6)
    start = f"{first.day}" if first.month == last.month else f"{first.day} {first:%b}"
    return f"{start}–{last.day} {last:%b}" + (f" {last:%Y}" if last.year != today.year else "")


def _booking(visit: PlannedVisit) -> Booking:
    return Booking(
        id=str(visit.pk),
        day=visit.on,
        minutes=visit.minutes,
        technicians=visit.technicians,
        hands=tuple(visit.hands),
    )


def _week_day(day: date, today: date) -> WeekDay:
    return WeekDay(on=day.isoformat(), label=f"{day:%a} {day.day}", today=day == today)


def _lane(lane: Lane, names: Mapping[str, str]) -> WeekLane:
    days = zip(lane.visits, lane.minutes, lane.full, strict=True)
    return WeekLane(
        person=lane.person,
        name=names.get(lane.person, ""),
        minutes=lane.total,
        days=[LaneDay(visits=list(ids), minutes=took, full=full) for ids, took, full in days],
    )


def weeks(
    visits: Sequence[PlannedVisit],
    lines: Sequence[PlannedLine],
    today: date,
    begins: int,
    workers: Sequence[str],
    names: Mapping[str, str],
) -> list[Week]:
    """The planned visits week by week, each beginning on the weekday ``begins``; what is late stands in
    the week it was planned for. ``workers`` have a lane in each; ``names`` are people's by their ids."""
    found: dict[date, list[tuple[PlannedVisit, PlannedLine]]] = {}
    for visit, line in zip(visits, lines, strict=True):
        found.setdefault(week_of(visit.on, begins), []).append((visit, line))
    return [
        Week(
            label=week_words(first, today, begins),
            minutes=sum(visit.minutes for visit, _ in pairs),
            visits=[line for _, line in pairs],
            days=[_week_day(first + timedelta(days=n), today) for n in range(7)],
            lanes=[
                _lane(lane, names)
                for lane in lanes(first, [_booking(visit) for visit, _ in pairs], workers)
            ],
        )
        for first, pairs in sorted(found.items())
    ]

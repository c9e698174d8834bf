from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import date, datetime, timedelta
from math import ceil
from typing import Any
from uuid import UUID

from django.db.models import (
    BooleanField,
    Exists,
    ExpressionWrapper,
    F,
    OuterRef,
    Q,
    QuerySet,
    Value,
)
from django.db.models.expressions import Combinable, CombinedExpression
from findings.models import Finding
from findings.selectors import last_findings, still_asking
from garage.mapping import BikeSpec
from garage.models import Bike
from garage.odometer.selectors import recent_odometer
from garage.selectors import schools_of, specs_of
from oilward_core.debris import LevelWord
from oilward_core.spec import WARD_COLUMNS
from visits.away.selectors import not_on_the_bike
from visits.models import Service
from visits.selectors import in_shop, open_visits, services_of
from workshop.background import set_aside
from workshop.touched import generation

from . import mapping, warded
from .begun import first_steps
from .kept import bike_on
from .models import DueRow, PlannedVisit, Roller, Tally, WardRow
from .shapes import Ask, Health, NextPlanned, OpenVisit, Rolling, Wanted

PAGE = 50


def _open_visits(ids: list[UUID]) -> dict[UUID, OpenVisit]:
    return {
        bike: OpenVisit(
            id=str(visit),
            reservoir=said["title"] or "",
            step=said["step"] or "",
            ends_at=said["ends_at"],
            since=said.get("since"),
        )
        for bike, (visit, said) in (open_visits(ids) if ids else {}).items()
    }


def _worked_out(
    known: mapping.Known,
    spec: BikeSpec | None,
    services: dict[tuple[UUID, str], list[Service]],
    findings: dict[tuple[UUID, str], Finding],
) -> list[mapping.Reservoir]:
    bike = known.bike
    return [
        mapping.worked_out(
            known,
            reservoir,
            services.get((bike.pk, reservoir.key), []),
            findings.get((bike.pk, reservoir.key)),
        )
        for reservoir in (spec.reservoirs if spec else ())
    ]


def of_one(
    found: Mapping[tuple[UUID, str], Sequence[Finding]], bike: UUID
) -> dict[str, Sequence[Finding]]:
    """What of it is one bike's, by reservoir."""
    return {reservoir: rows for (whose, reservoir), rows in found.items() if whose == bike}


def worked_out(bikes: Sequence[Bike], today: date) -> tuple[list[WardRow], list[DueRow]]:
    """Everything the ward keeps of these bikes, in a number of queries that does not grow."""
    ids = [bike.pk for bike in bikes]
    specs, schools, read = specs_of(bikes), schools_of(ids), recent_odometer(ids, today)
    services, findings, shop = services_of(ids), last_findings(ids), in_shop(ids)
    still, handed = still_asking(ids), not_on_the_bike(ids)
    rows: list[WardRow] = []
    dues: list[DueRow] = []
    for bike in bikes:
        known = mapping.known_of(bike, read.get(bike.pk, []), schools[bike.pk], today)
        reservoirs = _worked_out(known, specs.get(bike.pk), services, findings)
        asking, away = of_one(still, bike.pk), handed.get(bike.pk, [])
        rows.append(warded.ward_row(known, reservoirs, bike.pk in shop, asking, away))
        dues += [mapping.due_row(bike, reservoir) for reservoir in reservoirs]
    return rows, dues


LATE = timedelta(minutes=10)


def _behind(today: date, counts: int) -> Q:
    """Of what is kept: what has to be worked out anew, where this generation ``counts``."""
    return Q(changes_on__lte=today) | Q(generation__lt=counts)


def stale(today: date, counts: int | None = None) -> QuerySet[WardRow]:
    """What is kept of bikes and has to be worked out anew. ``counts``: the generation, if it is known."""
    return WardRow.objects.filter(_behind(today, generation() if counts is None else counts))


def share_left(today: date) -> CombinedExpression:
    """What is left of a bike's most urgent reservoir on a day, for ordering by it."""
    return F("starts") - F("falls") * Value(float(today.toordinal()))


def roller(today: date, now: datetime, counts: int | None = None) -> Rolling:
    """When what is due was last brought forward, and what is still to be."""
    ran = Roller.objects.values_list("ran_at", flat=True).first()
    late = ran is not None and now - ran > LATE
    return Rolling(ran.isoformat() if ran else "", late, stale(today, counts).count())


def health(today: date, now: datetime) -> Health:
    """What whoever watches the machine wants to know."""
    found = roller(today, now)
    return Health(found.ran_at, found.late, found.behind, len(set_aside()))


def _fitting(wanted: Wanted, today: date) -> QuerySet[WardRow]:
    found = WardRow.objects.all()
    for word in wanted.search.lower().split()[:8]:
        found = found.filter(searched__contains=word)
    if wanted.within:
        found = found.filter(first_due__lte=today + timedelta(days=wanted.within))
    if wanted.shop:
        found = found.filter(in_shop=True)
    if wanted.hold:
        found = found.filter(on_hold=True)
    if wanted.use:
        found = found.filter(use_class=wanted.use)
    if wanted.fluid:
        of_fluid = DueRow.objects.filter(bike=OuterRef("pk"), fluid=wanted.fluid)
        found = found.filter(Exists(of_fluid))
    return found


def _anything(wanted: Wanted) -> bool:
    return bool(
        wanted.search or wanted.within or wanted.shop or wanted.hold or wanted.use or wanted.fluid
    )


def next_planned(ids: list[UUID], today: date) -> dict[UUID, NextPlanned]:
    rows = PlannedVisit.objects.filter(bike_id__in=ids, state=PlannedVisit.State.PLANNED)
    found: dict[UUID, NextPlanned] = {}
    for bike, pk, on in rows.order_by("on", "id").values_list("bike_id", "pk", "on"):
        found.setdefault(bike, NextPlanned(str(pk), warded.day_words(on), on < today))
    return found


def asks_of(bike_id: UUID) -> list[Ask]:
    """What findings of this bike ask for, as its ward row keeps it."""
    shape = WardRow.objects.filter(bike=bike_id).values_list("shape", flat=True).first() or {}
    return [Ask(**{**one, "level": LevelWord(one["level"])}) for one in shape.get("asks", [])]


def open_visit(bike_id: UUID) -> OpenVisit | None:
    """The visit this bike is in the shop for, if it is."""
    return _open_visits([bike_id]).get(bike_id)


_SAID: dict[tuple[UUID, UUID, int, date], dict[str, Any]] = {}
MOST_SAID = 1024  # some 20 MB


def _up_to_date(ids: Sequence[UUID], counts: int, today: date) -> Sequence[WardRow]:
    """What is kept of these bikes; of those that are not brought forward yet, what will be."""
    behind_now = ExpressionWrapper(_behind(today, counts), BooleanField())
    kept = WardRow.objects.filter(pk__in=ids).annotate(behind_now=behind_now)
    rows = list(kept.only("pk", "bike", "made", "shape", "clocks"))
    behind = {row.bike_id: row.made for row in rows if row.behind_now}
    if not behind:
        return rows
    bikes = Bike.objects.select_related("model").filter(pk__in=behind)
    anew, _ = worked_out(list(bikes), today)
    for row in anew:
        row.made = behind[row.bike_id]
    return [*(row for row in rows if row.bike_id not in behind), *anew]


def _said(made: Mapping[UUID, UUID], counts: int, today: date) -> dict[UUID, dict[str, Any]]:
    """These bikes as they are said today, by the mark of what is kept of each and the generation that
    ``counts``. Words once made are good for the day: tablets ask for the same page again and again."""
    told = {pk: _SAID.get((pk, mark, counts, today)) for pk, mark in made.items()}
    wanting = [pk for pk, shape in told.items() if shape is None]
    for row in _up_to_date(wanting, counts, today) if wanting else ():
        if len(_SAID) >= MOST_SAID:
            _SAID.clear()
        shape = bike_on(row.shape, row.clocks, today)
        _SAID[row.bike_id, row.made, counts, today] = told[row.bike_id] = shape
    return {pk: shape for pk, shape in told.items() if shape is not None}


def ward(wanted: Wanted, today: date, now: datetime) -> dict[str, Any]:
    """The bikes wanted, by urgency, those in the shop first; a page of them.

    Reads what is kept; only a bike of the page that is still to be brought forward is worked out here,
    so that what is said is right at once. Returns a `Ward`, already as plain data.
    """
    tally = dict(Tally.objects.filter(count__gt=0).values_list("name", "count"))
    found, fleet = _fitting(wanted, today), tally.get(warded.FLEET, 0)
    count = found.count() if _anything(wanted) else fleet
    pages = max(1, ceil(count / PAGE))
    page = min(max(wanted.page, 1), pages)
    grouped = ["use_class"] if wanted.group == "use" else []
    order: list[str | Combinable] = [*grouped, "-in_shop", share_left(today), "name", "pk"]
    rows = list(
        found.order_by(*order).values_list("pk", "in_shop", "made")[(page - 1) * PAGE : page * PAGE]
    )
    visits = _open_visits([pk for pk, shop, _ in rows if shop])
    planned = next_planned([pk for pk, *_ in rows], today)
    counts = generation()
    said = _said({pk: made for pk, _, made in rows}, counts, today)
    bikes = [
        {
            **said[pk],
            "visit": asdict(visits[pk]) if pk in visits else None,
            "planned": asdict(planned[pk]) if pk in planned else None,
        }
        for pk, *_ in rows
        if pk in said
    ]
    return {
        "count": count,
        "page": page,
        "pages": pages,
        "fleet": fleet,
        "due": tally.get(warded.NEEDING, 0),
        "now": now.isoformat(),
        "rolling": asdict(roller(today, now, counts)),
        "columns": list(WARD_COLUMNS),
        "bikes": bikes,
        "first_steps": [] if fleet else [asdict(one) for one in first_steps()],
        **warded.counted(tally, today),
    }

"""Findings over time: one reservoir's, and the workshop's."""

from collections.abc import Iterable, Sequence
from datetime import date, timedelta
from math import ceil
from typing import Any
from uuid import UUID

from django.db.models import Exists, F, OuterRef, Q, QuerySet, Subquery
from django.db.models.functions import Coalesce
from django.http import Http404
from findings import seen as seen_as
from findings.mapping import look_words
from findings.models import Debris, Finding, Overruling
from findings.selectors import counting, of_kind, shown_by_kind, whole
from garage.mapping import model_words
from garage.models import Bike, BikeModel, OwnSchool
from garage.odometer.selectors import corrections, follow, last_odometer
from garage.selectors import specs_of, workshop_schools
from oilward_bench import on_plug
from oilward_core.debris import LevelWord, Matter, Part, chance_words
from oilward_core.schools import INTERVAL, TOPICS
from oilward_core.spec import DRAINED, KINDS, ReservoirKind
from shelf.models import Fluid
from visits.models import Service
from visits.selectors import services_of, top_ups_of
from workshop.models import Person

from planning.models import WardRow
from planning.selectors import share_left
from planning.shapes import Ask

from . import mapping
from .shapes import (
    BikeAsks,
    Changed,
    FindingLine,
    FindingsLedger,
    LedgerAsked,
    LedgerChoices,
    WearHistory,
)

PAGE, MONTH, SOME = 40, timedelta(days=31), 60
# what a line of the ledger shows: its rows are many, and whole ones hold a lot
SHOWN = (
    *("pk", "found_on", "reservoir", "kind", "look", "counts", "said", "fluid"),
    *("bike_id", "bike__name", "bike__model__make", "bike__model__name", "bike__model__year"),
    "found_by__name",
)
LEVELS = ("pk", "bike_id", "bike__name", "reservoir", "look", "found_on", "counts")


def wear_history(bike_id: UUID, key: str) -> tuple[ReservoirKind, WearHistory]:
    """One reservoir over distance, and its kind. Raises Http404 for one the bike does not have."""
    bike = Bike.objects.select_related("model").filter(pk=bike_id).first()
    named = _named(bike, key) if bike else None
    if bike is None or named is None:
        raise Http404
    label, kind = named
    found = counting(Finding.objects.filter(bike=bike, reservoir=key))
    rows = list(whole(found).select_related("reading", "bike").prefetch_related("bike__own_cells"))
    follow(rows, corrections([bike_id]))
    history = mapping.history(
        bike,
        key,
        label,
        KINDS[kind].runs_engine,
        sorted(rows, key=lambda row: (row.found_on, row.reading.km)),
        services_of([bike_id]).get((bike_id, key), []),
        top_ups_of(bike_id).get(key, []),
        shown_by_kind(kind),
        last_odometer([bike_id]).get(bike_id),
    )
    return kind, history


def _named(bike: Bike, key: str) -> tuple[str, ReservoirKind] | None:
    """What a reservoir is called and of which kind it is: as the ward keeps it, or else by its sheet."""
    shape = WardRow.objects.filter(bike=bike).values_list("shape", flat=True).first() or {}
    for glass in shape.get("glasses", []):
        if glass["key"] == key:
            return glass["label"], ReservoirKind(glass["kind"])
    spec = specs_of([bike]).get(bike.pk)
    reservoir = spec.reservoir(key) if spec else None
    return (reservoir.label, reservoir.kind) if reservoir else None


def with_fluid(rows: QuerySet[Finding]) -> QuerySet[Finding]:
    """With the oil it was found in: what the service before had put in."""
    before = Service.objects.filter(
        bike=OuterRef("bike"), reservoir=OuterRef("reservoir"), done_on__lt=OuterRef("found_on")
    )
    last = before.exclude(fluid="").order_by("-done_on").values("fluid")[:1]
    return rows.annotate(fluid=Subquery(last))


def _counted(rows: QuerySet[Finding]) -> QuerySet[Finding]:
    """With the level that counts: a lead's, where one overruled it."""
    newest = Overruling.objects.filter(finding=OuterRef("pk")).order_by("-at", "-id")
    return rows.annotate(counts=Coalesce(Subquery(newest.values("level")[:1]), F("level")))


def _wanted(asked: LedgerAsked) -> QuerySet[Finding]:
    rows = counting(Finding.objects.all())
    if asked.level:
        rows = _counted(rows).filter(**{"counts": asked.level})
    if asked.matter:
        rows = rows.filter(pk__in=Debris.objects.filter(matter=asked.matter).values("finding"))
    if asked.kind:
        known = asked.kind in tuple(ReservoirKind)
        of = of_kind(ReservoirKind(asked.kind)) if known else Finding.objects.none()
        rows = rows.filter(pk__in=of.values("pk"))
    if asked.model:
        rows = rows.filter(bike__model__in=_models(asked.model))
    if asked.grader:
        rows = rows.filter(found_by__name=asked.grader)
    if asked.school:
        rows = _of_school(rows, asked.school)
    return with_fluid(rows).filter(**{"fluid": asked.fluid}) if asked.fluid else rows


def _of_school(rows: QuerySet[Finding], choice: str) -> QuerySet[Finding]:
    """Those of reservoirs whose oil is changed by this practice: the bike's own, or the workshop's."""
    own = OwnSchool.objects.filter(bike=OuterRef("bike"), kind=OuterRef("kind"), topic=INTERVAL)
    shared = workshop_schools()
    kinds = [kind.value for kind in DRAINED if shared.of(kind, INTERVAL).choice == choice]
    by_default = Q(kind__in=kinds) & ~Exists(own)
    return rows.filter(by_default | Exists(own.filter(choice=choice)))


def _models(name: str) -> list[int]:
    return [row.pk for row in BikeModel.objects.all() if model_words(row) == name]


def _line(row: dict[str, Any], seen: Sequence[Part]) -> FindingLine:
    named = ("make", "name", "year")
    model = BikeModel(**{part: row[f"bike__model__{part}"] for part in named})
    return FindingLine(
        id=str(row["pk"]),
        on=row["found_on"].isoformat(),
        bike=row["bike__name"],
        bike_id=str(row["bike_id"]),
        model=model_words(model),
        reservoir=row["reservoir"],
        kind=row["kind"],
        level=_level(row),
        parts=on_plug(seen),
        words=look_words(row["look"]) or mapping.seen_words(seen),
        look=bool(row["look"]),
        chance="" if row["said"] is None else chance_words(row["said"]),
        fluid=row["fluid"] or "",
        by=row["found_by__name"],
    )


def _debris(findings: Iterable[UUID]) -> dict[UUID, list[Part]]:
    """What each of these findings showed, in the order it was written down."""
    seen: dict[UUID, list[Part]] = {}
    for one in Debris.objects.filter(finding__in=list(findings)):
        seen.setdefault(one.finding_id, []).append(seen_as.part(one))
    return seen


def _asking(today: date) -> list[BikeAsks]:
    """What findings ask for, as the ward's rows keep it; the gravest first."""
    rows = WardRow.objects.filter(asking=True)
    found = rows.order_by("-on_hold", share_left(today), "name").values_list(
        "name", "bike", "shape__asks"
    )
    asking = [BikeAsks(name, str(bike), _asks(asks)) for name, bike, asks in found[:SOME]]
    return sorted(asking, key=lambda one: -max(ask.level.level for ask in one.asks))


def _asks(kept: list[dict[str, str]]) -> list[Ask]:
    return [Ask(**{**one, "level": LevelWord(one["level"])}) for one in kept]  # type: ignore[arg-type]


def _worse(today: date) -> list[list[dict[str, Any]]]:
    """The last two findings, the newest first, of reservoirs whose finding of the last month is graver
    than the one before it."""
    recent = counting(Finding.objects.filter(found_on__gt=today - MONTH))
    # what was read as routine, and left so, is not graver than anything
    lately = recent.exclude(level=LevelWord.ROUTINE, overrulings=None).order_by("-found_on")
    places = list(lately.values_list("bike", "reservoir")[:SOME])
    of_bikes = counting(Finding.objects.filter(bike__in={bike for bike, _ in places}))
    rows = _counted(of_bikes).order_by("-found_on", "-kept_at").values(*LEVELS)
    grouped: dict[tuple[UUID, str], list[dict[str, Any]]] = {}
    for row in rows:
        grouped.setdefault((row["bike_id"], row["reservoir"]), []).append(row)
    lasting = [grouped.get(place, [])[:2] for place in dict.fromkeys(places)]
    return [two for two in lasting if len(two) > 1 and _level(two[0]).level > _level(two[1]).level]


def _level(row: dict[str, Any]) -> LevelWord:
    return LevelWord(row["counts"])


def _change(before: dict[str, Any], row: dict[str, Any], seen: Sequence[Part]) -> Changed:
    return Changed(
        bike=row["bike__name"],
        bike_id=str(row["bike_id"]),
        reservoir=row["reservoir"],
        on=row["found_on"].isoformat(),
        was=_level(before),
        now=_level(row),
        look=bool(row["look"]),
        parts=on_plug(seen),
    )


def _choices() -> LedgerChoices:
    readers = Person.objects.order_by("name").values_list("name", flat=True)
    return LedgerChoices(
        levels=list(LevelWord),
        matters=list(Matter),
        kinds=[
            kind.value for kind in ReservoirKind if KINDS[kind].drained or KINDS[kind].looked_at
        ],
        models=sorted(model_words(row) for row in BikeModel.objects.all()),
        fluids=list(Fluid.objects.order_by("name").values_list("name", flat=True)),
        graders=list(readers),
        schools=list(next(topic.choices for topic in TOPICS if topic.key == INTERVAL)),
    )


def _all_counting() -> int:
    """How many findings count, without looking at each for another that stands in its place."""
    regrades = Finding.objects.filter(regrade_of__isnull=False)
    return Finding.objects.count() - regrades.values("regrade_of").distinct().count()


def ledger(asked: LedgerAsked, today: date) -> FindingsLedger:
    """A page of the findings wanted, newest first, in a number of queries that does not grow."""
    rows = _wanted(asked)
    count = _all_counting() if asked == LedgerAsked(page=asked.page) else rows.count()
    pages = max(1, ceil(count / PAGE))
    page = min(max(asked.page, 1), pages)
    shown = _counted(rows).order_by("-found_on", "-kept_at", "-pk")[(page - 1) * PAGE : page * PAGE]
    lines, worse = list(with_fluid(shown).values(*SHOWN)), _worse(today)
    seen = _debris(row["pk"] for row in (*lines, *(newest for newest, _ in worse)))
    return FindingsLedger(
        asking=_asking(today),
        changed=[_change(before, newest, seen.get(newest["pk"], [])) for newest, before in worse],
        lines=[_line(row, seen.get(row["pk"], [])) for row in lines],
        count=count,
        page=page,
        pages=pages,
        choices=_choices(),
    )

from collections.abc import Iterable
from datetime import date
from functools import lru_cache
from uuid import UUID

from django.db.models import Count, Exists, Max, OuterRef, Q, QuerySet
from django.http import Http404
from garage.models import Bike
from garage.odometer.selectors import corrections, follow
from oilward_core.debris import (
    Cohort,
    Found,
    LevelWord,
    Matter,
    Outcome,
    Rule,
    cohort_of,
    fine_steel,
    onset_rate,
    quarter_start,
)
from oilward_core.spec import ReservoirKind, ReservoirSpec
from oilward_core.trend import Band, band
from workshop.touched import generation

from . import mapping
from . import seen as seen_as
from .models import Answer, Finding, Picture


def whole(rows: QuerySet[Finding]) -> QuerySet[Finding]:
    """With everything a finding is shown with."""
    return rows.select_related("found_by", "regrade_of__found_by").prefetch_related(
        "debris", "answers__by", "overrulings__by", "pictured", "regrade_of__debris"
    )


def picture_or_404(picture_id: UUID) -> bytes:
    row = Picture.objects.filter(pk=picture_id).first()
    if row is None:
        raise Http404
    return bytes(row.jpeg)


def last_findings(bike_ids: Iterable[UUID]) -> dict[tuple[UUID, str], Finding]:
    """The latest finding of each reservoir of each bike."""
    rows = (
        whole(counting(Finding.objects.filter(bike_id__in=list(bike_ids))))
        .order_by("bike_id", "reservoir", "-found_on", "-reading__km")
        .distinct("bike_id", "reservoir")
    )
    return {(row.bike_id, row.reservoir): row for row in rows}


def of_bike(bike_id: UUID) -> list[Finding]:
    """All findings of a bike that count, newest first."""
    found = counting(Finding.objects.filter(bike_id=bike_id)).select_related("reading")
    rows = list(whole(found))
    follow(rows, corrections([bike_id]))
    return sorted(rows, key=lambda row: (row.found_on, row.reading.km), reverse=True)


def of_reservoir(bike_id: UUID, reservoir: str) -> list[Finding]:
    """The findings of one reservoir that count, newest first."""
    if not Bike.objects.filter(pk=bike_id).exists():
        raise Http404
    return [row for row in of_bike(bike_id) if row.reservoir == reservoir]


def fine_last_time(bike_id: UUID, reservoir: ReservoirSpec) -> bool:
    """Whether the last finding there showed more fine steel than usual."""
    row = last_findings([bike_id]).get((bike_id, reservoir.key))
    if row is None:
        return False
    return bool(fine_steel(seen_as.seen(row, reservoir.kind, row.km_since_wiped, row.run_in)))


def watched_last_time(bike_id: UUID, reservoir: str) -> bool:
    """Whether the last finding there asks for a sample of the oil with the next drain."""
    row = last_findings([bike_id]).get((bike_id, reservoir))
    return row is not None and mapping.is_watched(row)


def dipstick_excused(bike_id: UUID, reservoir: str) -> bool:
    """Whether a flaking dipstick has explained a finding there before: it does so once."""
    rows = Finding.objects.filter(bike_id=bike_id, reservoir=reservoir).only("rules")
    return any(rule == Rule.DIPSTICK for row in rows for rule, _ in mapping.ruled(row))


def history_of(
    bike_id: UUID, reservoir: str, without: UUID | None = None
) -> tuple[list[Found], bool]:
    """A reservoir's findings as the growth filter reads them; a regrade counts instead of the first.
    And whether a fault was put right since the last. ``without`` one that is being regraded."""
    rows = Finding.objects.filter(bike_id=bike_id, reservoir=reservoir)
    if without is not None:
        rows = rows.exclude(pk=without)
    return mapping.history(_for_history(rows))


def _for_history(rows: QuerySet[Finding]) -> QuerySet[Finding]:
    return rows.select_related("bike", "reading").prefetch_related(
        "debris", "answers", "bike__own_cells"
    )


GRAVE = [str(LevelWord.INVESTIGATE), str(LevelWord.HOLD)]


def still_asking(bike_ids: Iterable[UUID]) -> dict[tuple[UUID, str], list[Finding]]:
    """Findings that ask for something until they are answered, by reservoir, the newest first."""
    grave = Q(level__in=GRAVE) | Q(overrulings__level__in=GRAVE)
    rows = counting(Finding.objects.filter(grave, bike_id__in=list(bike_ids))).distinct()
    grouped: dict[tuple[UUID, str], list[Finding]] = {}
    for row in rows.order_by("-found_on").prefetch_related("answers", "overrulings"):
        grouped.setdefault((row.bike_id, row.reservoir), []).append(row)
    return {key: mapping.asking(of) for key, of in grouped.items()}


def cohort_at(kind: ReservoirKind, day: date) -> Cohort:
    """What healthy reservoirs of this kind show in this workshop, as known at the start of the day's
    quarter."""
    before = quarter_start(day)
    used = Finding.objects.filter(kind=kind.value, found_on__lt=before)
    counted = used.aggregate(Count("pk"), Max("reading__written_at"), Count("answers"))
    return _cohort(kind, before, *counted.values())


@lru_cache(maxsize=256)
def _cohort(kind: ReservoirKind, before: date, number: int, newest: object, told: int) -> Cohort:
    rows = Finding.objects.filter(kind=kind.value, found_on__lt=before)
    histories: dict[str, list[Finding]] = {}
    for row in _for_history(rows):
        histories.setdefault(f"{row.bike_id}/{row.reservoir}", []).append(row)
    read = {key: mapping.history(of)[0] for key, of in histories.items()}
    regraded = {key: mapping.regraded(of) for key, of in histories.items()}
    answers = Answer.objects.filter(finding__in=rows)
    faults = answers.filter(outcome=Outcome.FAULT).count()
    onset = onset_rate(faults, answers.values("finding").distinct().count())
    return cohort_of(read, before, onset, regraded)


NEWEST = 400


def newest_of(kind: ReservoirKind) -> str:
    """Which finding of a kind is the newest in this workshop; empty while there is none."""
    rows = Finding.objects.filter(kind=kind.value).order_by("-found_on", "-pk")
    return str(rows.values_list("pk", flat=True).first() or "")


def shown_by_kind(kind: ReservoirKind) -> dict[Matter, Band]:
    """What the newest findings of a kind in this workshop show, by matter; worked out anew when there is
    a newer one."""
    return _bands(kind, newest_of(kind), generation())


@lru_cache(maxsize=64)
def _bands(kind: ReservoirKind, newest: str, generation: int) -> dict[Matter, Band]:
    rows = counting(Finding.objects.filter(kind=kind.value, run_in=False)).order_by("-found_on")
    shown = [mapping.found(row) for row in rows[:NEWEST].prefetch_related("debris")]
    bands = {matter: band(shown, matter) for matter in Matter}
    return {matter: seen for matter, seen in bands.items() if seen is not None}


def counting(rows: QuerySet[Finding]) -> QuerySet[Finding]:
    """Those that count: a regraded one does not."""
    return rows.filter(~Exists(Finding.objects.filter(regrade_of=OuterRef("pk"))))

from collections.abc import Iterable
from datetime import date
from functools import lru_cache
from uuid import UUID

from django.db.models import Count, Exists, Max, OuterRef, Q, QuerySet
from django.http import Http404
from garage.models import Bike, SheetCell, SpecSheet
from garage.odometer.selectors import corrections, follow
from oilward_core.debris import (
    Cohort,
    Found,
    LevelWord,
    Matter,
    Outcome,
    Rule,
    SoFar,
    Told,
    fine_steel,
    learned,
    onset_rate,
    quarter_start,
    so_far,
    told_by,
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
        .order_by("bike_id", "reservoir", "-found_on", "-kept_at")
        .distinct("bike_id", "reservoir")
    )
    return {(row.bike_id, row.reservoir): row for row in rows}


def of_bike(bike_id: UUID) -> list[Finding]:
    """All findings of a bike that count, newest first."""
    found = counting(Finding.objects.filter(bike_id=bike_id)).select_related("reading")
    rows = list(whole(found))
    follow(rows, corrections([bike_id]))
    return sorted(rows, key=lambda row: (row.found_on, row.kept_at), reverse=True)


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
    for row in rows.order_by("-found_on", "-kept_at").prefetch_related("answers", "overrulings"):
        grouped.setdefault((row.bike_id, row.reservoir), []).append(row)
    return {key: mapping.asking(of) for key, of in grouped.items()}


def _kinds_now() -> dict[tuple[int, str], str]:
    """The kind of each reservoir, by model and key, that a later version of its sheet calls another."""
    cells = SheetCell.objects.filter(sheet__state=SpecSheet.State.APPROVED, part="", field="kind")
    said: dict[tuple[int, str], list[str]] = {}
    rows = cells.order_by("sheet__version").values_list("sheet__model", "reservoir", "written")
    for model, reservoir, written in rows:
        said.setdefault((model, reservoir), []).append(written.strip().lower())
    return {place: kinds[-1] for place, kinds in said.items() if len(set(kinds)) > 1}


def of_kind(kind: ReservoirKind) -> QuerySet[Finding]:
    """The findings of a kind of reservoir: where a sheet calls one by another kind than before, its
    findings follow."""
    here, moved = Q(kind=kind.value), _kinds_now()
    for (model, reservoir), now in moved.items():
        place = Q(bike__model=model, reservoir=reservoir)
        here = here | place if now == kind.value else here & ~place
    return Finding.objects.filter(here)


def place_of(bike_id: UUID, reservoir: str) -> str:
    """What a reservoir is called among those of its kind."""
    return f"{bike_id}/{reservoir}"


def cohort_at(kind: ReservoirKind, day: date, without: str = "") -> Cohort:
    """What healthy reservoirs of this kind show in this workshop, as known at the start of the day's
    quarter; ``without`` the one that is to be judged by it (`place_of`)."""
    before = quarter_start(day)
    used = of_kind(kind).filter(found_on__lt=before)
    counted = used.aggregate(Count("pk"), Max("kept_at"), Count("answers"))
    return _cohort(kind, before, without, *counted.values())


@lru_cache(maxsize=4096)
def _cohort(
    kind: ReservoirKind, before: date, without: str, number: int, newest: object, told: int
) -> Cohort:
    return learned(*_told(kind, before, number, newest, told), without)


@lru_cache(maxsize=64)
def _told(
    kind: ReservoirKind, before: date, number: int, newest: object, told: int
) -> tuple[dict[str, tuple[Told, ...]], dict[str, tuple[Told, ...]], float]:
    """What the findings of a kind before a quarter tell, what first readings do, and how often a fault
    begins."""
    rows = of_kind(kind).filter(found_on__lt=before)
    histories: dict[str, list[Finding]] = {}
    for row in _for_history(rows):
        histories.setdefault(place_of(row.bike_id, row.reservoir), []).append(row)
    read = {key: mapping.history(of)[0] for key, of in histories.items()}
    regraded = {key: mapping.regraded(of) for key, of in histories.items()}
    faults = Answer.objects.filter(finding__in=rows, outcome=Outcome.FAULT).count()
    onset = onset_rate(faults, sum(map(len, read.values())))
    return told_by(read, before), told_by(regraded, before), onset


def so_far_of(
    bike: Bike, reservoir: str, kind: ReservoirKind, day: date, without: UUID | None = None
) -> SoFar:
    """What a reservoir's findings so far come to, for the next one. ``without`` one that is being
    regraded."""
    rows = Finding.objects.filter(bike_id=bike.pk, reservoir=reservoir)
    if without is not None:
        rows = rows.exclude(pk=without)
    found = list(_for_history(rows))
    history, repaired = mapping.history(found)
    return so_far(
        history,
        cohort_at(kind, day, place_of(bike.pk, reservoir)),
        day,
        repaired=repaired,
        new_baseline=mapping.new_baseline_since(found, bike, kind, day),
    )


NEWEST = 400


def newest_of(kind: ReservoirKind) -> str:
    """Which finding of a kind is the newest in this workshop; empty while there is none."""
    rows = of_kind(kind).order_by("-found_on", "-kept_at", "-pk")
    return str(rows.values_list("pk", flat=True).first() or "")


def shown_by_kind(kind: ReservoirKind) -> dict[Matter, Band]:
    """What the newest findings of a kind in this workshop show, by matter; worked out anew when there is
    a newer one."""
    return _bands(kind, newest_of(kind), generation())


@lru_cache(maxsize=64)
def _bands(kind: ReservoirKind, newest: str, generation: int) -> dict[Matter, Band]:
    rows = counting(of_kind(kind).filter(run_in=False)).order_by("-found_on")
    shown = [mapping.found(row) for row in rows[:NEWEST].prefetch_related("debris")]
    bands = {matter: band(shown, matter) for matter in Matter}
    return {matter: seen for matter, seen in bands.items() if seen is not None}


def counting(rows: QuerySet[Finding]) -> QuerySet[Finding]:
    """Those that count: a regraded one does not."""
    return rows.filter(~Exists(Finding.objects.filter(regrade_of=OuterRef("pk"))))

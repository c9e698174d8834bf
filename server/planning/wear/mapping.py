"""Between findings, services and the core's trends."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from decimal import Decimal
from itertools import pairwise

from findings.mapping import (
    found,
    level,
    level_word,
    new_baseline,
    plug,
    put_right,
)
from findings.models import Answer, Finding
from findings.seen import parts
from garage.mapping import odometer
from garage.models import Bike, OdometerReading
from oilward_bench import on_plug
from oilward_core.bench import part_words
from oilward_core.debris import Matter, Outcome, Part, chance_words
from oilward_core.odometer import shown
from oilward_core.quantity import convert
from oilward_core.spec import Variant
from oilward_core.trend import Band, Lean, beside_kind, charted, lean, owner_words, wear_of
from visits.models import Service, TopUp

from .shapes import Mark, OilPoint, WearBand, WearHistory, WearPoint, WearSeries

AT_MOST = 60  # points on one axis


def _km(bike: Bike, km: object) -> float:
    return float(convert(km - bike.offset_km, bike.odometer_unit))  # type: ignore[operator]


def _point(bike: Bike, row: Finding, anew: bool) -> WearPoint:
    return WearPoint(
        id=str(row.pk),
        on=row.found_on.isoformat(),
        km=_km(bike, row.reading.km),
        at=shown(row.reading.km, odometer(bike)),
        level=level_word(row),
        parts=on_plug(parts(row)),
        chance=None if row.said is None else round(row.said * 100, 1),
        chance_words="" if row.said is None else chance_words(row.said),
        by=row.found_by.name,
        run_in=row.run_in,
        anew=anew,
    )


def _band(seen: Band | None) -> WearBand | None:
    return (
        None
        if seen is None
        else WearBand(low=seen.low, middle=seen.middle, high=seen.high, n=seen.n)
    )


def _leans(seen: Lean | None) -> str:
    if seen is None:
        return "Too few to lean any way."
    if seen.rises:
        return f"Rises by {seen.per_1000:.3f} per 1000 km."
    return "Leans no way beyond doubt."


def _series(
    rows: Sequence[Finding], kind: Mapping[Matter, Band], matter: Matter, begins: Sequence[int]
) -> WearSeries:
    """``begins``: the findings a new baseline begins with, by number; what leans is since the last."""
    worn = [float(wear_of(found(row)).get(matter, 0)) for row in rows]
    seen = charted(worn, begins)
    since = begins[-1] if begins else 0
    lately = list(zip(rows, worn, strict=True))[since:]
    used = [(row, value) for row, value in lately if not row.run_in]
    leaning = lean([float(row.reading.km) for row, _ in used], [value for _, value in used])
    return WearSeries(
        matter=matter,
        values=worn,
        smooth=[round(value, 4) for value in seen.smooth],
        low=seen.low,
        high=seen.high,
        outside=list(seen.outside),
        band=_band(kind.get(matter)),
        leans=" ".join(
            words
            for words in (
                _leans(leaning),
                beside_kind([value for _, value in used], kind.get(matter)),
            )
            if words
        ),
    )


def _matters(rows: Iterable[Finding]) -> list[Matter]:
    shown_ones = {Matter(one.matter) for row in rows for one in row.debris.all()}
    return [matter for matter in Matter if matter in shown_ones or matter == Matter.STEEL]


def _oil(bike: Bike, services: Sequence[Service]) -> list[OilPoint]:
    return [
        OilPoint(
            on=row.done_on.isoformat(),
            km=_km(bike, row.km),
            at=shown(row.km, odometer(bike)),
            drained=None if row.drained_ml is None else float(row.drained_ml),
            took=None if row.took_ml is None else float(row.took_ml),
            fluid=row.fluid,
        )
        for row in services
    ]


def _mark(bike: Bike, lane: str, on: date | None, km: Decimal, words: str) -> Mark:
    seen = shown(km, odometer(bike))
    return Mark(lane=lane, on=on.isoformat() if on else "", at=seen, km=_km(bike, km), words=words)


def _answered(bike: Bike, row: Finding, answer: Answer) -> Mark:
    lane = "Put right" if answer.outcome == Outcome.FAULT else "Looked into"
    words = answer.words if lane == "Put right" else answer.outcome
    return _mark(bike, lane, answer.at.date(), row.reading.km, words)


def _from_services(bike: Bike, services: Sequence[Service]) -> list[Mark]:
    """Where another oil was filled, and where the filter went on new."""
    another = [
        _mark(bike, "Another oil", row.done_on, row.km, f"{row.fluid}, before: {last.fluid}")
        for last, row in pairwise(services)
        if row.fluid and last.fluid and row.fluid != last.fluid
    ]
    return another + [
        _mark(bike, "New filter", row.done_on, row.km, "Oil filter renewed")
        for row in services
        if row.variant == Variant.WITH_FILTER
    ]


def _marks(
    bike: Bike,
    rows: Iterable[Finding],
    services: Sequence[Service],
    top_ups: Iterable[TopUp],
    engine: bool,
) -> list[Mark]:
    marks = [_answered(bike, row, answer) for row in rows for answer in row.answers.all()]
    marks += _from_services(bike, services)
    marks += [
        _mark(bike, "Topped up", row.done_on, row.reading.km, f"{row.ml:.0f} ml") for row in top_ups
    ]
    if engine and bike.engine_at_km is not None:
        marks.append(_mark(bike, "Engine", None, bike.engine_at_km, "Another engine fitted"))
    return sorted(marks, key=lambda mark: mark.km)


def history(
    bike: Bike,
    key: str,
    label: str,
    engine: bool,
    rows: Sequence[Finding],
    services: Sequence[Service],
    top_ups: Sequence[TopUp],
    kind: Mapping[Matter, Band],
    now: OdometerReading | None,
) -> WearHistory:
    """``rows``: the findings that count, oldest first."""
    kept = rows[-AT_MOST:]
    newest = kept[-1] if kept else None
    earlier: list[Finding | None] = [None, *kept]
    points = [
        _point(bike, row, put_right(before) or new_baseline(before, row))
        for before, row in zip(earlier, kept, strict=False)
    ]
    begins = [number for number, point in enumerate(points) if point.anew]
    return WearHistory(
        bike=bike.name,
        bike_id=str(bike.pk),
        reservoir=key,
        label=label,
        unit=bike.odometer_unit,
        now=_km(bike, now.km) if now else 0.0,
        points=points,
        plugs=[plug(row, whole=True) for row in kept],
        series=[_series(kept, kind, matter, begins) for matter in _matters(kept)] if kept else [],
        oil=_oil(bike, services[-AT_MOST:]),
        marks=_marks(bike, kept, services[-AT_MOST:], top_ups, engine),
        owner=owner_words(label, level(newest), newest.origin) if newest else "",
    )


def seen_words(seen: Iterable[Part]) -> str:
    """What was seen, in a line: ``paste of steel, 20%``."""
    return "; ".join(part_words(one) for one in seen) or "clean magnet"

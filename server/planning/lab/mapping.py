"""Between samples, reports and the core."""

from collections.abc import Iterable, Mapping, Sequence
from decimal import Decimal
from typing import Any

from config.sentences import sentence_of
from garage.mapping import odometer
from garage.models import Bike
from oilward_core.errors import CoreError
from oilward_core.odometer import shown
from oilward_core.quantity import convert
from oilward_core.trend import charted
from oilward_core.usedoil import MEANS, Analysis, Element, particle_code, rates, remarks

from planning.models import LabFile, LabReport, Sample

from .shapes import (
    ElementRate,
    ElementSeries,
    FaultLine,
    LabHistory,
    LabPoint,
    LabProgress,
    RemarkLine,
    SampleLine,
)

_ELEMENTS = {element.value for element in Element}
Fresh = Mapping[str, Decimal]


def sample_line(row: Sample, answered: bool) -> SampleLine:
    what = f"fresh {row.fluid}" if row.bike is None else f"{row.bike.name}, {row.reservoir}"
    return SampleLine(
        id=str(row.pk),
        label=row.label,
        what=what,
        bike_id=str(row.bike_id or ""),
        reservoir=row.reservoir,
        taken_on=row.taken_on.isoformat(),
        by=row.by.name,
        answered=answered,
    )


def fault(line: int, field: str, code: str, fields: Mapping[str, Any]) -> dict[str, Any]:
    said = sentence_of(CoreError(code, **{**fields, "field": field}))
    return {"line": line, "field": field, "said": said}


def progress(row: LabFile) -> LabProgress:
    return LabProgress(
        id=str(row.pk),
        lines=row.lines,
        done=row.done,
        taken=row.taken,
        faults=[FaultLine(**one) for one in row.faults],
        refused=row.refused,
        finished=row.finished_at is not None,
    )


def values(row: LabReport) -> dict[str, Decimal]:
    return {one.name: one.value for one in row.values.all()}


def analysis(
    row: LabReport, fresh: Fresh, fresh_kv100: Decimal | None, grade: str = ""
) -> Analysis:
    """A report, with what is known of the oil when it was fresh."""
    said = values(row)
    return Analysis(
        km=row.sample.km_on_oil or Decimal(0),
        elements={Element(name): value for name, value in said.items() if name in _ELEMENTS},
        kv100=said.get("kv100"),
        water=said.get("water"),
        fuel=said.get("fuel"),
        fresh={Element(name): value for name, value in fresh.items() if name in _ELEMENTS},
        fresh_kv100=fresh.get("kv100", fresh_kv100),
        grade=grade,
    )


def _particles(said: Mapping[str, Decimal]) -> str:
    counts = [float(said[name]) for name in ("p4", "p6", "p14") if name in said]
    return particle_code(counts) if len(counts) == 3 else ""


def _point(bike: Bike, row: LabReport, one: Analysis) -> LabPoint:
    reading = row.sample.reading
    km = reading.km if reading else Decimal(0)
    return LabPoint(
        label=row.sample.label,
        on=row.sample.taken_on.isoformat(),
        km=float(convert(km - bike.offset_km, bike.odometer_unit)),
        at=shown(km, odometer(bike)),
        laboratory=row.laboratory,
        simulated=row.simulated,
        rates=[
            ElementRate(element.value, round(float(rate), 2), MEANS[element])
            for element, rate in rates(one).items()
        ],
        particles=_particles(values(row)),
        remarks=[RemarkLine(remark.level.word, remark.text) for remark in remarks(one)],
    )


def _series(points: Sequence[LabPoint], element: Element) -> ElementSeries:
    found = [
        next((one.rate for one in point.rates if one.element == element), None) for point in points
    ]
    known = [(number, value) for number, value in enumerate(found) if value is not None]
    seen = charted([value for _, value in known])
    smooth: list[float | None] = [None] * len(found)
    for (number, _), z in zip(known, seen.smooth, strict=True):
        smooth[number] = round(z, 3)
    outside = [known[place][0] for place in seen.outside]
    return ElementSeries(
        element=element.value,
        means=MEANS[element],
        values=found,
        smooth=smooth,
        high=seen.high,
        outside=outside,
    )


def history(
    bike: Bike, rows: Iterable[LabReport], fresh: Mapping[str, tuple[Fresh, Decimal | None, str]]
) -> LabHistory:
    """``fresh``: by fluid, what its own report said, its data sheet's viscosity and its grade."""
    points = [
        _point(bike, row, analysis(row, *fresh.get(row.sample.fluid, ({}, None, ""))))
        for row in rows
    ]
    measured = [point for point in points if not point.simulated] or points
    shown_ones = {one.element for point in points for one in point.rates}
    elements = [element for element in Element if element.value in shown_ones]
    newest = measured[-1] if measured else None
    return LabHistory(points, newest, [_series(points, element) for element in elements])

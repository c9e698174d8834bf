"""Between rows and the core for due states, glasses and spec lines."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal

from findings.mapping import plug
from findings.models import Finding
from garage.mapping import BikeSpec, when_new
from garage.models import Bike, OdometerReading
from oilward_core.due import Due, Meter, due, say_due
from oilward_core.errors import CoreError
from oilward_core.fill import FillCase, prior
from oilward_core.quantity import show
from oilward_core.reasons import Reason, Source
from oilward_core.schools import (
    FILTER,
    HALF_THE_BOOK,
    INTERVAL,
    Schools,
    filter_is_due,
    severity_with,
    since_filter,
)
from oilward_core.sheet import Speaker
from oilward_core.spec import (
    Cell,
    FillRule,
    Path,
    ReservoirKind,
    ReservoirSpec,
    Variant,
    doubts,
    field_of,
    is_number,
    missing,
    read_value,
    said,
    what,
)
from visits.mapping import valid_takes
from visits.models import Service
from workshop.mapping import whys

from .shapes import Glass, ServiceLine, SpecLine

# kinds that share a column of the ward, in the order the eye runs over a bike
COLUMNS = {
    ReservoirKind.ENGINE: "Engine",
    ReservoirKind.ENGINE_DRY: "Engine",
    ReservoirKind.CLUTCH_CIRCUIT: "Clutch circuit",
    ReservoirKind.PRIMARY: "Primary",
    ReservoirKind.GEARBOX: "Gearbox",
    ReservoirKind.FINAL_DRIVE: "Final drive",
    ReservoirKind.FORK: "Forks",
    ReservoirKind.SHOCK: "Shock",
}
WATCHED = "Watched"


def column(kind: ReservoirKind) -> str:
    return COLUMNS.get(kind, WATCHED)


def now_of(bike: Bike, reading: OdometerReading | None, today: date) -> Meter:
    if reading is None:
        return Meter(today, Decimal(0))
    return Meter(today, reading.km, reading.hours)


def how_due(
    bike: Bike, spec: ReservoirSpec, services: Sequence[Service], now: Meter, schools: Schools
) -> Due:
    interval = schools.of(spec.kind, INTERVAL)
    severity = severity_with(bike.severity, interval)
    if services:
        last = services[-1]
        done = Meter(last.done_on, last.km, last.hours)
        answer = due(spec.limits, done, now, severity=severity)
    else:
        answer = due(spec.limits, when_new(bike), now, first=True, severity=severity)
    if interval.choice == HALF_THE_BOOK:
        why = Reason("school", f"Intervals: {interval}.", Source.TRADE)
        return replace(answer, reasons=(*answer.reasons, why))
    return answer


@dataclass(frozen=True)
class Known:
    """What a reservoir's glass is drawn from besides its spec."""

    bike: Bike
    now: Meter
    schools: Schools


def glass(
    known: Known, spec: ReservoirSpec, services: Sequence[Service], finding: Finding | None
) -> tuple[Glass, Due]:
    bike = known.bike
    answer = how_due(bike, spec, services, known.now, known.schools)
    level = min(max(float(answer.left), 0.0), 1.0)
    shape = Glass(
        spec.key,
        spec.kind.value,
        spec.label,
        column(spec.kind),
        answer.state.value,
        level,
        1 - level,
        say_due(answer, known.now, bike.odometer_unit),
        whys(answer.reasons),
        plug(finding) if finding else None,
    )
    return shape, answer


def _meant(path: Path, cell: Cell, speaks: Speaker, unit: str) -> str:
    field = field_of(path)
    try:
        value = read_value(field, cell.written)
    except CoreError:
        return ""
    return said(field, value, volume=speaks.volume, torque=speaks.torque, distance=unit)


def spec_line(path: Path, spec: BikeSpec, speaks: Speaker, bike: Bike) -> SpecLine:
    cell = spec.cells[path]
    return SpecLine(
        str(path),
        what(path._replace(reservoir="")).capitalize(),
        cell.written,
        _meant(path, cell, speaks, bike.odometer_unit),
        cell.source,
        cell.entered_by,
        cell.checked_by,
        is_number(field_of(path)),
        path in spec.own,
        spec.own.get(path, 0),
    )


_SAID_ELSEWHERE = ("kind", "label", "fill rule", "role", "spot", "place")


def spec_lines(spec: BikeSpec, key: str, speaks: Speaker, bike: Bike) -> list[SpecLine]:
    """A reservoir's values, its own first, then plug by plug."""
    paths = [
        path for path in spec.cells_of(key) if path.field not in _SAID_ELSEWHERE or path in spec.own
    ]
    paths.sort(key=lambda path: path.part)
    return [spec_line(path, spec, speaks, bike) for path in paths]


def service_line(row: Service, speaks: Speaker, unit: str) -> ServiceLine:
    def volume(ml: Decimal | None) -> str:
        return "" if ml is None else show(ml, speaks.volume)

    return ServiceLine(
        row.done_on.isoformat(),
        show(row.km, unit) + (f" · {row.hours:.0f} h" if row.hours is not None else ""),
        row.variant,
        volume(row.drained_ml),
        volume(row.took_ml),
        row.fluid,
        row.done_by,
        str(row.visit_id) if row.visit_id else "",
    )


def level_check(spec: ReservoirSpec) -> str:
    level = spec.level
    if level is None:
        return "Exact quantity, no level to read." if spec.fill_rule == FillRule.EXACT else ""
    minutes = level.run_minutes.normalize()
    run = f"run {minutes:f} min, " if minutes else ""
    held = f"{level.dipstick}, " if level.dipstick else ""
    settle = f"settle {level.settle_minutes.normalize():f} min"
    return f"{level.gauge.capitalize()}, {held}{level.attitude}: {run}{settle}, read at eye level."


def expected_take(spec: ReservoirSpec, services: Sequence[Service], speaks: Speaker) -> str:
    """What it really takes, from its own history; empty without one."""
    if not services:
        return ""
    variant = Variant(services[-1].variant)
    took, capacity = valid_takes(services, variant), spec.capacities.get(variant)
    if not took or capacity is None:
        return ""
    belief, _ = prior(FillCase(capacity, None, None, took))
    mean, sd = (show(Decimal(round(v)), speaks.volume) for v in (belief.mean, belief.sd))
    return f"{mean} ± {sd}, against {show(capacity, speaks.volume)} in the book"


def variants(spec: ReservoirSpec, services: Sequence[Service], schools: Schools) -> list[str]:
    """What a job here can be, the proposed one first: with the filter when that is due."""
    known = [
        v for v in (Variant.WITH_FILTER, Variant.DRAIN_ONLY, Variant.DRY) if v in spec.capacities
    ]
    count = since_filter([s.variant for s in services], Variant.WITH_FILTER.value)
    school = schools.of(spec.kind, FILTER).choice
    if Variant.DRAIN_ONLY in known and not filter_is_due(spec.filter_every, school, count):
        known.sort(key=lambda v: v != Variant.DRAIN_ONLY)
    return [v.value for v in known or [Variant.DRAIN_ONLY]]


def doubted(reservoirs: Sequence[ReservoirSpec], displacement_cc: int) -> dict[str, list[str]]:
    """What looks wrong on a sheet, in sentences, by reservoir."""
    found: dict[str, list[str]] = {}
    for doubt in doubts(reservoirs, displacement_cc):
        found.setdefault(doubt.reservoir, []).append(doubt.text)
    return found


def missing_words(spec: ReservoirSpec) -> list[str]:
    return [what(path._replace(reservoir="")) for path in missing(spec)]

"""Between rows and the core for due states, glasses and spec lines."""

from collections.abc import Sequence
from datetime import date
from decimal import Decimal

from findings.mapping import plug
from findings.models import Finding
from garage.mapping import reservoir_spec, when_new
from garage.models import Bike, FastenerRow, OdometerReading, ReservoirRow, SpecValue
from oilward_core.doubts import doubts
from oilward_core.due import Due, Meter, due, say_due
from oilward_core.fill import FillCase, prior
from oilward_core.quantity import show, show_range
from oilward_core.sheet import Speaker
from oilward_core.spec import FillRule, ReservoirKind, ReservoirSpec, Variant
from oilward_core.torque import read_torque
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


def how_due(bike: Bike, spec: ReservoirSpec, services: Sequence[Service], now: Meter) -> Due:
    if services:
        last = services[-1]
        done = Meter(last.done_on, last.km, last.hours)
        return due(spec.limits, done, now, severity=bike.severity)
    new = when_new(bike)
    return due(spec.limits, new, now, first=True, severity=bike.severity)


def glass(
    bike: Bike,
    row: ReservoirRow,
    services: Sequence[Service],
    finding: Finding | None,
    now: Meter,
) -> tuple[Glass, Due]:
    spec = reservoir_spec(row)
    answer = how_due(bike, spec, services, now)
    level = min(max(float(answer.left), 0.0), 1.0)
    shape = Glass(
        row.key,
        row.kind,
        row.label,
        column(spec.kind),
        answer.state.value,
        level,
        1 - level,
        say_due(answer, now, bike.odometer_unit),
        whys(answer.reasons),
        plug(finding) if finding else None,
    )
    return shape, answer


_KILOMETRES = (".km",)
_NAMES = {
    "initial": "First amount",
    "prefill": "Filter pre-fill",
    "level.between": "Between the marks",
    "level.target": "Fill to",
    "level.run": "Run before reading",
    "level.settle": "Settle before reading",
    "first.km": "First service, distance",
    "first.months": "First service, time",
    "repeat.km": "Every, distance",
    "repeat.months": "Every, time",
    "repeat.hours": "Every, hours",
}
_UNITS = {"level.run": " min", "level.settle": " min", "repeat.hours": " h"}


def _converted(value: SpecValue, speaks: Speaker, unit: str) -> str:
    name = value.name
    if name.startswith("capacity.") or name in ("initial", "prefill", "level.between"):
        return show_range(value.low, value.high, speaks.volume)
    if name.endswith(_KILOMETRES):
        return show_range(value.low, value.high, unit)
    if name.endswith(".months"):
        return f"{value.low:.0f} months"
    if name == "level.target":
        return f"{value.low:.0%} of the way up"
    return f"{value.low:.0f}{_UNITS.get(name, '')}"


def _source(row: SpecValue | FastenerRow) -> str:
    return (
        f"{row.source_document}, p. {row.source_page}" if row.source_page else row.source_document
    )


def spec_line(value: SpecValue, speaks: Speaker, unit: str) -> SpecLine:
    name = _NAMES.get(value.name) or f"Capacity, {value.name.removeprefix('capacity.')}"
    return SpecLine(
        name,
        value.as_written,
        _converted(value, speaks, unit),
        _source(value),
        value.entered_by.name,
        value.checked_by.name if value.checked_by else "",
    )


def plug_line(row: FastenerRow, speaks: Speaker) -> SpecLine:
    torque = read_torque(row.as_written)
    converted = ""
    if torque.by_wrench and torque.low is not None and torque.high is not None:
        converted = show_range(torque.low, torque.high, speaks.torque)
    details = [row.role.capitalize(), row.thread, row.drive, "magnet" if row.magnet else ""]
    return SpecLine(
        ", ".join([d for d in details if d])
        + f" · {row.place}"
        + (f" · {row.seal}" if row.seal else ""),
        row.as_written,
        converted,
        _source(row),
        row.entered_by.name,
        row.checked_by.name if row.checked_by else "",
    )


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
    return (
        f"{level.gauge.capitalize()}, {level.attitude}: run {level.run_minutes.normalize():f} min, "
        f"settle {level.settle_minutes.normalize():f} min, read at eye level."
    )


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


def variants(spec: ReservoirSpec) -> list[str]:
    order = [Variant.WITH_FILTER, Variant.DRAIN_ONLY, Variant.DRY]
    return [variant.value for variant in order if variant in spec.capacities]


def doubted(tanks: Sequence[ReservoirRow], displacement_cc: int) -> dict[str, list[str]]:
    """What looks wrong on a sheet, in sentences, by reservoir."""
    found: dict[str, list[str]] = {}
    for doubt in doubts([reservoir_spec(row) for row in tanks], displacement_cc):
        found.setdefault(doubt.reservoir, []).append(doubt.text)
    return found

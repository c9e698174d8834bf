"""Between the garage's rows and the core's spec sheet."""

from decimal import Decimal

from oilward_core.due import DueLimits, Meter
from oilward_core.spec import (
    Fastener,
    FillRule,
    LevelCheck,
    ReservoirKind,
    ReservoirSpec,
    Variant,
)
from oilward_core.torque import read_torque

from .models import Bike, FastenerRow, OdometerReading, ReservoirRow


def fastener(row: FastenerRow) -> Fastener:
    return Fastener(
        row.role,
        row.place,
        row.thread,
        row.drive,
        row.magnet,
        row.soft,
        read_torque(row.as_written),
        row.seal,
    )


def _values(row: ReservoirRow) -> dict[str, Decimal]:
    return {value.name: (value.low + value.high) / 2 for value in row.values.all()}


def _limits(values: dict[str, Decimal]) -> DueLimits:
    def months(name: str) -> int | None:
        return int(values[name]) if name in values else None

    return DueLimits(
        values.get("first.km"),
        months("first.months"),
        values.get("repeat.km"),
        months("repeat.months"),
        values.get("repeat.hours"),
    )


def _level(row: ReservoirRow, values: dict[str, Decimal]) -> LevelCheck | None:
    if not row.gauge or "level.between" not in values:
        return None
    return LevelCheck(
        row.gauge,
        row.attitude,
        values.get("level.run", Decimal(0)),
        values.get("level.settle", Decimal(0)),
        values["level.between"],
        values.get("level.target", Decimal("0.75")),
    )


def reservoir_spec(row: ReservoirRow) -> ReservoirSpec:
    """A reservoir with its values and fasteners; prefetch both."""
    values = _values(row)
    capacities = {
        variant: values[f"capacity.{variant.value}"]
        for variant in Variant
        if f"capacity.{variant.value}" in values
    }
    return ReservoirSpec(
        row.key,
        ReservoirKind(row.kind),
        row.label,
        FillRule(row.fill_rule),
        capacities,
        values.get("initial"),
        _level(row, values),
        row.fluid,
        values.get("prefill", Decimal(0)),
        tuple(fastener(f) for f in row.fasteners.all()),
        _limits(values),
    )


def meter(reading: OdometerReading) -> Meter:
    return Meter(reading.read_on, reading.km, reading.hours)


def when_new(bike: Bike) -> Meter | None:
    """Where counting starts for a bike known from new; None when its history is unknown."""
    if bike.records != Bike.Records.FROM_NEW or bike.new_on is None:
        return None
    return Meter(bike.new_on, Decimal(0), Decimal(0))

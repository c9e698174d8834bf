"""Between the shelf's rows and the core."""

from decimal import Decimal
from math import isinf

from oilward_core.errors import CoreError
from oilward_core.fluid import (
    ENGINE_HOT,
    GEAR_HOT,
    Measured,
    TwoPoint,
    clutch_class,
    engine_disagreements,
    engine_grades,
    gear_grade,
    iso_vg,
    viscosity_at,
    viscosity_index,
)
from oilward_core.quantity import show
from oilward_core.torque import Wrench

from .models import Fluid, WrenchRow
from .shapes import Band, CurvePoint, FluidCard, Scale

CURVE_FROM, CURVE_TO, CURVE_STEP = 0, 140, 10
ENGINE_LIKE = ("engine", "engine, dry sump")
GEARED = ("gearbox", "final drive")


def wrench(row: WrenchRow) -> Wrench:
    return Wrench(
        str(row.pk),
        row.name,
        row.unit,
        row.low,
        row.high,
        row.resolution,
        row.accuracy,
        row.simulated,
    )


def wrenches() -> tuple[Wrench, ...]:
    return tuple(wrench(row) for row in WrenchRow.objects.all())


def _float(value: Decimal | None) -> float | None:
    return None if value is None else float(value)


def _measured(row: Fluid) -> Measured | None:
    if row.kv100 is None:
        return None
    return Measured(float(row.kv100), _float(row.hths), _float(row.cranking), _float(row.pumping))


def _viscosity_grades(row: Fluid) -> list[str]:
    """The grades the measured viscosities satisfy, on the scale that goes with the reservoir."""
    oil, label = _measured(row), row.grade.split(",")[0]
    if row.serves in ENGINE_LIKE and oil is not None:
        w = label.split("-")[0] if "-" in label else None
        return [f"SAE {grade}" for grade in engine_grades(oil, w)]
    if row.serves in GEARED and oil is not None:
        grade = gear_grade(oil.kv100)
        return [f"gear oil {grade}"] if grade else []
    vg = iso_vg(row.kv40) if row.kv40 is not None else None
    return [f"ISO VG {vg}"] if vg else []


def _friction(row: Fluid) -> str | None:
    if row.dfi is None or row.sfi is None or row.sti is None:
        return None
    return clutch_class(float(row.dfi), float(row.sfi), float(row.sti))


def _disagreements(row: Fluid) -> list[str]:
    said: list[str] = []
    oil, friction = _measured(row), _friction(row)
    if row.serves in ENGINE_LIKE and oil is not None:
        try:
            said += engine_disagreements(row.grade.split(",")[0], oil)
        except CoreError:
            said.append(f"“{row.grade}” names no engine grade to compare with")
    if row.friction_class and friction and friction != row.friction_class:
        said.append(f"friction indices are {friction}, the label says {row.friction_class}")
    return said


def _curve(row: Fluid) -> list[CurvePoint]:
    if row.kv40 is None or row.kv100 is None:
        return []
    oil = TwoPoint(40, float(row.kv40), 100, float(row.kv100))
    steps = range(CURVE_FROM, CURVE_TO + 1, CURVE_STEP)
    return [CurvePoint(float(t), round(viscosity_at(oil, t), 2)) for t in steps]


def _index(row: Fluid) -> int | None:
    if row.kv40 is None or row.kv100 is None or row.kv100 < 2:
        return None
    return viscosity_index(float(row.kv40), float(row.kv100))


def scales() -> list[Scale]:
    """Engine and gear grades by their viscosity at 100 °C: two words for one thickness."""
    engine = [Band(grade, low, high) for grade, (low, high, _) in ENGINE_HOT.items()]
    gear = [
        Band(grade, low, None if isinf(high) else high)
        for grade, (low, high) in GEAR_HOT[2019].items()
    ]
    return [Scale("Engine", engine), Scale("Gear", gear)]


def fluid_card(row: Fluid, volume_unit: str) -> FluidCard:
    friction = _friction(row)
    return FluidCard(
        str(row.pk),
        row.name,
        row.grade,
        row.serves,
        show(row.bottle_ml, volume_unit),
        "" if row.kv40 is None else f"{row.kv40:.1f}",
        "" if row.kv100 is None else f"{row.kv100:.1f}",
        _index(row),
        _viscosity_grades(row) + ([f"friction {friction}"] if friction else []),
        _disagreements(row),
        _curve(row),
    )

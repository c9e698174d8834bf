"""Between the shelf's rows and the core."""

from decimal import Decimal
from math import isinf

from oilward_bench import whys
from oilward_core.errors import CoreError
from oilward_core.fluid import (
    BLENDED,
    ENGINE_HOT,
    GEAR_HOT,
    Fit,
    Measured,
    Offer,
    TwoPoint,
    blend_by_volume,
    climate,
    clutch_class,
    engine_disagreements,
    engine_grades,
    gear_grade,
    hot_band,
    iso_vg,
    match,
    share_of_thicker,
    viscosity_at,
    viscosity_index,
    volume_at,
)
from oilward_core.quantity import convert, show
from oilward_core.reasons import Reason, Source
from oilward_core.schools import Schools
from oilward_core.spec import Requirement, ReservoirKind
from oilward_core.torque import Wrench, calibration_words
from workshop.days import today

from .models import Fluid, WrenchRow
from .shapes import (
    Band,
    Blend,
    CurvePoint,
    FluidCard,
    FluidForm,
    FluidMatch,
    Scale,
    Wanted,
)

CURVE_FROM, CURVE_TO, CURVE_STEP = 0, 140, 10
HOT = 90


def wrench(row: WrenchRow) -> Wrench:
    return Wrench(
        id=str(row.pk),
        name=row.name,
        unit=row.unit,
        low=row.low,
        high=row.high,
        resolution=row.resolution,
        accuracy=row.accuracy,
        simulated=row.simulated,
        length=row.length_mm,
        calibration=calibration_words(row.calibrated_on, row.pulls, today()),
    )


def wrenches() -> tuple[Wrench, ...]:
    return tuple(wrench(row) for row in WrenchRow.objects.all())


def _float(value: Decimal | None) -> float | None:
    return None if value is None else float(value)


def _measured(row: Fluid) -> Measured | None:
    if row.kv100 is None:
        return None
    return Measured(
        kv100=float(row.kv100),
        hths=_float(row.hths),
        cranking=_float(row.cranking),
        pumping=_float(row.pumping),
    )


def _viscosity_grades(row: Fluid) -> list[str]:
    """The grades the measured viscosities satisfy, on the scale that goes with the family."""
    oil = _measured(row)
    if row.family == "engine" and oil is not None:
        w = row.grade.split("-")[0] if "-" in row.grade else None
        return [f"SAE {grade}" for grade in engine_grades(oil, w)]
    if row.family == "gear" and oil is not None:
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
    if row.family == "engine" and oil is not None:
        try:
            said += engine_disagreements(row.grade, oil)
        except CoreError:
            said.append(f"“{row.grade}” names no engine grade to compare with")
    if row.friction_class and friction and friction != row.friction_class:
        said.append(f"friction indices are {friction}, the label says {row.friction_class}")
    return said


def two_points(row: Fluid) -> TwoPoint | None:
    if row.kv40 is None or row.kv100 is None:
        return None
    return TwoPoint(t1=40, v1=float(row.kv40), t2=100, v2=float(row.kv100))


def offer(row: Fluid) -> Offer:
    """A fluid as the core matches it; friction indices speak where the label does not."""
    return Offer(
        name=row.name,
        family=row.family,
        grade=row.grade,
        kv40=_float(row.kv40),
        kv100=_float(row.kv100),
        friction=row.friction_class or _friction(row) or "",
        service=row.service,
        base=row.base,
        approvals=row.approvals,
    )


def label(row: Fluid) -> str:
    parts = (row.grade, row.friction_class, row.service, row.base)
    return ", ".join(dict.fromkeys(part for part in parts if part))


def curve(row: Fluid) -> list[CurvePoint]:
    oil = two_points(row)
    if oil is None:
        return []
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


def _plain(value: Decimal | None) -> str:
    return "" if value is None else f"{value.normalize():f}"


_MEASURED = (
    *("kv40", "kv100", "hths", "cranking", "pumping", "density15", "pour_point"),
    *("dfi", "sfi", "sti"),
)


def bottle(row: Fluid) -> str:
    """What a bottle holds, in the round number it is sold by."""
    quarts = convert(row.bottle_ml, "qt")
    if quarts == quarts.to_integral_value():
        return show(row.bottle_ml, "qt", 0)
    round_litres = row.bottle_ml % 10 == 0 and row.bottle_ml >= 1000
    return (
        f"{(row.bottle_ml / 1000).normalize():f} l" if round_litres else show(row.bottle_ml, "ml")
    )


def fluid_form(row: Fluid) -> FluidForm:
    measured = {name: _plain(getattr(row, name)) for name in _MEASURED}
    return FluidForm(
        id=row.pk,
        version=row.version,
        name=row.name,
        family=row.family,
        bottle=bottle(row),
        grade=row.grade,
        friction_class=row.friction_class,
        service=row.service,
        base=row.base,
        approvals=row.approvals,
        retired=row.retired,
        **measured,
    )


def _swells(row: Fluid) -> str:
    """What a litre filled at 20 °C becomes at 90 °C."""
    if row.density15 is None:
        return ""
    hot = volume_at(1000, 20, HOT, float(row.density15))
    return f"1 l at 20 °C stands as {hot:.0f} ml at {HOT} °C"


def fluid_match(
    row: Fluid, need: Requirement, kind: ReservoirKind, schools: Schools, coldest: float
) -> FluidMatch:
    found = match(need, kind, offer(row), schools)
    cold = climate(row.grade, two_points(row), coldest)
    return FluidMatch(
        id=row.pk,
        name=row.name,
        label=label(row),
        fit=found.fit.word,
        rank=int(found.fit),
        refused=found.fit == Fit.REFUSED,
        cold=cold.text,
        cold_ok=cold.ok,
        curve=curve(row),
        reasons=whys(found.reasons),
    )


def wanted(need: Requirement) -> Wanted:
    """What the chart shows of a requirement; a grade stands for its band at 100 °C."""
    band = hot_band(need.grade)
    at100 = [float(v) for v in need.kv100] if need.kv100 else list(band or ())
    at40 = [float(v) for v in need.kv40] if need.kv40 else []
    return Wanted(str(need) or "nothing in particular", at40, [v for v in at100 if not isinf(v)])


def fluid_card(row: Fluid, coldest: float) -> FluidCard:
    friction, cold = _friction(row), climate(row.grade, two_points(row), coldest)
    density = "" if row.density15 is None else f"{row.density15 / 1000:.3f} kg/l at 15 °C"
    return FluidCard(
        id=row.pk,
        name=row.name,
        label=label(row),
        family=row.family,
        bottle=bottle(row),
        kv40="" if row.kv40 is None else f"{row.kv40:.1f}",
        kv100="" if row.kv100 is None else f"{row.kv100:.1f}",
        index=_index(row),
        satisfies=_viscosity_grades(row) + ([f"friction {friction}"] if friction else []),
        disagrees=_disagreements(row),
        density=density,
        swells=_swells(row),
        cold=cold.text,
        cold_ok=cold.ok,
        curve=curve(row),
        blends=row.family in BLENDED and row.kv40 is not None,
        form=fluid_form(row),
    )


def _mixed(thin: Decimal | None, thick: Decimal | None, share: float) -> str:
    if thin is None or thick is None:
        return ""
    return f"{blend_by_volume([1 - share, share], [float(thin), float(thick)]):.1f} cSt"


def blend(thin: Fluid, thick: Fluid, wanted: Decimal, total: Decimal, unit: str) -> Blend:
    """A blend to ``wanted`` cSt at 40 °C; both fluids need their viscosity there."""
    share = share_of_thicker(float(thin.kv40 or 0), float(thick.kv40 or 0), float(wanted))
    part = (total * Decimal(str(share))).quantize(Decimal(1))
    rest = total - part
    words = f"{show(rest, unit)} of {thin.name} and {show(part, unit)} of {thick.name}"
    why = Reason(
        "blend",
        f"lg lg(v + 0.7) mixed by volume: {share:.1%} of the thicker one. Expect a few percent "
        "against a measured blend.",
        Source.STANDARD,
    )
    return Blend(
        words=words,
        thin=show(rest, unit),
        thick=show(part, unit),
        kv40=_mixed(thin.kv40, thick.kv40, share),
        kv100=_mixed(thin.kv100, thick.kv100, share),
        reasons=whys((why,)),
    )

"""Fluids: viscosity over temperature, index, blends, and the grades measured values satisfy."""

from .grades import (
    ENGINE_HOT,
    GEAR_HOT,
    Measured,
    clutch_class,
    engine_disagreements,
    engine_grades,
    gear_grade,
    gear_w_grade,
    iso_vg,
)
from .viscosity import (
    TwoPoint,
    blend_by_mass,
    blend_by_volume,
    share_of_thicker,
    temperature_for,
    viscosity_at,
    viscosity_index,
)

__all__ = [
    "ENGINE_HOT",
    "GEAR_HOT",
    "Measured",
    "TwoPoint",
    "blend_by_mass",
    "blend_by_volume",
    "clutch_class",
    "engine_disagreements",
    "engine_grades",
    "gear_grade",
    "gear_w_grade",
    "iso_vg",
    "share_of_thicker",
    "temperature_for",
    "viscosity_at",
    "viscosity_index",
]

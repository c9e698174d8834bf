"""Fluids: viscosity over temperature, index, blends, and the grades measured values satisfy."""

from .climate import Climate, climate
from .density import density15_from, density_at, volume_at, volume_correction
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
from .labels import (
    Grade,
    hydraulic_base,
    read_dot,
    read_friction,
    read_gear_services,
    read_grades,
)
from .match import FAMILIES, Fit, Match, Offer, check_family, hot_band, match
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
    "FAMILIES",
    "GEAR_HOT",
    "Climate",
    "Fit",
    "Grade",
    "Match",
    "Measured",
    "Offer",
    "TwoPoint",
    "blend_by_mass",
    "blend_by_volume",
    "check_family",
    "climate",
    "clutch_class",
    "density15_from",
    "density_at",
    "engine_disagreements",
    "engine_grades",
    "gear_grade",
    "gear_w_grade",
    "hot_band",
    "hydraulic_base",
    "iso_vg",
    "match",
    "read_dot",
    "read_friction",
    "read_gear_services",
    "read_grades",
    "share_of_thicker",
    "temperature_for",
    "viscosity_at",
    "viscosity_index",
    "volume_at",
    "volume_correction",
]

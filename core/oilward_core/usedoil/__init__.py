"""Used oil in the laboratory: elements, viscosity, water, fuel, particles."""

from .particles import particle_code, scale_number
from .report import (
    MEANS,
    Analysis,
    Element,
    Remark,
    change_level,
    rates,
    remarks,
    viscosity_change,
    wear_rate,
)

__all__ = [
    "MEANS",
    "Analysis",
    "Element",
    "Remark",
    "change_level",
    "particle_code",
    "rates",
    "remarks",
    "scale_number",
    "viscosity_change",
    "wear_rate",
]

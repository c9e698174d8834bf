"""Used oil in the laboratory: elements, viscosity, water, fuel, particles."""

from ..codes.laboratory import Element
from ..said.laboratory import MEANS
from .imports import FORMAT as LAB_FORMAT
from .imports import LabFault, LabLine, read_reports
from .imports import schema as lab_schema
from .particles import particle_code, scale_number
from .report import (
    Analysis,
    Remark,
    change_level,
    rates,
    remarks,
    viscosity_change,
    wear_rate,
)

__all__ = [
    "LAB_FORMAT",
    "MEANS",
    "Analysis",
    "Element",
    "LabFault",
    "LabLine",
    "Remark",
    "change_level",
    "lab_schema",
    "particle_code",
    "rates",
    "read_reports",
    "remarks",
    "scale_number",
    "viscosity_change",
    "wear_rate",
]

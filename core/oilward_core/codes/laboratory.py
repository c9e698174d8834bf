"""What a laboratory measures in a used oil."""

from enum import StrEnum


class Element(StrEnum):
    """What is measured, in mg/kg."""

    FE = "Fe"
    AL = "Al"
    CU = "Cu"
    SN = "Sn"
    PB = "Pb"
    CR = "Cr"
    SI = "Si"
    NA = "Na"
    K = "K"
    B = "B"
    MO = "Mo"

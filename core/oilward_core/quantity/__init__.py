"""Amounts with units: reading what people type, and writing what they read."""

from .asides import Aside, aside
from .display import (
    bottle_words,
    convert,
    difference,
    format_exact,
    grouped,
    quarts_and_ounces,
    show,
    show_range,
)
from .grammar import Measure, parse, parse_single
from .nudge import Nudge, nudges
from .plainnumber import read_count, read_number
from .quicksum import SumAnswer, quick_sum
from .tokens import Preference
from .units import CANONICAL, UNITS, Kind, Unit

__all__ = [
    "CANONICAL",
    "UNITS",
    "Aside",
    "Kind",
    "Measure",
    "Nudge",
    "Preference",
    "SumAnswer",
    "Unit",
    "aside",
    "bottle_words",
    "convert",
    "difference",
    "format_exact",
    "grouped",
    "nudges",
    "parse",
    "parse_single",
    "quarts_and_ounces",
    "quick_sum",
    "read_count",
    "read_number",
    "show",
    "show_range",
]

"""The fill coach: how much to pour, when to read, when it is right."""

from .belief import Belief, combine, expected, prior, truncate_above, truncate_below
from .case import CauseFound, FillCase, FillEvent, Gauge, LevelReading, Poured, Sight, case_of
from .coach import ACTS, CAUSES, Action, Advice, coach
from .words import say, say_belief

__all__ = [
    "ACTS",
    "CAUSES",
    "Action",
    "Advice",
    "Belief",
    "CauseFound",
    "FillCase",
    "FillEvent",
    "Gauge",
    "LevelReading",
    "Poured",
    "Sight",
    "case_of",
    "coach",
    "combine",
    "expected",
    "prior",
    "say",
    "say_belief",
    "truncate_above",
    "truncate_below",
]

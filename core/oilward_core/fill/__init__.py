"""The fill coach: how much to pour, when to read, when it is right."""

from .belief import Belief, combine, expected, prior, truncate_above, truncate_below
from .case import (
    CauseFound,
    Drop,
    FillCase,
    FillEvent,
    FilterAnew,
    Gauge,
    Left,
    LevelReading,
    Lost,
    Poured,
    Ran,
    Sight,
    case_of,
    start_of,
)
from .coach import CAUSES, Action, Advice, coach
from .learned import ACTS
from .words import say, say_belief, taps

__all__ = [
    "ACTS",
    "CAUSES",
    "Action",
    "Advice",
    "Belief",
    "CauseFound",
    "Drop",
    "FillCase",
    "FillEvent",
    "FilterAnew",
    "Gauge",
    "Left",
    "LevelReading",
    "Lost",
    "Poured",
    "Ran",
    "Sight",
    "case_of",
    "coach",
    "combine",
    "expected",
    "prior",
    "say",
    "say_belief",
    "start_of",
    "taps",
    "truncate_above",
    "truncate_below",
]

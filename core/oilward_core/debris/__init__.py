"""What plug and oil show, what it means, and whether something grows."""

from ..codes.debris import (
    FAMILY,
    Family,
    Form,
    Level,
    LevelWord,
    Matter,
    OilLook,
    Outcome,
    Place,
    Rule,
)
from ..said.debris import ACTIONS
from .cohort import cohort_of, onset_rate, quarter_start
from .growth import ALARM, Category, Cohort, Eye, Found, Growth, amount, category, growth
from .otherwise import Otherwise, would_change
from .outcomes import asks_most, asks_on, outcomes_of, still_asking, watched
from .seen import FORM_WEIGHT, SMELLS, Observation, Part
from .signs import RULES, RuleSpoke, fine_steel, running_in
from .verdicts import (
    ASKING,
    Verdict,
    chance_words,
    confirmed_by,
    growing_words,
    verdict,
    wear_index,
)

__all__ = [
    "ACTIONS",
    "ALARM",
    "ASKING",
    "FAMILY",
    "FORM_WEIGHT",
    "RULES",
    "SMELLS",
    "Category",
    "Cohort",
    "Eye",
    "Family",
    "Form",
    "Found",
    "Growth",
    "Level",
    "LevelWord",
    "Matter",
    "Observation",
    "OilLook",
    "Otherwise",
    "Outcome",
    "Part",
    "Place",
    "Rule",
    "RuleSpoke",
    "Verdict",
    "amount",
    "asks_most",
    "asks_on",
    "category",
    "chance_words",
    "cohort_of",
    "confirmed_by",
    "fine_steel",
    "growing_words",
    "growth",
    "onset_rate",
    "outcomes_of",
    "quarter_start",
    "running_in",
    "still_asking",
    "verdict",
    "watched",
    "wear_index",
    "would_change",
]

"""What has to be so before a step: one row a need, as the bench asks it and says it, and as the
solver sees it (which steps bring it about)."""

from dataclasses import dataclass
from enum import StrEnum

from ..guard import whole_table
from .ids import Name, StepId


class Fact(StrEnum):
    """What a step can need."""

    DONE = "done"
    PROVEN = "proven"
    SHUT = "shut"
    FULL = "full"
    FILLERS_SHUT = "fillers shut"
    RAN = "ran"
    POURED = "poured"
    RIGHT = "right"
    STRAPPED = "strapped"


@dataclass(frozen=True)
class FactWords:
    """How an unmet need is said; ``{label}`` is the reservoir or step. ``made_by`` are the steps
    that bring it about: of that reservoir, or of every one (``whole_bike``)."""

    unmet: str
    made_by: tuple[Name, ...]
    whole_bike: bool


FACTS: dict[Fact, FactWords] = whole_table(
    Fact,
    {
        Fact.DONE: FactWords("“{label}” is not done", (), False),
        Fact.PROVEN: FactWords("the {label}'s filler is not proven", (Name.FILLER,), False),
        Fact.SHUT: FactWords(
            "the {label} is not closed below", (Name.TORQUE, Name.FILTER, Name.CIRCUIT), False
        ),
        Fact.FULL: FactWords("the {label} is not filled", (Name.FILL,), True),
        Fact.FILLERS_SHUT: FactWords("the {label}'s filler is open", (Name.CLOSE,), True),
        Fact.RAN: FactWords("the engine has not run for the {label}'s level", (Name.RUN,), False),
        Fact.POURED: FactWords("nothing is poured into the {label} yet", (Name.FILL,), False),
        Fact.RIGHT: FactWords("the {label}'s level is not right", (Name.LEVEL, Name.FILL), False),
        Fact.STRAPPED: FactWords("the bike is not strapped down", (Name.SUPPORT,), False),
    },
)


@dataclass(frozen=True)
class Need:
    """A fact about a reservoir (empty: the whole bike), or that a ``step`` is done."""

    fact: Fact
    reservoir: str = ""
    step: StepId | None = None


def done(step: StepId) -> Need:
    """That a step is done, or skipped with a reason."""
    return Need(Fact.DONE, step.reservoir, step)

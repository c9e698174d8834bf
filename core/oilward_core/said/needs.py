"""How an unmet need is said."""

from ..codes.facts import Fact
from ..guard import whole_table

_UNMET: dict[Fact, str] = whole_table(
    Fact,
    {
        Fact.DONE: "“{label}” is not done",
        Fact.PROVEN: "the {label}'s filler is not proven",
        Fact.PLUG_OUT: "the {label}'s drain plug is not out",
        Fact.SHUT: "the {label} is not closed below",
        Fact.FULL: "the {label} is not filled",
        Fact.FILLERS_SHUT: "the {label}'s filler is open",
        Fact.RAN: "the engine has not run for the {label}'s level",
        Fact.POURED: "nothing is poured into the {label} yet",
        Fact.RIGHT: "the {label}'s level is not right",
        Fact.STRAPPED: "the bike is not strapped down",
        Fact.WHEEL_IN: "the front wheel is not back in",
        Fact.EARLIER: "{label}",
    },
)


def unmet(fact: Fact, label: str) -> str:
    """What is missing; ``label`` is what the reservoir or step is called."""
    return _UNMET[fact].format(label=label)

"""What has to be so before a step: one row a need, as the bench asks it and as the solver sees it
(which steps bring it about). How it is said stands in `said.needs`."""

from dataclasses import dataclass

from ..codes.facts import Fact
from ..codes.steps import Name
from ..guard import whole_table
from .ids import StepId


@dataclass(frozen=True)
class Maker:
    """Which steps bring a need about: of that reservoir, or of every one (``whole_bike``); as soon as
    they have ``begun``, whatever they wait for then."""

    names: tuple[Name, ...] = ()
    whole_bike: bool = False
    begun: bool = False


MAKERS: dict[Fact, Maker] = whole_table(
    Fact,
    {
        Fact.DONE: Maker(),
        Fact.PROVEN: Maker((Name.FILLER,)),
        Fact.PLUG_OUT: Maker((Name.DRAIN,), begun=True),
        Fact.SHUT: Maker(
            (Name.TORQUE, Name.FILTER, Name.ELEMENT, Name.CIRCUIT, Name.TORQUE_FILTER)
        ),
        Fact.FULL: Maker((Name.FILL,), whole_bike=True),
        Fact.FILLERS_SHUT: Maker((Name.CLOSE,), whole_bike=True),
        Fact.RAN: Maker((Name.RUN,)),
        Fact.POURED: Maker((Name.FILL,)),
        Fact.RIGHT: Maker((Name.LEVEL, Name.FILL)),
        Fact.STRAPPED: Maker((Name.SUPPORT,)),
        # in an order the lift sees to it: it is held from wheel out to wheel in
        Fact.WHEEL_IN: Maker(),
        Fact.EARLIER: Maker(),
    },
)


@dataclass(frozen=True)
class Need:
    """A fact about a reservoir (empty: the whole bike), or that a ``step`` is done."""

    fact: Fact
    reservoir: str = ""
    step: StepId | None = None

    @property
    def code(self) -> str:
        """``proven:engine``, ``done:engine/refit``, ``strapped:``: as it is kept; `of` reads it back."""
        return f"{self.fact}:{self.step or self.reservoir}"

    @classmethod
    def of(cls, code: str) -> "Need":
        """Read what ``code`` wrote; anything else is kept as a need nobody knows any more."""
        name, colon, whose = code.partition(":")
        fact = next((one for one in Fact if one == name), Fact.EARLIER)
        if not colon or fact == Fact.EARLIER:
            return cls(Fact.EARLIER, whose if colon and name == Fact.EARLIER else code)
        return done(StepId.of(whose)) if fact == Fact.DONE else cls(fact, whose)


def done(step: StepId) -> Need:
    """That a step is done, or skipped with a reason."""
    return Need(Fact.DONE, step.reservoir, step)

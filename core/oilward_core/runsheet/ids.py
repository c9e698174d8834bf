"""What steps and jobs are called."""

from enum import StrEnum
from functools import lru_cache
from typing import NamedTuple


class Name(StrEnum):
    """Every step there is, by the name it is written down under."""

    LOOK_UP = "look up"
    COLD = "cold"
    VALVES = "valves"
    TYRES = "tyres"
    WARM = "warm"
    SUPPORT = "support"
    FILLER = "filler"
    SAMPLE = "sample"
    DRAIN = "drain"
    MEASURE = "measure"
    INSPECT = "inspect"
    WASHER = "washer"
    REFIT = "refit"
    TORQUE = "torque"
    FILTER = "filter"
    CIRCUIT = "circuit filter"
    FILL = "fill"
    CLOSE = "close"
    RUN = "run"
    SETTLE = "settle"
    LEVEL = "level"
    WHEEL_OUT = "wheel out"
    LEG_OUT = "leg out"
    LEG_DRAIN = "leg drain"
    LEG_FILL = "leg fill"
    LEG_GAP = "leg gap"
    LEG_IN = "leg in"
    WHEEL_IN = "wheel in"
    LOOK = "look"
    LEAKS = "leaks"
    FINISH = "finish"


class Aside(StrEnum):
    """What is written down at a step and is no work on it: who has it, what the visit waits for, that
    somebody took the visit over, how the bike stands now, and a second pair of hands that is called
    for, lent and let go again."""

    TAKES = "takes"
    GIVES_UP = "gives up"
    WAITS = "waits"
    GOES_ON = "goes on"
    TAKES_OVER = "takes over"
    STANDS = "stands"
    CALLS = "calls"
    LENDS = "lends"
    LETS_GO = "lets go"


class WaitsFor(StrEnum):
    """What a visit can wait for."""

    PART = "a part"
    COLD = "a cold engine"
    ANSWER = "an answer"
    ELSE = "something else"


class Pose(StrEnum):
    """How a bike can stand."""

    UPRIGHT = "upright"
    SIDE_STAND = "side stand"
    LIFTED = "lifted"
    TILTED = "tilted"

    @property
    def words(self) -> str:
        """As a sentence says it."""
        return "on the side stand" if self == Pose.SIDE_STAND else str(self)

    @property
    def straps(self) -> bool:
        """Whether a bike can be strapped down so."""
        return self != Pose.TILTED


class StepId(NamedTuple):
    """A step: whose (empty: the whole bike's), which, of what part, in which round (0: none)."""

    reservoir: str
    name: str
    part: str = ""
    round: int = 0

    def __str__(self) -> str:
        """``engine/fill.1``, ``engine/look up.drain plug.torque``, ``warm``."""
        whose = f"{self.reservoir}/" if self.reservoir else ""
        return f"{whose}{self.name}" + (f".{self.part}" if self.part else "") + self._number

    @property
    def _number(self) -> str:
        return f".{self.round}" if self.round else ""

    @property
    def place(self) -> str:
        """Where a tip for it stands: the fastener it is about (``engine/drain plug``), or else the step
        whatever the round."""
        part = _FASTENER.get(self.name)
        return f"{self.reservoir}/{part}" if part else str(self._replace(round=0))

    @property
    def place_words(self) -> str:
        """``the engine's drain plug``; empty where it is about no fastener."""
        part = _FASTENER.get(self.name)
        return f"the {self.reservoir}'s {part}" if part else ""

    @classmethod
    def of(cls, text: str) -> "StepId":
        """Read what ``str`` wrote."""
        return _read(text)


_FASTENER: dict[str, str] = {
    Name.FILLER: "fill plug",
    Name.DRAIN: "drain plug",
    Name.WASHER: "drain plug",
    Name.REFIT: "drain plug",
    Name.TORQUE: "drain plug",
    Name.FILTER: "filter",
    Name.CLOSE: "fill plug",
}


@lru_cache(maxsize=4096)
def _read(text: str) -> StepId:
    reservoir, _, rest = text.rpartition("/")
    name, _, tail = rest.partition(".")
    if tail.isascii() and tail.isdigit() and len(tail) < 6:
        return StepId(reservoir, name, "", int(tail))
    return StepId(reservoir, name, tail)


def of_bike(name: Name, number: int = 0) -> StepId:
    """A step of the whole bike."""
    return StepId("", name, "", number)

"""What steps and jobs are called."""

from functools import lru_cache
from typing import NamedTuple

from ..codes.roles import Role
from ..codes.steps import Name


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
        if self.fastener:
            return f"{self.reservoir}/{self.fastener}"
        asked = self._replace(part="") if self.name == Name.RAN_OUT else self
        return str(asked._replace(round=0))

    @property
    def role(self) -> Role | None:
        """What the fastener it is about is there for, if it is about one."""
        return _FASTENER.get(self.name)

    @property
    def fastener(self) -> str:
        """The fastener it is about: the first of its role by that, another by its own name; empty where
        it is about none."""
        return (self.part or self.role or "") if self.role else ""

    @property
    def shuts(self) -> str:
        """The fastener it has a hand in shutting, out of which oil would run; empty where it has none."""
        return self.fastener if self.name in _SHUTS else ""

    @classmethod
    def of(cls, text: str) -> "StepId":
        """Read what ``str`` wrote."""
        return _read(text)


_FASTENER: dict[str, Role] = {
    Name.FILLER: Role.FILL_PLUG,
    Name.DRAIN: Role.DRAIN_PLUG,
    Name.WASHER: Role.DRAIN_PLUG,
    Name.REFIT: Role.DRAIN_PLUG,
    Name.TORQUE: Role.DRAIN_PLUG,
    Name.FILTER: Role.FILTER,
    Name.ELEMENT: Role.FILTER,
    Name.TORQUE_FILTER: Role.FILTER,
    Name.TORQUE_COVER: Role.COVER_SCREW,
    Name.TORQUE_LEVEL: Role.LEVEL_PLUG,
    Name.TORQUE_LEG: Role.FORK_CAP,
    Name.TORQUE_WHEEL: Role.AXLE,
    Name.CLOSE: Role.FILL_PLUG,
    Name.TORQUE_FILLER: Role.FILL_PLUG,
}
COVER = "cover"  # a part of which no sheet says more than its screws
_SHUTS = (
    Name.WASHER,
    Name.REFIT,
    Name.TORQUE,
    Name.FILTER,
    Name.ELEMENT,
    Name.TORQUE_FILTER,
    Name.TORQUE_COVER,
)


@lru_cache(maxsize=4096)
def _read(text: str) -> StepId:
    reservoir, _, rest = text.rpartition("/")
    name, _, tail = rest.partition(".")
    if tail.isascii() and tail.isdigit() and len(tail) < 6:
        return StepId(reservoir, name, "", int(tail))
    return StepId(reservoir, name, tail)


def ran_out_id(reservoir: str, opened_by: str) -> StepId:
    """The step that asks what ran out, by (the beginning of) the id of the entry that says what let it
    out: another leak, or the same corrected, is another question."""
    return StepId(reservoir, Name.RAN_OUT, opened_by[:8])


def cover_id(reservoir: str, leaked_by: str) -> StepId:
    """The step that closes a cover that leaked, by the id of the entry that says so."""
    return StepId(reservoir, Name.COVER, leaked_by[:8])


def of_bike(name: Name, number: int = 0) -> StepId:
    """A step of the whole bike."""
    return StepId("", name, "", number)

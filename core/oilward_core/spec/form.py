"""What a field of a spec sheet is, of what form its words are, and where a cell stands."""

from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum
from typing import NamedTuple

from ..errors import CoreError
from ..torque import TorqueSpec
from .sheet import Spot


class Form(StrEnum):
    """How the words of a cell are read."""

    TEXT = "text"
    CHOICE = "choice"
    YES_NO = "yes or no"
    COUNT = "count"
    MONTHS = "months"
    HOURS = "hours"
    SHARE = "share"
    SPOT = "spot"
    VOLUME = "volume"
    TORQUE = "torque"
    DISTANCE = "distance"
    TIME = "time"
    LENGTH = "length"
    VISCOSITY = "viscosity"
    PRESSURE = "pressure"
    SPRING_RATE = "spring rate"
    SETTING = "setting"


class Path(NamedTuple):
    """Where a cell stands. ``part`` is empty for the reservoir's own fields."""

    reservoir: str
    part: str
    field: str

    def __str__(self) -> str:
        """``engine/drain plug/torque``."""
        return "/".join(self)

    @classmethod
    def of(cls, text: str) -> "Path":
        """Read ``engine/drain plug/torque``. Raises CoreError ``spec.path``."""
        parts = text.split("/")
        if len(parts) != 3 or not parts[0] or not parts[2] or len(text) > MOST_PATH:
            raise CoreError("spec.path", text=text[:MOST_PATH])
        return cls(*parts)


MOST_PATH, MOST_TEXT = 120, 400


@dataclass(frozen=True, kw_only=True)
class Field:
    """One thing a sheet can say. ``unit`` is taken by a bare number; ``hint`` shows how it is
    typed; ``plate`` groups fields that stand together."""

    name: str
    label: str
    form: Form
    plate: str
    unit: str = ""
    choices: tuple[str, ...] = ()
    hint: str = ""


Value = str | bool | int | Decimal | tuple[Decimal, Decimal] | TorqueSpec | Spot

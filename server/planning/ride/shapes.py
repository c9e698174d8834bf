"""How far a bike sinks, as the API takes and tells it."""

from dataclasses import dataclass, field
from typing import Literal

from oilward_core.codes.suspension import Ridden, SagSays
from workshop.shapes import upto


@dataclass(frozen=True, kw_only=True)
class SagRead:
    """What a tape says, as typed: hanging, and settled from above (``down``) and from below (``up``), the
    bike alone and with its rider; the rider's ``weight`` may be left empty. ``sure``: the answers to
    earlier questions."""

    free: str = upto(60, blank=True, default="")
    bike_down: str = upto(60, blank=True, default="")
    bike_up: str = upto(60, blank=True, default="")
    rider_down: str = upto(60, blank=True, default="")
    rider_up: str = upto(60, blank=True, default="")
    weight: str = upto(60, blank=True, default="")
    ridden: Ridden = Ridden.ROAD
    sure: list[str] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class SagLine:
    """One sag: what it is, how far apart it settled, between which two it should lie, and whose those
    are; as numbers too, mm, for drawing it."""

    who: Literal["bike", "rider"]
    sag: str
    apart: str
    window: str
    source: str
    right: bool
    mm: float
    low_mm: float
    high_mm: float


@dataclass(frozen=True, kw_only=True)
class SagAnswer:
    """Both sags, what to do, which spring the rider's weight asks for (empty: not known), and what a turn
    of preload is at the wheel."""

    lines: list[SagLine]
    says: SagSays
    words: str
    rate: str
    turn: str
    travel_mm: float


@dataclass(frozen=True, kw_only=True)
class GapRead:
    """An air gap to be held beside the sheet's, as typed. ``sure``: the answers to earlier questions."""

    gap: str = upto(60, blank=True, default="")
    sure: list[str] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class ForceLine:
    """A leg's force (N) over its stroke (mm) at one gap."""

    gap: str
    strokes: list[float]
    forces: list[float]


@dataclass(frozen=True, kw_only=True)
class GapAnswer:
    """Both gaps, the sheet's first, and in words what the other one changes at the end of the travel."""

    lines: list[ForceLine]
    words: str

"""What the shelf's API says."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Peak:
    """A pull as the wrench reports it, in its own unit."""

    reading: str
    simulated: bool


@dataclass(frozen=True)
class CurvePoint:
    """Viscosity in cSt at a temperature in °C."""

    t: float
    v: float


@dataclass(frozen=True)
class FluidCard:
    """A fluid: its label, what was measured, what grade that satisfies, and where they disagree.

    ``curve`` is empty when only one viscosity is known.
    """

    id: str
    name: str
    label: str
    serves: str
    bottle: str
    kv40: str
    kv100: str
    index: int | None
    satisfies: list[str]
    disagrees: list[str]
    curve: list[CurvePoint]


@dataclass(frozen=True)
class Band:
    """A grade's viscosities at 100 °C, cSt; ``high`` is None for the last one."""

    grade: str
    low: float
    high: float | None


@dataclass(frozen=True)
class Scale:
    """A family of grades, to stand beside the chart at 100 °C."""

    name: str
    bands: list[Band]


@dataclass(frozen=True)
class Shelf:
    """All fluids; ``caveat`` belongs beside every grade shown."""

    fluids: list[FluidCard]
    scales: list[Scale]
    caveat: str

"""What the shelf's API says and takes."""

from dataclasses import dataclass, field

from oilward_bench import Why
from workshop.shapes import BLANK, upto


@dataclass(frozen=True)
class Peak:
    """A pull as the wrench reports it, in its own unit."""

    reading: str
    simulated: bool


@dataclass(frozen=True, kw_only=True)
class Weighed:
    """Oil in its pan as the scale and the thermometer show it, as it would be typed."""

    weight: str
    pan: str
    celsius: str
    simulated: bool


@dataclass(frozen=True)
class CurvePoint:
    """Viscosity in cSt at a temperature in °C."""

    t: float
    v: float


@dataclass(frozen=True, kw_only=True)
class FluidForm:
    """A fluid as it is entered: everything as typed. ``id`` is 0 for a new one; ``version`` is the
    one the writer saw."""

    id: int
    version: int
    name: str = upto(80, blank=True)
    family: str = field(metadata=BLANK)
    bottle: str = upto(100, blank=True)
    grade: str = upto(40, blank=True, default="")
    friction_class: str = upto(10, blank=True, default="")
    service: str = upto(120, blank=True, default="")
    base: str = upto(40, blank=True, default="")
    approvals: str = upto(200, blank=True, default="")
    kv40: str = upto(100, blank=True, default="")
    kv100: str = upto(100, blank=True, default="")
    hths: str = upto(100, blank=True, default="")
    cranking: str = upto(100, blank=True, default="")
    pumping: str = upto(100, blank=True, default="")
    density15: str = upto(100, blank=True, default="")
    pour_point: str = upto(100, blank=True, default="")
    dfi: str = upto(100, blank=True, default="")
    sfi: str = upto(100, blank=True, default="")
    sti: str = upto(100, blank=True, default="")
    retired: bool = False


@dataclass(frozen=True, kw_only=True)
class FluidCard:
    """A fluid: its label, what was measured, what grade that satisfies, and where they disagree.

    ``curve`` is empty when only one viscosity is known; ``swells`` says what a litre becomes hot;
    ``cold`` says whether it can be started at the workshop's coldest; ``blends``: it is one of those
    that are mixed to a viscosity between.
    """

    id: int
    name: str
    label: str
    family: str
    bottle: str
    kv40: str
    kv100: str
    index: int | None
    satisfies: list[str]
    disagrees: list[str]
    density: str
    swells: str
    cold: str
    cold_ok: bool
    curve: list[CurvePoint]
    blends: bool
    form: FluidForm


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


@dataclass(frozen=True, kw_only=True)
class Shelf:
    """All fluids; ``caveat`` belongs beside every grade shown."""

    fluids: list[FluidCard]
    scales: list[Scale]
    families: list[str]
    coldest: str
    caveat: str


@dataclass(frozen=True, kw_only=True)
class Blend:
    """Two oils to one between: shares by volume, amounts, and what it will be."""

    words: str
    thin: str
    thick: str
    kv40: str
    kv100: str
    reasons: list[Why]


@dataclass(frozen=True, kw_only=True)
class FluidMatch:
    """How a fluid of the shelf fits a reservoir, with every reason."""

    id: int
    name: str
    label: str
    fit: str
    rank: int
    refused: bool
    cold: str
    cold_ok: bool
    curve: list[CurvePoint]
    reasons: list[Why]


@dataclass(frozen=True)
class Wanted:
    """What a reservoir asks for, as the chart shows it: windows in cSt at 40 and 100 °C."""

    words: str
    at40: list[float]
    at100: list[float]


@dataclass(frozen=True, kw_only=True)
class Matches:
    """The shelf held against one reservoir's requirement, best first."""

    reservoir: str
    wanted: Wanted
    school: str
    fluids: list[FluidMatch]
    scales: list[Scale]
    caveat: str

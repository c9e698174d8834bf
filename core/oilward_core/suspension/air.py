"""The air in a fork leg as a spring, and a gas's pressure over temperature. Lengths in mm, volumes in ml,
pressures in bar, absolute where nothing else is said; forces in N."""

from dataclasses import dataclass
from math import pi

from ..errors import CoreError
from ..fluid.viscosity import KELVIN
from ..guard import Sound, guarded

ATMOSPHERE = 1.01325  # bar [std: ISO 2533]
N_PER_MM2 = 0.1  # of a bar
SLOWEST, FASTEST = (
    1.0,
    1.4,
)  # n: as warm as its tube, and as if it gave no heat away [std: ideal gas]
STEP = 0.05  # mm, how finely a stroke is looked for


@dataclass(frozen=True, kw_only=True)
class AirSpring(Sound):
    """A leg's air. ``seal``: the diameter its seal runs on, the upper tube's outside in a common leg;
    ``inner``: the bore the oil stands in; ``gap``: measured collapsed, spring out; ``travel``;
    ``spring``: what the steel one takes of the room, ml; ``pressure``: what is pumped in, gauge."""

    seal: float
    inner: float
    gap: float
    travel: float
    spring: float = 0.0
    pressure: float = 0.0

    def __post_init__(self) -> None:
        """Raises CoreError ``suspension.bore``, ``suspension.travel``, ``suspension.gap``,
        ``suspension.pressure``, ``suspension.no_room`` where the spring fills it."""
        super().__post_init__()
        if min(self.seal, self.inner) <= 0:
            raise CoreError("suspension.bore", field="inner_bore")
        if self.travel <= 0:
            raise CoreError("suspension.travel", field="travel")
        if not 0 < self.gap <= self.travel:
            raise CoreError("suspension.gap", field="air_gap")
        if self.pressure < 0:
            raise CoreError("suspension.pressure", field="pressure")
        if self.spring < 0 or self.volume <= 0:
            raise CoreError("suspension.no_room")

    @property
    def seal_area(self) -> float:
        """mm² that the air presses on."""
        return pi / 4 * self.seal**2

    @property
    def volume(self) -> float:
        """Of the air with the leg extended, ml: ``gap·A_inner − V_spring + A_seal·travel``: the gap is
        measured collapsed [derived]."""
        below = pi / 4 * self.inner**2 * self.gap
        return (below + self.seal_area * self.travel) / 1000 - self.spring


@guarded
def air_pressure(spring: AirSpring, stroke: float, n: float) -> float:
    """``P₀·(V₀/(V₀ − A·x))ⁿ``, bar absolute, so many mm into the stroke; ``n`` from 1 (slow) to 1.4
    (fast) [std: ideal gas]. Raises CoreError ``suspension.stroke`` beyond the air's room,
    ``suspension.exponent``."""
    if not SLOWEST <= n <= FASTEST:
        raise CoreError("suspension.exponent", low=SLOWEST, high=FASTEST)
    left = spring.volume - spring.seal_area * stroke / 1000
    if stroke < 0 or left <= 0:
        raise CoreError("suspension.stroke", field="stroke")
    return float((ATMOSPHERE + spring.pressure) * (spring.volume / left) ** n)


@dataclass(frozen=True, kw_only=True)
class Leg(Sound):
    """A leg's springs: its air, and steel of a ``rate`` (N/mm) pressed together by ``preload`` (mm)."""

    air: AirSpring
    rate: float = 0.0
    preload: float = 0.0

    def __post_init__(self) -> None:
        """Raises CoreError ``suspension.rate``."""
        super().__post_init__()
        if self.rate < 0 or self.preload < 0:
            raise CoreError("suspension.rate")


@guarded
def force(leg: Leg, stroke: float, n: float) -> float:
    """Of one leg, N: ``(P − P_atm)·A_seal + rate·(stroke + preload)``. Raises as `air_pressure`."""
    over = air_pressure(leg.air, stroke, n) - ATMOSPHERE
    return over * N_PER_MM2 * leg.air.seal_area + leg.rate * (stroke + leg.preload)


@guarded
def stroke_for(leg: Leg, carried: float, n: float) -> float:
    """How far in a leg is when it carries so much, mm; its travel where it bottoms before. Raises
    CoreError ``suspension.force`` for less than it carries extended, and as `air_pressure`."""
    if carried < force(leg, 0.0, n):
        raise CoreError("suspension.force")
    low, high = 0.0, leg.air.travel
    if force(leg, high, n) <= carried:
        return high
    while high - low > STEP / 100:
        middle = (low + high) / 2
        low, high = (middle, high) if force(leg, middle, n) < carried else (low, middle)
    return (low + high) / 2


@guarded
def pressure_at(gauge: float, was: float, now: float) -> float:
    """A closed gas's gauge pressure at another temperature (°C): ``(p + P_atm)·T₂/T₁ − P_atm`` [std:
    ideal gas; nitrogen at 10 bar is within 0.5 % of the real one]. Raises CoreError
    ``suspension.pressure``, ``suspension.temperature``."""
    if gauge < 0:
        raise CoreError("suspension.pressure", field="pressure")
    if min(was, now) <= -KELVIN:
        raise CoreError("suspension.temperature", field="temperature")
    return (gauge + ATMOSPHERE) * (now + KELVIN) / (was + KELVIN) - ATMOSPHERE

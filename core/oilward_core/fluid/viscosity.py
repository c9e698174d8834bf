"""Viscosity over temperature, viscosity index and blends. Viscosities in cSt (mm²/s)."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, inf, log, log10

from ..errors import CoreError
from ..guard import Sound, guarded

# Quadratics L = aY² + bY + c and H = dY² + eY + f of ASTM D2270, from memory; they reproduce the
# standard's table within 0.12 %. (from, to, a, b, c, d, e, f)
_D2270 = (
    (2, 3.8, 1.14673, 1.7576, -0.109, 0.84155, 1.5521, -0.077),
    (3.8, 4.4, 3.38095, -15.4952, 33.196, 0.78571, 1.7929, -0.183),
    (4.4, 5, 2.5, -7.2143, 13.812, 0.82143, 1.5679, 0.119),
    (5, 6.4, 0.101, 16.635, -45.469, 0.04985, 9.1613, -18.557),
    (6.4, 7, 3.35714, -23.5643, 78.466, 0.22619, 7.7369, -16.656),
    (7, 7.7, 0.01191, 21.475, -72.87, 0.79762, -0.7321, 14.61),
    (7.7, 9, 0.41858, 16.1558, -56.04, 0.05794, 10.5156, -28.24),
    (9, 12, 0.88779, 7.5527, -16.6, 0.26665, 6.7015, -10.81),
    (12, 15, 0.7672, 10.7972, -38.18, 0.20073, 8.4658, -22.49),
    (15, 18, 0.97305, 5.3135, -2.2, 0.28889, 5.9741, -4.93),
    (18, 22, 0.97256, 5.25, -0.98, 0.24504, 7.416, -16.73),
    (22, 28, 0.91413, 7.4759, -21.82, 0.20323, 9.1267, -34.23),
    (28, 40, 0.87031, 9.7157, -50.77, 0.18411, 10.1015, -46.75),
    (40, 55, 0.84703, 12.6752, -133.31, 0.17029, 11.4866, -80.62),
    (55, 70, 0.85921, 11.1009, -83.19, 0.1713, 11.368, -76.94),
    (70, inf, 0.8353, 14.67, -216.0, 0.1684, 11.85, -97.0),
)
KELVIN = 273.15


@dataclass(frozen=True, kw_only=True)
class TwoPoint(Sound):
    """An oil known by its viscosity at two temperatures (°C)."""

    t1: float
    v1: float
    t2: float
    v2: float

    def __post_init__(self) -> None:
        """Raises CoreError ``fluid.two_points``: an oil has to thin with heat, above 0.2 cSt."""
        super().__post_init__()
        falling = (self.t1 < self.t2) == (self.v1 > self.v2)
        if self.t1 == self.t2 or not falling or min(self.v1, self.v2) < 0.21:
            raise CoreError("fluid.two_points")


def _z(v: float) -> float:
    return v + 0.7 + exp(-1.47 - 1.84 * v - 0.51 * v * v)


def _v(z: float) -> float:
    x = z - 0.7
    return x - exp(-0.7487 - 3.295 * x + 0.6119 * x * x - 0.3193 * x**3)


def _line(oil: TwoPoint) -> tuple[float, float]:
    """A and B of ``log log Z = A − B·log T``, T in kelvin."""
    w1, w2 = (log10(log10(_z(v))) for v in (oil.v1, oil.v2))
    k1, k2 = (log10(t + KELVIN) for t in (oil.t1, oil.t2))
    slope = (w1 - w2) / (k2 - k1)
    return w1 + slope * k1, slope


@guarded
def viscosity_at(oil: TwoPoint, t: float) -> float:
    """Viscosity at ``t`` °C by ASTM D341 (full form of the editions since 2009, from memory).

    Trust it between the two points; do not go below about the pour point + 10 °C.
    """
    a, b = _line(oil)
    return _v(10 ** (10 ** (a - b * log10(t + KELVIN))))


@guarded
def temperature_for(oil: TwoPoint, v: float) -> float:
    """The temperature in °C at which the oil has viscosity ``v`` (ASTM D341)."""
    a, b = _line(oil)
    return float(10 ** ((a - log10(log10(_z(v)))) / b) - KELVIN)


@guarded
def viscosity_index(kv40: float, kv100: float) -> int:
    """Viscosity index of ASTM D2270, whole number, ties to even.

    Raises CoreError ``fluid.no_index`` below 2 cSt at 100 °C, where the standard defines none.
    """
    if kv100 < 2 or kv40 <= kv100:
        raise CoreError("fluid.no_index")
    _, _, a, b, c, d, e, f = next(row for row in _D2270 if row[0] <= kv100 <= row[1])
    low, high = a * kv100**2 + b * kv100 + c, d * kv100**2 + e * kv100 + f
    if kv40 > high:
        return round(100 * (low - kv40) / (low - high))
    n = (log10(high) - log10(kv40)) / log10(kv100)
    return round((10**n - 1) / 0.00715 + 100)


@guarded
def blend_by_volume(shares: Sequence[float], viscosities: Sequence[float]) -> float:
    """Viscosity of a blend by volume: ``Σ xᵢ·lg lg(v + 0.7)`` (method of ASTM D7152, from memory).

    All at one temperature; shares sum to 1. Expect a few percent against a measured blend.
    Raises CoreError ``fluid.shares``.
    """
    if abs(sum(shares) - 1) > 1e-6 or len(shares) != len(viscosities):
        raise CoreError("fluid.shares")
    w = sum(x * log10(log10(v + 0.7)) for x, v in zip(shares, viscosities, strict=True))
    return float(10 ** (10**w) - 0.7)


@guarded
def blend_by_mass(shares: Sequence[float], viscosities: Sequence[float]) -> float:
    """Viscosity of a blend by mass: Refutas-type index, from memory. Else as `blend_by_volume`."""
    if abs(sum(shares) - 1) > 1e-6 or len(shares) != len(viscosities):
        raise CoreError("fluid.shares")
    index = sum(
        w * (14.534 * log(log(v + 0.8)) + 10.975) for w, v in zip(shares, viscosities, strict=True)
    )
    return exp(exp((index - 10.975) / 14.534)) - 0.8


def _reach(thin: float, thick: float, wanted: float) -> None:
    if not thin <= wanted <= thick or thin == thick:
        raise CoreError("fluid.out_of_reach")


@guarded
def share_of_thicker(thin: float, thick: float, wanted: float) -> float:
    """Volume share of the thicker oil for a blend of ``wanted`` viscosity (see `blend_by_volume`).

    Raises CoreError ``fluid.out_of_reach`` when the target does not lie between the two.
    """
    _reach(thin, thick, wanted)
    low, high, goal = (log10(log10(v + 0.7)) for v in (thin, thick, wanted))
    return (goal - low) / (high - low)


@guarded
def share_of_thicker_by_mass(thin: float, thick: float, wanted: float) -> float:
    """Mass share of the thicker oil (see `blend_by_mass`); else as `share_of_thicker`."""
    _reach(thin, thick, wanted)
    low, high, goal = (log(log(v + 0.8)) for v in (thin, thick, wanted))
    return (goal - low) / (high - low)

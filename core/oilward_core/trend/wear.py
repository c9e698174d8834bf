"""Wear over distance, for the eye: the index per matter, what the kind shows, and how it leans."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from math import log10
from statistics import median, quantiles

from ..debris import Found, Matter, wear_index
from ..guard import Sound, guarded
from ..said import wear as say
from ..usage import theil_sen
from .ewma import Controlled, controlled

LEAST_IN_BAND = 8  # findings of others before they make a band [def]
LEAST_TO_LEAN = 4  # findings of one's own before they lean any way [def]


@guarded
def wear_of(found: Found) -> Mapping[Matter, Decimal]:
    """The wear index of a finding, by matter (`debris.wear_index`)."""
    return wear_index(found.parts, found.km_since_wiped)


@dataclass(frozen=True, kw_only=True)
class Band(Sound):
    """What others of a kind show: median, and where eight in ten lie, of so many findings."""

    low: float
    middle: float
    high: float
    n: int


@guarded
def band(others: Iterable[Found], matter: Matter) -> Band | None:
    """What healthy reservoirs of a kind show of a matter: findings after running in. None on fewer than
    eight."""
    shown = [float(wear_of(one).get(matter, Decimal(0))) for one in others if not one.run_in]
    if len(shown) < LEAST_IN_BAND:
        return None
    tenths = quantiles(shown, n=10, method="inclusive")
    return Band(low=tenths[0], middle=median(shown), high=tenths[-1], n=len(shown))


@guarded
def beside_kind(values: Sequence[float], kind: Band | None) -> str:
    """One bike against its kind, in words: how its middle lies beside theirs; empty on fewer than four of
    its own, or a kind that shows nothing."""
    if kind is None or len(values) < LEAST_TO_LEAN or kind.middle <= 0:
        return ""
    times = median(values) / kind.middle
    return say.beside_kind(times, kind.low <= median(values) <= kind.high)


@dataclass(frozen=True)
class Lean(Sound):
    """Which way wear goes, per 1000 km, with the interval it lies in with 95 % [Theil–Sen]."""

    per_1000: float
    low: float
    high: float

    @property
    def rises(self) -> bool:
        """Whether it rises beyond doubt."""
        return self.low > 0


@guarded
def lean(km: Sequence[float], values: Sequence[float]) -> Lean | None:
    """The robust slope of a series over distance; None on fewer than four points, or all in one place."""
    if min(len(km), len(values)) < LEAST_TO_LEAN or len(set(km)) < LEAST_TO_LEAN:
        return None
    line = theil_sen(list(km), list(values))
    return Lean(line.slope * 1000, line.low * 1000, line.high * 1000)


_CLEAN = 0.005  # what a clean magnet counts for, so that it has a logarithm


@guarded
def charted(values: Sequence[float], begins: Sequence[int] = ()) -> Controlled:
    """A wear series with its moving average and limits, worked out on logarithms, as wear scatters by
    factors, and given back as it was. Where a new baseline ``begins`` (by number) both start anew; the
    limits are the last one's."""
    starts = sorted({0, *(number for number in begins if 0 < number < len(values))})
    ends = [*starts[1:], len(values)]
    smooth: list[float] = []
    outside: list[int] = []
    low: float | None = None
    high: float | None = None
    for start, end in zip(starts, ends, strict=True):
        seen = controlled([log10(max(value, 0.0) + _CLEAN) for value in values[start:end]])
        smooth += [_back(z) for z in seen.smooth]
        outside += [start + number for number in seen.outside]
        low = None if seen.low is None else _back(seen.low)
        high = None if seen.high is None else _back(seen.high)
    return Controlled(smooth=tuple(smooth), low=low, high=high, outside=tuple(outside))


def _back(z: float) -> float:
    return max(float(10.0**z) - _CLEAN, 0.0)

"""A moving average that forgets, and the limits it stays within by chance: NIST/SEMATECH e-Handbook of
Statistical Methods, 6.3.2.4 (EWMA control charts)."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import median

from ..errors import CoreError
from ..guard import Sound, guarded

LAMBDA, K = 0.3, 3.0
LEAST = 4  # points before limits mean anything [def]


@guarded
def ewma(values: Sequence[float], start: float, lam: float = LAMBDA) -> tuple[float, ...]:
    """``z = λ·x + (1 − λ)·z``, one for each value, from ``start``. Raises CoreError ``trend.lambda``
    outside 0–1."""
    if not 0 < lam <= 1:
        raise CoreError("trend.lambda")
    found, now = [], start
    for value in values:
        now = lam * value + (1 - lam) * now
        found.append(now)
    return tuple(found)


@guarded
def ewma_limits(
    target: float, s: float, lam: float = LAMBDA, k: float = K, step: int | None = None
) -> tuple[float, float]:
    """``target ± k·s·√(λ/(2 − λ))``; at an early ``step`` (from 1) narrower by ``√(1 − (1 − λ)^2i)``.
    Raises CoreError ``trend.lambda`` outside 0–1."""
    if not 0 < lam <= 1:
        raise CoreError("trend.lambda")
    width = k * s * sqrt(lam / (2 - lam))
    if step is not None:
        width *= sqrt(1 - (1 - lam) ** (2 * max(step, 0)))
    return target - width, target + width


@dataclass(frozen=True, kw_only=True)
class Controlled(Sound):
    """A series with its moving average, the limits, and which points lie outside (by number)."""

    smooth: tuple[float, ...]
    low: float | None
    high: float | None
    outside: tuple[int, ...]


@guarded
def controlled(
    values: Sequence[float], level: float | None = None, spread: float | None = None
) -> Controlled:
    """A series held against limits of its own kind: ``level`` and ``spread`` of the cohort, or else its
    own first points (their median, and 1.4826 times their median distance from it). No limits on fewer
    than four points of one's own."""
    if not values:
        return Controlled(smooth=(), low=None, high=None, outside=())
    if level is None or spread is None:
        first = list(values[: max(LEAST, len(values) // 2)])
        level = median(first)
        if len(first) < LEAST:
            return Controlled(smooth=ewma(values, level), low=None, high=None, outside=())
        spread = 1.4826 * median(abs(value - level) for value in first)
    smooth = ewma(values, level)
    low, high = ewma_limits(level, spread)
    outside = tuple(number for number, z in enumerate(smooth) if not low <= z <= high)
    return Controlled(smooth=smooth, low=low, high=high, outside=outside)

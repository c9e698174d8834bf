"""Particles in oil: the code of ISO 4406 (1999, 2017, 2021), from memory; a doubling pattern."""

from bisect import bisect_left
from collections.abc import Sequence
from itertools import pairwise

from ..errors import CoreError
from ..guard import guarded

# the most particles per ml of each scale number, from 0
UPPER = (
    0.01, 0.02, 0.04, 0.08, 0.16, 0.32, 0.64, 1.3, 2.5, 5, 10, 20, 40, 80, 160, 320, 640, 1300, 2500,
    5000, 10_000, 20_000, 40_000, 80_000, 160_000, 320_000, 640_000, 1_300_000, 2_500_000,
)  # fmt: skip

_SCATTER = 1.01  # of a count [our definition]


@guarded
def scale_number(per_ml: float) -> str:
    """The smallest scale number whose limit a count per ml does not pass; ``>28`` above all. Raises
    CoreError ``lab.particles`` below zero."""
    if per_ml < 0:
        raise CoreError("lab.particles", field="particles")
    at = bisect_left(UPPER, per_ml)
    return f">{len(UPPER) - 1}" if at == len(UPPER) else str(at)


@guarded
def particle_code(per_ml: Sequence[float]) -> str:
    """``18/16/13``: of counts per ml larger than 4, 6 and 14 µm(c). Raises CoreError ``lab.particles``
    unless there are three, none below zero, and no size has more than the smaller one before it: what is
    larger than 6 µm is larger than 4 µm, too. A counter's own scatter is let pass."""
    if len(per_ml) != 3 or any(more > less * _SCATTER for less, more in pairwise(per_ml)):
        raise CoreError("lab.particles", field="particles")
    return "/".join(scale_number(count) for count in per_ml)

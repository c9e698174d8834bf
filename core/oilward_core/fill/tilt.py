"""How far out a gauge is on a lift that tilts the bike, learned from readings of the same oil."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from math import sqrt
from statistics import fmean, stdev

from ..guard import Sound, guarded

AT_LEAST, LAST = 2, 5  # so many pairs are needed, so many count [our definition]
PAIR = 0.085  # of the marks: how far two readings by eye differ, 6 % each [our definition]


@dataclass(frozen=True)
class Tilt(Sound):
    """How much higher it reads on the lift, as a ``share`` of what is between the marks, how surely that
    is known (standard deviation), and how often it was ``seen``."""

    share: Decimal
    sd: Decimal
    seen: int


@guarded
def tilt_of(seen: Sequence[Decimal]) -> Tilt | None:
    """What the lift does to a bike's gauge, from what was ``seen`` of it, newest last: on the lift less
    as its sheet asks, of the same oil, as shares of what is between the marks. None where it was seen
    less than twice: once may be the eye alone [our definition]."""
    last = [float(one) for one in seen[-LAST:]]
    if len(last) < AT_LEAST:
        return None
    spread = max(stdev(last), PAIR) / sqrt(len(last))
    return Tilt(Decimal(str(round(fmean(last), 3))), Decimal(str(round(spread, 3))), len(last))

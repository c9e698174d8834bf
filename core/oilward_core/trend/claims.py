"""What may be claimed of two groups of bikes: wear by fluid, by school, of one bike against its kind.

The unit is the bike, not the finding: ten findings of one bike say little of a fluid. Welch's interval
of the difference of the bikes' mean logarithms, so that what is said is a ratio. Nothing is said of fewer
than three bikes and eight findings a side [def].
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import exp, log, sqrt
from statistics import mean, variance

from ..guard import Sound, guarded
from ..said import wear as say
from .student import two_sided_t

LEAST_BIKES, LEAST_FINDINGS = 3, 8
FLOOR = 0.01  # what counts for a clean magnet, so that it has a logarithm

Group = Mapping[str, Sequence[float]]


@dataclass(frozen=True, kw_only=True)
class Claim(Sound):
    """How many times the wear of the others a group shows, with its 95 % interval, of how many bikes and
    findings; no ratio where there are too few to say anything."""

    ratio: float | None
    low: float | None
    high: float | None
    bikes: int
    findings: int

    @property
    def differs(self) -> bool:
        """Whether one is in the whole of the interval's lee."""
        return self.low is not None and self.high is not None and (self.low > 1 or self.high < 1)

    @property
    def words(self) -> str:
        """What may be said, and no more."""
        seen = say.how_many(self.bikes, self.findings)
        if self.ratio is None or self.low is None or self.high is None:
            return say.too_few(seen)
        return say.times_the_others(self.ratio, self.low, self.high, self.differs, seen)


def _means(group: Group) -> list[float]:
    return [mean(log(max(value, FLOOR)) for value in values) for values in group.values() if values]


def _few(group: Group) -> bool:
    bikes = [values for values in group.values() if values]
    return len(bikes) < LEAST_BIKES or sum(map(len, bikes)) < LEAST_FINDINGS


@guarded
def compare_groups(group: Group, others: Group) -> Claim:
    """Wear of a group of bikes against that of others, findings by bike; Welch's unequal variances t on
    the bikes' means of logarithms."""
    bikes = sum(1 for values in group.values() if values)
    findings = sum(len(values) for values in group.values())
    if _few(group) or _few(others):
        return Claim(ratio=None, low=None, high=None, bikes=bikes, findings=findings)
    a, b = _means(group), _means(others)
    va, vb = variance(a) / len(a), variance(b) / len(b)
    off, se = mean(a) - mean(b), sqrt(va + vb)
    if not se:
        return Claim(ratio=exp(off), low=exp(off), high=exp(off), bikes=bikes, findings=findings)
    degrees = (va + vb) ** 2 / (va**2 / (len(a) - 1) + vb**2 / (len(b) - 1))
    wide = two_sided_t(degrees) * se
    return Claim(
        ratio=exp(off), low=exp(off - wide), high=exp(off + wide), bikes=bikes, findings=findings
    )

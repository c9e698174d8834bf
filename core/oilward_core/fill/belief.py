"""What a reservoir is believed to take: ``x ~ N(μ, σ²)`` ml of new oil bring the level to the target."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import erf, exp, pi, sqrt
from statistics import median, stdev

from ..errors import CoreError
from ..guard import Sound, guarded
from ..reasons import Reason, Source
from ..said import fill as said
from .case import FillCase

BOOK_SHARE = 0.97  # 3 % of the book capacity is old oil that stays
BOOK_SPREAD = 0.035
LEARNED_SPREAD = 0.012
ONE_TAKE_SPREAD = 0.02
PART_SPREAD = (
    0.25  # of what is between the marks: nobody knows how it stood as it came [our definition]
)
LEAST_SPREAD = 0.01  # of the book, while it and the gauge are all that is known


@dataclass(frozen=True)
class Belief(Sound):
    """What the gauge is expected to take in all: mean and standard deviation, ml."""

    mean: float
    sd: float


def _density(value: float) -> float:
    return exp(-value * value / 2) / sqrt(2 * pi)


def _below(value: float) -> float:
    return (1 + erf(value / sqrt(2))) / 2


@guarded
def truncate_below(belief: Belief, bound: float) -> Belief:
    """The belief once x > ``bound`` is known (moments of a truncated normal)."""
    alpha = (bound - belief.mean) / belief.sd
    tail = 1 - _below(alpha)
    hazard = _density(alpha) / tail if tail > 1e-12 else alpha + 1 / alpha
    variance = belief.sd**2 * max(1 + alpha * hazard - hazard**2, 1e-4)
    return Belief(belief.mean + belief.sd * hazard, sqrt(variance))


@guarded
def truncate_above(belief: Belief, bound: float) -> Belief:
    """The belief once x < ``bound`` is known: the mirror image of `truncate_below`."""
    mirrored = truncate_below(Belief(-belief.mean, belief.sd), -bound)
    return Belief(-mirrored.mean, mirrored.sd)


@guarded
def combine(belief: Belief, measured: float, spread: float) -> Belief:
    """Belief and measurement joined by precision weights (conjugate normal update)."""
    own, its = 1 / belief.sd**2, 1 / spread**2
    return Belief((belief.mean * own + measured * its) / (own + its), sqrt(1 / (own + its)))


@dataclass(frozen=True, kw_only=True)
class Joint(Sound):
    """What is believed of ``x`` and of the drop ``d`` at the first start together, as their moments, ml:
    before it the gauge shows what ``x − d`` would bring to the target."""

    x: Belief
    d: Belief
    covariance: float = 0.0

    @property
    def before(self) -> Belief:
        """``x − d``: what brings the level to the target as long as the engine has not run."""
        variance = self.x.sd**2 + self.d.sd**2 - 2 * self.covariance
        return Belief(self.x.mean - self.d.mean, sqrt(max(variance, 1e-6)))

    def seen(self, update: Callable[[Belief], Belief]) -> "Joint":
        """After a reading once the engine has run: ``update`` says what it does to the belief of x."""
        was, now = self.x, update(self.x)
        gain = self.covariance / was.sd**2
        return self._with(now, self._moved(self.d, gain, was, now), gain * now.sd**2)

    def seen_before(self, update: Callable[[Belief], Belief]) -> "Joint":
        """After a look before the first start: ``update`` says what it does to the belief of x − d. All
        such looks share one d, which counts once."""
        was, now = self.before, update(self.before)
        variance, fell = was.sd**2, was.sd**2 - now.sd**2
        of_x = (self.x.sd**2 - self.covariance) / variance
        of_d = (self.covariance - self.d.sd**2) / variance
        return self._with(
            self._moved(self.x, of_x, was, now),
            self._moved(self.d, of_d, was, now),
            self.covariance - of_x * of_d * fell,
        )

    @staticmethod
    def _moved(one: Belief, gain: float, was: Belief, now: Belief) -> Belief:
        variance = one.sd**2 - gain**2 * (was.sd**2 - now.sd**2)
        return Belief(one.mean + gain * (now.mean - was.mean), sqrt(max(variance, 1e-6)))

    def _with(self, x: Belief, d: Belief, covariance: float) -> "Joint":
        return replace(self, x=x, d=d, covariance=covariance)


@guarded
def prior(case: FillCase) -> tuple[Belief, Reason]:
    """What to believe before anything is read [def].

    Exact quantity: all of it, nothing to estimate. Learned: median of the last three takes, spread at
    least 1.2 % of capacity (2 % from one take). Book: 97 % of capacity, spread 3.5 %. Raises CoreError
    ``fill.no_capacity``.
    """
    if case.capacity <= 0:
        raise CoreError("fill.no_capacity")
    capacity = float(case.capacity)
    if case.gauge is None and not case.edge:
        whole = said.exact(f"{case.capacity:.0f}")
        return Belief(capacity, 0.0), Reason("exact quantity", whole, Source.MANUAL)
    if case.took:
        last = [float(take) for take in case.took[-3:]]
        spread = stdev(last) if len(last) > 1 else ONE_TAKE_SPREAD * capacity
        learned = Belief(median(last), max(spread, LEARNED_SPREAD * capacity))
        return learned, Reason("learned capacity", said.learned(last), Source.HISTORY)
    if case.part:
        between = float(case.gauge.between_marks) if case.gauge else 0.0
        back = Belief(capacity, max(PART_SPREAD * between, LEAST_SPREAD * capacity))
        return back, Reason("what came out", said.what_came_out(capacity), Source.HISTORY)
    of_model = case.model.takes
    if of_model is not None:
        others = Belief(of_model.mean * capacity, of_model.sd * capacity)
        text = said.of_model(others.mean, case.model.fillings, case.model.bikes)
        return others, Reason("model's capacity", text, Source.HISTORY)
    book = Belief(BOOK_SHARE * capacity, BOOK_SPREAD * capacity)
    return book, Reason("book capacity", said.book(capacity), Source.DEFINED)


@guarded
def floored(case: FillCase, belief: Belief) -> Belief:
    """The belief as it is poured and spoken by: never surer than 1 % of the capacity, while the book and
    the gauge are all that is known of it; nor than an eighth between its marks, which is as near as a
    gauge is read [def]."""
    if case.gauge is None or case.took:
        return belief
    least = min(LEAST_SPREAD * float(case.capacity), float(case.gauge.between_marks) / 8)
    return Belief(belief.mean, max(belief.sd, least))


@guarded
def expected(case: FillCase) -> Belief:
    """What a reservoir is expected to take, ml: all of an exact quantity, learned where it was filled
    before, else by the book (`prior`). Raises CoreError ``fill.no_capacity``."""
    return prior(case)[0]

"""What a workshop's healthy reservoirs of one kind show, and how its graders differ: empirical Bayes over
all used findings before the quarter's start. Priors and weights [def]."""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from datetime import date
from math import sqrt
from typing import NamedTuple

from ..guard import guarded
from .growth import (
    FORMS,
    HEALTHY,
    LEAST_FACTOR,
    MOST_FACTOR,
    OUTLIER,
    SHIFT,
    SURE,
    WIDE,
    Category,
    Cohort,
    Eye,
    Found,
    amount,
    category,
)

PRIOR = Cohort()
PRIOR_SD = sqrt(PRIOR.v)
TAU_WEIGHT, SIGMA_DF = 5.0, 20.0
RATE_WEIGHT, GRADER_WEIGHT = 80.0, 40.0
OFFSET_SD = 0.06
LEAST_TAU, LEAST_SIGMA = 0.05, 0.1
FARTHEST = 0.6  # a residual beyond it counts as that
# mean and variance that outliers add to a healthy bike's amounts
_OUTLIERS_MEAN = OUTLIER * SHIFT
_OUTLIERS_VARIANCE = OUTLIER * WIDE**2 + SURE * OUTLIER * SHIFT**2
ONSET_PRIOR, ONSET_LEAST, ONSET_MOST = 125.0, 0.004, 0.02

_FINE = (Category.PASTE, Category.FUZZ)
_RATES: dict[str, tuple[Category, ...]] = {
    "paste": (Category.PASTE,),
    "fuzz": (Category.FUZZ,),
    "slivers": (Category.SLIVERS, Category.SLIVERS_FUZZ),
}

Amounts = Mapping[str, Sequence[tuple[str, float]]]


def quarter_start(day: date) -> date:
    """The first day of a day's quarter."""
    return day.replace(month=day.month - (day.month - 1) % 3, day=1)


def _held(factor: float) -> float:
    return min(max(factor, LEAST_FACTOR), MOST_FACTOR)


class Told(NamedTuple):
    """What a finding tells of its kind: who read it, its forms as one category, log10 of its amount."""

    grader: str
    category: Category
    amount: float | None


Histories = Mapping[str, Sequence[Told]]


def _rates(findings: Sequence[Told], prior: Mapping[str, float], weight: float) -> dict[str, float]:
    """How often paste, fuzz and slivers are written, shrunk to ``prior``."""
    shown = Counter(one.category for one in findings)
    return {
        name: (sum(shown[one] for one in among) + weight * prior[name]) / (len(findings) + weight)
        for name, among in _RATES.items()
    }


_TABLE = {name: sum(FORMS[HEALTHY][one] for one in among) for name, among in _RATES.items()}


def _eye(rates: Mapping[str, float], offset: float) -> Eye:
    return Eye(offset=offset, **{name: _held(rates[name] / _TABLE[name]) for name in _TABLE})


def _by_grader(findings: Iterable[Told]) -> dict[str, list[Told]]:
    grouped: dict[str, list[Told]] = {}
    for found in findings:
        if found.grader:
            grouped.setdefault(found.grader, []).append(found)
    return grouped


def _fine_amounts(histories: Histories) -> dict[str, list[tuple[str, float]]]:
    """Grader and log10 amount by reservoir, where the forms are those of a healthy one."""
    found: dict[str, list[tuple[str, float]]] = {}
    for key, history in histories.items():
        kept = [
            (one.grader, one.amount)
            for one in history
            if one.category in _FINE and one.amount is not None
        ]
        if kept:
            found[key] = kept
    return found


def _mean(values: Sequence[float]) -> float:
    return sum(values) / len(values)


def _residuals(amounts: Amounts, offsets: Mapping[str, float]) -> list[tuple[str, float]]:
    """Grader and what is left of each amount beside its reservoir's own mean."""
    left = []
    for rows in amounts.values():
        own = _mean([u - offsets.get(grader, 0.0) for grader, u in rows])
        left += [(grader, min(max(u - own, -FARTHEST), FARTHEST)) for grader, u in rows]
    return left


def _offsets(amounts: Amounts, sigma: float) -> dict[str, float]:
    """How much more each grader writes than the others on the same reservoirs, shrunk."""
    offsets: dict[str, float] = {}
    for _ in range(3):
        grouped: dict[str, list[float]] = {}
        for grader, left in _residuals(amounts, offsets):
            grouped.setdefault(grader, []).append(left)
        shrink = (sigma / OFFSET_SD) ** 2
        offsets = {name: sum(left) / (len(left) + shrink) for name, left in grouped.items() if name}
    return offsets


def _within(amounts: Amounts, offsets: Mapping[str, float]) -> tuple[float, float]:
    """The sum of squares within reservoirs, and its degrees of freedom."""
    squares = degrees = 0.0
    for rows in amounts.values():
        own = [u - offsets.get(grader, 0.0) for grader, u in rows]
        mean = _mean(own)
        squares += sum(min(abs(u - mean), FARTHEST) ** 2 for u in own)
        degrees += len(own) - 1
    return squares, degrees


def _levels(amounts: Amounts, offsets: Mapping[str, float], within: float) -> tuple[float, ...]:
    """``m``, its variance, and ``tau`` between reservoirs."""
    means = [
        (_mean([u - offsets.get(grader, 0.0) for grader, u in rows]) - _OUTLIERS_MEAN, len(rows))
        for rows in amounts.values()
    ]

    def centre(tau2: float) -> tuple[float, float]:
        weights = [1 / (tau2 + within / n) for _, n in means]
        precision = 1 / PRIOR_SD**2 + sum(weights)
        at = PRIOR.m / PRIOR_SD**2 + sum(w * y for w, (y, _) in zip(weights, means, strict=True))
        return at / precision, 1 / precision

    m, _ = centre(PRIOR.tau**2)
    spread = sum((y - m) ** 2 - within / n for y, n in means)
    tau2 = (TAU_WEIGHT * PRIOR.tau**2 + spread) / (TAU_WEIGHT + len(means))
    tau = max(LEAST_TAU, sqrt(max(tau2, 0.0)))
    m, v = centre(tau**2)
    return m, v, tau


@guarded
def onset_rate(confirmed: int, findings: int) -> float:
    """The learned chance a service that a fault begins: of so many services with a finding,
    ``confirmed`` faults."""
    rate = (1 + max(confirmed, 0)) / (ONSET_PRIOR + max(findings, confirmed, 0))
    return min(max(rate, ONSET_LEAST), ONSET_MOST)


@guarded
def told_by(histories: Mapping[str, Iterable[Found]], day: date) -> dict[str, tuple[Told, ...]]:
    """What the findings of reservoirs before the start of ``day``'s quarter tell, without those of
    running in."""
    before = quarter_start(day)
    return {
        key: tuple(
            Told(one.grader, category(one.parts), amount(one))
            for one in history
            if one.day < before and not one.run_in
        )
        for key, history in histories.items()
    }


@guarded
def cohort_of(
    histories: Mapping[str, Iterable[Found]],
    day: date,
    onset: float = PRIOR.onset,
    regraded: Mapping[str, Iterable[Found]] | None = None,
    without: str = "",
) -> Cohort:
    """What the findings of these reservoirs, of one kind and one workshop, say of a healthy one: those
    before the start of ``day``'s quarter, without those of running in. None: the priors. ``regraded``:
    first readings that somebody else's counts instead of; they teach what their graders see, too.
    ``without`` the one that is to be judged by it: nobody is measured by himself."""
    return learned(told_by(histories, day), told_by(regraded or {}, day), onset, without)


@guarded
def learned(used: Histories, regraded: Histories, onset: float, without: str = "") -> Cohort:
    """The same of what is told already (`told_by`)."""
    used = {key: of for key, of in used.items() if key != without}
    also = {key: of for key, of in regraded.items() if key != without}
    everything = [one for history in used.values() for one in history]
    if not everything:
        return replace(PRIOR, onset=onset)
    rates = _rates(everything, _TABLE, RATE_WEIGHT)
    amounts = _fine_amounts(used)
    both = {key: [*used.get(key, ()), *also.get(key, ())] for key in (*used, *also)}
    offsets = _offsets(_fine_amounts(both), PRIOR.sigma)
    eyes = {
        grader: _eye(_rates(theirs, rates, GRADER_WEIGHT), offsets.get(grader, 0.0))
        for grader, theirs in _by_grader(one for of in both.values() for one in of).items()
    }
    known = replace(PRIOR, onset=onset, anybody=_eye(rates, 0.0), eyes=eyes)
    if not amounts:
        return known
    squares, degrees = _within(amounts, offsets)
    seen = squares / degrees if degrees else PRIOR.sigma**2 + _OUTLIERS_VARIANCE
    own = max(LEAST_SIGMA**2, (seen - _OUTLIERS_VARIANCE) / SURE)
    sigma2 = (SIGMA_DF * PRIOR.sigma**2 + degrees * own) / (SIGMA_DF + degrees)
    m, v, tau = _levels(amounts, offsets, sigma2 * SURE + _OUTLIERS_VARIANCE)
    return replace(known, m=m, v=v, tau=tau, sigma=sqrt(sigma2))

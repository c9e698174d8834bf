"""The growth filter: the chance that a fault is growing in a reservoir, from one finding to the next.

A failing bearing or gear shows itself in the *form* of its debris first and in its amount second. Hidden
state: healthy, then early (four or more services before the end), middle (two or three), late; over five
nodes of the bike's own level of harmless paste. A recursive Bayes filter (forward algorithm of a hidden
Markov model) over findings in the order of their days. [def] our definition; the table of forms is a
starting one, to be learned from confirmed outcomes.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from enum import IntEnum
from math import exp, log, log10, pi, sqrt

from ..codes.debris import COUNTED, FAMILY, Form
from ..guard import Sound, guarded
from .seen import Part


class Category(IntEnum):
    """What forms a finding shows, whatever their amount; paste goes with all of them."""

    PASTE = 0
    FUZZ = 1
    SLIVERS = 2
    SLIVERS_FUZZ = 3
    FLAKES = 4
    FLAKES_FINER = 5
    CHIPS = 6
    CHIPS_FINER = 7


HEALTHY, EARLY, MIDDLE, LATE = range(4)

# P(category | state), rows as above [def]
FORMS = (
    (0.805, 0.155, 0.024, 0.0045, 0.006, 0.0035, 0.0007, 0.0013),
    (0.20, 0.38, 0.12, 0.11, 0.05, 0.10, 0.01, 0.03),
    (0.075, 0.25, 0.115, 0.13, 0.07, 0.19, 0.03, 0.14),
    (0.005, 0.045, 0.025, 0.035, 0.045, 0.145, 0.18, 0.52),
)
ONSET, WORSE, WORST = 0.008, 0.35, 0.45  # a service
FIRST = (1 - 0.0048, 0.004, 0.0008, 0.0)  # at a first finding
ADDED = (-2.1, -1.75, -1.5)  # log10 of what a fault adds, early to late
NODES = (-2.2, -1.1, 0.0, 1.1, 2.2)
_RAW = [exp(-x * x / 2) for x in NODES]
NODE_WEIGHTS = tuple(weight / sum(_RAW) for weight in _RAW)
LEAST_KM, FLOOR = 200.0, 0.005
SURE, OUTLIER = 0.88, 0.12
SHIFT, WIDE = 0.15, 0.4  # outliers of a healthy bike
FAULT_SD, FAULT_WIDE = 0.24, 0.5
SAID_AT, SAID_PER = -0.35, 0.76
ALARM = 1 / 4
MOST_TIMES = 1e6  # likelier than that is that
ENOUGH_BEFORE = 3  # findings after which the chance knows more of one piece than its rule
LEAST_FACTOR, MOST_FACTOR = 0.4, 5.0


@dataclass(frozen=True, kw_only=True)
class Found(Sound):
    """A finding as the filter reads it. ``run_in``: left out; ``repaired``: since the finding before,
    so that it starts anew; ``new_baseline``: a magnet was added or another engine fitted, so that even
    the bike's own level is new; ``nth``: which of its day's it is, as they were written down."""

    day: date
    parts: tuple[Part, ...]
    km_since_wiped: Decimal
    grader: str = ""
    run_in: bool = False
    repaired: bool = False
    new_baseline: bool = False
    nth: int = 0


@dataclass(frozen=True, kw_only=True)
class Eye:
    """How a grader differs: ``offset`` of log10 amounts, and by how much more often than the table
    harmless paste, fuzz and slivers are written."""

    offset: float = 0.0
    paste: float = 1.0
    fuzz: float = 1.0
    slivers: float = 1.0


@dataclass(frozen=True, kw_only=True)
class Cohort(Sound):
    """What reservoirs of one kind in one workshop show when healthy: mean ``m`` of log10 amounts over
    bikes and its variance ``v``, ``tau`` between bikes, ``sigma`` from one service to the next, and the
    ``eyes`` of those who grade. The values without any findings are priors [def]."""

    m: float = -1.68
    v: float = 0.16**2
    tau: float = 0.14
    sigma: float = 0.19
    onset: float = ONSET
    anybody: Eye = Eye()
    eyes: Mapping[str, Eye] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class Growth(Sound):
    """The chance after a finding that a fault is growing: as worked out (``raw``) and as said, and how
    many times likelier this form and this amount are with a fault growing than without (``amount``:
    none where only coarse pieces were written down); ``before``: how many findings it stands on."""

    day: date
    raw: float
    said: float
    form: float
    amount: float | None
    before: int = 0

    @property
    def alarms(self) -> bool:
        """Whether it raises a verdict: odds of one to three or more."""
        return self.said >= ALARM

    @property
    def calms(self) -> bool:
        """Whether it knows enough of the reservoir to say that a piece or two mean less than they would
        by themselves."""
        return self.before >= ENOUGH_BEFORE and not self.alarms


_FUZZY = frozenset((Form.FUZZ, Form.SPECKS))
_FINE = frozenset((Form.PASTE, *_FUZZY))


def _there(part: Part) -> bool:
    return part.share > 0 or bool(part.count) or bool(part.largest_mm)


def counted(parts: Iterable[Part]) -> list[Part]:
    """The parts the filter looks at: there, and of a matter no other rule looks at."""
    return [part for part in parts if _there(part) and COUNTED[FAMILY[part.matter]]]


def category(parts: Iterable[Part]) -> Category:
    """The forms of a finding as one category."""
    forms = {part.form for part in counted(parts)}
    fuzz = bool(forms & _FUZZY)
    if forms & {Form.CHIPS, Form.FRAGMENTS}:
        finer = forms & {*_FUZZY, Form.SLIVERS, Form.FLAKES}
        return Category.CHIPS_FINER if finer else Category.CHIPS
    if Form.FLAKES in forms:
        return Category.FLAKES_FINER if fuzz or Form.SLIVERS in forms else Category.FLAKES
    if Form.SLIVERS in forms:
        return Category.SLIVERS_FUZZ if fuzz else Category.SLIVERS
    return Category.FUZZ if fuzz else Category.PASTE


def amount(found: Found) -> float | None:
    """log10 of the share of paste and fuzz per 1000 km; None where only coarse pieces were written."""
    parts = counted(found.parts)
    fine = [part for part in parts if part.form in _FINE]
    if parts and not fine:
        return None
    share = min(float(sum((part.share for part in fine), Decimal(0))), len(Form))
    return log10(1000 * share / max(float(found.km_since_wiped), LEAST_KM) + FLOOR)


def _normal(x: float, mean: float, sd: float) -> float:
    return exp(-(((x - mean) / sd) ** 2) / 2) / (sd * sqrt(2 * pi))


def healthy_row(eye: Eye) -> tuple[float, ...]:
    """P(category | healthy) as this eye writes it; coarser forms move with the root of its slivers."""
    coarse = sqrt(eye.slivers)
    factors = (eye.paste, eye.fuzz, eye.slivers, eye.slivers, *(coarse,) * 4)
    row = [rate * factor for rate, factor in zip(FORMS[HEALTHY], factors, strict=True)]
    return tuple(rate / sum(row) for rate in row)


def _amounts(u: float, mu: float, sigma: float) -> tuple[float, ...]:
    """How likely an amount is in each state, at one level of the bike. A magnet cleaner than usual is no
    sign of a fault: below the bike's own level no faulty state is likelier than the healthy one."""
    healthy = SURE * _normal(u, mu, sigma) + OUTLIER * _normal(u, mu + SHIFT, WIDE)
    means = (log10(10**mu + 10**added) for added in ADDED)
    faulty = (
        SURE * _normal(u, at, FAULT_SD) + OUTLIER * _normal(u, at, FAULT_WIDE) for at in means
    )
    if u < mu:
        return (healthy, *(min(one, healthy) for one in faulty))
    return (healthy, *faulty)


def _stepped(states: Sequence[float], onset: float) -> list[float]:
    """The states a service later."""
    healthy, early, middle, late = states
    return [
        healthy * (1 - onset),
        healthy * onset + early * (1 - WORSE),
        early * WORSE + middle * (1 - WORST),
        middle * WORST + late,
    ]


def _ratio(chances: Sequence[Sequence[float]], likely: Sequence[Sequence[float]]) -> float:
    """How many times likelier it is with a fault than without, states weighted by their chance."""

    def mean(states: Sequence[int]) -> float:
        weight = sum(row[s] for row in chances for s in states)
        total = sum(
            row[s] * odds[s] for row, odds in zip(chances, likely, strict=True) for s in states
        )
        return total / weight if weight else 0.0

    without = mean([HEALTHY])
    faulty = mean([EARLY, MIDDLE, LATE])
    return min(faulty / without, MOST_TIMES) if faulty < MOST_TIMES * without else MOST_TIMES


def said_of(raw: float) -> float:
    """The chance as it is said: what was worked out, brought to what happened on simulated histories
    (Platt scaling)."""
    held = min(max(raw, 1e-12), 1 - 1e-12)
    return 1 / (1 + exp(-(SAID_AT + SAID_PER * log(held / (1 - held)))))


@dataclass(frozen=True, kw_only=True)
class SoFar(Sound):
    """What a reservoir's findings so far come to, so that the next is judged by itself alone: the
    ``chances`` of each state at each level of the bike, after so many findings ``taken``; ``repaired``
    and ``new_baseline`` since."""

    cohort: Cohort = field(default_factory=Cohort)
    chances: tuple[tuple[float, ...], ...] = ()
    taken: int = 0
    fresh: bool = True
    repaired: bool = False
    new_baseline: bool = False


class _Filter:
    """One reservoir's chances, finding by finding."""

    def __init__(self, begun: SoFar) -> None:
        cohort = begun.cohort
        self.cohort = cohort
        spread = sqrt(cohort.tau**2 + cohort.v)
        self.levels = [cohort.m + x * spread for x in NODES]
        self.pending = (begun.repaired, begun.new_baseline)
        self.begin()
        if begun.chances:
            self.chances = [list(row) for row in begun.chances]
            self.fresh, self.taken = begun.fresh, begun.taken

    def begin(self) -> None:
        self.chances = [[weight * state for state in FIRST] for weight in NODE_WEIGHTS]
        self.fresh, self.taken = True, 0

    def next(self, found: Found) -> Growth | None:
        """The chance after it; None while running in. What happened before it counts with the next."""
        repaired = self.pending[0] or found.repaired
        baseline = self.pending[1] or found.new_baseline
        self.pending = (repaired, baseline)
        if found.run_in:
            self.taken += 1  # it stands, though the chance does not know it
            return None
        if baseline:
            self.begin()
        elif repaired:
            self.repaired()
        self.pending = (False, False)
        return self.take(found)

    def repaired(self) -> None:
        """Whatever grew is gone; the bike's own level is not."""
        self.chances = [[sum(row) * state for state in FIRST] for row in self.chances]
        self.fresh = True

    def take(self, found: Found) -> Growth:
        eye = self.cohort.eyes.get(found.grader, self.cohort.anybody)
        if not self.fresh:
            self.chances = [_stepped(row, self.cohort.onset) for row in self.chances]
        self.fresh = False
        shown = category(found.parts)
        forms = [(healthy_row(eye)[shown], *(row[shown] for row in FORMS[1:]))] * len(NODES)
        form = _ratio(self.chances, forms)
        u, of_amount = amount(found), None
        likely: list[tuple[float, ...]] = forms
        if u is not None:
            amounts = [_amounts(u - eye.offset, mu, self.cohort.sigma) for mu in self.levels]
            of_amount = _ratio(self.chances, amounts)
            likely = [
                tuple(f * a for f, a in zip(*both, strict=True))
                for both in zip(forms, amounts, strict=True)
            ]
        joint = [
            [chance * odds for chance, odds in zip(*both, strict=True)]
            for both in zip(self.chances, likely, strict=True)
        ]
        total = sum(map(sum, joint))
        if total > 0:  # an amount no state explains says nothing
            self.chances = [[chance / total for chance in row] for row in joint]
        raw = min(sum(sum(row[1:]) for row in self.chances), 1.0)
        before, self.taken = self.taken, self.taken + 1
        return Growth(
            day=found.day,
            raw=raw,
            said=said_of(raw),
            form=form,
            amount=of_amount,
            before=before,
        )


@guarded
def growth(history: Iterable[Found], cohort: Cohort, day: date) -> tuple[Growth, ...]:
    """The chance after each finding of a reservoir up to ``day``, oldest first, those of one day as
    they were written down; later findings never count, and the order they are given in does not matter.
    A service without a finding makes no transition; findings while running in are left out. Costs well
    under a millisecond a finding."""
    now = _Filter(SoFar(cohort=cohort))
    said = (now.next(found) for found in _until(history, day))
    return tuple(one for one in said if one is not None)


@guarded
def so_far(
    history: Iterable[Found],
    cohort: Cohort,
    day: date,
    *,
    repaired: bool = False,
    new_baseline: bool = False,
) -> SoFar:
    """What the findings of a reservoir up to ``day`` come to; ``repaired`` and ``new_baseline`` since the
    last of them."""
    now = _Filter(SoFar(cohort=cohort))
    for found in _until(history, day):
        now.next(found)
    return SoFar(
        cohort=cohort,
        chances=tuple(map(tuple, now.chances)),
        taken=now.taken,
        fresh=now.fresh,
        repaired=now.pending[0] or repaired,
        new_baseline=now.pending[1] or new_baseline,
    )


@guarded
def growth_next(begun: SoFar, found: Found) -> Growth | None:
    """The chance after one more finding: the same as `growth` says of it with all before. None while
    running in."""
    return _Filter(begun).next(found)


def _until(history: Iterable[Found], day: date) -> list[Found]:
    return sorted((found for found in history if found.day <= day), key=_in_order)


def _in_order(found: Found) -> tuple[object, ...]:
    parts = sorted(f"{p.form} {p.matter} {p.share} {p.count} {p.largest_mm}" for p in found.parts)
    return (found.day, found.nth, found.km_since_wiped, found.grader, parts)

"""How much of each fluid a visit needs, and the bottles that hold it."""

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from decimal import Decimal
from heapq import heappop, heappush
from math import ceil

from ..errors import CoreError
from ..guard import Sound, guarded
from ..quantity import quarts_and_ounces, show
from ..said import kit as say
from ..spec import FillRule, ReservoirSpec

RESERVE_SHARE, RESERVE_LEAST = Decimal("0.05"), Decimal(100)
OPEN_SHELF_LIFE = timedelta(days=3 * 365)  # of an opened bottle [trade]
# of a need: four quarts are four bottles of 946 ml, though their labels round a little down
LABELS_ROUND = Decimal("0.0004")
_MOST_ML = 60_000
LARGEST_BOTTLE = 250_000  # ml, a drum


@dataclass(frozen=True, kw_only=True)
class Bottle(Sound):
    """A bottle on the shelf: what it held and what is left, ml; ``opened_on`` None: sealed."""

    id: str
    size: Decimal
    left: Decimal
    opened_on: date | None = None


@dataclass(frozen=True)
class Size(Sound):
    """A size it is sold in, ml, and what one costs (any money). Raises CoreError ``kit.size``."""

    ml: int
    price: Decimal

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 0 < self.ml <= LARGEST_BOTTLE or self.price < 0:
            raise CoreError("kit.size", ml=self.ml)


@dataclass(frozen=True)
class Use(Sound):
    """So much out of one bottle; ``keeps`` is what stays in it."""

    bottle: Bottle
    ml: Decimal
    keeps: Decimal


@dataclass(frozen=True, kw_only=True)
class Picked(Sound):
    """How a demand is met: from bottles on the shelf, then by buying ``buy`` (count of each size).
    ``spare`` is what the bought bottles keep, ml."""

    need: Decimal
    uses: tuple[Use, ...]
    buy: tuple[tuple[Size, int], ...]
    spare: Decimal

    @property
    def cost(self) -> Decimal:
        """What has to be bought costs."""
        return sum((size.price * count for size, count in self.buy), Decimal(0))


@guarded
def expected_need(take: Decimal, rule: FillRule) -> Decimal:
    """What to have at hand for an expected take, ml: 5 % and at least 100 ml more where a level is
    read, no more than the quantity where it is exact [def]."""
    if rule == FillRule.EXACT:
        return take
    return take + max(take * RESERVE_SHARE, RESERVE_LEAST)


@dataclass(frozen=True)
class Demand(Sound):
    """How much of one fluid is needed, ml, and what for."""

    fluid: str
    ml: Decimal
    what_for: tuple[str, ...]


@guarded
def demands(takes: Iterable[tuple[ReservoirSpec, str, Decimal | None]]) -> tuple[Demand, ...]:
    """What reservoirs need, summed by fluid. ``takes``: each with its fluid (empty: none fits) and
    what it is expected to take, ml, None where nobody knows."""
    return together(
        Demand(fluid, expected_need(take, spec.fill_rule), (spec.label,))
        for spec, fluid, take in takes
        if fluid and take is not None and spec.facts.poured
    )


@guarded
def nothing_fits(
    takes: Iterable[tuple[ReservoirSpec, str, Decimal | None]],
) -> tuple[Demand, ...]:
    """What reservoirs need that no fluid here fits, summed by what they ask for (empty: their sheets name
    nothing). ``takes`` as in `demands`."""
    return together(
        Demand(str(spec.requirement), expected_need(take, spec.fill_rule), (spec.label,))
        for spec, fluid, take in takes
        if not fluid and take is not None and spec.facts.poured
    )


@guarded
def together(demands: Iterable[Demand]) -> tuple[Demand, ...]:
    """Demands summed by fluid."""
    found: dict[str, Demand] = {}
    for one in demands:
        before = found.get(one.fluid, Demand(one.fluid, Decimal(0), ()))
        what_for = tuple(dict.fromkeys((*before.what_for, *one.what_for)))
        found[one.fluid] = Demand(one.fluid, before.ml + one.ml, what_for)
    return tuple(found.values())


@guarded
def buy(need: int, sizes: Sequence[Size]) -> tuple[tuple[Size, int], ...]:
    """The cheapest bottles that hold at least ``need`` ml, and among those the least left over;
    exact, by dynamic programming over the amounts that bottles can add up to."""
    if need <= 0 or not sizes:
        return ()
    need = min(need, _MOST_ML)
    best: dict[int, tuple[Decimal, int]] = {0: (Decimal(0), -1)}  # ml: cost, last size
    coming, reached = [0], []
    while coming:
        total = heappop(coming)
        cost, _ = best[total]
        if total >= need:
            reached.append((cost, total))
            continue
        for n, size in enumerate(sizes):
            more = total + size.ml
            if more not in best:
                heappush(coming, more)
            if more not in best or cost + size.price < best[more][0]:
                best[more] = (cost + size.price, n)
    total, counts = min(reached)[1], Counter[int]()
    while total:
        last = best[total][1]
        counts[last] += 1
        total -= sizes[last].ml
    return tuple((sizes[n], counts[n]) for n in sorted(counts))


def _sealed(need: Decimal, bottles: Sequence[Bottle]) -> tuple[Bottle, ...]:
    """The sealed bottles to open: as little left over as can be, then as few as can be. All of
    them if they do not suffice."""
    if sum(bottle.left for bottle in bottles) <= need:
        return tuple(bottles)
    reach: dict[Decimal, tuple[Bottle, ...]] = {Decimal(0): ()}
    for bottle in bottles:
        for total, chosen in list(reach.items()):
            more = (*chosen, bottle)
            at = total + bottle.left
            if at not in reach or len(more) < len(reach[at]):
                reach[at] = more
    enough = [(total, len(chosen)) for total, chosen in reach.items() if total >= need]
    return reach[min(enough)[0]]


@guarded
def pick(need: Decimal, bottles: Sequence[Bottle], sizes: Sequence[Size], today: date) -> Picked:
    """Meet a demand, ml: open bottles first, oldest first, not past their shelf life; then sealed
    ones; then buy what is missing."""
    opened = [
        b for b in bottles if b.opened_on and b.left > 0 and today - b.opened_on <= OPEN_SHELF_LIFE
    ]
    uses: list[Use] = []
    slack, left = need * LABELS_ROUND, need
    for bottle in sorted(opened, key=lambda b: (b.opened_on or today, b.id)):
        ml = min(left, bottle.left)
        if ml > 0:
            uses.append(Use(bottle, ml, bottle.left - ml))
            left -= ml
    short = left > slack
    fresh = [b for b in bottles if b.opened_on is None and b.left > 0] if short else []
    for bottle in _sealed(left - slack, fresh):
        ml = min(left, bottle.left)
        uses.append(Use(bottle, ml, bottle.left - ml))
        left -= ml
    bought = buy(ceil(left - slack), sizes) if left > slack else ()
    spare = sum(size.ml * count for size, count in bought) - left if bought else Decimal(0)
    return Picked(need=need, uses=tuple(uses), buy=bought, spare=max(Decimal(spare), Decimal(0)))


@guarded
def left_after(bottles: Iterable[Bottle], uses: Iterable[Use], on: date) -> tuple[Bottle, ...]:
    """The shelf once these are used: what was poured from is open and holds less; empty ones are
    gone."""
    used = {use.bottle.id: use for use in uses}
    after = [
        replace(b, left=used[b.id].keeps, opened_on=b.opened_on or on) if b.id in used else b
        for b in bottles
    ]
    return tuple(bottle for bottle in after if bottle.left > 0)


def _amount(ml: Decimal, unit: str) -> str:
    ounces = f" ({quarts_and_ounces(ml)})" if unit != "ml" else ""
    return f"{show(ml, 'ml')}{ounces}"


def _was_full(bottle: Bottle) -> bool:
    return bottle.size - bottle.left < 1


@guarded
def say_picked(picked: Picked, unit: str) -> str:
    """In bottle words: ``all of the open 500 ml bottle; all of 2 sealed 946 ml bottles; 178 ml of the
    sealed 1000 ml bottle, which keeps 822 ml; buy 1 of 1000 ml``."""
    said = []
    named = [
        (use, say.bottle(use.bottle.opened_on is not None, show(use.bottle.size, "ml")))
        for use in picked.uses
    ]
    whole = Counter(name for use, name in named if use.keeps < 1 and _was_full(use.bottle))
    said += [say.emptied(name, count) for name, count in whole.items()]
    said += [
        say.rest_of(_amount(use.ml, unit), name)
        for use, name in named
        if use.keeps < 1 and not _was_full(use.bottle)
    ]
    for use, name in named:
        if use.keeps >= 1:
            said.append(say.part_of(_amount(use.ml, unit), name, show(use.keeps, "ml")))
    for size, count in picked.buy:
        said.append(say.bought(count, size.ml))
    if picked.buy and picked.spare >= 1:
        said.append(say.left_over(show(picked.spare, "ml")))
    return "; ".join(said)

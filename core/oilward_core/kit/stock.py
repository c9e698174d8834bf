"""What stands on the shelf and lies in the drawer, and what visits leave of it for the next one."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from ..guard import Sound, guarded
from .bottles import Bottle, Demand, Picked, Size, left_after, pick
from .things import Things, short

# in what sizes a fluid is sold
Sold = Callable[[str], Sequence[Size]]


@dataclass(frozen=True)
class Stock(Sound):
    """Bottles by fluid, and how many of each seal and filter."""

    bottles: Mapping[str, tuple[Bottle, ...]]
    parts: Mapping[str, int]

    def of(self, fluid: str) -> tuple[Bottle, ...]:
        """The bottles of a fluid."""
        return self.bottles.get(fluid, ())


@dataclass(frozen=True)
class Wanted(Sound):
    """What one visit takes from shelf and drawer, and what ``nothing_fits`` that is here, by what is
    asked for."""

    demands: tuple[Demand, ...]
    parts: Mapping[str, int]
    nothing_fits: tuple[Demand, ...] = ()


@dataclass(frozen=True)
class Served(Sound):
    """How a visit is served from the stock: bottles for each demand, the seals and filters the
    drawer lacks, and what is left for the next visit."""

    picks: tuple[tuple[Demand, Picked], ...]
    missing_parts: Mapping[str, int]
    left: Stock


@dataclass(frozen=True)
class Price(Sound):
    """What a visit costs (any money): ``parts`` are oil, seals and filters at the counter's prices,
    from the shelf or not; ``buying`` is what has to be bought for it first, whole bottles."""

    parts: Decimal
    buying: Decimal
    labour: Decimal

    @property
    def total(self) -> Decimal:
        """Parts and work."""
        return self.parts + self.labour


_CENT = Decimal("0.01")


@guarded
def worth(ml: Decimal, sizes: Sequence[Size]) -> Decimal:
    """What so much oil is worth, by the smallest bottle it is sold in."""
    smallest = min(sizes, key=lambda size: size.ml, default=None)
    return (ml * smallest.price / smallest.ml).quantize(_CENT) if smallest else Decimal(0)


@guarded
def price(
    served: Served,
    things: Things,
    sold: Sold,
    costs: Callable[[str], Decimal],
    minutes: int,
    an_hour: Decimal,
) -> Price:
    """What a visit costs, to the hundredth: ``costs`` is the counter's price of a seal or filter,
    ``minutes`` the hands-on ones."""
    oil = sum((worth(one.ml, sold(one.fluid)) for one, _ in served.picks), Decimal(0))
    parts = sum((costs(name) * count for name, count in things.parts), Decimal(0))
    bottles = sum((found.cost for _, found in served.picks), Decimal(0))
    missing = sum((costs(name) * n for name, n in served.missing_parts.items()), Decimal(0))
    return Price(oil + parts, bottles + missing, (an_hour * minutes / 60).quantize(_CENT))


def kept(stock: Stock, left: Stock, fluid: str) -> Decimal:
    """How much of a fluid earlier visits keep for themselves, ml."""
    return sum((b.left for b in stock.of(fluid)), Decimal(0)) - sum(
        (b.left for b in left.of(fluid)), Decimal(0)
    )


@guarded
def serve(stock: Stock, wanted: Wanted, sold: Sold, today: date) -> Served:
    """Serve one visit from the stock, ml by `bottles.pick`; what is bought for it is used up by
    it."""
    picks = tuple(
        (one, pick(one.ml, stock.of(one.fluid), sold(one.fluid), today)) for one in wanted.demands
    )
    bottles = dict(stock.bottles)
    for one, found in picks:
        bottles[one.fluid] = left_after(stock.of(one.fluid), found.uses, today)
    parts = {name: max(0, count - wanted.parts.get(name, 0)) for name, count in stock.parts.items()}
    return Served(picks, short(wanted.parts, stock.parts), Stock(bottles, parts))


@guarded
def serve_in_turn(
    stock: Stock, visits: Iterable[Wanted], sold: Sold, today: date
) -> tuple[Served, ...]:
    """Serve planned visits in their order: what an earlier one needs is kept for it."""
    found = []
    for wanted in visits:
        served = serve(stock, wanted, sold, today)
        found.append(served)
        stock = served.left
    return tuple(found)

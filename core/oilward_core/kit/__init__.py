"""The kit of a visit: oil in bottles, seals, tools, wrenches and what else is used up."""

from .bottles import (
    Bottle,
    Demand,
    Picked,
    Size,
    Use,
    buy,
    demands,
    expected_need,
    left_after,
    pick,
    say_picked,
    together,
)
from .stock import Price, Served, Sold, Stock, Wanted, kept, price, serve, serve_in_turn, worth
from .things import Things, short, things

__all__ = [
    "Bottle",
    "Demand",
    "Picked",
    "Price",
    "Served",
    "Size",
    "Sold",
    "Stock",
    "Things",
    "Use",
    "Wanted",
    "buy",
    "demands",
    "expected_need",
    "kept",
    "left_after",
    "pick",
    "price",
    "say_picked",
    "serve",
    "serve_in_turn",
    "short",
    "things",
    "together",
    "worth",
]

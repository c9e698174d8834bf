"""The run order: the shortest way through a visit's jobs, and how long they really take."""

from .broken import broken_rules
from .hands import cooled, walks
from .learned import Stamp, hands_on, kind_of_step, learned_minutes, waited
from .placed import Order, Placed, Wish, in_turn
from .slack import slack
from .solve import solve, solve_as_wished

__all__ = [
    "Order",
    "Placed",
    "Stamp",
    "Wish",
    "broken_rules",
    "cooled",
    "hands_on",
    "in_turn",
    "kind_of_step",
    "learned_minutes",
    "slack",
    "solve",
    "solve_as_wished",
    "waited",
    "walks",
]

"""The run order: what a visit's jobs are, and the shortest way through them."""

from .jobs import (
    CHANGE_MINUTES,
    COLD_JOBS,
    ColdJob,
    Job,
    PlannedTask,
    cautions,
    jobs_for,
)
from .learned import Stamp, hands_on, kind_of_step, learned_minutes
from .solve import Order, Placed, Wish, broken_rules, in_turn, solve, solve_as_wished

__all__ = [
    "CHANGE_MINUTES",
    "COLD_JOBS",
    "ColdJob",
    "Job",
    "Order",
    "Placed",
    "PlannedTask",
    "Stamp",
    "Wish",
    "broken_rules",
    "cautions",
    "hands_on",
    "in_turn",
    "jobs_for",
    "kind_of_step",
    "learned_minutes",
    "solve",
    "solve_as_wished",
]

"""The run order: what a visit's jobs are, and the shortest way through them."""

from .jobs import CHANGE_MINUTES, ColdJob, Job, PlannedTask, jobs_for, learned_minutes
from .solve import Order, Placed, Wish, broken_rules, in_turn, solve

__all__ = [
    "CHANGE_MINUTES",
    "ColdJob",
    "Job",
    "Order",
    "Placed",
    "PlannedTask",
    "Wish",
    "broken_rules",
    "in_turn",
    "jobs_for",
    "learned_minutes",
    "solve",
]

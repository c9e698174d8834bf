"""What earlier releases wrote down, carried over to this one: entries of the first and the second
description of the work, closings of both formats before this."""

from .entries import carried_over, raw_carried_over
from .written import Written

__all__ = ["Written", "carried_over", "raw_carried_over"]

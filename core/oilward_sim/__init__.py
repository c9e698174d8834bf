"""Simulated wear, whose truth is known: for proof, for the demo and for practice. It is never taken for
what happened."""

from .wear import Fault, Grader, Healthy, History, Seen, World, cohort, shown_to

__all__ = ["Fault", "Grader", "Healthy", "History", "Seen", "World", "cohort", "shown_to"]

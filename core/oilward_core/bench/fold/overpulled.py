"""Threads that were pulled too far: what it was pulled to, and what has to be done anew since."""

from collections.abc import Iterator, Mapping

from ...codes.options import Thread
from ...runsheet import StepId, TaskPlan, openings
from ...torque import overpulled
from ..asks.choice import Chosen
from ..asks.torque import Pulled
from ..entries import Entry
from .facts import Facts
from .known import Bench, Known, Over
from .pulls import at_plug


def found_over(
    tasks: Mapping[str, TaskPlan], facts: Facts, bench: Bench
) -> dict[str, tuple[Over, ...]]:
    """Every pull that went too far, by reservoir, oldest first. One that was typed wrong and put right is
    none."""
    found: dict[str, list[Over]] = {}
    for key, task in tasks.items():
        for one in openings(task.reservoir, task.variant):
            plug, step = one.closes, one.card
            if plug.torque is None:
                continue
            for entry in facts.by_step.get(str(step), ()):
                if not isinstance(entry.data, Pulled) or entry.data.feel:
                    continue
                nm = at_plug(entry.data, plug, bench)
                far = overpulled(nm, plug.torque, plug.soft)
                over = Over(step=step, nm=nm if far else None, entry=entry)
                if (far or entry.data.over) and not _taken_as_it_was(over, facts):
                    found.setdefault(key, []).append(over)
    return {key: tuple(overs) for key, overs in found.items()}


def _taken_as_it_was(over: Over, facts: Facts) -> bool:
    """Whether an earlier release, which asked for no look, went on with another pull after it."""
    if str(over.look) in facts.by_step or over.entry.supersedes:
        return False
    pulls = facts.by_step.get(str(over.step), ())
    return any(pull.at > over.at and not pull.against for pull in pulls)


def undone(step: StepId, entry: Entry | None, known: Known) -> bool:
    """Whether what was done at a step was before its thread was pulled too far."""
    overs = known.over.get(step.reservoir, ())
    return any(over.undoes(step) and (entry is None or entry.at <= over.at) for over in overs)


def hurt(known: Known) -> Iterator[tuple[Over, Entry]]:
    """Threads that were found hurt, and nobody has said how they were mended, with what says so."""
    for overs in known.over.values():
        for over in overs:
            entry = known.facts.last.get(str(over.look))
            if entry is None or entry.id in known.facts.answered:
                continue
            if isinstance(entry.data, Chosen) and entry.data.value == Thread.HURT:
                yield over, entry

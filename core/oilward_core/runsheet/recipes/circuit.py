"""A clutch circuit: it shares the engine's oil, and has a filter of its own."""

from ...codes.entries import Ask
from ...codes.options import Tick
from ...codes.steps import JobKind, Name
from ...said import steps as words
from ..ids import StepId
from ..jobs import UPRIGHT
from ..needs import Need, done
from ..openings import openings
from ..steps import PlannedTask, Step, ticks, where
from ..work import Work
from .cards import STRAPPED, carded, look_at_threads


def write(work: Work, task: PlannedTask, before: Need) -> StepId:
    """Its filter, once the oil it shares runs out (or the bike stands, where it has its own)."""
    spec = task.spec
    opened = next(iter(openings(spec, task.variant)), None)
    unit = opened.fastener if opened else None
    carding = opened is not None and opened.by_wrench and opened.card not in work.rounds.unasked
    job = work.job(JobKind.CIRCUIT_FILTER, spec, attitude=UPRIGHT)
    said = words.step(
        Name.CIRCUIT,
        label=spec.label,
        direction=words.as_written(unit.direction if unit else ""),
        tight=words.cover_tight(
            opened.closes.torque.text if opened and opened.closes.torque else ""
        ),
    )
    changed = work.step(
        Step(
            id=StepId(spec.key, Name.CIRCUIT),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            place=where(unit),
            spot=unit.spot if unit else None,
            items=ticks(Tick.SPRING, Tick.WAY_ROUND, *(() if carding else (Tick.COVER,))),
            needs=(before,),
        )
    )
    looked = look_at_threads(work, spec, job)
    if opened is None or not carding:
        return changed
    needs = (STRAPPED, done(changed), *looked)
    return carded(work, opened, job, words.FILTER_COVER, needs)

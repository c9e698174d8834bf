"""A clutch circuit: it shares the engine's oil, and has a filter of its own."""

from ...codes.entries import Ask
from ...codes.options import Tick
from ...codes.roles import FILTERS
from ...codes.steps import JobKind, Name
from ...said import steps as words
from ...spec import Fastener, ReservoirSpec
from ..ids import StepId
from ..jobs import UPRIGHT
from ..needs import Need, done
from ..steps import PlannedTask, Step, ticks, where
from ..work import Work
from .cards import STRAPPED, by_wrench, carded, look_at_threads


def _unit(spec: ReservoirSpec) -> Fastener | None:
    return next((f for f in spec.fasteners if f.role in FILTERS), None)


def write(work: Work, task: PlannedTask, before: Need) -> StepId:
    """Its filter, once the oil it shares runs out (or the bike stands, where it has its own)."""
    spec = task.spec
    unit = _unit(spec)
    job = work.job(JobKind.CIRCUIT_FILTER, spec, attitude=UPRIGHT)
    said = words.step(
        Name.CIRCUIT,
        label=spec.label,
        direction=words.as_written(unit.direction if unit else ""),
        tight=words.cover_tight(unit.torque.text if unit and unit.torque else ""),
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
            items=ticks(Tick.SPRING, Tick.WAY_ROUND, Tick.COVER),
            needs=(before,),
        )
    )
    looked = look_at_threads(work, spec, job)
    name = StepId(spec.key, Name.TORQUE_FILTER)
    if unit is None or not by_wrench(unit) or name in work.rounds.unasked:
        return changed
    return work.step(
        carded(name, job, unit, words.FILTER_COVER, (STRAPPED, done(changed), *looked))
    )

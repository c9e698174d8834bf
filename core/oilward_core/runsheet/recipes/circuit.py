"""A clutch circuit: it shares the engine's oil, and has a filter of its own."""

from ...spec import FILTERS, Fastener, ReservoirSpec
from ..ids import Name, StepId
from ..jobs import UPRIGHT, JobKind
from ..needs import Need
from ..steps import Ask, PlannedTask, Step, where
from ..work import Work


def _unit(spec: ReservoirSpec) -> Fastener | None:
    return next((f for f in spec.fasteners if f.role in FILTERS), None)


def write(work: Work, task: PlannedTask, before: Need) -> StepId:
    """Its filter, once the oil it shares is out (or the bike stands, where it has its own)."""
    spec = task.spec
    unit = _unit(spec)
    words = f"Change the {spec.label} filter, look at spring and seal"
    job = work.job(JobKind.CIRCUIT_FILTER, words, spec, attitude=UPRIGHT)
    tight = f" {unit.torque.text}." if unit and unit.torque else " as the manual says."
    direction = f" {unit.direction.capitalize()}." if unit and unit.direction else ""
    return work.step(
        Step(
            id=StepId(spec.key, Name.CIRCUIT),
            job=job,
            ask=Ask.CHECK,
            title=f"Change the {spec.label} filter",
            instruction=f"Mind which way round it sits.{direction} Cover back on:{tight}",
            place=where(unit),
            spot=unit.spot if unit else None,
            items=("Spring and seal looked at", "New filter in, right way round", "Cover tight"),
            needs=(before,),
        )
    )

"""What a reservoir's readings come to: the wrench card, and the verdict on a finding."""

from collections.abc import Iterable
from decimal import Decimal

from ...codes.entries import GRADINGS
from ...codes.steps import Name
from ...debris import Observation, Verdict, verdict
from ...guard import guarded
from ...runsheet import StepId, TaskPlan
from ...schools import torque_aim
from ...spec import Fastener, wets_a_clutch
from ...torque import Wrench, fitting_wrenches, judge, scale_factor
from ..asks.common import Started
from ..asks.finding import Graded
from ..asks.torque import Pulled
from ..entries import Entry, ordered
from .known import Bench, Known
from .state import TorqueCard

UNKNOWN_WRENCH = Decimal("0.06")  # its accuracy, where nobody said which


@guarded
def observed(task: TaskPlan, seen: Graded) -> Observation:
    """What a finding saw, with what is known of its reservoir."""
    spec = task.reservoir
    return Observation(
        reservoir=spec.kind,
        parts=seen.parts,
        oil=frozenset(seen.oil),
        km_since_wiped=task.km_since_wiped,
        first_service=task.first_service,
        fine_last_time=task.fine_last_time,
        wet_clutch=spec.facts.shares_clutch and wets_a_clutch(spec.requirement.friction),
        dipstick_flakes=seen.dipstick_flakes,
        excused=task.dipstick_excused,
        pan_clean=seen.pan_clean,
        seal_missing=seen.seal_missing,
    )


@guarded
def pan_said(entries: Iterable[Entry], reservoir: str) -> bool | None:
    """Whether the pan was clean, as it was said when it was placed; None where nobody said."""
    drain = str(StepId(reservoir, Name.DRAIN))
    said = [
        entry.data.pan_clean
        for entry in ordered(entries)
        if entry.step == drain
        and isinstance(entry.data, Started)
        and entry.data.pan_clean is not None
    ]
    return said[-1] if said else None


@guarded
def judge_finding(task: TaskPlan, seen: Graded) -> Verdict:
    """The verdict on a finding, without the chance that a fault grows."""
    return verdict(observed(task, seen))


def graded(key: str, known: Known) -> Graded | None:
    """What the plug of a reservoir showed, if it was read."""
    entry = known.facts.last.get(str(StepId(key, Name.INSPECT)))
    return entry.data if entry is not None and isinstance(entry.data, Graded) else None


def finding_of(key: str, known: Known) -> Verdict | None:
    """The verdict on a reservoir's plug, if it was read."""
    seen = graded(key, known)
    return judge_finding(known.tasks[key], seen) if seen else None


@guarded
def torque_card(
    plug: Fastener | None, task: TaskPlan, bench: Bench, reading: Entry | None
) -> TorqueCard | None:
    """The wrench card of a fastener, with the last reading; None where no wrench sets it."""
    if plug is None or plug.torque is None or not plug.torque.by_wrench:
        return None
    spec = plug.torque
    low, high = spec.low or Decimal(0), spec.high or Decimal(0)
    aim = torque_aim(spec, plug.sealant, task.reservoir.kind, task.schools)
    fitting = fitting_wrenches(spec, aim.value, bench.wrenches, plug.adapter)
    judged = nm = None
    if reading is not None and isinstance(reading.data, Pulled):
        used = _wrench_of(reading.data, bench)
        nm = at_plug(reading.data, plug, bench)
        judged = judge(nm, spec, used.accuracy if used else UNKNOWN_WRENCH, plug.soft)
    return TorqueCard(aim=aim, low=low, high=high, wrenches=fitting, reading=nm, verdict=judged)


def _wrench_of(pulled: Pulled, bench: Bench) -> Wrench | None:
    return next((one for one in bench.wrenches if one.id == pulled.wrench), None)


def at_plug(pulled: Pulled, plug: Fastener, bench: Bench) -> Decimal:
    """What a wrench's reading comes to at the fastener, N·m: behind a crow-foot it shows less."""
    used = _wrench_of(pulled, bench)
    factor = scale_factor(used, plug.adapter) if used else None
    return pulled.nm / (factor or 1)


def is_grading(entry: Entry) -> bool:
    """Whether it is a reading of a plug, a first or a second one."""
    return entry.kind in GRADINGS

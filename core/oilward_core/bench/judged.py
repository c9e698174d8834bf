"""What a reservoir's readings come to: the wrench card, the verdict on a finding, what came out."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal

from ..debris import Observation, OilLook, Verdict, verdict
from ..drained import drained_words
from ..guard import Sound, guarded
from ..runsheet import Name, StepId, TaskPlan
from ..schools import torque_aim
from ..spec import ReservoirKind
from ..torque import (
    Setting,
    TorqueSpec,
    TorqueVerdict,
    Wrench,
    WrenchSetting,
    fitting_wrenches,
    judge,
    scale_factor,
)
from .entries import Entry, ordered, part_from
from .facts import DRAIN_PLUG
from .filling import Bench

WET_CLUTCH = "MA"  # JASO T903: oil that a wet clutch runs in


@dataclass(frozen=True, kw_only=True)
class TorqueCard(Sound):
    """What a torque step shows: the aim (N·m), the wrenches that fit with their marks, best first,
    the last reading (N·m) and what it means."""

    aim: Setting
    low: Decimal
    high: Decimal
    wrenches: tuple[WrenchSetting, ...]
    reading: Decimal | None
    verdict: TorqueVerdict | None


@guarded
def observed(task: TaskPlan, entry: Entry) -> Observation:
    """What a finding entry saw, with what is known of its reservoir."""
    friction = task.reservoir.requirement.friction
    return Observation(
        reservoir=task.reservoir.kind,
        parts=tuple(part_from(part) for part in entry.data["parts"]),
        oil=frozenset(OilLook(look) for look in entry.data["oil"]),
        km_since_wiped=task.km_since_wiped,
        first_service=task.first_service,
        fine_last_time=task.fine_last_time,
        wet_clutch=task.reservoir.kind == ReservoirKind.ENGINE and friction.startswith(WET_CLUTCH),
        dipstick_flakes=entry.data.get("dipstick_flakes") is True,
        excused=task.dipstick_excused,
        pan_clean=entry.data.get("pan_clean"),
        seal_missing=entry.data.get("seal_missing") is True,
    )


@guarded
def pan_said(entries: Iterable[Entry], reservoir: str) -> bool | None:
    """Whether the pan was clean, as it was said when it was placed; None where nobody said."""
    drain = str(StepId(reservoir, Name.DRAIN))
    said = [
        entry.data["pan_clean"]
        for entry in ordered(entries)
        if entry.step == drain and isinstance(entry.data.get("pan_clean"), bool)
    ]
    return said[-1] if said else None


@guarded
def judge_finding(task: TaskPlan, entry: Entry) -> Verdict:
    """The verdict on a finding entry, without the chance that a fault grows."""
    return verdict(observed(task, entry))


@guarded
def torque_card(task: TaskPlan, bench: Bench, reading: Entry | None) -> TorqueCard | None:
    """The wrench card of a reservoir's plug, with the last reading; None where no wrench sets it."""
    plug = task.reservoir.fastener(DRAIN_PLUG)
    if plug is None or plug.torque is None or not plug.torque.by_wrench:
        return None
    spec = plug.torque
    low, high = spec.low or Decimal(0), spec.high or Decimal(0)
    aim = torque_aim(spec, plug.sealant, task.reservoir.kind, task.schools)
    fitting = fitting_wrenches(spec, aim.value, bench.wrenches, plug.adapter)
    judged = nm = None
    if reading is not None and reading.kind == "torque":
        used = next((w for w in bench.wrenches if w.id == reading.data.get("wrench")), None)
        nm = _at_plug(reading, used, plug.adapter)
        judged = judge(nm, spec, used.accuracy if used else Decimal("0.06"), plug.soft)
    return TorqueCard(aim=aim, low=low, high=high, wrenches=fitting, reading=nm, verdict=judged)


def _at_plug(reading: Entry, used: Wrench | None, adapter: Decimal | None) -> Decimal:
    factor = scale_factor(used, adapter) if used else None
    return Decimal(reading.data["nm"]) / (factor or 1)


_FULL_TURN, _NEAR = Decimal(360), Decimal(5)


@guarded
def turned_wrong(spec: TorqueSpec, entry: Entry) -> str:
    """What the angle after the wrench still lacks; empty where it is right to five degrees [def]."""
    if spec.then is None or "turned" not in entry.data:
        return ""
    turned = Decimal(entry.data["turned"])
    low, high = (end * _FULL_TURN for end in spec.then)
    if low - _NEAR <= turned <= high + _NEAR:
        return ""
    return f"Turned {turned.normalize():f}°; the manual says {spec.then_words}."


@guarded
def drained_remark(
    task: TaskPlan, ml: Decimal, stood: str = "", looks: Sequence[OilLook] = ()
) -> str:
    """What came out, against what went in last time and since."""
    return drained_words(task.put_in, ml, task.km_since_wiped, task.outs, stood, looks)

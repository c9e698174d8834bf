"""The wrench card of a fastener: what was pulled there since it was opened, and what it still lacks."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from decimal import Decimal

from ...codes.options import Stage
from ...codes.schools import Practice
from ...errors import CoreError
from ...guard import guarded
from ...reasons import Reason, Source
from ...runsheet import Step, TaskPlan
from ...said import bench as said
from ...said import torque as said_torque
from ...schools import FEEL, torque_aim
from ...spec import Fastener
from ...torque import (
    CLAMPED,
    FIRST_PASS,
    Setting,
    TorqueSpec,
    TorqueVerdict,
    Wrench,
    fitting_wrenches,
    half_way,
    judge,
    preload,
    read_thread,
    scale_factor,
)
from ..asks.torque import Pulled, TickedAtCard, turned_wrong
from ..entries import Entry
from .facts import Facts
from .known import Bench, Over
from .seconded import looked_since
from .state import TorqueCard

UNKNOWN_WRENCH = Decimal("0.06")  # its accuracy, where nobody said which


def _wrench_of(pulled: Pulled, bench: Bench) -> Wrench | None:
    return next((one for one in bench.wrenches if one.id == pulled.wrench), None)


def at_plug(pulled: Pulled, plug: Fastener, bench: Bench) -> Decimal:
    """What a wrench's reading comes to at the fastener, N·m: behind a crow-foot it shows less."""
    used = _wrench_of(pulled, bench)
    factor = scale_factor(used, plug.adapter, plug.adapter_angle) if used else None
    return pulled.nm / (factor or 1)


def counted(step: str, facts: Facts, overs: Sequence[Over]) -> list[Entry]:
    """What counts of a fastener's pulls: since it was opened, and since it was pulled too far; of a ring
    the other screws stay as they are."""
    found = facts.since_opened(step)
    for over in overs:
        if str(over.step) != step:
            continue
        screw = over.entry.data.screw if isinstance(over.entry.data, Pulled) else None
        found = [one for one in found if one.at > over.at or _another(one, screw)]
    return found


def _another(entry: Entry, screw: int | None) -> bool:
    return screw is not None and not (isinstance(entry.data, Pulled) and entry.data.screw == screw)


@dataclass(frozen=True, kw_only=True)
class _Pulls:
    """What was pulled, by whom, what was ticked with it, and whether somebody else has looked since."""

    spec: TorqueSpec
    plug: Fastener
    bench: Bench
    entries: list[Entry] = field(default_factory=list)

    @property
    def pulled(self) -> list[tuple[Entry, Pulled]]:
        return [(one, one.data) for one in self.entries if isinstance(one.data, Pulled)]

    @property
    def ticked(self) -> tuple[str, ...]:
        told = (one.data for one in self.entries)
        with_items = (one.items for one in told if isinstance(one, Pulled | TickedAtCard))
        return tuple(dict.fromkeys(code for items in with_items for code in items))

    @property
    def stage(self) -> Stage | None:
        """How far round it is: its second pass counts once the first was done."""
        reached: Stage | None = None
        for _, pulled in self.pulled:
            if pulled.stage == Stage.HALF:
                reached = Stage.HALF
            elif pulled.stage == Stage.FULL and reached is not None:
                reached = Stage.FULL
        return reached

    def verdict(self, pulled: Pulled) -> TorqueVerdict | None:
        if pulled.feel or pulled.stage == Stage.HALF:
            return None
        used = _wrench_of(pulled, self.bench)
        nm = at_plug(pulled, self.plug, self.bench)
        accuracy = used.accuracy if used else UNKNOWN_WRENCH
        return judge(nm, self.spec, accuracy, self.plug.soft)

    def lacks_of(self, pulled: Pulled) -> str:
        """What a single pull lacks."""
        if pulled.over:
            return said.THREAD_FIRST
        verdict = self.verdict(pulled)
        if verdict is not None and verdict.verdict != "in":
            return verdict.action
        return turned_wrong(self.spec, pulled)

    def lacks(self) -> str:
        """What all of its pulls lack; of several the last word counts for each of them."""
        pulled = [one for _, one in self.pulled]
        if not pulled:
            return said.NOT_PULLED
        if not self.plug.ring:
            return self.lacks_of(pulled[-1])
        whole = [one for one in pulled if one.screw is None]
        if self.stage != Stage.FULL:
            wrong = self.lacks_of(whole[-1]) if whole and whole[-1].over else ""
            return wrong or (said.SECOND_PASS if self.stage else said.FIRST_PASS)
        last = {one.screw: one for one in pulled}
        return next((text for one in last.values() if (text := self.lacks_of(one))), "")


def _second(plug: Fastener, task: TaskPlan, pulls: _Pulls) -> bool:
    """Whether a second person has to look: where the sheet marks it, or at what was pulled by feel where
    the workshop asks for that."""
    if plug.critical:
        return True
    by_feel = any(pulled.feel for _, pulled in pulls.pulled[-1:])
    return by_feel and task.schools.of(task.reservoir.kind, FEEL).choice == Practice.SECOND_PERSON


def _not_seconded(pulls: _Pulls, bench: Bench) -> str:
    """That nobody else has looked since the last pull; empty where somebody has."""
    doers = {done.who for done, _ in pulls.pulled}
    looked = looked_since(pulls.entries, pulls.pulled[-1][0], doers, bench)
    return "" if looked else said.SECOND_LOOKS


def _clamps(plug: Fastener, aim: Setting) -> tuple[Reason, ...]:
    """How hard a bolt that clamps presses: T/(K·d), dry and oiled."""
    if plug.role not in CLAMPED:
        return ()
    try:
        diameter = read_thread(plug.thread).diameter
    except CoreError:
        return ()
    dry, oiled = (preload(float(aim.value), k, diameter) for k in (0.20, 0.15))
    return (Reason("T/(K·d)", said_torque.clamps(f"{dry:.2f}", f"{oiled:.2f}"), Source.DERIVED),)


@guarded
def torque_card(
    step: Step, task: TaskPlan, bench: Bench, entries: Sequence[Entry]
) -> TorqueCard | None:
    """The wrench card of a step's fastener, with what counts of its pulls (`counted`); None where no
    wrench sets it."""
    plug = step.fastener
    if plug is None or plug.torque is None or not plug.torque.by_wrench:
        return None
    spec = plug.torque
    low, high = spec.low or Decimal(0), spec.high or Decimal(0)
    aim = torque_aim(spec, plug.sealant, task.reservoir.kind, task.schools)
    aim = Setting(aim.value, (*aim.reasons, *_clamps(plug, aim)))
    crow = (plug.adapter, plug.adapter_angle)
    fitting = fitting_wrenches(spec, aim.value, bench.wrenches, *crow)
    pulls = _Pulls(spec=spec, plug=plug, bench=bench, entries=list(entries))
    last = pulls.pulled[-1] if pulls.pulled else None
    second = _second(plug, task, pulls)
    lacks = pulls.lacks()
    right = not lacks
    missing = next((one for one in step.items if one.code not in pulls.ticked), None)
    if not lacks and missing is not None:
        lacks = said.still_to_tick(missing.words)
    if not lacks and second:
        lacks = _not_seconded(pulls, bench)
    return TorqueCard(
        aim=aim,
        low=low,
        high=high,
        wrenches=fitting,
        reading=at_plug(last[1], plug, bench) if last and not last[1].feel else None,
        verdict=pulls.verdict(last[1]) if last else None,
        entry=last[0] if last else None,
        lacks=lacks,
        stage=pulls.stage,
        ticked=pulls.ticked,
        half=tuple(half_way(one, FIRST_PASS) for one in fitting) if plug.ring else (),
        second=second,
        pulled=right,
    )

"""Somebody at the bench, for the tests: an engine, a visit, and entries one after another."""

import random
from collections.abc import Iterable, Mapping
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from decimal import Decimal
from typing import Any

from oilward_core.bench import (
    Bench,
    Entry,
    EntryKind,
    Sheet,
    Speaker,
    Status,
    StepState,
    TaskState,
    VisitPlan,
    check_entry,
    expected_at,
    fold,
    goes_against,
    read_entry,
)
from oilward_core.codes.options import Tick
from oilward_core.due import DueLimits
from oilward_core.runsheet import COLD_JOBS, Ask, Step, TaskPlan
from oilward_core.spec import (
    Fastener,
    FillRule,
    LevelCheck,
    Requirement,
    ReservoirKind,
    ReservoirSpec,
    Variant,
)
from oilward_core.torque import Wrench, read_torque

START = datetime(2026, 5, 4, 9, 0, tzinfo=UTC)
WRENCH = Wrench(
    id="m",
    name="Short click",
    unit="N·m",
    low=Decimal(10),
    high=Decimal(60),
    resolution=Decimal(1),
    accuracy=Decimal("0.04"),
)
BENCH = Bench((WRENCH,))
PASTE = {"form": "paste", "matter": "steel", "share_percent": 20}


def fastener(role: str, torque: str, seal: str = "", magnet: bool = False) -> Fastener:
    """A fastener somewhere under the engine."""
    return Fastener(
        role=role,
        place="under the engine, left",
        thread="M12x1.5",
        drive="17 mm",
        magnet=magnet,
        soft=True,
        torque=read_torque(torque),
        seal=seal,
    )


ENGINE = ReservoirSpec(
    key="engine",
    kind=ReservoirKind.ENGINE,
    label="engine",
    fill_rule=FillRule.LEVEL,
    capacities={Variant.DRAIN_ONLY: Decimal(2450), Variant.WITH_FILTER: Decimal(2700)},
    initial=None,
    level=LevelCheck(
        gauge="sight glass",
        attitude="upright",
        run_minutes=Decimal(2),
        settle_minutes=Decimal(3),
        between_marks=Decimal(500),
    ),
    requirement=Requirement(grade="10W-40", friction="MA2"),
    prefill=Decimal(150),
    fasteners=(
        fastener("drain plug", "20-26 N·m", "crush washer 12 mm", magnet=True),
        fastener("fill plug", "hand tight"),
        fastener("filter", "3/4 turn"),
    ),
    limits=DueLimits(repeat_km=Decimal(9000), repeat_months=12),
)
TASK = TaskPlan(
    reservoir=ENGINE,
    variant=Variant.WITH_FILTER,
    took=(),
    last_put_in=Decimal(2650),
    km_since_wiped=Decimal(8000),
    first_service=False,
)


def spec(key: str, kind: ReservoirKind, rule: FillRule = FillRule.LEVEL) -> ReservoirSpec:
    """A reservoir of that kind."""
    level = LevelCheck(
        gauge="dipstick",
        attitude="side stand",
        run_minutes=Decimal(1),
        settle_minutes=Decimal(5),
        between_marks=Decimal(90),
    )
    return ReservoirSpec(
        key=key,
        kind=kind,
        label=key,
        fill_rule=rule,
        capacities={Variant.DRAIN_ONLY: Decimal(800)},
        initial=None,
        level=level if rule == FillRule.LEVEL else None,
        requirement=Requirement(grade="75W-90"),
        prefill=Decimal(0),
        fasteners=(fastener("drain plug", "20 N·m"), fastener("fill plug", "hand tight")),
        limits=DueLimits(repeat_km=Decimal(9000)),
    )


def task(reservoir: ReservoirSpec) -> TaskPlan:
    """A task on a reservoir without a history."""
    return TaskPlan(
        reservoir=reservoir,
        variant=Variant.DRAIN_ONLY,
        took=(),
        last_put_in=None,
        km_since_wiped=Decimal(8000),
        first_service=False,
    )


PRIMARY = task(spec("primary", ReservoirKind.PRIMARY, FillRule.EXACT))
GEARBOX = task(spec("gearbox", ReservoirKind.GEARBOX))
DRIVE = task(spec("final drive", ReservoirKind.FINAL_DRIVE, FillRule.EXACT))
LEGS = [
    task(spec(f"fork {side}", ReservoirKind.FORK, FillRule.AIR_GAP)) for side in ("left", "right")
]
BRAKE = task(spec("front brake", ReservoirKind.FRONT_BRAKE, FillRule.WATCH))
THREE = (TASK, PRIMARY, GEARBOX)
SHOCK = task(spec("shock", ReservoirKind.SHOCK, FillRule.REBUILD))
EVERYTHING = (TASK, PRIMARY, GEARBOX, DRIVE, *LEGS, BRAKE)


class Clerk:
    """Records entries as a person would, one after another, each minute."""

    def __init__(self, *tasks: TaskPlan, cold: Iterable[str] = (), bench: Bench = BENCH) -> None:
        self.plan = VisitPlan(tasks=tasks or (TASK,), cold=tuple(COLD_JOBS[key] for key in cold))
        self.bench = bench
        self.now = START
        self.entries: list[Entry] = []

    @property
    def sheet(self) -> Sheet:
        """The visit as it stands."""
        return fold(self.plan, self.entries, self.bench)

    @property
    def stands(self) -> TaskState:
        """How the first reservoir stands."""
        return self.sheet.tasks[0]

    def state(self, step: str) -> StepState:
        """A step's state; it has to be there."""
        found = self.sheet.step(step)
        assert found is not None, step
        return found

    def record(
        self,
        kind: str,
        raw: Mapping[str, Any] | None = None,
        step: str = "",
        supersedes: str = "",
        despite: bool = False,
    ) -> Entry:
        """One entry on the step in focus (or ``step``), checked as the server checks it."""
        sheet, of = self.sheet, EntryKind(kind)
        target = step or sheet.focus or ""
        found, unmet = check_entry(sheet, target, of, self.now, supersedes or None)
        raw, expected = raw or {}, None
        stands = sheet.task(found.id.reservoir)
        plans = {t.reservoir.key: t for t in self.plan.tasks}
        if stands is not None:
            plan = plans[found.id.reservoir]
            expected = expected_at(plan, stands, found, of, raw, bool(supersedes))
        data = read_entry(found, of, raw, Speaker(), expected)
        unmet = goes_against(unmet, data)
        assert despite or not unmet, unmet
        number = f"e{len(self.entries):03}"
        entry = Entry(
            id=number,
            step=target,
            data=data,
            at=self.now,
            by="Mira",
            who="mira",
            supersedes=supersedes or None,
            against=tuple(one.code for one in unmet),
        )
        self.entries.append(entry)
        self.now += timedelta(minutes=1)
        return entry

    def last(self, kind: str) -> Entry:
        """The last entry of a kind."""
        return next(entry for entry in reversed(self.entries) if entry.kind == kind)

    def correct(self, old: Entry, raw: Mapping[str, Any]) -> Entry:
        """A correction of an entry."""
        return self.record(old.kind, raw, old.step, old.id)

    def tick(self, step: str = "") -> None:
        """Confirm the step in focus with all its items."""
        target = step or self.sheet.focus or ""
        self.record("confirm", {"items": ticks(self.state(target).step)}, target)

    def wait(self, minutes: int, step: str = "") -> None:
        """Start the timer in focus, let it run, stop it."""
        target = step or self.sheet.focus or ""
        if target == "lamp" or (target.startswith("run.") and self.lamp_is_asked):
            self.record("answer", {"value": "went out"}, "lamp")
            target = self.sheet.focus or ""
        if self.state(target).status != Status.RUNNING:
            self.record("start", step=target)
        self.now += timedelta(minutes=minutes)
        self.record("stop", step=target)

    @property
    def lamp_is_asked(self) -> bool:
        """Whether the oil lamp is watched next."""
        lamp = self.sheet.step("lamp")
        return lamp is not None and lamp.status == Status.READY

    def dry(self) -> None:
        """Looked for leaks, and once more when it has stood."""
        self.record("leaks", {"result": "dry"}, "leaks")
        self.now += timedelta(minutes=5)
        self.record("leaks", {"result": "dry"}, "leaks again")

    def until_warm(self) -> None:
        """Cold checks, the level as it came, warmed up."""
        self.tick()
        if self.sheet.focus == "engine/came":
            self.record("answer", {"value": "upper half"})
        self.wait(10)

    def until_open(self) -> None:
        """Warm, supported, filler proven."""
        self.until_warm()
        self.tick()
        self.record("answer", {"value": "open"})

    def until_fill(self) -> None:
        """Everything before the first pour."""
        self.until_open()
        self.wait(10)
        self.record("amount", {"amount": "2.5 l"})
        self.record("finding", {"parts": [PASTE], "oil": ["dark"]})
        self.record("answer", {"value": "new"})
        self.tick()
        self.record("torque", {"reading": "22", "unit": "N·m", "wrench": "m"})
        self.record("filter", {"amount": "150", "items": [Tick.GASKET]})

    def pour(self, amount: str, **more: Any) -> Entry:
        """Pour in (or draw off, as the step says) and close the filler."""
        draws = self.state(self.sheet.focus or "").step.draws
        kind = "draw" if draws else "pour"
        told = {"amount": amount, "sure": amount, **more}
        if not draws:
            told = {"closed": True, **told}
        return self.record(kind, told)

    def round(self, amount: str, position: str, attitude: str = "upright") -> None:
        """Pour, run, settle, read."""
        self.pour(amount)
        if self.sheet.focus and self.sheet.focus.endswith("close"):
            self.tick()
        self.wait(2)
        self.now += timedelta(minutes=3)
        self.record("level", {"position": position, "attitude": attitude})


def ticks(step: Step) -> list[str]:
    """Everything there is to tick."""
    return [item.code for item in step.items]


def usual(clerk: Clerk, state: StepState) -> None:
    """What is usually written down at a step that is offered."""
    step, name = state.step, str(state.step.id)
    if state.status == "running":
        clerk.now = max(clerk.now, state.ends_at or clerk.now)
        clerk.record("stop", step=name)
    elif step.ask == Ask.FILL:
        _fill(clerk, state)
    elif step.ask == Ask.LEVEL:
        _read(clerk, state)
    elif step.looks_at:
        clerk.record("second look", {"name": "Oda", "person": "oda", "alone": False}, name)
    elif step.ask == Ask.CHECK:
        clerk.tick(name)
    else:
        clerk.now = max(clerk.now, state.not_before or clerk.now)
        kind, raw = pulled(clerk, name) if step.ask == Ask.TORQUE else _said(step)
        clerk.record(kind, raw, name)


def pulled(clerk: Clerk, name: str) -> tuple[str, dict[str, Any]]:
    """What is written down next at a wrench card: a pass round its ring, or a pull to what is set, with
    all that is ticked there."""
    step = clerk.state(name).step
    task = clerk.sheet.task(step.id.reservoir)
    card = task.cards.get(name) if task else None
    if card is None or step.fastener is None:
        return "torque", {"reading": "20 N·m", "wrench": "m"}
    ring = step.fastener.ring
    half = ring and card.stage is None
    raw = {
        "reading": f"{card.aim.value / 2 if half else card.aim.value} N·m",
        "wrench": card.wrenches[0].wrench.id if card.wrenches else "",
        "items": ticks(step),
        **({"stage": "half" if half else "full"} if ring else {}),
        **({"turned": "90"} if step.turn else {}),
    }
    return "torque", raw


def _said(step: Step) -> tuple[str, dict[str, Any]]:
    measured = {one.name: f"{max(one.low, min(one.high, Decimal(112)))}" for one in step.measured}
    usually: dict[Ask, tuple[str, dict[str, Any]]] = {
        Ask.TIMER: ("start", {}),
        Ask.DRAIN: ("start", {}),
        Ask.GATE: ("answer", {"value": step.options[0].code if step.options else ""}),
        Ask.CHOICE: ("answer", {"value": step.options[0].code if step.options else ""}),
        Ask.AMOUNT: ("amount", {"amount": "800", "sure": "800 ml"}),
        Ask.FINDING: ("finding", {"parts": [PASTE], "oil": []}),
        Ask.FILTER: ("filter", {"amount": "0", "items": ticks(step)}),
        Ask.MEASURE: ("measure", {"found": measured, "sure": ["112 mm"]}),
        Ask.RAN_OUT: ("ran out", {"how": "only tightened"}),
        Ask.LEAKS: ("leaks", {"result": "dry"}),
    }
    return usually[step.ask]


def _fill(clerk: Clerk, state: StepState) -> None:
    key = state.step.id.reservoir
    stands = clerk.sheet.task(key)
    assert stands is not None and stands.advice is not None
    if stands.advice.action in ("look", "read"):
        # what stands in the glass before the first start, or the filler shut without a look
        if stands.advice.enough and clerk.state(f"{key}/close").status == Status.READY:
            clerk.tick(f"{key}/close")
        else:
            _look(clerk, state)
        return
    kind = "draw" if state.step.draws else "pour"
    clerk.record(kind, {"amount": f"{stands.advice.ml} ml"}, str(state.step.id))


def _look(clerk: Clerk, state: StepState) -> None:
    clerk.now += timedelta(minutes=2)
    said = {"position": "0.75", "attitude": state.step.options[0].code}
    clerk.record("level", said, str(state.step.id))


def _read(clerk: Clerk, state: StepState) -> None:
    clerk.now = max(clerk.now, state.not_before or clerk.now)
    attitude = "side stand" if "gearbox" in str(state.step.id) else "upright"
    said = {"position": "0.75", "attitude": attitude}
    clerk.record("level", said, str(state.step.id))


def whole_visit() -> Clerk:
    """A visit from cold checks to finished."""
    clerk = Clerk()
    clerk.until_fill()
    clerk.round("2370 ml", "0.45")
    clerk.round("100 ml", "0.7")
    clerk.dry()
    clerk.tick()
    return clerk


def finished(clerk: Clerk, rng: random.Random, most: int = 400) -> bool:
    """Do what is offered, anything that is, until nothing is left to do."""
    for _ in range(most):
        sheet = clerk.sheet
        offered = [
            state
            for state in sheet.steps
            if state.status in (Status.READY, Status.RUNNING) and state.step.ask != Ask.WAIT
        ]
        if not offered:
            return sheet.ready_to_sign
        usual(clerk, rng.choice(offered))
    return False


def full_visit(entries: int = 250) -> Clerk:
    """Seven reservoirs from cold checks to finished, with corrections up to that many entries."""
    clerk, rng = Clerk(*EVERYTHING, cold=("valves", "tyres")), random.Random(5)
    finished(clerk, rng)
    while len(clerk.entries) < entries:
        old = rng.choice([e for e in clerk.entries if e.kind not in ("start", "stop", "skip")])
        if not any(entry.supersedes == old.id for entry in clerk.entries):
            number = f"c{len(clerk.entries)}"
            clerk.entries.append(replace(old, id=number, supersedes=old.id, at=clerk.now))
    return clerk

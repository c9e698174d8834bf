"""The steps of a run sheet, in the trade's order, for one reservoir."""

from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum

from ..quantity import show
from ..spec import Fastener, FillRule, ReservoirKind, ReservoirSpec, Variant


class StepKind(StrEnum):
    """What a step asks for; each kind takes its own entries."""

    CHECK = "check"
    TIMER = "timer"
    GATE = "gate"
    DRAIN = "drain"
    AMOUNT = "amount"
    FINDING = "finding"
    CHOICE = "choice"
    TORQUE = "torque"
    FILTER = "filter"
    FILL = "fill"
    LEVEL = "level"
    LEAKS = "leaks"


@dataclass(frozen=True)
class Step:
    """One step. ``minutes`` for those that wait, ``items`` to tick, ``options`` to choose from,
    ``full`` for a timer that may not be cut short,
    ``round`` counts fill–run–settle–read rounds from 1 (0 outside them),
    ``fastener`` is what a torque step tightens."""

    id: str
    kind: StepKind
    title: str
    instruction: str
    caution: str = ""
    place: str = ""
    minutes: Decimal | None = None
    items: tuple[str, ...] = ()
    options: tuple[str, ...] = ()
    skippable: bool = False
    full: bool = False
    round: int = 0
    fastener: Fastener | None = None


@dataclass(frozen=True)
class TaskPlan:
    """What a run sheet is made from: the reservoir's spec, the variant, and what is known of it."""

    reservoir: ReservoirSpec
    variant: Variant
    took: tuple[Decimal, ...]
    last_put_in: Decimal | None
    km_since_wiped: Decimal
    first_service: bool

    @property
    def capacity(self) -> Decimal | None:
        """Book capacity of the variant, ml, if the sheet gives it."""
        return self.reservoir.capacities.get(self.variant)


DRIP_MINUTES = Decimal(10)
WARM_MINUTES = Decimal(10)
NEW_WASHER, TURNED_WASHER = "new", "turned over"
OPEN, SEIZED = "open", "seized"
ATTITUDES = ("upright", "side stand")
FILTER = "filter"


def _where(fastener: Fastener | None) -> str:
    """Its place in words, and what opens it."""
    return f"{fastener.place} · {fastener.drive}" if fastener else ""


def _prepare(task: TaskPlan) -> list[Step]:
    steps = [
        Step(
            "cold",
            StepKind.CHECK,
            "Cold checks",
            "Look the bike over before the engine is warm.",
            items=("No fresh oil under the bike", "Tools, seals and oil laid out", "Pan is clean"),
            skippable=True,
        )
    ]
    if task.reservoir.kind not in (ReservoirKind.FORK, ReservoirKind.SHOCK):
        steps.append(
            Step(
                "warm",
                StepKind.TIMER,
                "Warm it up",
                "Ten minutes at idle or a short ride, then a few minutes to cool. Warm oil carries "
                "the dirt out.",
                caution="Running engine indoors: exhaust extraction on. Oil and exhaust get hot.",
                minutes=WARM_MINUTES,
                skippable=True,
            )
        )
    steps.append(
        Step(
            "support",
            StepKind.CHECK,
            "Support the bike",
            "Upright on its stand or the lift, and strapped down.",
            caution="Nobody goes under a bike that is not strapped. Not even for a minute.",
            items=("Stands upright", "Strapped down"),
        )
    )
    return steps


def _open_up(task: TaskPlan) -> list[Step]:
    reservoir = task.reservoir
    plug, filler = reservoir.fastener("drain plug"), reservoir.fastener("fill plug")
    key = reservoir.key
    return [
        Step(
            f"{key}/filler",
            StepKind.GATE,
            "Prove the filler opens",
            "Clean round it, crack it open, leave it loosely in place. If it will not open, "
            "do not drain.",
            place=_where(filler),
            options=(OPEN, SEIZED),
        ),
        Step(
            f"{key}/drain",
            StepKind.DRAIN,
            f"Drain the {reservoir.label}",
            "Break the plug loose, pan under, last turns by hand. Wait until dripping has stopped.",
            caution="Hot oil. Gloves and glasses. Used oil never goes to ground or drain.",
            place=_where(plug),
            minutes=DRIP_MINUTES,
        ),
        Step(
            f"{key}/measure",
            StepKind.AMOUNT,
            "Measure what came out",
            "Pour it into the jug, or weigh it. Less: burnt or leaked. More: overfilled, water, "
            "fuel.",
            skippable=True,
        ),
        Step(
            f"{key}/inspect",
            StepKind.FINDING,
            "Read the plug",
            "Look at magnet and oil before anything is wiped. Then clean the magnet.",
            skippable=True,
        ),
    ]


def _close_up(task: TaskPlan) -> list[Step]:
    reservoir = task.reservoir
    plug = reservoir.fastener("drain plug")
    key, seal = reservoir.key, plug.seal if plug else ""
    steps = [
        Step(
            f"{key}/washer",
            StepKind.CHOICE,
            "Seal on the plug",
            f"{seal or 'Seal'}: a new one each time. The old one must be off the case.",
            options=(NEW_WASHER, TURNED_WASHER),
        ),
        Step(
            f"{key}/refit",
            StepKind.CHECK,
            "Refit the plug by hand",
            "Start it with the fingers. Tight, loose, tight again is a seal tearing: out with it.",
            place=_where(plug),
            items=("Runs in by hand to contact",),
        ),
        _tighten(reservoir, plug),
    ]
    if task.variant in (Variant.WITH_FILTER, Variant.DRY) and reservoir.fastener(FILTER):
        steps.append(_filter(reservoir))
    return steps


def _tighten(reservoir: ReservoirSpec, plug: Fastener | None) -> Step:
    """The plug by wrench; by turns or by hand where the manual says so."""
    step = f"{reservoir.key}/torque"
    place = _where(plug)
    if plug and not plug.torque.by_wrench:
        done = f"Tightened: {plug.torque.text}"
        text = "No wrench here: as the manual says, and no more."
        return Step(step, StepKind.CHECK, "Tighten the plug", text, place=place, items=(done,))
    return Step(
        step,
        StepKind.TORQUE,
        "Torque the plug",
        "One slow pull, hand in the middle of the grip.",
        place=place,
        fastener=plug,
    )


def _filter(reservoir: ReservoirSpec) -> Step:
    unit = reservoir.fastener(FILTER)
    prefill = f" Pre-fill about {show(reservoir.prefill, 'ml')}." if reservoir.prefill else ""
    return Step(
        f"{reservoir.key}/filter",
        StepKind.FILTER,
        "Change the filter",
        f"Oil the new gasket.{prefill} Spin to contact, then {unit.torque.text if unit else ''}. "
        "By hand only.",
        place=_where(unit),
        items=("Old gasket came off with the old filter",),
    )


def fill_round(task: TaskPlan, number: int, remove: bool) -> list[Step]:
    """Fill (or draw off), run, settle, read: round ``number``, from 1. Exact: fill alone."""
    reservoir, level = task.reservoir, task.reservoir.level
    key = reservoir.key
    title = "Draw the excess off" if remove else "Fill" if number == 1 else "Top up"
    fill = Step(
        f"{key}/fill.{number}",
        StepKind.FILL,
        title,
        "Take out what the coach says, measured." if remove else "Measure it, pour slowly.",
        round=number,
    )
    if reservoir.fill_rule == FillRule.EXACT or level is None:
        return [fill]
    steps = [fill]
    if level.run_minutes:
        steps.append(
            Step(
                f"{key}/run.{number}",
                StepKind.TIMER,
                "Run the engine",
                "Filler cap on. Neutral. Oil light on with the ignition, out within seconds: "
                "if not, stop the engine.",
                caution="Exhaust extraction on. Keep hands off wheel and chain.",
                minutes=level.run_minutes,
                full=True,
                round=number,
            )
        )
    if level.settle_minutes:
        steps.append(
            Step(
                f"{key}/settle.{number}",
                StepKind.TIMER,
                "Let it settle",
                f"Engine off, bike {level.attitude}. The oil has to run down.",
                minutes=level.settle_minutes,
                round=number,
            )
        )
    steps.append(
        Step(
            f"{key}/level.{number}",
            StepKind.LEVEL,
            "Read the level",
            f"Bike {level.attitude}, eye level with the {level.gauge}.",
            options=ATTITUDES,
            round=number,
        )
    )
    return steps


def _closed(reservoir: ReservoirSpec) -> str:
    plug = reservoir.fastener("fill plug")
    by_wrench = plug is not None and plug.torque.by_wrench
    return f"Fill plug torqued to {plug.torque.text}" if plug and by_wrench else "Filler cap on"


def _finish(task: TaskPlan) -> list[Step]:
    key = task.reservoir.key
    return [
        Step(
            f"{key}/leaks",
            StepKind.LEAKS,
            "Look for leaks",
            "Wipe everything first, run it briefly, look again at each place.",
            caution="Oil on the exhaust burns. Oil on tyre or brake kills.",
            items=("Plug", "Filter", "Filler", "Cover")
            if task.variant != Variant.DRAIN_ONLY
            else ("Plug", "Filler", "Cover"),
        ),
        Step(
            f"{key}/finish",
            StepKind.CHECK,
            "Finish",
            "Service indicator reset as the manual says. Waste oil and filter by local rules.",
            items=(_closed(task.reservoir), "Waste oil in the container", "Bike wiped down"),
        ),
    ]


def steps_before_fill(task: TaskPlan) -> list[Step]:
    """Everything up to the first pour, in order."""
    return [*_prepare(task), *_open_up(task), *_close_up(task)]


def steps_after_fill(task: TaskPlan) -> list[Step]:
    """Everything after the level is right."""
    return _finish(task)

"""The steps of a run sheet, in the trade's order, for one reservoir."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from decimal import Decimal
from enum import StrEnum

from ..cautions import ESCAPED, HOT_OIL, RUNNING, SOLVENT, STRAPPED, WASTE, WHEEL
from ..guard import Sound
from ..quantity import show
from ..schools import RING, SEALANT, WASHER, Schools
from ..spec import (
    Cell,
    Cells,
    Fastener,
    FillRule,
    LevelCheck,
    Path,
    ReservoirKind,
    ReservoirSpec,
    Spot,
    Variant,
    field_of,
    needed,
    reservoir_of,
    what,
    written_in,
)


class StepKind(StrEnum):
    """What a step asks for; each kind takes its own entries."""

    LOOKUP = "look up"
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
class Step(Sound):
    """One step. ``minutes`` for those that wait, ``items`` to tick, ``options`` to choose from,
    ``full`` for a timer that may not be cut short,
    ``round`` counts fill–run–settle–read rounds from 1 (0 outside them),
    ``fastener`` is what a torque step tightens, ``spot`` where it is on the bike map,
    ``unchecked`` the values it works with that no second person has checked,
    ``path`` the value a look-up asks for; ``draws``: oil is taken out, not poured in."""

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
    spot: Spot | None = None
    unchecked: tuple[str, ...] = ()
    path: Path | None = None
    draws: bool = False


@dataclass(frozen=True)
class TaskPlan(Sound):
    """What a run sheet is made from: the reservoir's spec, the variant, and what is known of it.

    ``cells`` are the values behind the spec and ``asks`` those that were missing when it began.
    """

    reservoir: ReservoirSpec
    variant: Variant
    took: tuple[Decimal, ...]
    last_put_in: Decimal | None
    km_since_wiped: Decimal
    first_service: bool
    cells: Cells = field(default_factory=dict)
    asks: tuple[Path, ...] = ()
    schools: Schools = field(default_factory=Schools)

    def asking(self) -> "TaskPlan":
        """The same plan, asking for every value the job cannot do without."""
        return replace(self, asks=needed(self.reservoir, self.variant))

    def told(self, answers: Mapping[Path, Cell]) -> "TaskPlan":
        """The plan with the values that were looked up."""
        if not answers:
            return self
        cells: Cells = self.cells
        for path, cell in answers.items():
            cells = written_in(cells, path, cell.written, cell)
        return replace(self, cells=cells, reservoir=reservoir_of(self.reservoir.key, cells))

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


_UNCHECKED = "Nobody has checked {} against the manual. Look at it yourself."


def _unchecked(reservoir: ReservoirSpec, *names: str) -> tuple[str, ...]:
    """A sentence for each of these values (``part/field``) that no second person has checked."""
    paths = (Path(reservoir.key, *name.split("/")) for name in names if name in reservoir.unchecked)
    return tuple(_UNCHECKED.format(what(path)) for path in paths)


def look_up(path: Path) -> Step:
    """The step that asks for a value the sheet does not give."""
    hint = field_of(path).hint
    example = f" Type it as it stands there, like {hint}." if hint else ""
    return Step(
        f"{path.reservoir}/look up.{path.part}.{path.field}",
        StepKind.LOOKUP,
        f"Look up: {what(path)}",
        f"The spec sheet does not say.{example} Name the document and the page.",
        options=field_of(path).choices,
        path=path,
    )


def _prepare(task: TaskPlan) -> list[Step]:
    steps = [
        *(look_up(path) for path in task.asks),
        Step(
            "cold",
            StepKind.CHECK,
            "Cold checks",
            "Look the bike over before the engine is warm.",
            items=("No fresh oil under the bike", "Tools, seals and oil laid out", "Pan is clean"),
            skippable=True,
        ),
    ]
    if task.reservoir.kind not in (ReservoirKind.FORK, ReservoirKind.SHOCK):
        steps.append(
            Step(
                "warm",
                StepKind.TIMER,
                "Warm it up",
                "Ten minutes at idle or a short ride, then a few minutes to cool. Warm oil carries "
                "the dirt out.",
                caution=RUNNING,
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
            caution=STRAPPED,
            items=("Stands upright", "Strapped down"),
        )
    )
    return steps


def _open_up(task: TaskPlan) -> list[Step]:
    reservoir = task.reservoir
    plug, filler = reservoir.fastener("drain plug"), reservoir.fastener("fill plug")
    key, caution = reservoir.key, reservoir.caution
    return [
        Step(
            f"{key}/filler",
            StepKind.GATE,
            "Prove the filler opens",
            "Clean round it, crack it open, leave it loosely in place. If it will not open, "
            "do not drain.",
            place=_where(filler),
            spot=filler.spot if filler else None,
            options=(OPEN, SEIZED),
        ),
        Step(
            f"{key}/drain",
            StepKind.DRAIN,
            f"Drain the {reservoir.label}",
            "Break the plug loose, pan under, last turns by hand. Wait until dripping has stopped.",
            caution=" ".join([HOT_OIL, caution]).strip(),
            place=_where(plug),
            spot=plug.spot if plug else None,
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
    key, kind = reservoir.key, reservoir.kind
    seal = (plug.seal if plug else "") or "Seal"
    topic = RING if "o-ring" in seal.lower() else WASHER
    manual = plug.sealant if plug else ""
    sealant = f"{manual}, as the manual says" if manual else task.schools.of(kind, SEALANT)
    steps = [
        Step(
            f"{key}/washer",
            StepKind.CHOICE,
            "Seal on the plug",
            f"{seal}: {task.schools.of(kind, topic)}. The old one must be off the case.",
            options=(NEW_WASHER, TURNED_WASHER),
        ),
        Step(
            f"{key}/refit",
            StepKind.CHECK,
            "Refit the plug by hand",
            f"On the threads: {sealant}. Start it with the fingers. Tight, loose, tight again is "
            "a seal tearing: out with it.",
            caution=SOLVENT,
            place=_where(plug),
            spot=plug.spot if plug else None,
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
    spot = plug.spot if plug else None
    unchecked = _unchecked(reservoir, f"{plug.key or plug.role}/torque") if plug else ()
    if plug and plug.torque and not plug.torque.by_wrench:
        done = f"Tightened: {plug.torque.text}"
        text = "No wrench here: as the manual says, and no more."
        title = "Tighten the plug"
        return Step(step, StepKind.CHECK, title, text, place=place, items=(done,), spot=spot)
    return Step(
        step,
        StepKind.TORQUE,
        "Torque the plug",
        "One slow pull, hand in the middle of the grip." + _crow_foot(plug) + _turned_on(plug),
        place=place,
        fastener=plug,
        spot=spot,
        unchecked=unchecked,
    )


def _turned_on(plug: Fastener | None) -> str:
    words = plug.torque.then_words if plug and plug.torque else ""
    return f" {words[0].upper()}{words[1:]}." if words else ""


def _crow_foot(plug: Fastener | None) -> str:
    if plug is None or plug.adapter is None:
        return ""
    return f" With the {plug.adapter.normalize():f} mm crow-foot, in line with the handle."


def _filter(reservoir: ReservoirSpec) -> Step:
    unit = reservoir.fastener(FILTER)
    prefill = f" Pre-fill about {show(reservoir.prefill, 'ml')}." if reservoir.prefill else ""
    direction = f" {unit.direction.capitalize()}." if unit and unit.direction else ""
    turn = unit.torque.text if unit and unit.torque else "as the manual says"
    return Step(
        f"{reservoir.key}/filter",
        StepKind.FILTER,
        "Change the filter",
        f"Oil the new gasket.{prefill}{direction} Spin to contact, then {turn}. By hand only.",
        place=_where(unit),
        spot=unit.spot if unit else None,
        unchecked=_unchecked(reservoir, f"{unit.key or unit.role}/torque") if unit else (),
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
        unchecked=_unchecked(reservoir, f"/capacity.{task.variant}"),
        draws=remove,
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
                caution=WHEEL,
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
            f"Bike {level.attitude}, eye level with the {_gauge(level)}.",
            options=ATTITUDES,
            round=number,
            unchecked=_unchecked(reservoir, "/level.between"),
        )
    )
    return steps


def _gauge(level: LevelCheck) -> str:
    return f"{level.gauge}, {level.dipstick}" if level.dipstick else level.gauge


def _closed(reservoir: ReservoirSpec) -> str:
    plug = reservoir.fastener("fill plug")
    torque = plug.torque if plug else None
    return f"Fill plug torqued to {torque.text}" if torque and torque.by_wrench else "Filler cap on"


def _reset(reservoir: ReservoirSpec) -> str:
    if reservoir.reset:
        return f"Service indicator: {reservoir.reset}."
    return "Service indicator reset as the manual says."


def _finish(task: TaskPlan) -> list[Step]:
    key = task.reservoir.key
    return [
        Step(
            f"{key}/leaks",
            StepKind.LEAKS,
            "Look for leaks",
            "Wipe everything first, run it briefly, look again at each place.",
            caution=ESCAPED,
            items=("Plug", "Filter", "Filler", "Cover")
            if task.variant != Variant.DRAIN_ONLY
            else ("Plug", "Filler", "Cover"),
        ),
        Step(
            f"{key}/finish",
            StepKind.CHECK,
            "Finish",
            _reset(task.reservoir),
            caution=WASTE,
            items=(_closed(task.reservoir), "Waste oil in the container", "Bike wiped down"),
        ),
    ]


def steps_before_fill(task: TaskPlan) -> list[Step]:
    """Everything up to the first pour, in order."""
    return [*_prepare(task), *_open_up(task), *_close_up(task)]


def steps_after_fill(task: TaskPlan) -> list[Step]:
    """Everything after the level is right."""
    return _finish(task)

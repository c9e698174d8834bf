"""Whether a step is complete, and which of its needs are unmet, by the facts."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import datetime

from ..guard import Sound, whole_table
from ..runsheet import (
    FACTS,
    SEIZED,
    Ask,
    ColdJob,
    Fact,
    Makers,
    Name,
    Need,
    RunSheet,
    Step,
    StepId,
    TaskPlan,
)
from ..spec import IDLING
from .entries import DRY, SKIP, Entry
from .facts import FILL_PLUG, Facts, FastenerFact, Stands, Timer
from .filling import Bench, Filling
from .judged import TorqueCard, turned_wrong


@dataclass(frozen=True, kw_only=True)
class VisitPlan(Sound):
    """What a visit is worked out from besides its entries: its tasks, the cold jobs, the planned
    order of its jobs, learned minutes and waits."""

    tasks: tuple[TaskPlan, ...]
    cold: tuple[ColdJob, ...] = ()
    order: tuple[str, ...] = ()
    learned: Mapping[str, int] = field(default_factory=dict)


@dataclass(kw_only=True)
class Known:
    """Everything a step's state is worked out from."""

    plan: VisitPlan
    tasks: dict[str, TaskPlan]
    facts: Facts
    fillings: dict[str, Filling]
    torque: dict[str, TorqueCard | None]
    sheet: RunSheet
    bench: Bench
    steps: dict[StepId, Step] = field(default_factory=dict)
    complete: dict[StepId, bool] = field(default_factory=dict)
    makers: Makers = field(default_factory=lambda: Makers(()))

    def label(self, reservoir: str) -> str:
        """What a reservoir is called."""
        task = self.tasks.get(reservoir)
        return task.reservoir.label if task else reservoir


def is_complete(step: Step, known: Known) -> bool:
    """Whether what was recorded completes the step."""
    entry = known.facts.last.get(str(step.id))
    if step.name == Name.CLOSE:
        fact = known.facts.fastener(step.id.reservoir, FILL_PLUG)
        return bool(known.facts.poured(step.id.reservoir)) and shut(fact)
    if step.ask == Ask.WAIT:
        return settling(step, known) is not None
    if entry is None:
        return False
    if entry.kind == SKIP:
        return True
    check = _COMPLETES.get(step.ask)
    return check is None or check(step, entry, known)


def _torqued(step: Step, entry: Entry, known: Known) -> bool:
    card = known.torque.get(step.id.reservoir)
    if card is None:
        return True
    right = card.verdict is not None and card.verdict.verdict == "in"
    spec = step.fastener.torque if step.fastener else None
    return right and not (spec and turned_wrong(spec, entry))


def _level_read(step: Step, entry: Entry, known: Known) -> bool:
    """A reading is done with once it is right, or another round follows it."""
    filling = known.fillings[step.id.reservoir]
    return filling.right or step.id.round < len(filling.rounds)


_COMPLETES: dict[Ask, Callable[[Step, Entry, Known], bool]] = {
    Ask.GATE: lambda step, entry, known: entry.data.get("value") != SEIZED,
    Ask.LEAKS: lambda step, entry, known: entry.data.get("result") == DRY,
    Ask.TORQUE: _torqued,
    Ask.LEVEL: _level_read,
}


def shut(fact: FastenerFact | None) -> bool:
    """Whether a fastener is shut, or nobody has opened it."""
    return fact is None or fact.stands in (Stands.CLOSED, Stands.TIGHT)


def settling(step: Step, known: Known) -> datetime | None:
    """When oil began to run down: as the engine stopped, or as the last of it was poured."""
    key = step.id.reservoir
    poured = known.facts.poured(key)
    if not poured or step.id.round > max((f.round for f in poured), default=0):
        return None
    level = known.tasks[key].reservoir.level
    explicit = known.facts.timers.get(str(step.id))
    begun: datetime | None = poured[-1].at
    if level and level.run_minutes:
        run = run_since(key, known.facts)
        begun = run.stopped if run else None
    if explicit and begun and explicit.started > begun:
        return explicit.started
    return begun


def run_since(key: str, facts: Facts) -> Timer | None:
    """The last run since oil was last poured or drawn there."""
    poured = facts.poured(key)
    if not poured:
        return None
    runs = [run for run in facts.runs if run.started >= poured[-1].at]
    return runs[-1] if runs else None


_Check = Callable[[str, Known], bool]


def _made(fact: Fact) -> _Check:
    """Met when every step that brings it about is done."""

    def check(reservoir: str, known: Known) -> bool:
        return all(known.complete[step] for step in known.makers.of(Need(fact, reservoir)))

    return check


def _full(reservoir: str, known: Known) -> bool:
    return known.fillings[reservoir].enough


def _filler_shut(reservoir: str, known: Known) -> bool:
    level = known.tasks[reservoir].reservoir.level
    if level is not None and level.engine == IDLING:  # its dipstick is its filler
        return True
    return shut(known.facts.fastener(reservoir, FILL_PLUG))


def _ran(reservoir: str, known: Known) -> bool:
    run, level = run_since(reservoir, known.facts), known.tasks[reservoir].reservoir.level
    if run is None or level is None:
        return False
    return level.engine == IDLING or run.stopped is not None


def _poured(reservoir: str, known: Known) -> bool:
    return bool(known.facts.poured(reservoir))


def _strapped(reservoir: str, known: Known) -> bool:
    """Before anybody has said how it stands, its support is what is missing."""
    return known.facts.stance is None or known.facts.stance.strapped


def _right(reservoir: str, known: Known) -> bool:
    return known.fillings[reservoir].right


CHECKS: dict[Fact, _Check] = whole_table(
    Fact,
    {
        Fact.DONE: lambda reservoir, known: True,
        Fact.PROVEN: _made(Fact.PROVEN),
        Fact.SHUT: _made(Fact.SHUT),
        Fact.FULL: _full,
        Fact.FILLERS_SHUT: _filler_shut,
        Fact.RAN: _ran,
        Fact.POURED: _poured,
        Fact.RIGHT: _right,
        Fact.STRAPPED: _strapped,
    },
)


def _unmet(need: Need, known: Known) -> tuple[str, ...]:
    """What is missing of a need, in words; empty where it is met."""
    words = FACTS[need.fact].unmet
    if need.step is not None:
        if known.complete.get(need.step, True):
            return ()
        return (words.format(label=known.steps[need.step].title),)
    whose = known.fillings if FACTS[need.fact].whole_bike else [need.reservoir]
    check = CHECKS[need.fact]
    return tuple(words.format(label=known.label(key)) for key in whose if not check(key, known))


def all_unmet(step: Step, known: Known) -> tuple[str, ...]:
    """What is missing of all a step needs, each once, in words."""
    found = [text for need in step.needs for text in _unmet(need, known)]
    return tuple(dict.fromkeys(found))

"""Which of a step's needs are unmet, by the facts."""

from collections.abc import Callable
from datetime import datetime
from decimal import Decimal

from ...codes.facts import Fact
from ...codes.roles import Role
from ...codes.steps import Name
from ...guard import whole_table
from ...runsheet import MAKERS, Need, Step, StepId, of_bike
from ...said import needs as said
from ...spec import IDLING
from .facts import Facts, Timer, shut
from .known import Filling, Known


def settling(step: Step, known: Known) -> datetime | None:
    """When oil began to run down: as the engine stopped, or as the last of it was poured."""
    key = step.id.reservoir
    poured = known.facts.poured(key)
    if not poured:
        return None
    level = known.tasks[key].reservoir.level
    explicit = known.facts.timers.get(str(step.id))
    begun: datetime | None = poured[-1].at
    run = run_since(key, known.facts, known.fillings[key])
    if run or (level and level.run_minutes):
        begun = run.stopped if run else None
    if explicit and begun and explicit.started > begun:
        return explicit.started
    return begun


def run_since(key: str, facts: Facts, filling: Filling | None = None) -> Timer | None:
    """The last run since oil was last poured or drawn there; one after which it was read too late counts
    for nothing."""
    poured = facts.poured(key)
    if not poured:
        return None
    others = (facts.filter_anew(key), filling.stale if filling else None)
    since = max([poured[-1].at, *(at for at in others if at)])
    runs = [run for run in facts.runs if run.started >= since]
    return runs[-1] if runs else None


LOOK_UP_OVER = Decimal("1.5")  # of the book: so much cannot be in [our definition]
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
    level_plug = StepId(reservoir, Name.TORQUE_LEVEL)
    fact = known.facts.fastener(reservoir, Role.LEVEL_PLUG)
    if level_plug in known.complete and fact is not None and not shut(fact):
        return False
    return shut(known.facts.fastener(reservoir, Role.FILL_PLUG))


def _ran(reservoir: str, known: Known) -> bool:
    level = known.tasks[reservoir].reservoir.level
    run = run_since(reservoir, known.facts, known.fillings[reservoir])
    if run is None or level is None:
        return False
    return level.engine == IDLING or run.stopped is not None


def _poured(reservoir: str, known: Known) -> bool:
    return bool(known.facts.poured(reservoir))


def _plug_out(reservoir: str, known: Known) -> bool:
    """It is out, or was in this visit: what oil is left in a filter comes with it."""
    return known.facts.fastener(reservoir, Role.DRAIN_PLUG) is not None


def _strapped(reservoir: str, known: Known) -> bool:
    """Before anybody has said how it stands, its support is what is missing."""
    return known.facts.stance is None or known.facts.stance.strapped


_WHEEL_BACK = (Name.WHEEL_IN, Name.TORQUE_WHEEL, Name.STROKE)


def _wheel_in(reservoir: str, known: Known) -> bool:
    """It never came out, or is back with all that holds it."""
    out = str(of_bike(Name.WHEEL_OUT)) in known.facts.last
    back = (known.complete[step] for step in known.complete if step.name in _WHEEL_BACK)
    return not out or all(back)


def _right(reservoir: str, known: Known) -> bool:
    filling = known.fillings[reservoir]
    return filling.right and filling.counted


CHECKS: dict[Fact, _Check] = whole_table(
    Fact,
    {
        Fact.DONE: lambda reservoir, known: True,
        Fact.PROVEN: _made(Fact.PROVEN),
        Fact.PLUG_OUT: _plug_out,
        Fact.SHUT: _made(Fact.SHUT),
        Fact.FULL: _full,
        Fact.FILLERS_SHUT: _filler_shut,
        Fact.RAN: _ran,
        Fact.POURED: _poured,
        Fact.RIGHT: _right,
        Fact.STRAPPED: _strapped,
        Fact.WHEEL_IN: _wheel_in,
        # nobody knows any more what it was: somebody has to say what was found
        Fact.EARLIER: lambda reservoir, known: False,
    },
)


def _missing(need: Need, known: Known) -> tuple[Need, ...]:
    """What is missing of a need; nothing where it is met."""
    if need.step is not None:
        return () if known.complete.get(need.step, True) else (need,)
    whole = MAKERS[need.fact].whole_bike
    whose = known.fillings if whole and not need.reservoir else [need.reservoir]
    check = CHECKS[need.fact]
    return tuple(Need(need.fact, key) for key in whose if not check(key, known))


def unmet(step: Step, known: Known) -> tuple[Need, ...]:
    """What is missing of all a step needs, each once."""
    found = [one for need in step.needs for one in _missing(need, known)]
    return tuple(dict.fromkeys(found))


def in_words(need: Need, known: Known) -> str:
    """What is missing, in words."""
    if need.step is not None:
        step = known.steps.get(need.step)
        return said.unmet(need.fact, step.title if step else str(need.step))
    return said.unmet(need.fact, known.label(need.reservoir))

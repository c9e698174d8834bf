"""What a step's state is worked out from."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from decimal import Decimal

from ...codes.steps import Name
from ...fill import Advice, Fell
from ...guard import Sound
from ...runsheet import ColdJob, Makers, Round, RunSheet, Step, StepId, TaskPlan
from ...torque import Wrench
from ..entries import Entry
from .facts import Facts
from .state import TorqueCard


@dataclass(frozen=True)
class Bench(Sound):
    """What the workshop brings: its wrenches, and how long a minute is
    (60 s; a practice clock runs faster and says so)."""

    wrenches: tuple[Wrench, ...] = ()
    seconds_per_minute: float = 60.0

    def length(self, minutes: Decimal) -> timedelta:
        """``minutes`` of bench time as real time."""
        return timedelta(seconds=float(minutes) * self.seconds_per_minute)


@dataclass(frozen=True, kw_only=True)
class OffBike(Sound):
    """A part of a ``reservoir`` that is with a specialist, or back and not fitted, in ``words``."""

    reservoir: str
    words: str


@dataclass(frozen=True, kw_only=True)
class VisitPlan(Sound):
    """What a visit is worked out from besides its entries: its tasks, the cold jobs, the planned
    order of its jobs, learned minutes and waits; what of the bike is ``away``."""

    tasks: tuple[TaskPlan, ...]
    cold: tuple[ColdJob, ...] = ()
    order: tuple[str, ...] = ()
    learned: Mapping[str, int] = field(default_factory=dict)
    away: tuple[OffBike, ...] = ()


@dataclass(kw_only=True)
class Filling:
    """How the filling of a reservoir stands. ``rounds`` are those that happened and the one in hand;
    ``right``: the level is right, or the whole quantity is in; ``counted``: nothing has let oil out of it
    since that nobody has said the amount of; ``enough``: an engine may run on it;
    ``unused`` says by entry id why a reading is kept and not used; ``stale``: when it was read too late
    after a run; ``fell``: how far the level fell at the first start, ``marks`` how much is between marks
    that were assumed, where readings told; ``takes``: what brings it to the target; ``tilt``: how much
    higher it read on a lift, and by entry id what is said of one read there (``tilted``); ``rises``: by
    entry id, by how many ml what was read cold will have swollen."""

    rounds: tuple[Round, ...]
    advice: Advice | None
    right: bool
    enough: bool
    counted: bool = True
    unused: dict[str, str] = field(default_factory=dict)
    stale: datetime | None = None
    fell: Fell | None = None
    tilt: Decimal | None = None
    takes: Decimal | None = None
    tilted: dict[str, str] = field(default_factory=dict)
    marks: Decimal | None = None
    rises: dict[str, Decimal] = field(default_factory=dict)


# what is done anew after it, besides the wrench
_ANEW = {Name.TORQUE: (Name.WASHER, Name.REFIT)}


@dataclass(frozen=True, kw_only=True)
class Over:
    """A pull at a ``step`` that went too far, N·m at the fastener (None: only said so, nobody knows how
    far), and the entry that says so."""

    step: StepId
    nm: Decimal | None
    entry: Entry

    @property
    def look(self) -> StepId:
        """The step that asks what the thread looks like."""
        return StepId(self.step.reservoir, Name.THREAD, self.entry.id[:8])

    def undoes(self, step: StepId) -> bool:
        """Whether a step has to be done anew after it."""
        anew = (self.step.name, *_ANEW.get(Name(self.step.name), ()))
        same = (step.reservoir, step.part) == (self.step.reservoir, self.step.part)
        return same and step.name in anew

    @property
    def at(self) -> datetime:
        """When it was pulled."""
        return self.entry.at


@dataclass(kw_only=True)
class Known:
    """Everything a step's state is worked out from; ``over``: by reservoir, pulls that went too far."""

    plan: VisitPlan
    tasks: dict[str, TaskPlan]
    facts: Facts
    fillings: dict[str, Filling]
    cards: dict[str, TorqueCard | None]
    over: dict[str, tuple[Over, ...]]
    sheet: RunSheet
    bench: Bench
    steps: dict[StepId, Step] = field(default_factory=dict)
    complete: dict[StepId, bool] = field(default_factory=dict)
    makers: Makers = field(default_factory=lambda: Makers(()))
    cautions: dict[str, tuple[str, ...]] = field(default_factory=dict)

    def label(self, reservoir: str) -> str:
        """What a reservoir is called."""
        task = self.tasks.get(reservoir)
        return task.reservoir.label if task else reservoir

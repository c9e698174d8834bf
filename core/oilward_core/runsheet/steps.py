"""The steps of a visit: what a person does in a job, and what is asked for."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from decimal import Decimal
from enum import StrEnum
from typing import TypeVar

from ..codes.debris import Place as Bits
from ..codes.entries import Ask
from ..codes.fill import LeftFor
from ..codes.options import Tick
from ..codes.roles import Role
from ..codes.steps import Name
from ..debris import SoFar
from ..drained import Out
from ..errors import CoreError
from ..fill import Before, Fell, OfModel
from ..guard import Sound, remembered, usable
from ..quantity.display import show_precise
from ..said import options as choices
from ..said import steps as words
from ..schools import Schools
from ..spec import (
    Cell,
    Cells,
    Fastener,
    Path,
    ReservoirSpec,
    Spot,
    Variant,
    needed,
    reservoir_of,
    what,
    written_in,
)
from .ids import StepId
from .needs import Need
from .openings import openings

Code = TypeVar("Code", bound=StrEnum)


# what a kind of measured value is usually typed in
SETTING = "setting"  # of an adjuster: clicks, turns or lines
_TYPED_IN = {"length": "mm", "pressure": "bar", "time": "s", "temperature": "°C"}


@dataclass(frozen=True)
class Option:
    """Something to choose or to tick: its code, which is kept, and what it is called."""

    code: str
    words: str


@dataclass(frozen=True)
class Place:
    """Somewhere oil can get out: how it is called, of which reservoir, at which part."""

    label: str
    reservoir: str
    part: str

    @property
    def code(self) -> str:
        """``engine/drain plug``."""
        return f"{self.reservoir}/{self.part}"


@dataclass(frozen=True)
class Measured:
    """A value taken as found and as left: its name and the kind of quantity; what is not from ``low`` to
    ``high``, canonical, is asked about [our definition]. ``worth``: how much oil, ml, one of it is, where
    it is the way down to oil and the bore is known; ``usual``: what its sheet has; ``once``: it is read,
    and left as it is."""

    name: str
    kind: str
    low: Decimal = Decimal(0)
    high: Decimal = Decimal(10_000)
    worth: Decimal | None = None
    usual: Decimal | None = None
    once: bool = False

    @property
    def like(self) -> str:
        """How one might be typed: ``2.25 bar``, as the sheet has it, or in the middle of what can be
        there."""
        if self.kind == SETTING:
            return words.LIKE_SETTING
        middle = (self.low + self.high) / 2
        return show_precise(middle if self.usual is None else self.usual, _TYPED_IN[self.kind])


@dataclass(frozen=True, kw_only=True)
class Step:
    """One step of a ``job``. ``minutes`` for those that wait, ``items`` to tick, ``options`` to
    choose from, ``full`` for a timer that may not be cut short, ``fastener`` what is tightened,
    ``turn`` what follows the wrench, ``spot`` where it is on the bike map, ``unchecked`` the values
    it works with that no second person has checked, ``path`` the value a look-up asks for, and
    ``waiting`` what stands written for it and waits for a second person;
    ``draws``: oil is taken out, not poured in; ``places`` where a leak is looked for; ``measured``
    what is measured; ``hands`` what a second person does for a minute, if one is needed; ``tilts``:
    the bike may be tilted here to empty its corners; ``stood``: how the level stood as the bike came may
    be said here; ``density15``: what the oil caught here weighs, kg/m³ at 15 °C, if known; ``edge``: its
    level is told by an edge that oil runs over; ``no_magnet``: there is none to be read; ``tears``:
    its ring can tear here; ``at_once``: all of it may be said in one word; ``found_in``: where bits
    can be found, the usual place first; ``looks_at``: a second person says that this one is right."""

    id: StepId
    job: str
    ask: Ask
    title: str
    instruction: str
    needs: tuple[Need, ...] = ()
    caution: str = ""
    place: str = ""
    minutes: Decimal | None = None
    items: tuple[Option, ...] = ()
    options: tuple[Option, ...] = ()
    skippable: bool = False
    full: bool = False
    fastener: Fastener | None = None
    turn: str = ""
    spot: Spot | None = None
    unchecked: tuple[str, ...] = ()
    path: Path | None = None
    waiting: Cell | None = None
    draws: bool = False
    places: tuple[Place, ...] = ()
    measured: tuple[Measured, ...] = ()
    hands: str = ""
    tilts: bool = False
    stood: tuple[Option, ...] = ()
    density15: Decimal | None = None
    edge: bool = False
    no_magnet: bool = False
    tears: bool = False
    at_once: bool = False
    found_in: tuple[Bits, ...] = ()
    looks_at: StepId | None = None

    def __post_init__(self) -> None:
        """Raises CoreError ``number.unusable`` for minutes that cannot be waited."""
        if not usable(self.minutes):
            raise CoreError("number.unusable", name="minutes")

    @property
    def name(self) -> str:
        """Which step it is, whosever and in whatever round."""
        return self.id.name


@dataclass(frozen=True, kw_only=True)
class PlannedTask:
    """A reservoir to be serviced in a visit: ``done`` are the variants of its services so far, oldest
    first, ``asks`` the values that have to be looked up, ``schools`` the choices that count; ``sample``:
    the last finding asks for one of the oil; ``density15`` of what is drained; ``left``: why its level
    was left where it stood last time; ``seals``: of the same services what went on where; ``waiting``:
    values of the bike's own that no second person has compared."""

    spec: ReservoirSpec
    variant: Variant
    done: tuple[str, ...] = ()
    asks: tuple[Path, ...] = ()
    schools: Schools = field(default_factory=Schools)
    sample: bool = False
    density15: Decimal | None = None
    left: LeftFor | None = None
    seals: tuple[Mapping[str, str], ...] = ()
    waiting: Cells = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class TaskPlan(Sound):
    """A task with what is known of its reservoir: what it ``took`` before, what went in last time,
    how far it ran since the plug was wiped, whether fine steel was seen there then
    (``fine_last_time``), and whether a flaking dipstick has excused what was (``dipstick_excused``);
    ``topped_up`` since the last service, ml, ``outs`` what came out of it before, ``density15`` of what
    is in it, and whether the last finding asks for a ``sample``; how far its level ``fell`` at the first
    starts before, and what its ``model``'s other bikes did; why its level was ``left`` last time; by how
    much a lift ``tilts`` its gauge, as seen before, newest last; whether it was low at the last look
    (``low_last``), and what its findings so far come to (``so_far``, None where nobody knows any more).
    ``cells`` are the values behind the spec, ``asks`` those that were missing when it began, and
    ``waiting`` those of the bike's own that no second person has compared: they do not count yet; what
    was measured in the ``past``, by name, oldest first (`measures`)."""

    reservoir: ReservoirSpec
    variant: Variant
    took: tuple[Decimal, ...]
    last_put_in: Decimal | None
    km_since_wiped: Decimal
    first_service: bool
    cells: Cells = field(default_factory=dict)
    asks: tuple[Path, ...] = ()
    schools: Schools = field(default_factory=Schools)
    fine_last_time: bool = False
    dipstick_excused: bool = False
    topped_up: Decimal = Decimal(0)
    outs: tuple[Out, ...] = ()
    density15: Decimal | None = None
    sample: bool = False
    fell: tuple[Fell, ...] = ()
    model: OfModel = field(default_factory=OfModel)
    left: LeftFor | None = None
    tilts: tuple[Decimal, ...] = ()
    low_last: bool = False
    so_far: SoFar | None = None
    waiting: Cells = field(default_factory=dict)
    past: Mapping[str, tuple[Decimal, ...]] = field(default_factory=dict)

    def asking(self) -> "TaskPlan":
        """The same plan, asking for every value the job cannot do without."""
        if not self.reservoir.facts.drained:
            return self
        asks = (*needed(self.reservoir, self.variant), *self._torques())
        return replace(self, asks=tuple(dict.fromkeys(asks)))

    def _torques(self) -> Iterator[Path]:
        """The torques of all that is opened and pulled by a wrench, where the sheet does not say; a
        filler is closed by hand as often as not."""
        for one in openings(self.reservoir, self.variant):
            if one.closes.torque is None and one.closes.key and one.role != Role.FILL_PLUG:
                yield Path(self.reservoir.key, one.closes.key, "torque")

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

    @property
    def task(self) -> PlannedTask:
        """What its recipe needs to know."""
        return PlannedTask(
            spec=self.reservoir,
            variant=self.variant,
            done=(),
            asks=self.asks,
            schools=self.schools,
            sample=self.sample,
            density15=self.density15,
            left=self.left,
            waiting=self.waiting,
        )

    @property
    def before(self) -> Before:
        """What is known before it is filled."""
        return Before(took=self.took, fell=self.fell, model=self.model)

    @property
    def put_in(self) -> Decimal | None:
        """What went in last time and since, ml, if known."""
        return None if self.last_put_in is None else self.last_put_in + self.topped_up


def look_up_id(path: Path) -> StepId:
    """The step that asks for a value: ``engine/look up.drain plug.torque``."""
    return StepId(path.reservoir, Name.LOOK_UP, f"{path.part}.{path.field}")


def unchecked(reservoir: ReservoirSpec, *names: str) -> tuple[str, ...]:
    """A sentence for each of these values (``part/field``) that no second person has checked, or that
    one pair of eyes has compared alone."""

    def called(name: str) -> str:
        return what(Path(reservoir.key, *name.split("/")))

    return tuple(
        (words.unchecked if name in reservoir.unchecked else words.one_pair)(called(name))
        for name in names
        if name in reservoir.unchecked or name in reservoir.one_pair
    )


def where(fastener: Fastener | None) -> str:
    """A fastener's place in words, and what opens it."""
    return words.where(fastener.place, fastener.drive) if fastener else ""


def chosen(table: Mapping[Code, str], codes: Iterable[Code]) -> tuple[Option, ...]:
    """Options in the words of a table."""
    return tuple(Option(code, table[code]) for code in codes)


@remembered
def ticks(*codes: Tick) -> tuple[Option, ...]:
    """What is ticked at a step."""
    return chosen(choices.TICKS, codes)

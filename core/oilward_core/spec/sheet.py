"""A bike's spec sheet as the core sees it: reservoirs, capacities, level checks, fasteners."""

from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum

from ..codes.roles import PLUGS, Role
from ..due import DueLimits
from ..errors import CoreError
from ..guard import Sound
from ..said import sheet as say
from ..torque import MOST_SCREWS, TorqueSpec
from .kinds import KINDS, FillRule, KindFacts, ReservoirKind
from .leg import NOTHING_SAID, LegSpec
from .ride import NO_RIDE, RideSpec


class Variant(StrEnum):
    """Which of the manual's capacities applies to this job."""

    DRAIN_ONLY = "drain only"
    WITH_FILTER = "with filter"
    DRY = "dry"

    @classmethod
    def of(cls, text: str, field: str = "variant") -> "Variant":
        """The variant somebody chose. Raises CoreError ``sheet.choose`` at ``field``."""
        try:
            return cls(text)
        except ValueError as error:
            raise CoreError("sheet.choose", field=field, options=list(cls)) from error


@dataclass(frozen=True)
class Marks(Sound):
    """A pair of marks on a gauge, for one attitude: ml between them and the target as a share of
    the way up (0 low mark, 1 high mark)."""

    attitude: str
    between: Decimal
    target: Decimal = Decimal("0.75")


EDGES = ("level plug", "overflow")
DIPSTICK = "dipstick"


@dataclass(frozen=True, kw_only=True)
class LevelCheck(Sound):
    """How the level is read. Minutes; ``between_marks`` in ml; ``target`` as a share of the glass
    (0 low mark, 1 high mark). ``engine`` is the state it is read in, ``dipstick`` how it is held
    (resting on its threads, screwed in), ``second`` another pair of marks for another attitude;
    ``assumed``: the sheet does not say how far apart the marks are; ``latest``: so many minutes after the
    run the oil has drained back, or gone cold."""

    gauge: str
    attitude: str
    run_minutes: Decimal
    settle_minutes: Decimal
    between_marks: Decimal
    target: Decimal = Decimal("0.75")
    dipstick: str = ""
    engine: str = ""
    second: Marks | None = None
    assumed: bool = False
    latest: Decimal | None = None

    @property
    def drawn(self) -> bool:
        """Whether it is a dipstick: wiped, seated and drawn to be read."""
        return self.gauge == DIPSTICK

    @property
    def edge(self) -> bool:
        """Whether it has no marks, but an edge that oil runs over; one with ml between marks is read by
        them."""
        return self.gauge in EDGES and not self.between_marks


@dataclass(frozen=True)
class Spot(Sound):
    """A place on the bike map: shares of its width and height, from the top left."""

    x: Decimal
    y: Decimal


@dataclass(frozen=True, kw_only=True)
class Fastener(Sound):
    """A plug, filter or screw with its place in words and on the map, and its torque.

    ``torque`` None: the sheet does not say. ``soft``: it goes into aluminium or plastic, or is made of
    it. ``adapter``: it is only reached with a crow-foot, which adds so many mm, at ``adapter_angle``
    degrees from straight on. ``goes_into`` and ``made_of`` are its two materials, empty where the sheet
    does not say. ``no_magnet``: the sheet says that it has none. ``count``: so many of it, on a ring in
    the order of its ``pattern``. ``element``: a filter that stands behind a cover, None where the sheet
    does not say. ``seal_kind``: flat, folded, bonded, O-ring or gasket; empty: it does not say.
    ``critical``: two people stand for it."""

    role: str
    place: str
    thread: str
    drive: str
    magnet: bool
    soft: bool
    torque: TorqueSpec | None
    seal: str
    key: str = ""
    spot: Spot | None = None
    sealant: str = ""
    pattern: str = ""
    count: int = 1
    one_use: bool = False
    safety_wire: bool = False
    direction: str = ""
    adapter: Decimal | None = None
    goes_into: str = ""
    made_of: str = ""
    adapter_angle: Decimal = Decimal(0)
    no_magnet: bool = False
    element: bool | None = None
    seal_kind: str = ""
    critical: bool = False

    @property
    def ring(self) -> bool:
        """Whether it is several screws, pulled in an order and in two passes."""
        return 1 < self.count <= MOST_SCREWS and self.role not in PLUGS


@dataclass(frozen=True, kw_only=True)
class Requirement(Sound):
    """What a reservoir asks of its fluid. Viscosities are (low, high) in cSt; empty: not asked."""

    grade: str = ""
    kv40: tuple[Decimal, Decimal] | None = None
    kv100: tuple[Decimal, Decimal] | None = None
    friction: str = ""
    service: str = ""
    base: str = ""
    approval: str = ""

    def __str__(self) -> str:
        """In words, as the shelf would be asked: ``20W-50, MA2``."""
        friction = "" if self.friction == NO_CLUTCH else self.friction
        parts = (self.grade, friction, self.service, self.base, self.approval)
        return ", ".join(part for part in parts if part)


NO_LIMITS = DueLimits()  # nothing limits it
NO_CLUTCH = "wets no clutch"
WET_CLUTCH = ("MA", "MA1", "MA2")  # JASO T903: oil that a wet clutch runs in


def wets_a_clutch(friction: str) -> bool:
    """Whether oil of a friction class is for an engine whose clutch runs in it."""
    return friction in WET_CLUTCH


@dataclass(frozen=True, kw_only=True)
class ReservoirSpec(Sound):
    """One reservoir of a spec sheet. ``capacities`` in ml by variant; a missing one is missing.

    ``air_gap`` in mm, ``filter_every`` counts changes, ``seal_life`` counts services;
    ``cooling`` says what cools an engine, empty where the sheet does not;
    ``leg`` is what is said of a fork leg alone, ``ride`` of how it rides on its springs;
    ``limits`` are those of its change, ``looks`` how often it is looked at in between;
    ``unchecked`` names the values no second person has checked (``drain plug/torque``), ``one_pair``
    those that whoever wrote them compared alone.
    """

    key: str
    kind: ReservoirKind
    label: str
    fill_rule: FillRule
    capacities: dict[Variant, Decimal]
    initial: Decimal | None
    level: LevelCheck | None
    requirement: Requirement
    prefill: Decimal
    fasteners: tuple[Fastener, ...]
    limits: DueLimits
    looks: DueLimits = NO_LIMITS
    serves: str = ""
    air_gap: Decimal | None = None
    filter_every: int | None = None
    seal_life: int | None = None
    caution: str = ""
    reset: str = ""
    cooling: str = ""
    leg: LegSpec = NOTHING_SAID
    ride: RideSpec = NO_RIDE
    unchecked: frozenset[str] = frozenset()
    one_pair: frozenset[str] = frozenset()

    @property
    def facts(self) -> KindFacts:
        """What is different about its kind."""
        return KINDS[self.kind]

    @property
    def fluid(self) -> str:
        """What it asks of its fluid, in words."""
        return str(self.requirement)

    def fastener(self, role: str) -> Fastener | None:
        """The first fastener with this role, if the sheet has one."""
        return next((f for f in self.fasteners if f.role == role), None)


def why_not_serviceable(spec: ReservoirSpec) -> str:
    """What stands against leading through this reservoir with a run sheet; empty if nothing."""
    if spec.facts.drained and spec.fastener(Role.DRAIN_PLUG) is None:
        return say.NO_DRAIN_PLUG
    return ""

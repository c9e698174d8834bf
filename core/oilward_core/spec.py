"""A bike's spec sheet as the core sees it: reservoirs, capacities, level checks, fasteners."""

from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum

from .due import DueLimits
from .torque import TorqueSpec


class ReservoirKind(StrEnum):
    """What can hold oil on a motorcycle, in the order a bike is drawn."""

    ENGINE = "engine"
    ENGINE_DRY = "engine, dry sump"
    CLUTCH_CIRCUIT = "clutch circuit"
    PRIMARY = "primary"
    GEARBOX = "gearbox"
    FINAL_DRIVE = "final drive"
    FORK = "fork leg"
    SHOCK = "shock"
    COOLANT = "coolant"
    FRONT_BRAKE = "front brake"
    REAR_BRAKE = "rear brake"
    CLUTCH_FLUID = "hydraulic clutch"


WATCHED_ONLY = frozenset(
    {
        ReservoirKind.COOLANT,
        ReservoirKind.FRONT_BRAKE,
        ReservoirKind.REAR_BRAKE,
        ReservoirKind.CLUTCH_FLUID,
    }
)


# drained through a plug, so a run sheet can lead through them
DRAINED = frozenset(
    {
        ReservoirKind.ENGINE,
        ReservoirKind.ENGINE_DRY,
        ReservoirKind.PRIMARY,
        ReservoirKind.GEARBOX,
        ReservoirKind.FINAL_DRIVE,
    }
)


class FillRule(StrEnum):
    """How a reservoir is filled: by level, by an exact quantity, by air gap, or only watched."""

    LEVEL = "level"
    EXACT = "exact"
    AIR_GAP = "air gap"
    WATCH = "watch"


class Variant(StrEnum):
    """Which of the manual's capacities applies to this job."""

    DRAIN_ONLY = "drain only"
    WITH_FILTER = "with filter"
    DRY = "dry"


@dataclass(frozen=True)
class LevelCheck:
    """How the level is read. Minutes; ``between_marks`` in ml; ``target`` as a share of the glass
    (0 low mark, 1 high mark)."""

    gauge: str
    attitude: str
    run_minutes: Decimal
    settle_minutes: Decimal
    between_marks: Decimal
    target: Decimal = Decimal("0.75")


@dataclass(frozen=True)
class Fastener:
    """A plug, filter or screw with its place in words and its torque."""

    role: str
    place: str
    thread: str
    drive: str
    magnet: bool
    soft: bool
    torque: TorqueSpec
    seal: str


@dataclass(frozen=True)
class ReservoirSpec:
    """One reservoir of a spec sheet. ``capacities`` in ml by variant; a missing one is missing."""

    key: str
    kind: ReservoirKind
    label: str
    fill_rule: FillRule
    capacities: dict[Variant, Decimal]
    initial: Decimal | None
    level: LevelCheck | None
    fluid: str
    prefill: Decimal
    fasteners: tuple[Fastener, ...]
    limits: DueLimits

    def fastener(self, role: str) -> Fastener | None:
        """The first fastener with this role, if the sheet has one."""
        return next((f for f in self.fasteners if f.role == role), None)


def why_not_serviceable(spec: ReservoirSpec) -> str:
    """What stands against leading through this reservoir with a run sheet; empty if nothing."""
    if spec.kind not in DRAINED:
        return "Not drained through a plug."
    if not spec.capacities:
        return "The spec sheet has no capacity."
    if spec.fastener("drain plug") is None:
        return "The spec sheet has no drain plug."
    return ""

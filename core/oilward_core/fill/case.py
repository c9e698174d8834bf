"""What the coach hears of: what is to be filled, what was poured and read, and what was found."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ..codes.fill import Cause, Start
from ..codes.roles import Role
from ..guard import Sound, guarded
from ..spec import IDLING, FillRule, ReservoirKind, ReservoirSpec, Variant

Sight = Literal["seen", "below", "above"]

# of the capacity, where nobody knows better [our definition]: what filter and galleries take of the oil
# at the first start, when the filter is new and when it is left on
FILTER_TAKES = (Decimal("0.05"), Decimal("0.015"))
GALLERIES_TAKE = (Decimal("0.01"), Decimal("0.01"))


@dataclass(frozen=True)
class Gauge(Sound):
    """A sight glass or dipstick: ml between its marks, and the target as a share of them."""

    between_marks: Decimal
    target: Decimal


@dataclass(frozen=True)
class Drop(Sound):
    """By how many ml the level falls at the first start, while filter and galleries fill: mean and
    standard deviation."""

    mean: Decimal
    sd: Decimal


@dataclass(frozen=True, kw_only=True)
class FillCase(Sound):
    """What is to be filled: book ``capacity`` of the variant, gauge (None: exact quantity), the
    sheet's ``initial`` amount if it names one, and what this bike ``took`` before, newest last.

    ``start``: what the first start does to its level; ``drop``: how far it falls then, where a look
    before it can be used."""

    capacity: Decimal
    gauge: Gauge | None
    initial: Decimal | None = None
    took: tuple[Decimal, ...] = ()
    start: Start = Start.NONE
    drop: Drop | None = None


@guarded
def start_of(spec: ReservoirSpec) -> Start:
    """What the first start does to its level. It is read after a run where its sheet says so; a tank
    drains back, and one that is read while it idles is never read before."""
    level = spec.level
    if spec.fill_rule != FillRule.LEVEL or level is None or not level.run_minutes:
        return Start.NONE
    tank = spec.kind == ReservoirKind.ENGINE_DRY or level.engine == IDLING
    return Start.TANK if tank else Start.SUMP


def _drop_of(spec: ReservoirSpec, variant: Variant, capacity: Decimal) -> Drop | None:
    filtered = Variant.WITH_FILTER in spec.capacities or spec.fastener(Role.FILTER) is not None
    if not filtered:
        return None
    mean, sd = GALLERIES_TAKE if variant == Variant.DRAIN_ONLY else FILTER_TAKES
    return Drop(mean * capacity, sd * capacity)


@guarded
def case_of(
    spec: ReservoirSpec, variant: Variant, capacity: Decimal, took: tuple[Decimal, ...] = ()
) -> FillCase:
    """A reservoir as the coach sees it: by its gauge where it has one, else by its exact quantity."""
    gauge = None
    if spec.fill_rule == FillRule.LEVEL and spec.level is not None:
        gauge = Gauge(spec.level.between_marks, spec.level.target)
    start = start_of(spec)
    return FillCase(
        capacity=capacity,
        gauge=gauge,
        initial=spec.initial,
        took=took,
        start=start,
        drop=_drop_of(spec, variant, capacity) if start == Start.SUMP else None,
    )


@dataclass(frozen=True)
class Poured(Sound):
    """Oil put in (above zero) or taken out (below zero), ml. A pre-filled filter counts too, but
    nothing is read after it."""

    ml: Decimal
    prefill: bool = False


@dataclass(frozen=True)
class LevelReading(Sound):
    """A reading of the gauge. ``position`` counts only when ``sight`` is *seen*; a reading that is
    not ``valid`` (wrong attitude, too soon) is kept and not used."""

    sight: Sight
    position: Decimal
    valid: bool


@dataclass(frozen=True)
class Lost(Sound):
    """So many ml ran out, at a leak or while a full case was opened again."""

    ml: Decimal


@dataclass(frozen=True)
class FilterAnew(Sound):
    """Another new filter went on after the first start, with so many ml in it; the old one, which had
    been pre-filled with ``was``, took along what it had filled itself with."""

    ml: Decimal
    was: Decimal


@dataclass(frozen=True)
class Ran(Sound):
    """The engine ran for the first time on what was poured: filter and galleries are full from here."""


@dataclass(frozen=True)
class CauseFound:
    """The technician found why gauge and book disagree, in ``words`` of their own where no code says
    it: from here the gauge is believed alone."""

    cause: Cause
    words: str = ""


@dataclass(frozen=True)
class Left(Sound):
    """It is left where it stands, inside its marks, for a reason; or taken back: it does not stay."""

    stays: bool = True


FillEvent = Poured | LevelReading | CauseFound | Ran | Lost | FilterAnew | Left

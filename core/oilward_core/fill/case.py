"""What the coach hears of: what is to be filled, what was poured and read, and what was found."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ..codes.fill import Cause
from ..guard import Sound, guarded
from ..spec import FillRule, ReservoirSpec

Sight = Literal["seen", "below", "above"]


@dataclass(frozen=True)
class Gauge(Sound):
    """A sight glass or dipstick: ml between its marks, and the target as a share of them."""

    between_marks: Decimal
    target: Decimal


@dataclass(frozen=True, kw_only=True)
class FillCase(Sound):
    """What is to be filled: book ``capacity`` of the variant, gauge (None: exact quantity), the
    sheet's ``initial`` amount if it names one, and what this bike ``took`` before, newest last."""

    capacity: Decimal
    gauge: Gauge | None
    initial: Decimal | None = None
    took: tuple[Decimal, ...] = ()


@guarded
def case_of(spec: ReservoirSpec, capacity: Decimal, took: tuple[Decimal, ...] = ()) -> FillCase:
    """A reservoir as the coach sees it: by its gauge where it has one, else by its exact quantity."""
    gauge = None
    if spec.fill_rule == FillRule.LEVEL and spec.level is not None:
        gauge = Gauge(spec.level.between_marks, spec.level.target)
    return FillCase(capacity=capacity, gauge=gauge, initial=spec.initial, took=took)


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
class CauseFound:
    """The technician found why gauge and book disagree, in ``words`` of their own where no code says
    it: from here the gauge is believed alone."""

    cause: Cause
    words: str = ""


FillEvent = Poured | LevelReading | CauseFound

"""How far a bike sinks under itself and its rider, as a tape says it, held against its sheet: what to do
about it, and which spring its rider's weight asks for."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from decimal import Decimal

from .codes.suspension import Ridden
from .errors import CoreError, at
from .expected import hold_inside
from .guard import Sound, guarded
from .quantity import Kind, parse, show
from .said import ride as said
from .spec import Recipe, ReservoirSpec
from .suspension import (
    Advice,
    Lengths,
    Sag,
    Turns,
    Window,
    advised,
    at_the_wheel,
    rate_for,
    rider_window,
    sag_of,
    static_window,
)

# what a tape can say from axle to frame, mm; what a rider weighs, g [our definitions]
LENGTHS = (Decimal(100), Decimal(1500))
WEIGHTS = (Decimal(30_000), Decimal(250_000))
# of a rider's weight [trade: common practice, no source]
SHARES = {Recipe.FORK: 0.45, Recipe.SHOCK: 0.55}
LEGS = 2


@dataclass(frozen=True, kw_only=True)
class SagTyped:
    """What was measured, as typed: the wheel hanging (``free``); settled from above (``down``) and from
    below (``up``), the bike alone and with its rider on. ``weight``: the rider's, as dressed to ride; may
    be left empty."""

    free: str
    bike_down: str
    bike_up: str
    rider_down: str
    rider_up: str
    weight: str = ""
    sure: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class SagSaid(Sound):
    """Both sags with their windows, each by the sheet or by common practice; what to do, in words too;
    the ``rate`` of each spring the rider's weight asks for, N/mm, None without it; what one turn of
    preload is at the wheel, mm."""

    static: Sag
    rider: Sag
    windows: tuple[Window, Window]
    by_sheet: tuple[bool, bool]
    advice: Advice
    words: str
    rate: float | None
    turn: float | None


def _length(text: str, field: str, sure: Collection[str]) -> float:
    with at(field):
        if not text.strip():
            raise CoreError("ride.missing")
        measure = parse(text, Kind.LENGTH, "mm")
        hold_inside(measure, *LENGTHS, sure)
    return float(measure.low)


def _kilograms(text: str, sure: Collection[str]) -> float:
    with at("weight"):
        measure = parse(text, Kind.MASS, "kg")
        hold_inside(measure, *WEIGHTS, sure)
    return float(measure.low) / 1000


def _sank(read: Mapping[str, float], who: str) -> Sag:
    lengths = Lengths(free=read["free"], down=read[f"{who}_down"], up=read[f"{who}_up"])
    try:
        return sag_of(lengths)
    except CoreError as error:
        raise CoreError(error.code, **{**error.fields, "field": f"{who}_up"}) from error


def _turns(spec: ReservoirSpec) -> Turns | None:
    """A preload screw's pitch, and how much further than the spring the wheel moves."""
    ride = spec.ride
    if ride.pitch is None:
        return None
    levered = ride.travel is not None and ride.stroke is not None and ride.stroke > 0
    lever = float(ride.travel / ride.stroke) if levered and ride.travel and ride.stroke else 1.0
    return Turns(pitch=float(ride.pitch), lever=lever)


def _window(told: tuple[Decimal, Decimal] | None, usual: Window) -> Window:
    return Window(low=float(told[0]), high=float(told[1])) if told else usual


@guarded
def sag(spec: ReservoirSpec, typed: SagTyped, ridden: Ridden = Ridden.ROAD) -> SagSaid:
    """What a bike's sag says, of a fork or a shock.

    Raises CoreError ``ride.no_travel`` where the sheet gives none, at the field that is not as it should
    be, as `advised` and `sag_of` do; the question ``measure.unlikely``.
    """
    ride = spec.ride
    if ride.travel is None:
        raise CoreError("ride.no_travel", what=spec.label)
    read = {
        name: _length(getattr(typed, name), name, typed.sure)
        for name in ("free", "bike_down", "bike_up", "rider_down", "rider_up")
    }
    travel = float(ride.travel)
    static, rider = (_sank(read, who) for who in ("bike", "rider"))
    windows = (
        _window(ride.static, static_window(travel)),
        _window(ride.rider, rider_window(travel, ridden)),
    )
    by = _turns(spec)
    try:
        advice = advised(static, rider, windows, travel, by)
    except CoreError as error:
        raise CoreError(error.code, **{**error.fields, "field": "rider_up"}) from error
    words = said.says(
        advice.says,
        show(Decimal(str(max(static.stiction, rider.stiction))), "mm"),
        f"{abs(advice.turns):.1f}" if advice.turns else "",
        inwards=rider.sag > windows[1].middle,
    )
    return SagSaid(
        static=static,
        rider=rider,
        windows=windows,
        by_sheet=(ride.static is not None, ride.rider is not None),
        advice=advice,
        words=words,
        rate=_rate(spec, typed, rider.sag - static.sag),
        turn=at_the_wheel(1, by) if by else None,
    )


def _rate(spec: ReservoirSpec, typed: SagTyped, sank: float) -> float | None:
    """Of each spring, at the wheel."""
    share = SHARES.get(spec.facts.recipe)
    if not typed.weight.strip() or share is None or sank <= 0:
        return None
    springs = LEGS if spec.facts.recipe == Recipe.FORK else 1
    return rate_for(_kilograms(typed.weight, typed.sure), share, sank, springs)

"""Sag: how far a bike sinks under itself and under its rider, and what follows. Lengths in mm along the
suspension's own travel, masses in kg, rates in N/mm."""

from dataclasses import dataclass

from ..codes.suspension import Ridden, SagSays
from ..errors import CoreError
from ..guard import Sound, guarded, whole_table

GRAVITY = 9.80665  # m/s² [std: ISO 80000-3]
STICTION = 10.0  # mm, above it no spring is judged [trade: common practice, no source]


@dataclass(frozen=True, kw_only=True)
class Window(Sound):
    """Between which two lengths something is right, mm."""

    low: float
    high: float

    def __post_init__(self) -> None:
        """Raises CoreError ``suspension.window``."""
        super().__post_init__()
        if not 0 <= self.low <= self.high:
            raise CoreError("suspension.window")

    @property
    def middle(self) -> float:
        """Halfway between the two."""
        return (self.low + self.high) / 2

    def holds(self, value: float) -> bool:
        """Whether a length lies inside, its ends with it."""
        return self.low <= value <= self.high


# shares of the travel: under the rider [trade: common practice, no source]
_RIDER = whole_table(Ridden, {Ridden.ROAD: (0.25, 0.33), Ridden.OFF_ROAD: (0.30, 0.36)})
_STATIC = (0.05, 0.15)  # under the bike alone [the same]


@guarded
def rider_window(travel: float, ridden: Ridden) -> Window:
    """How far a bike sinks under its rider, where its sheet does not say: 25 to 33 % of the travel on the
    road, 30 to 36 off it [trade: common practice, no source]. Raises CoreError ``suspension.travel``."""
    low, high = _RIDER[ridden]
    return _share(travel, low, high)


@guarded
def static_window(travel: float) -> Window:
    """How far it sinks under itself, where its sheet does not say: 5 to 15 % of the travel [the same]."""
    return _share(travel, *_STATIC)


def _share(travel: float, low: float, high: float) -> Window:
    if travel <= 0:
        raise CoreError("suspension.travel", field="travel")
    return Window(low=low * travel, high=high * travel)


@dataclass(frozen=True, kw_only=True)
class Lengths(Sound):
    """What a tape says, mm: the wheel hanging, and settled, once let down onto it and once let up."""

    free: float
    down: float
    up: float


@dataclass(frozen=True, kw_only=True)
class Sag(Sound):
    """``sag``: how far it sank, of the two settled lengths the middle; ``stiction``: how far they are
    apart."""

    sag: float
    stiction: float


@guarded
def sag_of(read: Lengths) -> Sag:
    """``free − (down + up)/2``, and how far the two are apart [trade: common practice, no source]. Raises
    CoreError ``suspension.sag_below`` where it stood higher than it hangs."""
    sag = read.free - (read.down + read.up) / 2
    if sag < 0 or min(read.free, read.down, read.up) < 0:
        raise CoreError("suspension.sag_below", field="settled")
    return Sag(sag=sag, stiction=abs(read.down - read.up))


@dataclass(frozen=True, kw_only=True)
class Turns(Sound):
    """A preload screw's ``pitch`` and how much further than the spring the wheel moves (``lever``: a
    fork's is 1)."""

    pitch: float
    lever: float = 1.0

    def __post_init__(self) -> None:
        """Raises CoreError ``suspension.turns``."""
        super().__post_init__()
        if min(self.pitch, self.lever) <= 0:
            raise CoreError("suspension.turns")


@guarded
def at_the_wheel(turns: float, by: Turns) -> float:
    """What so many turns of preload are at the wheel, mm: ``turns·pitch·lever`` [derived]."""
    return turns * by.pitch * by.lever


@dataclass(frozen=True, kw_only=True)
class Advice:
    """What a sag says to do, and by how many turns of preload (positive: in), 0 where it is no matter of
    preload or the screw's pitch is not known."""

    says: SagSays
    turns: float = 0.0


@guarded
def advised(
    static: Sag, rider: Sag, windows: tuple[Window, Window], travel: float, by: Turns | None = None
) -> Advice:
    """What to do about a sag; ``windows`` for the bike alone and for the rider. Stiction comes before any
    spring; then preload brings the rider's into its window; and a spring is judged by what the bike alone
    does while the rider's is right [trade: common practice, no source].

    Raises CoreError ``suspension.sag_over`` beyond the travel, ``suspension.sag_order`` where the rider
    makes it rise.
    """
    if rider.sag > travel or static.sag > travel:
        raise CoreError("suspension.sag_over", field="settled")
    if static.sag > rider.sag:
        raise CoreError("suspension.sag_order", field="settled")
    alone, ridden = windows
    if max(static.stiction, rider.stiction) > STICTION:
        return Advice(says=SagSays.STICTION)
    if not ridden.holds(rider.sag):
        turns = (rider.sag - ridden.middle) / (by.pitch * by.lever) if by else 0.0
        return Advice(says=SagSays.PRELOAD, turns=turns)
    if static.sag < alone.low:
        return Advice(says=SagSays.STIFFER)
    if static.sag > alone.high:
        return Advice(says=SagSays.SOFTER)
    return Advice(says=SagSays.RIGHT)


@guarded
def rate_for(mass: float, share: float, sank: float, springs: int) -> float:
    """Of each spring, N/mm, from how far a rider's weight made it sink: ``m·share·g/(Δx·springs)``; the
    ``share`` of the weight that is on this wheel [derived]. Raises CoreError ``suspension.weight``."""
    if mass <= 0 or not 0 < share <= 1 or sank <= 0 or springs < 1:
        raise CoreError("suspension.weight")
    return mass * share * GRAVITY / (sank * springs)

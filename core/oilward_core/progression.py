"""What another air gap does to a fork leg: its force over its travel beside that of the sheet's gap."""

from collections.abc import Collection
from dataclasses import dataclass
from decimal import Decimal

from .errors import CoreError
from .expected import hold_inside
from .guard import Sound, guarded
from .quantity import Kind, parse
from .spec import ReservoirSpec
from .suspension import AirSpring, Leg, force, stroke_for

GAPS = (
    Decimal(40),
    Decimal(300),
)  # mm, what can be there at all [trade: common practice, no source]
BETWEEN = 1.2  # n, neither as slow as its tube is warm nor as fast as it gives no heat away
POINTS = 26
NEEDED = {
    "seal": "its seal",
    "bore": "its inner bore",
    "travel": "its travel",
}


@dataclass(frozen=True, kw_only=True)
class Progression(Sound):
    """Force of one leg (N) over its stroke (mm) at two gaps, the sheet's first; and how much ``later``
    the other one carries what the sheet's carries 5 mm before its end, mm: earlier with a minus."""

    gaps: tuple[float, float]
    strokes: tuple[float, ...]
    forces: tuple[tuple[float, ...], tuple[float, ...]]
    carried: float
    later: float


NEAR_END = 5.0  # mm before the end, where it all but bottoms [our definition]


def _leg(spec: ReservoirSpec, gap: float) -> Leg:
    """Raises CoreError ``progression.missing`` with what the sheet does not say."""
    missing = [words for name, words in NEEDED.items() if getattr(spec.leg, name) is None]
    if missing:
        raise CoreError("progression.missing", what=", ".join(missing))
    seal, bore, travel = (float(getattr(spec.leg, name)) for name in NEEDED)
    air = AirSpring(seal=seal, inner=bore, gap=gap, travel=travel)
    pitch, turns = spec.ride.pitch, spec.leg.preload
    preload = float(pitch * turns) if pitch is not None and turns is not None else 0.0
    return Leg(air=air, rate=float(spec.leg.rate or 0), preload=preload)


@guarded
def may_compare(spec: ReservoirSpec) -> bool:
    """Whether a sheet says enough of a leg for it."""
    return spec.air_gap is not None and all(getattr(spec.leg, name) for name in NEEDED)


@guarded
def progression(spec: ReservoirSpec, typed: str, sure: Collection[str] = ()) -> Progression:
    """What a gap, as typed, does beside the sheet's; neither is fast nor slow (n = 1.2), the steel
    spring's own room left out [std: ideal gas].

    Raises CoreError ``progression.no_gap`` where the sheet gives none, ``progression.missing``, at
    ``gap`` for what is none; the question ``measure.unlikely``.
    """
    if spec.air_gap is None:
        raise CoreError("progression.no_gap", what=spec.label)
    try:
        measure = parse(typed, Kind.LENGTH, "mm")
        hold_inside(measure, *GAPS, sure)
        other = _leg(spec, float(measure.low))
    except CoreError as error:
        raise error.at("gap") from error
    book, travel = _leg(spec, float(spec.air_gap)), float(spec.leg.travel or 0)
    carried = force(book, travel - NEAR_END, BETWEEN)
    strokes = tuple(travel * n / (POINTS - 1) for n in range(POINTS))
    return Progression(
        gaps=(float(spec.air_gap), float(measure.low)),
        strokes=strokes,
        forces=(_forces(book, strokes), _forces(other, strokes)),
        carried=carried,
        later=stroke_for(other, carried, BETWEEN) - (travel - NEAR_END),
    )


def _forces(leg: Leg, strokes: tuple[float, ...]) -> tuple[float, ...]:
    return tuple(force(leg, stroke, BETWEEN) for stroke in strokes)

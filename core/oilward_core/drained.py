"""What came out, against what should have: weighed or measured warm, brought to 20 °C, and explained.

Warm oil takes more room, and some of what went in stays in filter and corners: how much of it a bike
gives back is learned from its own services. Density over temperature is `fluid.density`'s; the rest is
common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from .codes.debris import OilLook, Warmth
from .codes.options import Stood
from .fluid.density import density_at, volume_at
from .guard import Sound, guarded, whole_table
from .quantity import show
from .said import drained as said

BASE_C = 20.0
USUAL_DENSITY = Decimal(870)  # kg/m³ at 15 °C, where its data sheet says nothing
UNLEARNED, SCATTER = 0.07, 0.03  # spread of the ratio before it is learned, and of one service


DEGREES: dict[Warmth, int] = whole_table(Warmth, {Warmth.COLD: 20, Warmth.WARM: 45, Warmth.HOT: 80})


@dataclass(frozen=True)
class Out(Sound):
    """An earlier service of the same kind: what had gone in since the one before, what came out of
    that, both ml, and how far it ran between."""

    put_in: Decimal
    drained: Decimal
    km: Decimal


@dataclass(frozen=True)
class ExpectedOut(Sound):
    """What should come out, ml, with its spread; ``learned_from`` so many services of this bike."""

    value: Decimal
    spread: Decimal
    learned_from: int


def _tenth(ml: float) -> Decimal:
    return Decimal(str(round(ml, 1)))


@guarded
def weighed(grams: Decimal, density15: Decimal = USUAL_DENSITY) -> Decimal:
    """The volume at 20 °C, ml, of oil weighed at whatever temperature: a mass does not swell.
    ``density15`` in kg/m³ at 15 °C. Raises CoreError ``fluid.density``."""
    return _tenth(float(grams) / density_at(float(density15), BASE_C) * 1000)


@guarded
def at_20(ml: Decimal, celsius: Decimal, density15: Decimal = USUAL_DENSITY) -> Decimal:
    """A volume read at a temperature, as it stands at 20 °C, ml. Raises CoreError ``fluid.density``."""
    return _tenth(volume_at(float(ml), float(celsius), BASE_C, float(density15)))


@guarded
def expected_out(put_in: Decimal, earlier: Sequence[Out] = ()) -> ExpectedOut:
    """What should come out of what went in: this bike's own ratio of out to in, shrunk to one
    (normal prior of sd 7 %, scatter 3 % a service) [def]; without a service to learn from, ± 7 %."""
    ratios = [float(one.drained / one.put_in) for one in earlier if one.put_in > 0]
    if not ratios:
        return ExpectedOut(put_in, put_in * Decimal(str(UNLEARNED)), 0)
    prior, each = UNLEARNED**-2, SCATTER**-2
    weight = prior + each * len(ratios)
    ratio = (prior + each * sum(ratios)) / weight
    spread = (1 / weight + SCATTER**2) ** 0.5
    value = put_in * Decimal(str(round(ratio, 6)))
    return ExpectedOut(value, put_in * Decimal(str(round(spread, 6))), len(ratios))


@guarded
def lost_per_1000(put_in: Decimal, drained: Decimal, km: Decimal) -> Decimal | None:
    """How much less came out than went in, ml per 1000 km; negative where more did. None on a distance
    too short to say."""
    return (put_in - drained) / km * 1000 if km >= 200 else None


def _why(short: bool, stood: str, looks: Sequence[OilLook]) -> str:
    if not short and OilLook.MILKY in looks:
        return said.MILKY
    if not short and OilLook.FUEL in looks:
        return said.FUEL
    return said.why(short, next((one for one in Stood if one == stood), None))


def _rates(put_in: Decimal, drained: Decimal, km: Decimal, earlier: Sequence[Out]) -> str:
    """How much goes missing on the way, and what it was before, the newest first."""
    now = lost_per_1000(put_in, drained, km)
    if now is None or now <= 0:
        return ""
    before = [lost_per_1000(one.put_in, one.drained, one.km) for one in earlier[-3:]]
    lost = [f"{round(max(rate, Decimal(0))):d}" for rate in reversed(before) if rate is not None]
    return said.rates(round(now), lost)


@guarded
def drained_words(
    put_in: Decimal | None,
    drained: Decimal,
    km: Decimal,
    earlier: Sequence[Out] = (),
    as_found: str = "",
    looks: Sequence[OilLook] = (),
    of_leg: bool = False,
) -> str:
    """What an amount at 20 °C means against what went in since the last service: as expected, or less or
    more and what it comes from (``of_leg``: out of a fork leg); and how much goes missing on the way,
    with what it was before."""
    if not put_in:
        return said.NO_RECORD
    should = expected_out(put_in, earlier)
    off = (drained - should.value) / put_in
    put, rates = show(put_in, "ml"), _rates(put_in, drained, km, earlier)
    # what is usual lies within two spreads of what was learned, or the 7 % before that
    usual = 2 * should.spread / put_in if earlier else Decimal(str(UNLEARNED))
    gives_back = show(should.value, "ml")
    if abs(off) <= usual:
        return said.as_expected(put, gives_back if should.learned_from else "", rates)
    why = _why(off < 0, as_found, looks)
    if of_leg:
        why = said.LESS_OUT_OF_LEG if off < 0 else said.MORE_OUT_OF_LEG
    return said.otherwise(float(off), put, gives_back if earlier else "", why, rates)

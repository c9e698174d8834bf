"""What looks wrong about a fork leg on a sheet: its sizes beside each other, one leg beside the other.
The bands are common practice, no source."""

from collections.abc import Iterator

from ..codes.suspension import LegKind
from ..guard import whole_table
from ..quantity import show
from ..said import doubts as say
from .kinds import band, inside
from .sheet import ReservoirSpec

_ANY = band("80", "1400")  # ml, a leg whose kind nobody wrote
LEG_HOLDS = whole_table(
    LegKind,
    {
        LegKind.DAMPER_ROD: _ANY,
        LegKind.OPEN_CARTRIDGE: _ANY,
        LegKind.SEALED_CARTRIDGE: band("50", "900"),  # beside its cartridge
        LegKind.AIR: band("2", "400"),  # what oils its seals
    },
)
_BORE, _TRAVEL = band("18", "60"), band("50", "400")  # mm


def sizes(spec: ReservoirSpec) -> Iterator[tuple[str, str, str]]:
    """Rule, place and sentence of each size that does not go with another one."""
    leg = spec.leg
    for name, value, within in (("bore", leg.bore, _BORE), ("travel", leg.travel, _TRAVEL)):
        if value is not None and not inside(value, within):
            yield name, f"/leg.{name}", say.leg_size(name, show(value, "mm"))
    if leg.bore and leg.rod and leg.rod >= leg.bore:
        yield "rod", "/leg.rod", say.ROD_FILLS
    if leg.bore and leg.seal and leg.seal <= leg.bore:
        yield "seal diameter", "/leg.seal", say.SEAL_INSIDE
    if leg.spring_new and leg.spring_limit and leg.spring_limit >= leg.spring_new:
        yield "spring limit", "/spring.limit", say.SPRING_LIMIT
    if leg.travel and spec.air_gap and spec.air_gap > leg.travel:
        yield "gap over travel", "/level.air gap", say.GAP_OVER_TRAVEL


def differ(first: ReservoirSpec, second: ReservoirSpec) -> bool:
    """Whether two legs of one fork differ without each having a function of its own."""
    split = first.leg.split and second.leg.split
    if split and first.leg.function != second.leg.function:
        return False
    return (first.capacities, first.air_gap) != (second.capacities, second.air_gap)

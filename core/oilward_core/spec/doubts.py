"""What looks wrong on a spec sheet: most mistakes are numbers.

A doubt is about what is written, never about what is not (that is a gap). It never changes a value;
it says what to look at again and why. The bands are common practice, no source.
"""

import itertools
import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal

from ..codes.roles import Role
from ..errors import CoreError
from ..guard import guarded
from ..quantity import show
from ..said import doubts as say
from ..torque import plausibility, read_thread
from .kinds import KINDS, Band, FillRule, Recipe, ReservoirKind, band, inside
from .leg import NOTHING_SAID, LegSpec
from .leg_doubts import LEG_HOLDS, differ, sizes
from .sheet import (
    Fastener,
    LevelCheck,
    ReservoirSpec,
    Variant,
)

# a rule id, where it stands (``part/field``), and a sentence
Found = Iterator[tuple[str, str, str]]


@dataclass(frozen=True, kw_only=True)
class Doubt:
    """Something to look at again: a rule id, the reservoir and ``part/field`` it stands on, and a
    sentence."""

    rule: str
    reservoir: str
    text: str
    place: str = ""


_THOUSAND = Decimal(1000)
_QUART = Decimal("0.946352946")
_KM, _FIRST_KM = band("400", "50000"), band("200", "3000")
_AIR_GAP = band("50", "280")
_KV40, _KV100 = band("5", "800"), band("2", "60")
_MOST_MONTHS, _MOST_HOURS, _MOST_NTH, _MOST_LIFE = 60, 500, 4, 10
_MOST_RUN, _MOST_SETTLE = Decimal(15), Decimal(30)
_WIDEST = 4  # a torque range from one to more than four times that is two numbers of two things


def capacity_band(
    kind: ReservoirKind, displacement_cc: int, leg: LegSpec = NOTHING_SAID
) -> Band | None:
    """Where a capacity in ml is expected, by kind, of engines by displacement, of fork legs by how they
    are built; None: anything [trade: common practice, no source]."""
    if leg.kind is not None:
        return LEG_HOLDS[leg.kind]
    expected = KINDS[kind].capacity
    return expected(displacement_cc) if expected else None


def _capacities(spec: ReservoirSpec, cc: int) -> Found:
    band = capacity_band(spec.kind, cc, spec.leg)
    for variant, ml in spec.capacities.items():
        if band is None or inside(ml, band):
            continue
        usual = f"{show(band[0], 'l', 1).removesuffix(' l')}–{show(band[1], 'l', 1)}"
        asked = ""
        if inside(ml * _THOUSAND, band):
            asked = say.litres_meant(show(ml * _THOUSAND, "l"))
        elif inside(ml / _THOUSAND, band):
            asked = say.millilitres_meant(show(ml / _THOUSAND, "ml"))
        text = say.capacity(show(ml, "ml" if ml < 100 else "l"), variant, usual, asked)
        yield "capacity band", f"/capacity.{variant}", text


def _order(spec: ReservoirSpec, cc: int) -> Found:
    known = [variant for variant in Variant if variant in spec.capacities]
    for less, more in itertools.pairwise(known):
        small, large = spec.capacities[less], spec.capacities[more]
        if small < large:
            continue
        quarts = small * _QUART < large < small
        text = say.less_than(less, more, say.QUARTS_MEANT if quarts else say.SWAPPED)
        yield "capacity order", f"/capacity.{more}", text
    drained = spec.capacities.get(Variant.DRAIN_ONLY)
    if drained is not None and spec.initial is not None and spec.initial > drained:
        yield "first amount", "/initial", say.FIRST_AMOUNT
    filtered = spec.capacities.get(Variant.WITH_FILTER)
    if drained and filtered and drained < filtered and spec.prefill > 2 * (filtered - drained):
        yield "pre-fill", "/prefill", say.prefill(show(filtered - drained, "ml"))


def _gauge(spec: ReservoirSpec, cc: int) -> Found:
    level = spec.level
    if spec.fill_rule == FillRule.EXACT and level is not None:
        yield "exact with gauge", "/fill rule", say.EXACT_WITH_GAUGE
    if level is not None:
        yield from _level(spec, level)


def _level(spec: ReservoirSpec, level: LevelCheck) -> Found:
    least = None if level.assumed or level.edge else min(spec.capacities.values(), default=None)
    if least and not Decimal("0.02") <= level.between_marks / least <= Decimal("0.4"):
        yield "marks", "/level.between", say.marks(level.between_marks / least)
    if level.run_minutes > _MOST_RUN or level.settle_minutes > _MOST_SETTLE:
        yield "minutes", "/level.settle", say.LONG_MINUTES
    if level.second and level.second.attitude == level.attitude:
        yield "second marks", "/level.second attitude", say.SECOND_MARKS


def _torques(spec: ReservoirSpec, cc: int) -> Found:
    for fastener in spec.fasteners:
        torque = fastener.torque
        if torque is None:
            continue
        place = f"{fastener.key or fastener.role}/torque"
        doubt = plausibility(
            torque, fastener.role, fastener.thread, fastener.goes_into, fastener.made_of
        )
        if not doubt.ok:
            yield "torque", place, say.torque(doubt.reasons[0].text, doubt.question)
        if torque.low and torque.high and torque.form == "range" and _wide(torque.low, torque.high):
            yield "torque range", place, say.wide_range(torque.text)


def _wide(low: Decimal, high: Decimal) -> bool:
    return high > _WIDEST * low


def _plugs(spec: ReservoirSpec, cc: int) -> Found:
    drain, fill = spec.fastener(Role.DRAIN_PLUG), spec.fastener(Role.FILL_PLUG)
    if drain and fill and _by_hand(drain) and fill.torque and fill.torque.by_wrench:
        yield "plugs swapped", f"{drain.key or drain.role}/torque", say.DRAIN_BY_HAND
    if drain and fill and drain.spot and fill.spot and drain.spot.y < fill.spot.y:
        yield "plugs swapped", f"{drain.key or drain.role}/spot", say.DRAIN_ABOVE
    for fastener in spec.fasteners:
        if fastener.thread and not _readable(fastener.thread):
            place = f"{fastener.key or fastener.role}/thread"
            yield "thread", place, say.no_thread(fastener.thread)


def _readable(thread: str) -> bool:
    try:
        read_thread(thread)
    except CoreError:
        return False
    return True


def _by_hand(fastener: Fastener) -> bool:
    return fastener.torque is not None and fastener.torque.form == "hand"


def _intervals(spec: ReservoirSpec, cc: int) -> Found:
    limits = spec.limits
    if limits.repeat_km is not None and not inside(limits.repeat_km, _KM):
        yield "interval", "/repeat.km", say.every_km(show(limits.repeat_km, "km"))
    if limits.repeat_months is not None and limits.repeat_months > _MOST_MONTHS:
        yield "interval", "/repeat.months", say.every_months(limits.repeat_months)
    if limits.repeat_hours is not None and limits.repeat_hours > _MOST_HOURS:
        yield "interval", "/repeat.hours", say.every_hours(limits.repeat_hours)
    if limits.first_km is None:
        return
    if limits.repeat_km is not None and limits.first_km > limits.repeat_km:
        yield "first after repeat", "/first.km", say.FIRST_LATER
    elif not inside(limits.first_km, _FIRST_KM):
        yield "first service", "/first.km", say.first_at(show(limits.first_km, "km"))


def _looks(spec: ReservoirSpec, cc: int) -> Found:
    limits, looks = spec.limits, spec.looks
    for name, change, look in (
        ("km", limits.repeat_km, looks.repeat_km),
        ("months", limits.repeat_months, looks.repeat_months),
    ):
        if change is not None and look is not None and look > change:
            yield "look after change", f"/look.{name}", say.LOOKED_AT_LATER


def _counts(spec: ReservoirSpec, cc: int) -> Found:
    if spec.filter_every and spec.filter_every > _MOST_NTH:
        yield "filter every", "/filter every", say.filter_every(spec.filter_every)
    if spec.seal_life and spec.seal_life > _MOST_LIFE:
        yield "seal life", "/seal life", say.seal_life(spec.seal_life)


def _fork(spec: ReservoirSpec, cc: int) -> Found:
    if spec.facts.recipe != Recipe.FORK:
        return
    yield from sizes(spec)
    if spec.air_gap is not None and not inside(spec.air_gap, _AIR_GAP):
        asked = say.INCHES_MEANT if spec.air_gap < _AIR_GAP[0] else say.LOOK_AGAIN
        yield "air gap", "/level.air gap", say.air_gap(show(spec.air_gap, "mm"), asked)


_GL4 = re.compile(r"\bGL\s?-?\s?4(?!\s?/\s?(?:GL)?-?5)", re.IGNORECASE)


def _fluid(spec: ReservoirSpec, cc: int) -> Found:
    need = spec.requirement
    if need.kv40 and not (inside(need.kv40[0], _KV40) and inside(need.kv40[1], _KV40)):
        yield "viscosity", "/fluid.kv40", say.NO_SUCH_KV40
    if need.kv100 and not (inside(need.kv100[0], _KV100) and inside(need.kv100[1], _KV100)):
        yield "viscosity", "/fluid.kv100", say.NO_SUCH_KV100
    if need.kv40 and need.kv100 and need.kv40[0] <= need.kv100[1]:
        yield "viscosity swapped", "/fluid.kv40", say.KV_SWAPPED
    if spec.facts.hypoid and _GL4.search(need.service):
        yield "hypoid", "/fluid.service", say.HYPOID


_RULES: tuple[Callable[[ReservoirSpec, int], Found], ...] = (
    _capacities,
    _order,
    _gauge,
    _torques,
    _plugs,
    _intervals,
    _counts,
    _fork,
    _fluid,
)


def wet_clutch(sheet: Sequence[ReservoirSpec]) -> list[ReservoirSpec]:
    """The reservoirs whose oil wets the clutch: the primary, or without one the engine."""
    primaries = [spec for spec in sheet if spec.facts.clutch]
    return primaries or [spec for spec in sheet if spec.facts.runs_engine and spec.facts.drained]


def _slippery(sheet: Sequence[ReservoirSpec]) -> Iterator[Doubt]:
    """MB lets a wet clutch slip (JASO T903, from memory)."""
    for spec in wet_clutch(sheet):
        if spec.requirement.friction == "MB":
            yield Doubt(
                rule="friction class",
                reservoir=spec.key,
                text=say.SLIPPERY,
                place="/fluid.friction",
            )


def _same_place(sheet: Sequence[ReservoirSpec]) -> Iterator[Doubt]:
    seen: dict[str, str] = {}
    for spec in sheet:
        for fastener in spec.fasteners:
            place = fastener.place.strip().lower()
            mine = f"{spec.label} {fastener.key or fastener.role}"
            other = seen.setdefault(place, mine) if place else ""
            if other not in ("", mine):
                text = say.same_place(mine, other)
                part = fastener.key or fastener.role
                yield Doubt(rule="same place", reservoir=spec.key, text=text, place=f"{part}/place")


def _unequal_legs(sheet: Sequence[ReservoirSpec]) -> Iterator[Doubt]:
    legs = [spec for spec in sheet if spec.facts.recipe == Recipe.FORK]
    for first, second in itertools.pairwise(legs):
        if differ(first, second):
            text = say.unequal_legs(second.label, first.label)
            yield Doubt(
                rule="unequal legs", reservoir=second.key, text=text, place="/level.air gap"
            )


@guarded
def doubts(sheet: Sequence[ReservoirSpec], displacement_cc: int) -> tuple[Doubt, ...]:
    """Everything on a sheet worth a second look, reservoir by reservoir. Empty: nothing found."""
    own = [
        Doubt(rule=rule, reservoir=spec.key, text=text, place=place)
        for spec in sheet
        for check in ((_looks,) if spec.facts.watched else (*_RULES, _looks))
        for rule, place, text in check(spec, displacement_cc)
    ]
    return (*own, *_slippery(sheet), *_same_place(sheet), *_unequal_legs(sheet))

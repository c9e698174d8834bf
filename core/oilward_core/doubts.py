"""What looks wrong on a spec sheet: most mistakes are numbers.

A doubt never changes a value; it says what to look at again and why. The bands are common practice,
no source.
"""

import itertools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal

from .quantity import show
from .spec import DRAINED, FillRule, ReservoirKind, ReservoirSpec, Variant
from .torque import plausibility

Band = tuple[Decimal, Decimal]


@dataclass(frozen=True)
class Doubt:
    """Something to look at again: a rule id, the reservoir it stands on, and a sentence."""

    rule: str
    reservoir: str
    text: str


def _band(low: str, high: str) -> Band:
    return Decimal(low), Decimal(high)


# largest displacement in cm³ a band holds for, ml
_ENGINE_BANDS = (
    (150, _band("500", "1600")),
    (400, _band("800", "2800")),
    (1000, _band("1600", "5000")),
    (10_000, _band("2200", "6500")),
)
_KIND_BANDS = {
    ReservoirKind.PRIMARY: _band("250", "1800"),
    ReservoirKind.GEARBOX: _band("350", "1800"),
    ReservoirKind.FINAL_DRIVE: _band("80", "500"),
    ReservoirKind.FORK: _band("80", "1400"),
}
_ENGINES = (ReservoirKind.ENGINE, ReservoirKind.ENGINE_DRY)
_THOUSAND = Decimal(1000)
_KM = _band("400", "50000")
_MOST_MONTHS = 60
_MOST_RUN, _MOST_SETTLE = Decimal(15), Decimal(30)


def capacity_band(kind: ReservoirKind, displacement_cc: int) -> Band | None:
    """Where a capacity in ml is expected, by kind and, for engines, by displacement [trade]."""
    if kind in _ENGINES:
        return next(band for most, band in _ENGINE_BANDS if displacement_cc <= most)
    return _KIND_BANDS.get(kind)


def _inside(value: Decimal, band: Band) -> bool:
    return band[0] <= value <= band[1]


def _missing(spec: ReservoirSpec, cc: int) -> Iterator[tuple[str, str]]:
    if spec.kind not in DRAINED:
        return
    if not spec.capacities:
        yield "no capacity", "No capacity: look it up before anything is drained."
    for role in ("drain plug", "fill plug"):
        if spec.fastener(role) is None:
            yield f"no {role}", f"No {role}: which one is it, and where?"


def _capacities(spec: ReservoirSpec, cc: int) -> Iterator[tuple[str, str]]:
    band = capacity_band(spec.kind, cc)
    for variant, ml in spec.capacities.items():
        if band is None or _inside(ml, band):
            continue
        usual = f"{show(band[0], 'l', 1).removesuffix(' l')}–{show(band[1], 'l', 1)}"
        asked = ""
        if _inside(ml * _THOUSAND, band):
            asked = f" Litres, not millilitres? {show(ml * _THOUSAND, 'l')}."
        elif _inside(ml / _THOUSAND, band):
            asked = f" Millilitres, not litres? {show(ml / _THOUSAND, 'ml')}."
        said = show(ml, "ml" if ml < 100 else "l")
        yield "capacity band", f"{said} {variant} is unusual here; {usual} would be usual.{asked}"


def _order(spec: ReservoirSpec, cc: int) -> Iterator[tuple[str, str]]:
    known = [variant for variant in Variant if variant in spec.capacities]
    for less, more in itertools.pairwise(known):
        if spec.capacities[less] >= spec.capacities[more]:
            yield "capacity order", f"{less} should take less than {more}. Swapped?"
    drained = spec.capacities.get(Variant.DRAIN_ONLY)
    if drained is not None and spec.initial is not None and spec.initial > drained:
        yield "first amount", "The first amount is more than the capacity."


def _gauge(spec: ReservoirSpec, cc: int) -> Iterator[tuple[str, str]]:
    level = spec.level
    if spec.fill_rule == FillRule.LEVEL and level is None and spec.kind in DRAINED:
        yield "gauge without marks", "Filled by level, but no gauge with its ml between the marks."
    if spec.fill_rule == FillRule.EXACT and level is not None:
        yield "exact with gauge", "An exact quantity has no level to read. Which is it?"
    if level is None:
        return
    least = min(spec.capacities.values(), default=None)
    if least and not Decimal("0.02") <= level.between_marks / least <= Decimal("0.4"):
        share = level.between_marks / least
        yield "marks", f"The marks are {share:.0%} of the capacity apart. Unit slipped?"
    if level.run_minutes > _MOST_RUN or level.settle_minutes > _MOST_SETTLE:
        yield "minutes", "That is long to run or settle. Seconds, not minutes?"


def _torques(spec: ReservoirSpec, cc: int) -> Iterator[tuple[str, str]]:
    for fastener in spec.fasteners:
        doubt = plausibility(fastener.torque, fastener.role, fastener.thread)
        if not doubt.ok:
            yield "torque", f"{doubt.reasons[0].text} {doubt.question}"


def _intervals(spec: ReservoirSpec, cc: int) -> Iterator[tuple[str, str]]:
    limits = spec.limits
    if limits.repeat_km is not None and not _inside(limits.repeat_km, _KM):
        yield (
            "interval",
            f"Every {show(limits.repeat_km, 'km')} is unusual. A nought too few or many?",
        )
    if limits.repeat_months is not None and limits.repeat_months > _MOST_MONTHS:
        yield "interval", f"Every {limits.repeat_months} months is unusual."
    if (
        limits.first_km is not None
        and limits.repeat_km is not None
        and limits.first_km > limits.repeat_km
    ):
        yield "first after repeat", "The first service comes later than the repeat. Swapped?"


_RULES: tuple[Callable[[ReservoirSpec, int], Iterator[tuple[str, str]]], ...] = (
    _missing,
    _capacities,
    _order,
    _gauge,
    _torques,
    _intervals,
)


def _shared_sump(sheet: Sequence[ReservoirSpec]) -> Iterator[Doubt]:
    """Without a primary the engine oil wets the clutch, unless the sheet says otherwise."""
    if any(spec.kind == ReservoirKind.PRIMARY for spec in sheet):
        return
    for spec in sheet:
        named = any(word in spec.fluid.upper().split() for word in ("MA", "MA1", "MA2", "MB"))
        if spec.kind == ReservoirKind.ENGINE and not named and "no clutch" not in spec.fluid:
            text = "No friction class. Does this oil wet the clutch? Then MA, MA1 or MA2."
            yield Doubt("friction class", spec.key, text)


def _same_place(sheet: Sequence[ReservoirSpec]) -> Iterator[Doubt]:
    seen: dict[str, str] = {}
    for spec in sheet:
        for fastener in spec.fasteners:
            place = fastener.place.strip().lower()
            other = seen.setdefault(place, f"{spec.label} {fastener.role}") if place else ""
            mine = f"{spec.label} {fastener.role}"
            if other not in ("", mine):
                text = f"{mine} stands at the same place as {other}. One of them is wrong."
                yield Doubt("same place", spec.key, text)


def doubts(sheet: Sequence[ReservoirSpec], displacement_cc: int) -> tuple[Doubt, ...]:
    """Everything on a sheet worth a second look, reservoir by reservoir. Empty: nothing found."""
    own = [
        Doubt(rule, spec.key, text)
        for spec in sheet
        for check in _RULES
        for rule, text in check(spec, displacement_cc)
    ]
    return (*own, *_shared_sump(sheet), *_same_place(sheet))

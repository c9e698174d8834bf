"""Five years of ordinary services for the demo's bikes without a story of their own.

Worked out from each bike's sheet and use; the same every time, however often the demo is loaded.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from random import Random

from oilward_core.spec import ReservoirKind, ReservoirSpec, Variant

from .fleet import Machine, Part, Past

YEAR = 365.0
TOGETHER = 75  # days: what falls due so soon is done in the same visit
LATEST = 20  # days ago: nothing was done after that
_DRY = (ReservoirKind.FORK, ReservoirKind.SHOCK)
_PASTE: dict[ReservoirKind, tuple[str, float, float]] = {
    ReservoirKind.ENGINE: ("steel", 0.1, 0.3),
    ReservoirKind.ENGINE_DRY: ("steel", 0.1, 0.3),
    ReservoirKind.PRIMARY: ("friction", 0.35, 0.6),
    ReservoirKind.GEARBOX: ("steel", 0.15, 0.4),
    ReservoirKind.FINAL_DRIVE: ("steel", 0.3, 0.5),
}


@dataclass
class _Tank:
    """A reservoir on its way: when it was last done, in days since the bike was new, and how often."""

    spec: ReservoirSpec
    day: float = 0
    done: int = 0


def _lasts(tank: _Tank, machine: Machine) -> float | None:
    """Days until this reservoir is due again at that use; None where nothing limits."""
    limits, km_a_day = tank.spec.limits, machine.km_a_day
    km, months, hours = limits.repeat_km, limits.repeat_months, limits.repeat_hours
    if tank.done == 0 and (limits.first_km or limits.first_months):
        km, months, hours = limits.first_km, limits.first_months, None
    found = [float(km) / km_a_day] if km else []
    found += [months * YEAR / 12] if months else []
    if hours and machine.km_an_hour:
        found.append(float(hours) * machine.km_an_hour / km_a_day)
    return min(found) * float(machine.severity) if found else None


def _variant(spec: ReservoirSpec) -> Variant:
    if spec.kind in _DRY:
        return Variant.DRY
    return Variant.WITH_FILTER if Variant.WITH_FILTER in spec.capacities else Variant.DRAIN_ONLY


def _parts(spec: ReservoirSpec, first: bool, dice: Random) -> tuple[Part, ...]:
    usual = _PASTE.get(spec.kind)
    if usual is None:
        return ()
    matter, low, high = usual
    return (("fuzz" if first else "paste", matter, round(dice.uniform(low, high), 2)),)


def _service(machine: Machine, tank: _Tank, day: float, dice: Random) -> Past:
    spec, variant = tank.spec, _variant(tank.spec)
    capacity, first = spec.capacities.get(variant), tank.done == 0
    measured = capacity is not None and spec.kind in _PASTE
    took = round(float(capacity or 0) * dice.uniform(0.985, 1.0) / 5) * 5 if measured else None
    km = round(day * machine.km_a_day)
    return Past(
        tank=spec.key,
        days=round(machine.age_days - day),
        km=km,
        took=took,
        drained=round(took * dice.uniform(0.955, 0.985) / 5) * 5 if took else None,
        parts=_parts(spec, first and spec.limits.first_km is not None, dice),
        hours=round(km / machine.km_an_hour) if machine.km_an_hour else None,
        variant=variant.value,
        first=first and spec.limits.first_km is not None,
    )


def history(machine: Machine, reservoirs: Sequence[ReservoirSpec]) -> Iterator[Past]:
    """What was done on a bike known from new, oldest first: what is due soon is done along."""
    dice, tanks = Random(machine.name), [_Tank(spec) for spec in reservoirs]
    while True:
        dues = []
        for tank in tanks:
            lasts = _lasts(tank, machine)
            if lasts is not None:
                dues.append((tank.day + lasts, tank))
        # some owners come early, some late
        day = min((due for due, _ in dues), default=1e9) * dice.uniform(0.97, 1.02)
        if day > machine.age_days - LATEST:
            return
        for due, tank in dues:
            if due <= day + TOGETHER:
                yield _service(machine, tank, day, dice)
                tank.day, tank.done = day, tank.done + 1

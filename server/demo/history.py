"""Five years of ordinary services for the demo's bikes without a story of their own.

Worked out from each bike's sheet and use; the same every time, however often the demo is loaded.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from random import Random

from oilward_core.codes.options import Did
from oilward_core.spec import ReservoirKind, ReservoirSpec, Variant
from oilward_sim import Grader, Healthy, World

from .fleet import Machine, Past

YEAR = 365.0
TOGETHER = 75  # days: what falls due so soon is done in the same visit
LATEST = 20  # days ago: nothing was done after that
_DRY = (ReservoirKind.FORK, ReservoirKind.SHOCK)
# healthy ones only: what goes wrong on these islands is told as a story
_QUIET = World(fuzz=0.07, slivers=0.004, flakes=0, pieces=0, service_sd=0.15)
_CLUTCH = replace(_QUIET, level=-2.3, fuzz=0.02, slivers=0, friction=True, slipped=0)
_WORLDS: dict[ReservoirKind, World] = {
    ReservoirKind.ENGINE: replace(_QUIET, level=-1.75),
    ReservoirKind.ENGINE_DRY: replace(_QUIET, level=-1.75),
    ReservoirKind.PRIMARY: _CLUTCH,
    ReservoirKind.GEARBOX: _QUIET,
    ReservoirKind.FINAL_DRIVE: replace(_QUIET, level=-1.5, fuzz=0.03, slivers=0),
}
_EYES = (
    Grader(name="mira"),
    Grader(name="mira"),
    Grader(name="mira"),
    Grader(name="oda", offset=0.05, fuzz=1.5, slivers=1.4),
)


@dataclass(kw_only=True)
class _Tank:
    """A reservoir on its way: when it was last done, in days since the bike was new, and how often."""

    spec: ReservoirSpec
    wear: Healthy | None
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


def _service(machine: Machine, tank: _Tank, day: float, dice: Random) -> Past:
    spec, variant = tank.spec, _variant(tank.spec)
    capacity, first = spec.capacities.get(variant), tank.done == 0
    run_in = first and spec.limits.first_km is not None
    measured = capacity is not None and tank.wear is not None
    took = round(float(capacity or 0) * dice.uniform(0.985, 1.0) / 5) * 5 if measured else None
    km, eye = round(day * machine.km_a_day), dice.choice(_EYES)
    ran = (day - tank.day) * machine.km_a_day
    shown = tank.wear.shows(ran, eye, run_in=run_in) if tank.wear else ()
    return Past(
        tank=spec.key,
        days=round(machine.age_days - day),
        km=km,
        took=took,
        drained=round(took * dice.uniform(0.955, 0.985) / 5) * 5 if took else None,
        parts=tuple((part.form.value, part.matter.value, float(part.share)) for part in shown),
        hours=round(km / machine.km_an_hour) if machine.km_an_hour else None,
        variant=variant.value,
        first=run_in,
        by=eye.name,
    )


def looks_with(past: Sequence[Past], reservoirs: Sequence[ReservoirSpec]) -> Iterator[Past]:
    """What was only looked at along with the last of some services."""
    last = min(past, key=lambda one: one.days)
    done = {one.tank for one in past if one.days == last.days}
    for spec in reservoirs:
        if spec.looks.repeat_months and spec.key not in done:
            yield replace(last, tank=spec.key, took=None, drained=None, parts=(), did=Did.LOOKED)


def _wear(spec: ReservoirSpec, machine: Machine) -> Healthy | None:
    """A bike's own plug, the same every time, whatever else is rolled for it."""
    world = _WORLDS.get(spec.kind)
    if world is None:
        return None
    return Healthy(Random(f"{machine.name}/{spec.key}/f"), world, world.level)


def history(machine: Machine, reservoirs: Sequence[ReservoirSpec]) -> Iterator[Past]:
    """What was done on a bike known from new, oldest first: what is due soon is done along."""
    dice = Random(machine.name)
    tanks = [_Tank(spec=spec, wear=_wear(spec, machine)) for spec in reservoirs]
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
        done = [tank for due, tank in dues if due <= day + TOGETHER]
        for tank in done:
            yield _service(machine, tank, day, dice)
            tank.day, tank.done = day, tank.done + 1
        for tank in tanks:
            if tank not in done and tank.spec.looks.repeat_months:
                yield replace(_service(machine, tank, day, Random(0)), did=Did.LOOKED, parts=())

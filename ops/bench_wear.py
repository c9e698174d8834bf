"""./ward bench wear: does the product notice a fault that grows? Simulated workshops whose truth is
known: thresholds are set on one half of them, figures come from the other."""

import random
import time
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from functools import lru_cache
from math import log10
from statistics import median

from oilward_core.debris import (
    ALARM,
    Cohort,
    Found,
    Growth,
    Level,
    Matter,
    Observation,
    Told,
    growth,
    learned,
    quarter_start,
    told_by,
    verdict,
    wear_index,
)
from oilward_core.spec import ReservoirKind
from oilward_sim import Fault, History, World, cohort

RATES = (0.3, 0.5, 1.0)  # false alarms per 100 healthy findings
BEFORE = 2  # services before the end
EWMA = 0.3
SHOWN = "the whole verdict, investigate or hold"


@dataclass(frozen=True, kw_only=True)
class Judged:
    """A finding with its hidden truth and what each way of looking makes of it."""

    bike: str
    service: int
    km: float
    fault: Fault | None
    scores: Mapping[str, float]
    said: float
    investigates: bool

    @property
    def in_time(self) -> bool:
        """Whether an alarm here would come early enough."""
        return self.fault is not None and self.service <= self.fault.end - BEFORE


def _wear(found: Found) -> float:
    return float(wear_index(found.parts, found.km_since_wiped).get(Matter.STEEL, 0))


def _trends(history: History) -> Iterator[dict[str, float]]:
    """What one would see of the wear index: itself, its jump, its moving average against the past."""
    before: list[float] = []
    smooth = None
    for one in history.findings:
        if one.found.run_in:
            continue
        now = log10(_wear(one.found) + 0.02)
        smooth = now if smooth is None else EWMA * now + (1 - EWMA) * smooth
        past = sum(before) / len(before) if before else now
        jump = now - before[-1] if before else 0.0
        yield {"fixed threshold": now, "last-two jump": jump, "moving average": smooth - past}
        before.append(now)


def _verdict_investigates(found: Found, grown: Growth, before: Sequence[Found]) -> bool:
    fuzz_before = bool(before) and any(part.form == "fuzz" for part in before[-1].parts)
    seen = Observation(
        reservoir=ReservoirKind.GEARBOX,
        parts=found.parts,
        oil=frozenset(),
        km_since_wiped=found.km_since_wiped,
        first_service=found.run_in,
        fine_last_time=fuzz_before,
    )
    return verdict(seen, grown).level >= Level.INVESTIGATE


def judged(workshop: Sequence[History]) -> Iterator[Judged]:
    """Every finding of a workshop, judged with what was known on its day."""
    everything = {history.key: [one.found for one in history.findings] for history in workshop}

    @lru_cache
    def told(quarter: date) -> dict[str, tuple[Told, ...]]:
        return told_by(everything, quarter)

    @lru_cache
    def known(quarter: date, without: str) -> Cohort:
        return learned(told(quarter), {}, Cohort().onset, without)

    for history in workshop:
        trends = list(_trends(history))
        used = [one for one in history.findings if not one.found.run_in]
        for number, (one, trend) in enumerate(zip(used, trends, strict=True)):
            day = one.found.day
            cohort = known(quarter_start(day), history.key)
            last = growth(everything[history.key], cohort, day)[-1]
            before = [earlier.found for earlier in used[:number]]
            yield Judged(
                bike=history.key,
                service=one.service,
                km=float(one.km),
                fault=history.fault_at(one.service),
                scores={"growth filter": last.said, **trend},
                said=last.said,
                investigates=_verdict_investigates(one.found, last, before),
            )


def workshops(seeds: Iterable[int], world: World | None = None) -> list[Judged]:
    found: list[Judged] = []
    for seed in seeds:
        bikes = random.Random(seed).randint(5, 30)
        found += judged(cohort(seed, bikes, world))
    return found


def _scattered() -> World:
    """A world in which everything scatters twice as much: bikes, services, eyes, intervals."""
    usual = World()
    return replace(usual, **{name: 2 * getattr(usual, name) for name in _SCATTER})


_SCATTER = ("cohort_sd", "bike_sd", "service_sd", "harshness", "irregular", "fluid_sd")
# seeds of workshops that nothing was tuned on, each the first of so many
_KEPT_APART, _DOUBLED = (100_001, 300_007), (200_003, 400_009)


def _life(fault: Fault) -> int:
    return fault.end - fault.onset + 1


Alarms = Callable[[Judged], bool]


def threshold(findings: Sequence[Judged], name: str, rate: float) -> float:
    """The score that so many of 100 healthy findings exceed."""
    healthy = sorted((one.scores[name] for one in findings if one.fault is None), reverse=True)
    allowed = int(len(healthy) * rate / 100)
    return healthy[min(allowed, len(healthy) - 1)]


def caught(findings: Sequence[Judged], alarms: Alarms) -> tuple[int, int, list[tuple[int, float]]]:
    """Faults alarmed in time, all faults, and the leads of the first alarms: services, km."""
    faults: dict[tuple[str, int], tuple[Fault, float]] = {}
    first: dict[tuple[str, int], Judged] = {}
    for one in findings:
        if one.fault is None:
            continue
        key = (one.bike, one.fault.onset)
        faults[key] = (one.fault, max(one.km, faults.get(key, (one.fault, 0.0))[1]))
        if one.in_time and alarms(one):
            first.setdefault(key, one)
    leads = [
        (faults[key][0].end - one.service, faults[key][1] - one.km) for key, one in first.items()
    ]
    return len(first), len(faults), leads


def false_alarms(findings: Sequence[Judged], alarms: Alarms) -> float:
    healthy = [one for one in findings if one.fault is None]
    return 100 * sum(map(alarms, healthy)) / len(healthy)


def brier(findings: Sequence[Judged]) -> tuple[float, float]:
    """The Brier score of what is said, and its skill over always saying how often it is so."""
    base = sum(one.fault is not None for one in findings) / len(findings)
    score = sum((one.said - (one.fault is not None)) ** 2 for one in findings) / len(findings)
    return score, 1 - score / (base * (1 - base))


def _above(name: str, at: float) -> Alarms:
    return lambda one: one.scores[name] > at


def _line(findings: Sequence[Judged], name: str, alarms: Alarms) -> str:
    found, faults, leads = caught(findings, alarms)
    said = (
        f"  {name}: {false_alarms(findings, alarms):.2f} false per 100, {found} of {faults} faults"
    )
    said += f" in time ({found / faults:.0%})"
    if leads:
        said += (
            f", {median(s for s, _ in leads):g} services and {median(k for _, k in leads):,.0f} km"
        )
        said += " ahead (median)"
    return said


def wear_figures(each: int = 150) -> None:
    """Tunes on even workshops, reports on odd ones."""
    begun = time.perf_counter()
    tune, report = workshops(range(0, 2 * each, 2)), workshops(range(1, 2 * each, 2))
    spent = (time.perf_counter() - begun) * 1000
    print(f"{each} workshops each; findings {len(tune)} to tune on, {len(report)} reported")
    for rate in RATES:
        print(f"at {rate} false alarms per 100 healthy findings, set on the other half:")
        for name in tune[0].scores:
            at = threshold(tune, name, rate)
            print(_line(report, name, _above(name, at)))
    print("as the product alarms:")
    print(_line(report, "said to be 1/4 or more", lambda one: one.said >= ALARM))
    print(_line(report, SHOWN, lambda one: one.investigates))
    for seeds, world, where in (
        (_KEPT_APART, None, "kept apart"),
        (_DOUBLED, _scattered(), "doubled scatter"),
    ):
        for first in seeds:
            apart = workshops(range(first, first + each), world)
            print(_line(apart, f"{SHOWN}, {where}", lambda one: one.investigates))
    for kind in ("bearing", "gear"):
        of_kind = [one for one in report if one.fault is None or one.fault.kind == kind]
        print(_line(of_kind, f"  {kind}s, said to be 1/4 or more", lambda one: one.said >= ALARM))
    for least, most in ((3, 4), (5, 6), (7, 99)):
        lived = [one for one in report if one.fault and least <= _life(one.fault) <= most]
        found, faults, _ = caught(lived, lambda one: one.said >= ALARM)
        said = f"{least} to {most}" if most < 99 else f"{least} or more"
        print(f"    faults that live {said} services: {found} of {faults} in time")
    score, skill = brier(report)
    print(f"Brier score {score:.4f}, skill {skill:.2f}")
    for low, high in ((0, 0.02), (0.02, 0.1), (0.1, 0.33), (0.33, 0.67), (0.67, 1.01)):
        inside = [one for one in report if low <= one.said < high]
        if inside:
            mean = sum(one.said for one in inside) / len(inside)
            so = sum(one.fault is not None for one in inside) / len(inside)
            said = f"said {low:.0%} to {min(high, 1):.0%}: {len(inside)}, mean {mean:.1%}"
            print(f"  {said}, so in {so:.1%}")
    every = len(tune) + len(report)
    print(f"{spent / every:.2f} ms a finding, its whole history filtered anew each time")

"""Simulated wear histories, for proof and for practice: bikes whose hidden truth is known.

A workshop's reservoirs of one kind: healthy ones with scatter between bikes and services, running in,
isolated scares, fluid changes, irregular intervals, services without a finding, graders of different
harshness; bearing and gear faults that begin at random and live a random number of services; repairs.
Everything is drawn from distributions of our own [def], told by the trade: fuzz first, then slivers and
flakes, pieces at the end. The growth filter knows none of them.
"""

import random
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from decimal import Decimal
from math import log

from oilward_core.debris import Form, Found, Matter, Part
from oilward_core.guard import Sound

FIRST_DAY = date(2016, 3, 1)
STEP = Decimal("0.05")  # nobody grades finer


@dataclass(frozen=True)
class Fault:
    """A hidden fault: from which service to which it grew; at ``end`` it let go or was found."""

    kind: str
    onset: int
    end: int


@dataclass(frozen=True)
class Seen(Sound):
    """A finding with the number of its service and how far the bike ran until then."""

    service: int
    km: Decimal
    found: Found


@dataclass(frozen=True)
class History(Sound):
    """One reservoir's findings and its hidden truth."""

    key: str
    findings: tuple[Seen, ...]
    faults: tuple[Fault, ...]

    def fault_at(self, service: int) -> Fault | None:
        """The fault that grew at a service, if one did."""
        return next((f for f in self.faults if f.onset <= service <= f.end), None)


@dataclass(frozen=True)
class World:
    """How a simulated workshop is: chances a service or a bike, spreads of log10 amounts."""

    faulty: float = 0.2
    shortest: int = 3
    longest: int = 10
    services: tuple[int, int] = (6, 16)
    level: float = -1.68
    cohort_sd: float = 0.12
    bike_sd: float = 0.14
    service_sd: float = 0.19
    outliers: float = 0.12
    harshness: float = 0.3
    missing: float = 0.08
    irregular: float = 0.45
    fuzz: float = 0.14
    slivers: float = 0.028
    flakes: float = 0.007
    pieces: float = 0.0015


@dataclass(frozen=True)
class _Grader:
    name: str
    offset: float
    fuzz: float
    slivers: float


def _rounded(share: float) -> Decimal:
    steps = round(max(min(share, 1.0), 0.0) / float(STEP))
    return steps * STEP


def _steel(form: Form, share: float, largest: float | None = None) -> Part:
    size = None if largest is None else Decimal(str(round(largest, 1)))
    return Part(form, Matter.STEEL, max(_rounded(share), STEP), size)


class _Bike:
    """One reservoir as it wears, service by service."""

    def __init__(self, rng: random.Random, world: World, level: float, nominal_km: float) -> None:
        self.rng, self.world = rng, world
        self.mu = rng.gauss(level, world.bike_sd)
        self.nominal_km = nominal_km * rng.uniform(0.8, 1.25)

    def interval(self) -> float:
        return max(600.0, self.nominal_km * self.rng.lognormvariate(0, self.world.irregular))

    def paste(self, km: float, added: float, grader: _Grader) -> float:
        """Share of the magnet's face."""
        world, rng = self.world, self.rng
        wide = rng.random() < world.outliers
        u = rng.gauss(self.mu + 0.15, 0.4) if wide else rng.gauss(self.mu, world.service_sd)
        rate: float = 10**u + added
        return float(rate * 10**grader.offset * km / 1000)

    def healthy_forms(self, grader: _Grader) -> Iterator[Part]:
        rng, world = self.rng, self.world
        if rng.random() < world.fuzz * grader.fuzz:
            yield _steel(Form.FUZZ, rng.uniform(0.03, 0.2))
        if rng.random() < world.slivers * grader.slivers:
            yield _steel(Form.SLIVERS, rng.uniform(0.03, 0.12), rng.uniform(0.3, 1.5))
        if rng.random() < world.flakes:
            yield _steel(Form.FLAKES, 0.05)
        if rng.random() < world.pieces:
            yield _steel(Form.CHIPS, 0.05, rng.uniform(0.5, 2.5))

    def faulty_forms(self, kind: str, gone: float, grader: _Grader) -> Iterator[Part]:
        """``gone``: the share of its life behind it. A bearing sheds fuzz and flakes, a gear slivers and
        chips."""
        rng, bearing = self.rng, kind == "bearing"
        if rng.random() < min(0.95, (0.45 + 0.4 * gone) * grader.fuzz**0.3):
            yield _steel(Form.FUZZ, rng.uniform(0.05, 0.2 + 0.3 * gone))
        slivers = 0.22 + (0.25 if bearing else 0.45) * gone
        if rng.random() < min(0.95, slivers * grader.slivers**0.3):
            yield _steel(Form.SLIVERS, rng.uniform(0.05, 0.15), rng.uniform(0.3, 2.0))
        if rng.random() < (0.1 + 0.45 * gone if bearing else 0.06 + 0.2 * gone):
            yield _steel(Form.FLAKES, rng.uniform(0.05, 0.1 + 0.15 * gone))
        if rng.random() < (0.4 if bearing else 0.7) * gone**3:
            yield _steel(Form.CHIPS, 0.05, rng.uniform(0.5, 3.5))


def _graders(rng: random.Random, world: World) -> list[_Grader]:
    return [
        _Grader(
            f"grader {n}",
            rng.gauss(0, 0.07),
            rng.lognormvariate(0, world.harshness),
            rng.lognormvariate(0, world.harshness),
        )
        for n in range(1, rng.randint(2, 4) + 1)
    ]


def _lives(rng: random.Random, world: World, services: int) -> Fault | None:
    """A fault somewhere in so many services, if there is one and it comes to its end there."""
    if rng.random() >= world.faulty:
        return None
    life = min(world.longest, max(world.shortest, round(rng.lognormvariate(log(6), 0.3))))
    onset = rng.randint(1, max(1, services - 1))
    end = onset + life - 1
    kind = rng.choice(("bearing", "gear"))
    return Fault(kind, onset, end) if end < services else None


def _history(
    rng: random.Random, world: World, key: str, bike: _Bike, who: Sequence[_Grader]
) -> History:
    services = rng.randint(*world.services)
    fault = _lives(rng, world, services)
    day, km, since = FIRST_DAY + timedelta(days=rng.randint(0, 700)), 0.0, 0.0
    findings: list[Seen] = []
    repaired = False
    for service in range(services):
        ran = 900.0 if service == 0 else bike.interval()
        km, since = km + ran, since + ran
        day += timedelta(days=max(20, round(ran / 8000 * 365 * rng.uniform(0.7, 1.3))))
        grader = rng.choice(who)
        grows = fault is not None and fault.onset <= service <= fault.end
        missed = rng.random() < world.missing and service not in (0, fault.end if fault else -1)
        if not missed:
            parts = _parts(rng, bike, since, fault if grows else None, service, grader)
            found = Found(day, parts, Decimal(round(since)), grader.name, service == 0, repaired)
            findings.append(Seen(service, Decimal(round(km)), found))
            since, repaired = 0.0, False
        repaired = repaired or (fault is not None and service == fault.end)
    return History(key, tuple(findings), (fault,) if fault else ())


def _parts(
    rng: random.Random, bike: _Bike, km: float, fault: Fault | None, service: int, grader: _Grader
) -> tuple[Part, ...]:
    if service == 0:  # running in
        return (_steel(Form.PASTE, 0.3), _steel(Form.SLIVERS, 0.05, 0.8))
    gone = (service - fault.onset + 1) / (fault.end - fault.onset + 1) if fault else 0.0
    added = 0.011 * 5**gone * rng.lognormvariate(0, 0.35) if fault else 0.0
    forms = bike.faulty_forms(fault.kind, gone, grader) if fault else bike.healthy_forms(grader)
    parts = list(forms)
    share = _rounded(bike.paste(km, added, grader))
    if share:
        parts.insert(0, Part(Form.PASTE, Matter.STEEL, share))
    return tuple(parts)


def cohort(seed: int, bikes: int, world: World | None = None) -> tuple[History, ...]:
    """So many reservoirs of one kind in one workshop, 5 to 30 as a rule. The same seed gives the same."""
    rng, world = random.Random(seed), world or World()
    level, nominal = rng.gauss(world.level, world.cohort_sd), rng.choice((6000.0, 8000.0, 12000.0))
    who = _graders(rng, world)
    found = []
    for number in range(max(0, min(bikes, 500))):
        bike = _Bike(rng, world, level, nominal)
        found.append(_history(rng, world, f"{seed}/{number}", bike, who))
    return tuple(found)


def shown_to(history: History, day: date) -> tuple[Found, ...]:
    """What was known of a reservoir on a day."""
    return tuple(replace(one.found) for one in history.findings if one.found.day <= day)

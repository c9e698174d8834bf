"""Simulated wear histories, for proof and for practice: reservoirs whose hidden truth is known.

A workshop's reservoirs of one kind: healthy ones with scatter between bikes and services, running in,
isolated scares, fluid changes, irregular intervals, services without a finding, graders of different
harshness; friction dust and slipped clutches; bearing and gear faults that begin at random and live a
random number of services; repairs. Everything is drawn from distributions of our own [def], told by the
trade: how often a healthy and a failing gearbox shows what follows the table the growth filter starts
from, and so does what a fault adds; the shapes of the scatter, the lives and the scares are ours. The
filter knows none of them.
"""

import random
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from decimal import Decimal

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


@dataclass(frozen=True, kw_only=True)
class World:
    """How a simulated workshop is: chances a bike or a service, spreads of log10 amounts. ``friction``: a
    clutch runs in this oil, and ``slipped`` is the chance a service that it was slipped."""

    faulty: float = 0.1  # about as many as begin at 0.008 a service
    shortest: int = 3
    longest: int = 12
    services: tuple[int, int] = (6, 16)
    level: float = -1.68
    cohort_sd: float = 0.12
    bike_sd: float = 0.14
    service_sd: float = 0.19
    outliers: float = 0.12
    harshness: float = 0.3
    missing: float = 0.08
    irregular: float = 0.45
    fluid_change: float = 0.08
    fluid_sd: float = 0.06
    fuzz: float = 0.14
    slivers: float = 0.028
    flakes: float = 0.007
    pieces: float = 0.0015
    friction: bool = False
    slipped: float = 0.02


@dataclass(frozen=True, kw_only=True)
class Grader:
    """An eye: how much more it writes (log10), and how much oftener it sees fuzz and slivers."""

    name: str
    offset: float = 0.0
    fuzz: float = 1.0
    slivers: float = 1.0


def _rounded(share: float) -> Decimal:
    steps = round(max(min(share, 1.0), 0.0) / float(STEP))
    return steps * STEP


def _part(
    form: Form, share: float, largest: float | None = None, of: Matter = Matter.STEEL
) -> Part:
    size = None if largest is None else Decimal(str(round(largest, 1)))
    return Part(form=form, matter=of, share=max(_rounded(share), STEP), largest_mm=size)


# chances a service of fuzz, slivers, flakes and pieces: early, middle, late
_SHEDS = ((0.6, 0.22, 0.14, 0.035), (0.72, 0.28, 0.31, 0.17), (0.8, 0.3, 0.55, 0.71))
_PIECES_MM = (0.5, 3.5)


class Healthy:
    """One reservoir as it wears, service by service; a fault sheds on top of it."""

    def __init__(self, rng: random.Random, world: World, level: float) -> None:
        self.rng, self.world = rng, world
        self.mu = rng.gauss(level, world.bike_sd)

    def _fine(self, km: float, added: float, grader: Grader) -> float:
        """Share of the magnet's face under paste and fuzz together."""
        world, rng = self.world, self.rng
        if rng.random() < world.fluid_change:  # another oil washes more, or less
            self.mu += rng.gauss(0, world.fluid_sd)
        wide = rng.random() < world.outliers
        u = rng.gauss(self.mu + 0.15, 0.4) if wide else rng.gauss(self.mu, world.service_sd)
        rate: float = 10**u + added
        return float(rate * 10**grader.offset * km / 1000)

    def _scares(self, grader: Grader) -> Iterator[Part]:
        """Fuzz now and then; a scare seldom, as large as one that means something, and with finer stuff
        oftener than by chance."""
        rng, world = self.rng, self.world
        slivers = rng.random() < world.slivers * grader.slivers
        flakes, pieces = rng.random() < world.flakes, rng.random() < world.pieces
        finer = 0.6 if pieces else 0.35 if flakes else 0.16 if slivers else world.fuzz * grader.fuzz
        if rng.random() < finer:
            yield _part(Form.FUZZ, rng.uniform(0.05, 0.25))
        if slivers:
            yield _part(Form.SLIVERS, rng.uniform(0.05, 0.15), rng.uniform(0.3, 2.0))
        if flakes:
            yield _part(Form.FLAKES, rng.uniform(0.05, 0.15))
        if pieces:
            yield _part(Form.CHIPS, 0.05, rng.uniform(*_PIECES_MM))

    def _shed(self, fault: Fault, left: int, grader: Grader) -> Iterator[Part]:
        """What a fault sheds ``left`` services before it lets go: a bearing fuzz and flakes, a gear
        slivers and chips; hardly ever more of it than in a scare before the end."""
        rng, bearing = self.rng, fault.kind == "bearing"
        stage = 0 if left >= 4 else 1 if left >= 2 else 2
        fuzz, slivers, flakes, pieces = _SHEDS[stage]
        if rng.random() < min(0.97, fuzz * grader.fuzz**0.3):
            yield _part(Form.FUZZ, rng.uniform(0.05, 0.25))
        if rng.random() < min(0.95, slivers * (0.7 if bearing else 1.3) * grader.slivers**0.3):
            yield _part(Form.SLIVERS, rng.uniform(0.05, 0.15), rng.uniform(0.3, 2.0))
        if rng.random() < min(0.95, flakes * (1.4 if bearing else 0.6)):
            yield _part(Form.FLAKES, rng.uniform(0.05, 0.15 + 0.1 * (stage == 2)))
        if rng.random() < min(0.95, pieces * (0.8 if bearing else 1.2)):
            yield _part(Form.CHIPS, 0.05, rng.uniform(*_PIECES_MM))

    def _dust(self) -> Iterator[Part]:
        """What the clutch leaves: dust always, strings where it was slipped."""
        if not self.world.friction:
            return
        slipped = self.rng.random() < self.world.slipped
        if slipped:
            yield _part(Form.FUZZ, self.rng.uniform(0.2, 0.4), of=Matter.FRICTION)
        yield _part(Form.PASTE, self.rng.uniform(0.2, 0.45), of=Matter.FRICTION)

    def shows(
        self,
        km: float,
        grader: Grader,
        *,
        run_in: bool = False,
        fault: Fault | None = None,
        service: int = 0,
    ) -> tuple[Part, ...]:
        """What its plug shows after so many km, to one pair of eyes."""
        if run_in:
            return (_part(Form.PASTE, 0.3), _part(Form.SLIVERS, 0.05, 0.8))
        added = 0.0
        if fault:
            gone = (service - fault.onset + 1) / (fault.end - fault.onset + 1)
            added = 0.011 * 5**gone * self.rng.lognormvariate(0, 0.35)
        parts = list(
            self._shed(fault, fault.end - service, grader) if fault else self._scares(grader)
        )
        # fuzz is part of what the magnet holds, not beside it
        fuzz = sum((float(part.share) for part in parts if part.form == Form.FUZZ), 0.0)
        share = _rounded(self._fine(km, added, grader) - fuzz)
        if share:
            parts.insert(0, _part(Form.PASTE, float(share)))
        return (*parts, *self._dust())


def _graders(rng: random.Random, world: World) -> list[Grader]:
    return [
        Grader(
            name=f"grader {n}",
            offset=rng.gauss(0, 0.07),
            fuzz=rng.lognormvariate(0, world.harshness),
            slivers=rng.lognormvariate(0, world.harshness),
        )
        for n in range(1, rng.randint(2, 4) + 1)
    ]


# chances a service that an early fault gets worse, and a middling one; then two services are left [trade]
_WORSE, _WORST, _LATE = 0.35, 0.45, 2


def _stays(rng: random.Random, leaves: float) -> int:
    """How many services a stage lasts that is left with this chance at each."""
    services = 1
    while rng.random() >= leaves:
        services += 1
    return services


def _lives(rng: random.Random, world: World, services: int) -> Fault | None:
    """A fault somewhere in so many services, if there is one and it comes to its end there."""
    if rng.random() >= world.faulty:
        return None
    life = _LATE + _stays(rng, _WORST) + _stays(rng, _WORSE)
    life = min(world.longest, max(world.shortest, life))
    if life >= services:
        return None
    onset = rng.randint(1, services - life)
    return Fault(rng.choice(("bearing", "gear")), onset, onset + life - 1)


def _history(
    rng: random.Random,
    world: World,
    key: str,
    bike: Healthy,
    nominal_km: float,
    who: Sequence[Grader],
) -> History:
    services = rng.randint(*world.services)
    fault = _lives(rng, world, services)
    day, km, since = FIRST_DAY + timedelta(days=rng.randint(0, 700)), 0.0, 0.0
    findings: list[Seen] = []
    repaired = False
    for service in range(services):
        ran = max(600.0, nominal_km * rng.lognormvariate(0, world.irregular)) if service else 900.0
        km, since = km + ran, since + ran
        day += timedelta(days=max(20, round(ran / 8000 * 365 * rng.uniform(0.7, 1.3))))
        grader = rng.choice(who)
        grows = fault is not None and fault.onset <= service <= fault.end
        missed = rng.random() < world.missing and service not in (0, fault.end if fault else -1)
        if not missed:
            parts = bike.shows(
                since,
                grader,
                run_in=service == 0,
                fault=fault if grows else None,
                service=service,
            )
            found = Found(
                day=day,
                parts=parts,
                km_since_wiped=Decimal(round(since)),
                grader=grader.name,
                run_in=service == 0,
                repaired=repaired,
            )
            findings.append(Seen(service, Decimal(round(km)), found))
            since, repaired = 0.0, False
        repaired = repaired or (fault is not None and service == fault.end)
    return History(key, tuple(findings), (fault,) if fault else ())


def cohort(seed: int, bikes: int, world: World | None = None) -> tuple[History, ...]:
    """So many reservoirs of one kind in one workshop, 5 to 30 as a rule. The same seed gives the same."""
    rng, world = random.Random(seed), world or World()
    level, nominal = rng.gauss(world.level, world.cohort_sd), rng.choice((6000.0, 8000.0, 12000.0))
    who = _graders(rng, world)
    return tuple(
        _history(
            rng,
            world,
            f"{seed}/{number}",
            Healthy(rng, world, level),
            nominal * rng.uniform(0.8, 1.25),
            who,
        )
        for number in range(max(0, min(bikes, 500)))
    )


def shown_to(history: History, day: date) -> tuple[Found, ...]:
    """What was known of a reservoir on a day."""
    return tuple(replace(one.found) for one in history.findings if one.found.day <= day)

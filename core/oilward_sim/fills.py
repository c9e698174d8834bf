"""Simulated fills against a hidden truth: what a reservoir really takes, what its gauge really shows, and
a hand that follows the coach, with eyes, spills and slips of its own. Our own definition, no source.
"""

import random
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from oilward_core.codes.fill import Cause, Start
from oilward_core.fill import (
    Action,
    Advice,
    CauseFound,
    Drop,
    EdgeRead,
    Fell,
    FillCase,
    FillEvent,
    Gauge,
    LevelReading,
    Poured,
    Ran,
    coach,
    drop_of,
    fell,
)
from oilward_core.spec import Variant

TARGET = 0.75
MOST_STEPS = 40
CAPACITIES = (900, 1400, 2700, 3600, 4000)


@dataclass(frozen=True, kw_only=True)
class World:
    """What is drawn from: the error of the book (``book``: all of it off by so much; ``spread``), old oil
    that stays, ml between the marks as a share of the capacity, how often they are 100 ml on 4 l
    instead (``small_marks``) and how far off the sheet is there, the noise of the eye or what it rounds
    to, how often a bike stands wrong unnoticed, how often oil is spilled unnoticed, how often an amount
    is ``mistyped`` and how seldom that is ``unseen`` when the sum stands there, how often a level is read
    ``too_soon``, and the drop."""

    book: float = 1.0
    spread: float = 0.02
    residue: tuple[float, float] = (0.0, 0.06)
    marks: tuple[float, float] = (0.15, 0.25)
    small_marks: float = 0.05
    marks_off: float = 0.0
    eyes: tuple[float, float] = (0.02, 0.06)
    grain: float = 0.0
    tilted: float = 0.01
    tilt: tuple[float, float] = (-0.5, 0.5)
    spilled: float = 0.02
    mistyped: float = 0.01
    unseen: float = 0.3
    too_soon: float = 0.02
    drop: tuple[float, float] = (0.05, 0.015)


DRAWN_FROM = World()
OTHERS: dict[str, World] = {
    "100 ml marks on 4 l": World(small_marks=1.0),
    "book 6 % off": World(book=0.94),
    "marks a quarter off": World(marks_off=0.25),
    "old oil up to 12 %": World(residue=(0.0, 0.12)),
    "eyes in eighths": World(grain=0.125),
    "one in ten tilted": World(tilted=0.10, tilt=(0.0, 0.3)),
    "one in ten tilted the other way": World(tilted=0.10, tilt=(-0.3, 0.0)),
}


@dataclass(frozen=True, kw_only=True)
class Kind:
    """A kind of reservoir: what its first start does, and whether oil runs over an edge instead of
    standing in a gauge; or it takes an ``exact`` quantity, and has neither."""

    start: Start = Start.SUMP
    edge: bool = False
    exact: bool = False


SUMP = Kind()
KINDS: dict[str, Kind] = {
    "dry sump": Kind(start=Start.TANK),
    "a case that is read without a run": Kind(start=Start.NONE),
    "level plug": Kind(start=Start.NONE, edge=True),
    "level plug, after a run": Kind(edge=True),
    "exact quantity": Kind(start=Start.NONE, exact=True),
}
# an edge has no marks: low is a twentieth of the book below it [our definition]
EDGE_MARKS = 0.05 / TARGET
# nor has an exact quantity: high is a twentieth of the book above it [our definition]
EXACT_MARKS = 0.05 / (1 - TARGET)


@dataclass(frozen=True, kw_only=True)
class Outcome:
    """How a fill ended: true level in glasses, runs made, whether the coach stopped for a lead, whether
    it stood above the high mark on the way, and what is learned of it: what it ``takes``, and how far the
    level ``fell`` at the first start."""

    level: float
    runs: int
    stopped: bool = False
    passed_high: bool = False
    takes: Decimal = Decimal(0)
    fell: Fell | None = None


Hand = Callable[[FillCase, Sequence[FillEvent]], Advice]


@dataclass(kw_only=True)
class _Bench:
    """One reservoir being filled: what is really so, and what was written down."""

    rng: random.Random
    world: World
    case: FillCase
    takes: float
    marks: float
    drop: float
    noise: float
    really: float = 0.0
    ran: bool = False
    runs: int = 0
    passed: bool = False

    def another(self) -> "_Bench":
        """Another filling of it: not quite as much old oil stays, nor is its filter quite the same."""
        rng = self.rng
        return replace(
            self, takes=self.takes * rng.gauss(1, 0.008), drop=self.drop * rng.gauss(1, 0.05)
        )

    def level(self) -> float:
        """Where it stands now, in glasses; once it runs, the drop is gone."""
        falls = 0.0 if self.ran or self.case.start != Start.SUMP else self.drop
        return TARGET + (self.really - self.takes + falls) / self.marks

    def look(self, tilt: float) -> LevelReading | EdgeRead:
        """What somebody reads off the glass, or sees at the edge."""
        if self.case.edge:
            return self.opened(tilt)
        seen = self.level() + self.rng.gauss(0, self.noise) + tilt
        if self.world.grain:
            seen = round(seen / self.world.grain) * self.world.grain
        sight = "below" if seen < 0 else "above" if seen > 1.2 else "seen"
        position = Decimal(str(round(min(max(seen, 0), 1.2), 2)))
        return LevelReading(sight, position, True)  # type: ignore[arg-type]

    def too_soon(self) -> LevelReading | None:
        """Read while it still runs down: the bench keeps that, and does not use it."""
        if self.case.edge or self.rng.random() >= self.world.too_soon:
            return None
        seen = min(max(self.level() - self.rng.uniform(0, 0.15), 0), 1.2)
        return LevelReading("seen", Decimal(str(round(seen, 2))), False)

    def opened(self, tilt: float) -> EdgeRead:
        """Its plug is out: what stands above the edge runs off, is caught and measured, nearly always."""
        falls = 0.0 if self.ran or self.case.start != Start.SUMP else self.drop
        over = self.really + falls - self.takes + tilt * self.marks
        if over <= 0:
            return EdgeRead(runs=False, ml=None, valid=True)
        self.really -= over * self.rng.uniform(0.97, 1)  # the last drops stay
        caught = Decimal(max(round(over + self.rng.gauss(0, 3)), 0))
        return EdgeRead(runs=True, ml=caught if self.rng.random() < 0.9 else None, valid=True)

    def pour(self, ml: Decimal, pours: bool) -> None:
        """Poured or drawn, a little beside, sometimes past the funnel."""
        moved = float(ml) * self.rng.gauss(1, 0.004)
        if pours and self.rng.random() < self.world.spilled:
            moved -= min(moved, self.rng.uniform(10, 60))
        self.really += moved if pours else -moved
        final = TARGET + (self.really - self.takes) / self.marks
        self.passed = self.passed or final > 1


def draw(
    rng: random.Random,
    world: World,
    kind: Kind = SUMP,
    *,
    learned: bool = False,
    drop_known: bool = False,
) -> _Bench:
    """A reservoir drawn from a world: by the book, or with what it ``learned`` before."""
    small = rng.random() < world.small_marks
    capacity = 4000 if small else rng.choice(CAPACITIES)
    marks = 100 if small else capacity * rng.uniform(*world.marks)
    takes = capacity * rng.gauss(world.book, world.spread) * (1 - rng.uniform(*world.residue))
    if kind.edge:
        marks = capacity * EDGE_MARKS
    elif kind.exact:
        marks, takes = capacity * EXACT_MARKS, float(capacity)
    falls = capacity * rng.gauss(*world.drop)
    own = Drop(Decimal(round(falls * rng.gauss(1, 0.05))), capacity * Decimal("0.004"))
    usual = drop_of(Variant.WITH_FILTER, Decimal(capacity), ())
    told = marks * (1 + rng.choice((-1, 1)) * world.marks_off)
    gauged = not (kind.edge or kind.exact)
    case = FillCase(
        capacity=Decimal(capacity),
        gauge=Gauge(Decimal(round(told)), Decimal(str(TARGET))) if gauged else None,
        start=kind.start,
        drop=(own if drop_known else usual) if kind.start == Start.SUMP else None,
        edge=kind.edge,
    )
    noise = rng.uniform(*world.eyes)
    bench = _Bench(
        rng=rng, world=world, case=case, takes=takes, marks=marks, drop=max(falls, 0.0), noise=noise
    )
    return _lived(bench) if learned else bench


LIVED = 5  # fillings before, of which the coach has learned


def _lived(bench: _Bench) -> _Bench:
    """The same reservoir after it was filled before, each time a little otherwise, with what was learned
    of that: its takes, and how far its level fell."""
    before = [simulate(bench.another()) for _ in range(LIVED)]
    learned = [one for one in before if not one.stopped]
    case = replace(bench.case, took=tuple(one.takes for one in learned))
    if case.drop is not None:
        fells = [one.fell for one in learned if one.fell]
        case = replace(case, drop=drop_of(Variant.WITH_FILTER, case.capacity, fells))
    return replace(bench, case=case)


def _mistyped(rng: random.Random, ml: Decimal) -> Decimal:
    """What a slip of the finger writes: a hundred more or less, or two digits the wrong way round."""
    digits = f"{ml:.0f}"
    if len(digits) > 2 and rng.random() < 0.5:
        return Decimal(digits[1] + digits[0] + digits[2:])
    return max(ml + rng.choice((-100, 100)), Decimal(10))


@dataclass(kw_only=True)
class _Hand:
    """Whoever writes down what happens: what they wrote, and which amounts were typed wrong, by where
    they stand, with what they should say."""

    bench: _Bench
    tilt: float
    events: list[FillEvent]
    wrong: dict[int, Decimal]
    stops: int = 0

    def pours(self, advice: Advice) -> None:
        """Poured or drawn as told; sometimes typed wrong, which is nearly always seen: the sum stands
        there, and far more than is safe is asked about."""
        pours, rng, world = advice.action == "pour", self.bench.rng, self.bench.world
        self.bench.pour(advice.ml, pours)
        typed = advice.ml
        if rng.random() < world.mistyped:
            slip = _mistyped(rng, advice.ml)
            if slip < self.most(advice) and rng.random() < world.unseen:
                typed, self.wrong[len(self.events)] = slip, advice.ml
        self.events.append(Poured(typed if pours else -typed))

    def most(self, advice: Advice) -> Decimal:
        """What may be typed without a question."""
        gauge = self.bench.case.gauge
        return advice.ml + (gauge.between_marks / 10 if gauge else self.bench.case.capacity / 20)

    def finds(self) -> bool:
        """What the hand finds when the coach stops: how it stood, an amount that was typed wrong, else a
        slip of the eye; a second time a lead is called."""
        self.stops += 1
        if self.wrong:
            self.corrects()
        elif self.stops > 1:
            return False
        else:
            self.events.append(CauseFound(Cause.ATTITUDE if self.tilt else Cause.MISREAD))
            self.tilt = 0.0
        return True

    def corrects(self) -> None:
        """Every amount as it was: an entry is corrected where it stands."""
        for place, ml in self.wrong.items():
            was = self.events[place]
            assert isinstance(was, Poured)
            self.events[place] = Poured(ml if was.ml > 0 else -ml)
        self.wrong.clear()
        self.stops -= 1

    def reads(self, action: Action) -> None:
        """Run first, where its level is read after that."""
        bench, events = self.bench, self.events
        runs = bench.case.start != Start.NONE and action == "read"
        if runs and not (events and isinstance(events[-1], Ran | CauseFound)):
            bench.ran, bench.runs = True, bench.runs + 1
            events.append(Ran())
        early = bench.too_soon()
        if early:
            events.append(early)
        events.append(bench.look(self.tilt))


def simulate(bench: _Bench, hand: Hand = coach) -> Outcome:
    """One fill by the hand that is told by the coach (or by another rule), to its end."""
    rng, world = bench.rng, bench.world
    tilt = rng.uniform(*world.tilt) if rng.random() < world.tilted else 0.0
    writes = _Hand(bench=bench, tilt=tilt, events=[], wrong={})
    for _ in range(MOST_STEPS):
        advice = hand(bench.case, writes.events)
        if advice.action == "done":
            break
        if advice.action == "stop":
            if not writes.finds():
                break
        elif advice.action in ("look", "read"):
            writes.reads(advice.action)
        else:
            writes.pours(advice)
    bench.ran = True
    return Outcome(
        level=bench.level(),
        runs=bench.runs,
        stopped=advice.action != "done",
        passed_high=bench.passed,
        takes=Decimal(round(advice.belief.mean)),
        fell=fell(bench.case, writes.events),
    )


def _rule(case: FillCase, events: Sequence[FillEvent], first: float, share: float) -> Advice:
    """A rule of thumb: ``first`` of the book, run it, then so much of the gap, until it is right."""
    kept = coach(case, ())
    last, gauge = (events[-1] if events else None), case.gauge
    assert gauge is not None

    def said(action: Action, ml: float = 0.0) -> Advice:
        return replace(kept, action=action, ml=Decimal(max(10, round(ml, -1))), causes=())

    if last is None:
        return said("pour", float(case.capacity) * first)
    if not isinstance(last, LevelReading):
        return said("read")
    position = {"below": 0.0, "above": 1.2}.get(last.sight, float(last.position))
    gap = (float(gauge.target) - position) * float(gauge.between_marks)
    if abs(float(gauge.target) - position) <= 0.125 and last.sight == "seen":
        return said("done")
    return said("pour", gap * share) if gap > 0 else said("remove", -gap)


def by_the_book_at_once(case: FillCase, events: Sequence[FillEvent]) -> Advice:
    """All of the book at once, then what is missing."""
    return _rule(case, events, 1.0, 1.0)


def in_parts(case: FillCase, events: Sequence[FillEvent]) -> Advice:
    """80 % of the book, then sixty per cent of the gap each time."""
    return _rule(case, events, 0.8, 0.6)

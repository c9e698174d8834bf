"""Bad sheets, each with the doubt it raises. Common practice, no source."""

from dataclasses import replace
from decimal import Decimal
from typing import Any, NamedTuple
from unittest import TestCase

from oilward_core.codes.suspension import LegFunction, LegKind
from oilward_core.due import DueLimits
from oilward_core.spec import (
    FillRule,
    LegSpec,
    LevelCheck,
    Marks,
    Requirement,
    ReservoirKind,
    ReservoirSpec,
    Spot,
    Variant,
    capacity_band,
    doubts,
    gaps,
)
from oilward_core.torque import read_torque

from .clerk import ENGINE, fastener

GOOD = replace(
    ENGINE,
    fasteners=(
        fastener("drain plug", "20-26 N·m"),
        replace(fastener("fill plug", "hand tight"), place="right cover"),
        replace(fastener("filter", "3/4 turn"), place="front"),
    ),
)
LEVEL = GOOD.level
assert LEVEL is not None


def ml(**variants: int) -> dict[Variant, Decimal]:
    """Capacities in ml."""
    return {Variant[name]: Decimal(value) for name, value in variants.items()}


def torque(text: str) -> ReservoirSpec:
    """The good sheet with another drain plug torque."""
    return replace(GOOD, fasteners=(fastener("drain plug", text), *GOOD.fasteners[1:]))


def level(**changes: Any) -> ReservoirSpec:
    """The good sheet with another level check."""
    assert LEVEL is not None
    return replace(GOOD, level=replace(LEVEL, **changes))


def needs(**asked: Any) -> ReservoirSpec:
    """The good sheet asking for another oil."""
    return replace(GOOD, requirement=Requirement(**asked))


def plug(number: int, **changes: Any) -> ReservoirSpec:
    """The good sheet with one plug changed: 0 drain, 1 fill, 2 filter."""
    plugs = list(GOOD.fasteners)
    plugs[number] = replace(plugs[number], **changes)
    return replace(GOOD, fasteners=tuple(plugs))


def limits(**changes: Any) -> ReservoirSpec:
    """The good sheet with other intervals."""
    return replace(GOOD, limits=replace(GOOD.limits, **changes))


def spot(y: str) -> Spot:
    """A place on the map, that far down."""
    return Spot(Decimal("0.5"), Decimal(y))


def window(low: int, high: int) -> tuple[Decimal, Decimal]:
    """A viscosity window in cSt."""
    return Decimal(low), Decimal(high)


SWAPPED_PLUGS = replace(
    GOOD,
    fasteners=(
        replace(GOOD.fasteners[0], torque=read_torque("hand tight")),
        replace(GOOD.fasteners[1], torque=read_torque("22 N·m")),
        GOOD.fasteners[2],
    ),
)
MAPPED_SWAPPED = replace(
    GOOD,
    fasteners=(
        replace(GOOD.fasteners[0], spot=spot("0.2")),
        replace(GOOD.fasteners[1], spot=spot("0.7")),
        GOOD.fasteners[2],
    ),
)
LEG = replace(
    GOOD,
    key="fork left",
    label="fork, left",
    kind=ReservoirKind.FORK,
    fill_rule=FillRule.AIR_GAP,
    capacities=ml(DRY=520),
    level=None,
    fasteners=(),
    air_gap=Decimal(112),
)
DRIVE = replace(
    GOOD,
    kind=ReservoirKind.FINAL_DRIVE,
    capacities=ml(DRAIN_ONLY=190),
    fill_rule=FillRule.EXACT,
    level=None,
    requirement=Requirement(grade="75W-90", service="GL-4"),
)


class Bad(NamedTuple):
    """A bad reservoir, the rule that doubts it, and a word of its sentence."""

    spec: ReservoirSpec
    rule: str
    word: str


BAD = (
    Bad(
        replace(GOOD, capacities=ml(DRAIN_ONLY=2800, WITH_FILTER=2600)), "capacity order", "Swapped"
    ),
    Bad(replace(GOOD, capacities=ml(WITH_FILTER=2800, DRY=2400)), "capacity order", "Swapped"),
    Bad(replace(GOOD, capacities=ml(DRAIN_ONLY=2600, WITH_FILTER=2600)), "capacity order", "less"),
    Bad(replace(GOOD, capacities={Variant.DRAIN_ONLY: Decimal("2.6")}), "capacity band", "Litres"),
    Bad(replace(GOOD, capacities=ml(DRAIN_ONLY=2_600_000)), "capacity band", "Millilitres"),
    Bad(replace(GOOD, capacities=ml(DRAIN_ONLY=26_000)), "capacity band", "unusual"),
    Bad(replace(GOOD, capacities=ml(DRAIN_ONLY=260)), "capacity band", "1.6–5.0 l"),
    Bad(replace(GOOD, initial=Decimal(2600)), "first amount", "more than the capacity"),
    Bad(replace(GOOD, fill_rule=FillRule.EXACT), "exact with gauge", "Which is it"),
    Bad(level(between_marks=Decimal("0.5")), "marks", "Unit slipped"),
    Bad(level(between_marks=Decimal(1500)), "marks", "61%"),
    Bad(level(run_minutes=Decimal(120)), "minutes", "Seconds"),
    Bad(level(settle_minutes=Decimal(180)), "minutes", "Seconds"),
    Bad(torque("240 lbf·ft"), "torque", "lbf·in?"),
    Bad(torque("20 lbf·in"), "torque", "lbf·ft?"),
    Bad(torque("2 N·m"), "torque", "kgf·m?"),
    Bad(torque("300 N·m"), "torque", "lbf·in?"),
    Bad(replace(LEG, air_gap=Decimal(0)), "air gap", "Inches"),
    Bad(replace(GOOD, limits=DueLimits(repeat_km=Decimal(90))), "interval", "nought"),
    Bad(replace(GOOD, limits=DueLimits(repeat_km=Decimal(90_000))), "interval", "nought"),
    Bad(replace(GOOD, limits=DueLimits(repeat_months=120)), "interval", "120 months"),
    Bad(
        replace(GOOD, limits=DueLimits(first_km=Decimal(9000), repeat_km=Decimal(1000))),
        "first after repeat",
        "Swapped",
    ),
    Bad(limits(repeat_hours=Decimal(9000)), "interval", "Kilometres?"),
    Bad(limits(first_km=Decimal(90)), "first service", "90 km"),
    Bad(
        replace(GOOD, capacities=ml(DRAIN_ONLY=2600, WITH_FILTER=2555)), "capacity order", "quarts"
    ),
    Bad(replace(GOOD, prefill=Decimal(900)), "pre-fill", "holds 250 ml"),
    Bad(torque("5-26 N·m"), "torque range", "Two numbers"),
    Bad(torque("22 kgf·m"), "torque", "N·m?"),
    Bad(torque("62 N·m"), "torque", "Look again"),
    Bad(SWAPPED_PLUGS, "plugs swapped", "by hand"),
    Bad(MAPPED_SWAPPED, "plugs swapped", "above the fill plug"),
    Bad(plug(0, thread="M14x15"), "thread", "decimal point"),
    Bad(level(second=Marks("upright", Decimal(300))), "second marks", "the other"),
    Bad(replace(GOOD, filter_every=10), "filter every", "months"),
    Bad(replace(GOOD, seal_life=24), "seal life", "Months"),
    Bad(replace(LEG, air_gap=Decimal("4.4")), "air gap", "Inches"),
    Bad(needs(grade="10W-40", kv40=window(1, 3)), "viscosity", "40 °C"),
    Bad(needs(grade="10W-40", kv100=window(80, 110)), "viscosity", "That of 40 °C?"),
    Bad(needs(kv40=window(10, 14), kv100=window(12, 16)), "viscosity swapped", "Swapped"),
    Bad(DRIVE, "hypoid", "GL-5"),
    Bad(needs(grade="10W-40", friction="MB"), "friction class", "lets a wet clutch slip"),
)


GAPS = (
    (replace(GOOD, capacities={}), "engine//capacity.drain only", "capacity"),
    (replace(GOOD, fasteners=GOOD.fasteners[1:]), "engine/drain plug/place", "where?"),
    (replace(GOOD, fasteners=GOOD.fasteners[:1]), "engine/fill plug/place", "where?"),
    (level(assumed=True), "engine//level.between", "mark"),
    (limits(repeat_km=None, repeat_months=None), "engine//repeat.km", "never due"),
    (level(attitude=""), "engine//level.attitude", "stands"),
    (level(gauge="dipstick"), "engine//level.dipstick", "threads"),
    (replace(LEG, air_gap=None), f"{LEG.key}//level.air gap", "air gap"),
    (needs(), "engine//fluid.grade", "oil that goes in"),
    (needs(grade="10W-40"), "engine//fluid.friction", "wets no clutch"),
)


class DoubtTests(TestCase):
    """One slip at a time on an otherwise good sheet."""

    def test_a_good_sheet_raises_none(self) -> None:
        self.assertEqual(doubts([GOOD], 890), ())
        self.assertEqual(gaps([GOOD]), ())

    def test_each_slip_is_doubted(self) -> None:
        for number, bad in enumerate(BAD):
            with self.subTest(number=number, rule=bad.rule):
                said = {doubt.rule: doubt.text for doubt in doubts([bad.spec], 890)}
                self.assertIn(bad.rule, said)
                self.assertIn(bad.word, said[bad.rule])

    def test_other_kinds_have_their_own_bands(self) -> None:
        for kind, good, wrong in (
            (ReservoirKind.PRIMARY, 900, 9000),
            (ReservoirKind.GEARBOX, 800, 80),
            (ReservoirKind.FINAL_DRIVE, 190, 1900),
            (ReservoirKind.FORK, 520, 5200),
        ):
            for capacity, doubted in ((good, False), (wrong, True)):
                spec = replace(GOOD, kind=kind, capacities=ml(DRAIN_ONLY=capacity), level=None)
                rules = {doubt.rule for doubt in doubts([spec], 890)}
                with self.subTest(kind=kind, capacity=capacity):
                    self.assertEqual("capacity band" in rules, doubted)

    def test_what_is_not_written_is_a_gap_and_no_doubt(self) -> None:
        for spec, path, word in GAPS:
            with self.subTest(path=path):
                found = {str(gap.path): gap for gap in gaps([spec])}
                self.assertIn(path, found)
                self.assertIn(word, found[path].text)
                self.assertEqual(doubts([spec], 890), ())

    def test_legs_are_equal(self) -> None:
        right = replace(LEG, key="fork right", label="fork, right")
        self.assertEqual(doubts([LEG, right], 890), ())
        (found,) = doubts([LEG, replace(right, air_gap=Decimal(120))], 890)
        self.assertEqual((found.rule, found.reservoir), ("unequal legs", "fork right"))

    def test_a_leg_holds_what_its_kind_does(self) -> None:
        for kind, holds, doubted in (
            (None, 6, True),
            (LegKind.AIR, 6, False),
            (LegKind.AIR, 900, True),
            (LegKind.SEALED_CARTRIDGE, 60, False),
            (LegKind.DAMPER_ROD, 60, True),
            (LegKind.OPEN_CARTRIDGE, 520, False),
        ):
            leg = replace(LEG, capacities=ml(DRY=holds), leg=LegSpec(kind=kind))
            with self.subTest(kind=kind, holds=holds):
                rules = {doubt.rule for doubt in doubts([leg], 890)}
                self.assertEqual("capacity band" in rules, doubted)

    def test_legs_that_each_have_a_function_may_differ(self) -> None:
        left = replace(LEG, leg=LegSpec(function=LegFunction.DAMPING))
        right = replace(
            LEG, key="fork right", air_gap=Decimal(150), leg=LegSpec(function=LegFunction.SPRING)
        )
        self.assertEqual(doubts([left, right], 890), ())
        # one alone is no split
        (found,) = doubts([LEG, right], 890)
        self.assertEqual(found.rule, "unequal legs")
        # and the same function twice is none either
        (found,) = doubts([replace(left, leg=right.leg), right], 890)
        self.assertEqual(found.rule, "unequal legs")

    def test_a_legs_sizes_fit_each_other(self) -> None:
        for leg, rule in (
            (LegSpec(bore=Decimal(39), rod=Decimal(12), seal=Decimal(43)), ""),
            (LegSpec(bore=Decimal(39), rod=Decimal(39)), "rod"),
            (LegSpec(bore=Decimal(43), seal=Decimal(39)), "seal diameter"),
            (LegSpec(spring_new=Decimal(343), spring_limit=Decimal(350)), "spring limit"),
            (LegSpec(travel=Decimal(100)), "gap over travel"),
            (LegSpec(travel=Decimal(130)), ""),
            (LegSpec(bore=Decimal("3.9")), "bore"),
            (LegSpec(travel=Decimal(13), bore=Decimal(39)), "travel"),
        ):
            with self.subTest(rule=rule):
                found = {doubt.rule for doubt in doubts([replace(LEG, leg=leg)], 890)}
                self.assertEqual(
                    found - {"gap over travel"} if rule == "travel" else found, {rule} - {""}
                )

    def test_engine_bands_grow_with_displacement(self) -> None:
        lows = [capacity_band(ReservoirKind.ENGINE, cc) for cc in (125, 300, 890, 1600)]
        self.assertEqual(lows, sorted(lows))
        self.assertIsNone(capacity_band(ReservoirKind.COOLANT, 125))

    def test_a_separate_primary_frees_the_engine_from_a_friction_class(self) -> None:
        primary = replace(
            GOOD,
            key="primary",
            kind=ReservoirKind.PRIMARY,
            capacities=ml(DRAIN_ONLY=900),
            fasteners=(),
            level=LevelCheck(
                gauge="glass",
                attitude="upright",
                run_minutes=Decimal(0),
                settle_minutes=Decimal(1),
                between_marks=Decimal(100),
            ),
        )
        rules = {doubt.rule for doubt in doubts([needs(grade="20W-50"), primary], 890)}
        self.assertNotIn("friction class", rules)
        said = {
            doubt.rule for doubt in doubts([needs(grade="5W-40", friction="wets no clutch")], 890)
        }
        self.assertNotIn("friction class", said)

    def test_two_plugs_cannot_stand_at_one_place(self) -> None:
        gearbox = replace(
            GOOD,
            key="gearbox",
            label="gearbox",
            kind=ReservoirKind.GEARBOX,
            capacities=ml(DRAIN_ONLY=800),
            fasteners=(GOOD.fasteners[0], replace(GOOD.fasteners[1], place="left cover")),
        )
        found = [doubt for doubt in doubts([GOOD, gearbox], 890) if doubt.rule == "same place"]
        self.assertEqual([doubt.reservoir for doubt in found], ["gearbox"])
        self.assertIn("engine drain plug", found[0].text)

"""Simulated fills against a hidden truth. No outside source: our own goals."""

import random
from collections.abc import Sequence
from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from oilward_core.fill import FillCase, FillEvent, Gauge, LevelReading, Poured, coach
from oilward_sim.fills import (
    DRAWN_FROM,
    KINDS,
    OTHERS,
    TARGET,
    Outcome,
    by_the_book_at_once,
    draw,
    in_parts,
    simulate,
)

FILLS = 500


def runs(outcomes: Sequence[Outcome]) -> float:
    """How often an engine had to be run for one fill."""
    return sum(one.runs for one in outcomes) / len(outcomes)


def above(outcomes: Sequence[Outcome]) -> float:
    """How often the coach was content with a level above the high mark."""
    return sum(one.level > 1 and not one.stopped for one in outcomes) / len(outcomes)


class SimulationTests(TestCase):
    """The goals of the coach, on seeded chance: few fills, coarse bounds. By how much
    it keeps them, 50,000 say (`./ward bench fill`)."""

    def outcomes(
        self, world: str = "", *, learned: bool = False, drop: bool = False
    ) -> list[Outcome]:
        """The same fills again each time."""
        rng = random.Random(20261130)
        drawn = OTHERS[world] if world else DRAWN_FROM
        return [simulate(draw(rng, drawn, learned=learned, drop_known=drop)) for _ in range(FILLS)]

    def test_by_the_book(self) -> None:
        found = self.outcomes()
        self.assertLessEqual(runs(found), 1.45)
        self.assertLess(above(found), 0.01)
        self.assertLess(sum(one.level < 0 and not one.stopped for one in found) / FILLS, 0.002)

    def test_with_the_drop_known_and_with_all_learned_it_runs_less(self) -> None:
        self.assertLessEqual(runs(self.outcomes(drop=True)), 1.25)
        self.assertLessEqual(runs(self.outcomes(learned=True)), 1.12)

    def test_the_other_kinds(self) -> None:
        """A tank tells nothing before its first run; a level plug one side, and the rest runs out."""
        most_runs = {"dry sump": 2.1, "level plug, after a run": 1.8}
        for name, kind in KINDS.items():
            with self.subTest(name):
                rng = random.Random(20261130)
                found = [simulate(draw(rng, DRAWN_FROM, kind)) for _ in range(FILLS)]
                self.assertLess(above(found), 0.01)
                self.assertLess(
                    sum(one.level < 0 and not one.stopped for one in found) / FILLS, 0.002
                )
                self.assertLessEqual(runs(found), most_runs.get(name, 0))

    def test_worlds_it_was_not_drawn_for(self) -> None:
        for world in OTHERS:
            with self.subTest(world):
                most = 0.025 if "other way" in world else 0.01
                self.assertLess(above(self.outcomes(world)), most)

    def test_a_look_before_the_first_start_saves_runs(self) -> None:
        rng = random.Random(1)
        without = []
        for _ in range(FILLS):
            bench = draw(rng, DRAWN_FROM)
            bench.case = replace(bench.case, drop=None)
            without.append(simulate(bench))
        self.assertLess(runs(self.outcomes()), runs(without) - 0.2)

    def test_better_than_the_rules_of_thumb(self) -> None:
        rng = random.Random(2)
        whole = [simulate(draw(rng, DRAWN_FROM), by_the_book_at_once) for _ in range(FILLS)]
        parts = [simulate(draw(rng, DRAWN_FROM), in_parts) for _ in range(FILLS)]
        self.assertGreater(sum(one.passed_high for one in whole) / FILLS, 0.2)
        self.assertGreater(runs(parts), 1.5 * runs(self.outcomes()))

    def test_gross_error_never_ends_as_done(self) -> None:
        """A fifth of the old oil left in: full by gauge far too early, and the coach stops."""
        rng = random.Random(3)
        case = FillCase(capacity=Decimal(2700), gauge=Gauge(Decimal(500), Decimal(str(TARGET))))
        for _ in range(200):
            level = TARGET + (2520 - 2700 * (0.78 + rng.gauss(0, 0.01))) / 500
            self.assertGreater(level, 1)
            seen = LevelReading("above", Decimal("1.2"), True)
            events: list[FillEvent] = [Poured(Decimal(2520)), seen]
            self.assertIn(coach(case, events).action, ("remove", "stop"))

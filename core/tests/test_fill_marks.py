"""Marks of which the sheet does not say how far apart they are."""

import random
from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from oilward_core.codes.fill import Start
from oilward_core.fill import (
    Drop,
    FillCase,
    FillEvent,
    Gauge,
    LevelReading,
    Poured,
    Ran,
    coach,
    known_marks,
    marks_seen,
)
from oilward_core.spec import Cell, Path, missing, needed, reservoir_of

ASSUMED = Gauge(Decimal(450), Decimal("0.75"), assumed=True)
CASE = FillCase(
    capacity=Decimal(2700),
    gauge=ASSUMED,
    start=Start.SUMP,
    drop=Drop(Decimal(135), Decimal(40)),
)


def read(position: str, valid: bool = True) -> LevelReading:
    return LevelReading("seen", Decimal(position), valid)


def poured(ml: int) -> Poured:
    return Poured(Decimal(ml))


class SheetTests(TestCase):
    def reservoir(self, **fields: str):
        cells = {
            "kind": "engine",
            "level.gauge": "sight glass",
            "level.attitude": "upright",
            **fields,
        }
        return reservoir_of(
            "engine",
            {Path("engine", "", name): Cell(written=text) for name, text in cells.items()},
        )

    def test_a_sixth_of_the_book_is_assumed_and_no_more_than_500_ml(self) -> None:
        for capacity, assumed in (("2.7 l", 450), ("900 ml", 150), ("4 l", 500)):
            level = self.reservoir(**{"capacity.with filter": capacity}).level
            self.assertEqual((level.between_marks, level.assumed), (assumed, True))

    def test_what_the_sheet_says_is_not_assumed(self) -> None:
        said = {"capacity.with filter": "2.7 l", "level.between": "380 ml"}
        level = self.reservoir(**said).level
        self.assertEqual((level.between_marks, level.assumed), (380, False))

    def test_nobody_has_to_make_a_number_up(self) -> None:
        spec = self.reservoir(**{"capacity.with filter": "2.7 l"})
        paths = {str(path) for path in (*missing(spec), *needed(spec, next(iter(spec.capacities))))}
        self.assertFalse([path for path in paths if "level.between" in path])


class CoachTests(TestCase):
    def test_until_they_are_known_half_of_them_counts(self) -> None:
        surely = replace(CASE, gauge=Gauge(Decimal(225), Decimal("0.75")))
        known = replace(CASE, gauge=Gauge(Decimal(450), Decimal("0.75")))
        self.assertLess(coach(CASE, []).ml, coach(known, []).ml)
        # the low mark by the book: 2619 less three quarters of 225
        self.assertFalse(coach(CASE, [poured(2440)]).enough)
        self.assertTrue(coach(CASE, [poured(2460)]).enough)
        self.assertEqual(coach(surely, [poured(2460)]).enough, True)

    def test_two_readings_with_a_pour_between_tell(self) -> None:
        events: list[FillEvent] = [poured(2300), read("0.20"), poured(150), read("0.50")]
        self.assertEqual(marks_seen(ASSUMED, events), 500)
        self.assertEqual(known_marks(CASE, events).gauge, Gauge(Decimal(500), Decimal("0.75")))

    def test_too_near_each_other_or_with_a_start_between_they_tell_nothing(self) -> None:
        for name, events in {
            "near": (poured(2300), read("0.40"), poured(60), read("0.55")),
            "no pour": (poured(2300), read("0.20"), read("0.50")),
            "a start": (poured(2300), read("0.20"), poured(150), Ran(), read("0.50")),
            "not used": (poured(2300), read("0.20", False), poured(150), read("0.50")),
            "misread": (poured(2300), read("0.50"), poured(150), read("0.20")),
            "far from it": (poured(2300), read("0.20"), poured(10), read("0.50")),
        }.items():
            with self.subTest(name):
                self.assertIsNone(marks_seen(ASSUMED, events))

    def test_marks_that_are_known_are_not_put_right(self) -> None:
        case = replace(CASE, gauge=Gauge(Decimal(450), Decimal("0.75")))
        events: list[FillEvent] = [poured(2300), read("0.20"), poured(150), read("0.50")]
        self.assertEqual(known_marks(case, events), case)

    def test_whatever_they_really_are_it_ends_inside_them(self) -> None:
        """From half to twice of what was assumed, told by the coach to the end (our definition)."""
        rng, over, most = random.Random(11), 0, 300
        for _ in range(most):
            really = 450 * rng.uniform(0.5, 2)
            over += self._filled(rng, really) > 1
        self.assertLess(over / most, 0.02)

    def _filled(self, rng: random.Random, marks: float) -> float:
        takes, inside, events, ran = 2619 * rng.gauss(1, 0.02), 0.0, list[FillEvent](), False
        for _ in range(40):
            advice = coach(CASE, events)
            level = 0.75 + (inside - takes + (0 if ran else 135)) / marks
            if advice.action in ("done", "stop"):
                return level
            if advice.action in ("pour", "remove"):
                ml = float(advice.ml) * (1 if advice.action == "pour" else -1)
                inside += ml
                events.append(Poured(Decimal(round(ml))))
                continue
            if advice.action == "read" and not ran:
                ran, level = True, level - 135 / marks
                events.append(Ran())
            seen = level + rng.gauss(0, 0.04)
            sight = "below" if seen < 0 else "above" if seen > 1.2 else "seen"
            position = Decimal(str(round(min(max(seen, 0), 1.2), 2)))
            events.append(LevelReading(sight, position, True))
        raise AssertionError("no end")

"""Findings over time, against published examples and reference libraries."""

import random
from datetime import date
from decimal import Decimal
from math import log
from unittest import TestCase

import numpy
from hypothesis import given
from hypothesis import strategies as st
from oilward_core.debris import Eye, Form, Found, Level, Matter, Part
from oilward_core.errors import CoreError
from oilward_core.trend import (
    band,
    beside_kind,
    charted,
    compare_groups,
    controlled,
    ewma,
    ewma_limits,
    eye_words,
    lean,
    owner_words,
)
from oilward_core.trend.student import two_sided_t
from scipy import stats

# NIST/SEMATECH e-Handbook 6.3.2.4, data from memory; the printed moving average is reproduced
NIST = [
    52.0, 47.0, 53.0, 49.3, 50.1, 47.0, 51.0, 50.1, 51.2, 50.5,
    49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1,
]  # fmt: skip
PRINTED = [
    50.6, 49.52, 50.56, 50.18, 50.16, 49.21, 49.75, 49.85, 50.26, 50.33,
    50.11, 49.36, 49.52, 50.05, 49.38, 49.92, 50.73, 51.23, 51.94, 51.99,
]  # fmt: skip


def found(share: str, run_in: bool = False, form: Form = Form.PASTE) -> Found:
    part = Part(form=form, matter=Matter.STEEL, share=Decimal(share))
    return Found(
        day=date(2026, 1, 1),
        parts=(part,),
        km_since_wiped=Decimal(5000),
        grader="mira",
        run_in=run_in,
        repaired=False,
    )


class EwmaTests(TestCase):
    def test_the_handbook_s_example(self) -> None:
        for said, printed in zip(ewma(NIST, 50), PRINTED, strict=True):
            self.assertAlmostEqual(said, printed, delta=0.005)
        low, high = ewma_limits(50, 2.0539)
        self.assertAlmostEqual(low, 47.4115, delta=0.0002)
        self.assertAlmostEqual(high, 52.5884, delta=0.0002)
        for step, expected in ((1, (48.1515, 51.8485)), (4, (47.4873, 52.5127))):
            for said, limit in zip(ewma_limits(50, 2.0539, step=step), expected, strict=True):
                self.assertAlmostEqual(said, limit, places=4)
        self.assertEqual(controlled(NIST, 50, 2.0539).outside, ())

    def test_a_series_that_leaves_its_limits_is_named_by_its_points(self) -> None:
        series = [1.0, 1.1, 0.9, 1.05, 1.0, 0.95, 2.5, 2.6]
        self.assertEqual(controlled(series).outside, (6, 7))
        self.assertEqual(controlled([1.0, 9.0]).high, None)
        with self.assertRaises(CoreError):
            ewma([1.0], 1.0, 0.0)


class WearTests(TestCase):
    def test_a_band_is_where_eight_in_ten_lie(self) -> None:
        shares = [n / 100 for n in range(5, 45)]
        others = [found(f"{share}") for share in shares] + [found("0.9", run_in=True)] * 5
        seen = band(others, Matter.STEEL)
        assert seen
        worn = [share / 5 for share in shares]  # 5000 km, paste counts once
        self.assertAlmostEqual(seen.low, float(numpy.quantile(worn, 0.1)), places=3)
        self.assertAlmostEqual(seen.high, float(numpy.quantile(worn, 0.9)), places=3)
        self.assertEqual(seen.n, 40)
        self.assertIsNone(band(others[:7], Matter.STEEL))

    @given(st.lists(st.floats(0, 5), min_size=4, max_size=12))
    def test_the_lean_is_theil_sen_s(self, values: list[float]) -> None:
        km = [1000.0 * n for n in range(len(values))]
        seen = lean(km, values)
        assert seen
        slope = stats.theilslopes(values, km, method="separate").slope
        self.assertAlmostEqual(seen.per_1000, slope * 1000, places=6)

    def test_a_new_baseline_begins_the_average_and_its_limits_anew(self) -> None:
        worn, mended = [0.02, 0.03, 0.02, 0.03, 0.5, 0.6], [0.02, 0.03, 0.02, 0.03]
        whole = charted([*worn, *mended], [6])
        self.assertEqual(whole.smooth[6:], charted(mended).smooth)
        self.assertEqual((whole.low, whole.high), (charted(mended).low, charted(mended).high))
        self.assertEqual(whole.outside, charted(worn).outside)
        self.assertGreater(charted([*worn, *mended]).smooth[6], whole.smooth[6])

    def test_one_bike_against_its_kind(self) -> None:
        kind = band([found(f"{share / 100}") for share in range(5, 45)], Matter.STEEL)
        assert kind
        self.assertIn("within where eight in ten lie", beside_kind([kind.middle] * 4, kind))
        self.assertIn("3.0 times its kind's, outside", beside_kind([3 * kind.middle] * 4, kind))
        self.assertEqual(beside_kind([1.0] * 3, kind), "")
        self.assertEqual(beside_kind([1.0] * 4, None), "")

    def test_few_points_lean_no_way(self) -> None:
        self.assertIsNone(lean([0, 1, 2], [1, 2, 3]))
        self.assertIsNone(lean([0, 0, 0, 1], [1, 2, 3, 4]))


class ClaimTests(TestCase):
    """Welch's interval against scipy; nothing said of too few."""

    def groups(self, seed: int, factor: float) -> tuple[dict[str, list[float]], ...]:
        dice = random.Random(seed)

        def bike(level: float) -> list[float]:
            return [level * dice.lognormvariate(0, 0.3) for _ in range(4)]

        a = {f"a{n}": bike(0.05 * factor * dice.lognormvariate(0, 0.2)) for n in range(6)}
        b = {f"b{n}": bike(0.05 * dice.lognormvariate(0, 0.2)) for n in range(9)}
        return a, b

    def test_as_scipy_says(self) -> None:
        a, b = self.groups(1, 3)
        said = compare_groups(a, b)
        means = [[float(numpy.mean([log(v) for v in of])) for of in one.values()] for one in (a, b)]
        test = stats.ttest_ind(*means, equal_var=False)
        interval = test.confidence_interval()
        assert said.ratio and said.low and said.high
        self.assertAlmostEqual(log(said.ratio), numpy.mean(means[0]) - numpy.mean(means[1]))
        self.assertAlmostEqual(log(said.low), interval.low, 9)
        self.assertAlmostEqual(log(said.high), interval.high, 9)
        self.assertTrue(said.differs)

    def test_t_at_every_number_of_degrees_of_freedom(self) -> None:
        """To four places, where a table ends and between its rows as well."""
        for degrees in (1, 1.3, 2, 2.5, 3.999, 7.2, 12.7, 29.9, 30, 31, 40.5, 75, 120, 1e3, 1e6):
            for inside in (0.5, 0.9, 0.95, 0.99):
                with self.subTest(degrees=degrees, inside=inside):
                    expected = stats.t.ppf((1 + inside) / 2, degrees)
                    self.assertAlmostEqual(two_sided_t(degrees, inside), expected, 4)
        for degrees, inside in ((0, 0.95), (-1, 0.95), (5, 1), (5, 0), (float("nan"), 0.95)):
            with self.assertRaises(CoreError):
                two_sided_t(degrees, inside)

    def test_where_nothing_differs_nothing_is_claimed_more_than_one_time_in_twenty(self) -> None:
        wrong = sum(compare_groups(*self.groups(seed, 1)).differs for seed in range(400))
        self.assertLess(wrong / 400, 0.08)

    def test_too_few_bikes_say_nothing_however_often_they_were_looked_at(self) -> None:
        _, b = self.groups(1, 1)
        for group in ({"one": [5.0] * 30}, {"a": [5.0], "b": [5.0], "c": [5.0]}, {}):
            with self.subTest(bikes=len(group)):
                said = compare_groups(group, b)
                self.assertIsNone(said.ratio)
                self.assertIn("Too few", said.words)


class WordsTests(TestCase):
    def test_an_eye_is_spoken_of_kindly_and_not_on_few_plugs(self) -> None:
        keen = Eye(offset=0.1, fuzz=2.0, slivers=1.0)
        said = eye_words(keen, Eye(), 40).words
        self.assertIn("fuzz 2.0 times as often", said)
        self.assertIn("slivers as often as the others", said)
        self.assertIn("1.3 times as much", said)
        self.assertIn("too few", eye_words(keen, Eye(), 14).words)

    def test_an_owner_is_told_in_plain_words(self) -> None:
        quiet = owner_words("gearbox", Level.ROUTINE, "normal wear")
        self.assertIn("Nothing to do", quiet)
        self.assertNotIn("normal wear", quiet)
        grave = owner_words("gearbox", Level.HOLD, "gear tooth")
        self.assertIn("must not be ridden", grave)
        self.assertIn("gear tooth", grave)
        for level in Level:
            said = owner_words("engine", level, "bearing").lower()
            for jargon in ("rule", "verdict", "chance", "index", "ferrous"):
                self.assertNotIn(jargon, said)

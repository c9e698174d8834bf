"""The growth filter against worked values, against every path written out, and against looking ahead."""

import random
from datetime import date, timedelta
from decimal import Decimal
from itertools import pairwise, product
from math import log10
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from oilward_core.debris import (
    ALARM,
    Category,
    Cohort,
    Eye,
    Form,
    Found,
    Level,
    Matter,
    Observation,
    Part,
    amount,
    category,
    chance_words,
    cohort_of,
    growing_words,
    growth,
    onset_rate,
    quarter_start,
    verdict,
)
from oilward_core.debris.growth import (
    ADDED,
    FIRST,
    FORMS,
    NODE_WEIGHTS,
    NODES,
    ONSET,
    WORSE,
    WORST,
    healthy_row,
)
from oilward_core.spec import ReservoirKind
from oilward_sim import World, cohort, shown_to
from scipy.stats import norm

START = date(2020, 1, 10)
LATER = date(2060, 1, 1)


def found(number: int, km: int = 8000, grader: str = "", **shares: str) -> Found:
    """A finding with these shares by form, one a year."""
    parts = tuple(
        Part(form=Form(f), matter=Matter.STEEL, share=Decimal(share)) for f, share in shares.items()
    )
    return Found(
        day=START + timedelta(days=365 * number),
        parts=parts,
        km_since_wiped=Decimal(km),
        grader=grader,
    )


def history(*findings: dict[str, str]) -> list[Found]:
    """One a year."""
    return [found(number, **shares) for number, shares in enumerate(findings)]


PASTE = {"paste": "0.20"}
FUZZ = {"fuzz": "0.10", "paste": "0.20"}
SLIVERS = {"slivers": "0.05", "fuzz": "0.15", "paste": "0.20"}
FLAKES = {"flakes": "0.05", "fuzz": "0.20"}
LONE = {"slivers": "0.05", "paste": "0.20"}


class GoldenTests(TestCase):
    """Values worked out elsewhere, to three places."""

    def said(self, *findings: dict[str, str]) -> list[tuple[float, float]]:
        """Raw and said after each finding."""
        return [
            (round(one.raw, 3), round(one.said, 3))
            for one in growth(history(*findings), Cohort(), LATER)
        ]

    def test_worked_histories(self) -> None:
        for findings, expected in (
            ([PASTE] * 8 + [SLIVERS], [(0.211, 0.206)]),
            (
                [PASTE] * 8 + [FUZZ] * 2 + [SLIVERS],
                [(0.022, 0.038), (0.056, 0.076), (0.619, 0.505)],
            ),
            ([PASTE] * 2 + [FLAKES], [(0.214, 0.208)]),
            ([SLIVERS], [(0.169, 0.173)]),
            ([PASTE] * 3 + [LONE, PASTE, PASTE], [(0.042, 0.061), (0.008, 0.018), (0.003, 0.008)]),
        ):
            with self.subTest(findings):
                self.assertEqual(self.said(*findings)[-len(expected) :], expected)

    def test_every_path_written_out_gives_the_same_chance(self) -> None:
        """The recursion against the sum over all paths of states, with scipy's normal."""
        findings = history(PASTE, FUZZ, SLIVERS, FLAKES)
        steps = (
            (1 - ONSET, ONSET, 0, 0),
            (0, 1 - WORSE, WORSE, 0),
            (0, 0, 1 - WORST, WORST),
            (0, 0, 0, 1),
        )
        row, at = healthy_row(Eye()), Cohort()
        healthy = faulty = 0.0
        for x, weight in zip(NODES, NODE_WEIGHTS, strict=True):
            mu = at.m + x * (at.tau**2 + at.v) ** 0.5
            for path in product(range(4), repeat=len(findings)):
                chance = weight * FIRST[path[0]]
                for before, after in pairwise(path):
                    chance *= steps[before][after]
                for state, one in zip(path, findings, strict=True):
                    u, shown = amount(one), category(one.parts)
                    assert u is not None
                    if state == 0:
                        likely = 0.88 * norm.pdf(u, mu, at.sigma) + 0.12 * norm.pdf(
                            u, mu + 0.15, 0.4
                        )
                        chance *= row[shown] * likely
                    else:
                        mean = log10(10**mu + 10 ** ADDED[state - 1])
                        likely = 0.88 * norm.pdf(u, mean, 0.24) + 0.12 * norm.pdf(u, mean, 0.5)
                        chance *= FORMS[state][shown] * likely
                if path[-1]:
                    faulty += chance
                else:
                    healthy += chance
        raw = growth(findings, at, LATER)[-1].raw
        self.assertAlmostEqual(raw, faulty / (faulty + healthy), 9)

    def test_the_table_of_forms_holds_chances(self) -> None:
        for row in (*FORMS, healthy_row(Eye(fuzz=5, slivers=0.4))):
            self.assertAlmostEqual(sum(row), 1, 2)


class FilterTests(TestCase):
    """What the filter may know, and what it looks at."""

    @settings(max_examples=25, deadline=None)
    @given(st.integers(0, 10**6), st.randoms(use_true_random=False))
    def test_it_never_looks_ahead_and_takes_them_in_any_order(
        self, seed: int, rng: random.Random
    ) -> None:
        one = cohort(seed, 1, World(faulty=0.8))[0]
        findings = [seen.found for seen in one.findings]
        whole = growth(findings, Cohort(), LATER)
        mixed = rng.sample(findings, len(findings))
        self.assertEqual(growth(mixed, Cohort(), LATER), whole)
        for day in {found.day for found in findings}:
            self.assertEqual(growth(mixed, Cohort(), day), tuple(g for g in whole if g.day <= day))
            self.assertEqual(
                growth(shown_to(one, day), Cohort(), LATER), growth(mixed, Cohort(), day)
            )

    def test_other_matter_is_other_rules_business(self) -> None:
        dust = Part(form=Form.FLAKES, matter=Matter.FRICTION, share=Decimal("0.3"))
        bright = Part(form=Form.SLIVERS, matter=Matter.ALUMINIUM, share=Decimal("0.1"))
        none = Part(form=Form.CHIPS, matter=Matter.STEEL, share=Decimal(0))
        counted = Part(form=Form.CHIPS, matter=Matter.STEEL, share=Decimal(0), count=1)
        self.assertEqual(category((dust, bright, none)), Category.PASTE)
        self.assertEqual(category((dust, counted)), Category.CHIPS)

    def test_an_amount_only_where_something_fine_was_written(self) -> None:
        self.assertIsNone(amount(found(0, flakes="0.05")))
        clean = amount(found(0))
        assert clean is not None
        self.assertAlmostEqual(clean, log10(0.005))
        short = amount(found(0, km=50, paste="0.02"))
        assert short is not None
        self.assertAlmostEqual(short, log10(0.1 + 0.005))  # 200 km at least

    def test_running_in_is_left_out_a_repair_starts_anew_and_a_baseline_forgets_the_level(
        self,
    ) -> None:
        grown = history(PASTE, FUZZ, SLIVERS, FLAKES)
        said = growth(grown, Cohort(), LATER)[-1].said
        self.assertGreater(said, ALARM)
        run_in = [
            Found(day=one.day, parts=one.parts, km_since_wiped=one.km_since_wiped, run_in=True)
            for one in grown
        ]
        self.assertEqual(growth(run_in, Cohort(), LATER), ())
        after = found(4, paste="0.20")
        for change in ({"repaired": True}, {"new_baseline": True}):
            mended = Found(
                day=after.day,
                parts=after.parts,
                km_since_wiped=after.km_since_wiped,
                grader="",
                **change,
            )  # type: ignore[arg-type]
            self.assertLess(growth([*grown, mended], Cohort(), LATER)[-1].said, 0.02)
        self.assertGreater(growth([*grown, after], Cohort(), LATER)[-1].said, 0.1)

    def test_a_grader_who_writes_fuzz_everywhere_frightens_nobody(self) -> None:
        findings = [found(n, grader="anxious", fuzz="0.10", paste="0.20") for n in range(4)]
        calm = Cohort(eyes={"anxious": Eye(fuzz=4.0)})
        self.assertLess(
            growth(findings, calm, LATER)[-1].said, growth(findings, Cohort(), LATER)[-1].said / 2
        )


class CohortTests(TestCase):
    """Empirical Bayes."""

    def test_nothing_known_is_the_prior(self) -> None:
        self.assertEqual(cohort_of({}, LATER), Cohort())
        self.assertEqual(
            cohort_of({"a": history(PASTE)}, START), Cohort()
        )  # not before the quarter
        self.assertEqual(quarter_start(date(2026, 11, 26)), date(2026, 10, 1))

    def test_rates_are_shrunk_first_to_the_table_then_to_the_workshop(self) -> None:
        """By hand: of 20 findings 10 fuzz, (10 + 80·0.155)/100 = 0.224; the one grader of 20,
        (10 + 40·0.224)/60 = 0.316, 2.039 times the table's 0.155."""
        findings = [found(n % 9, grader="oda", **(FUZZ if n % 2 else PASTE)) for n in range(20)]
        known = cohort_of({"a": findings[:10], "b": findings[10:]}, LATER)
        self.assertAlmostEqual(known.anybody.fuzz, 0.224 / 0.155, 6)
        self.assertAlmostEqual(known.eyes["oda"].fuzz, (10 + 40 * 0.224) / 60 / 0.155, 6)
        many = [found(0, grader="oda", **FUZZ)] * 2000
        self.assertEqual(cohort_of({"a": many}, LATER).eyes["oda"].fuzz, 5.0)  # held

    def test_it_finds_what_a_workshop_was_made_of(self) -> None:
        """120 bikes drawn with numpy; what is found is what numpy measures of the amounts drawn."""
        draw = np.random.default_rng(7)
        bikes = {}
        for bike, mu in enumerate(draw.normal(-1.5, 0.2, 120)):
            shares = 10 ** draw.normal(mu, 0.15, 10) * 8
            bikes[str(bike)] = [
                found(n, paste=f"{min(share, 1):.4f}") for n, share in enumerate(shares)
            ]
        amounts = np.array([[amount(one) for one in history] for history in bikes.values()], float)
        known = cohort_of(bikes, LATER)
        self.assertAlmostEqual(known.m, amounts.mean(), delta=0.03)
        self.assertAlmostEqual(known.tau, amounts.mean(axis=1).std(), delta=0.02)
        self.assertLess(known.sigma, amounts.std(axis=1).mean())  # outliers are allowed for
        self.assertAlmostEqual(known.v, known.tau**2 / 120, delta=0.0002)

    def test_a_grader_s_offset_is_shrunk(self) -> None:
        """Two graders on the same ten bikes, one writes 0.15 more in log10: shrunk by n/(n + 10)."""
        base = [found(n, grader="dim", paste="0.20") for n in range(5)]
        more = [found(n + 5, grader="keen", paste="0.28") for n in range(5)]
        known = cohort_of({str(bike): base + more for bike in range(10)}, LATER)
        apart = known.eyes["keen"].offset - known.eyes["dim"].offset
        self.assertGreater(apart, 0.1)
        self.assertLess(apart, log10(0.28 / 0.20))

    def test_the_onset_rate_is_learned_and_held(self) -> None:
        self.assertEqual(onset_rate(0, 0), 0.008)
        self.assertEqual(onset_rate(1, 75), 0.01)
        self.assertEqual((onset_rate(50, 100), onset_rate(0, 5000)), (0.02, 0.004))


class RaisedTests(TestCase):
    """D15: one level up, at most to investigate, never lower."""

    def seen(self, *parts: Part) -> Observation:
        """In a gearbox."""
        return Observation(
            reservoir=ReservoirKind.GEARBOX,
            parts=parts,
            oil=frozenset(),
            km_since_wiped=Decimal(8000),
            first_service=False,
        )

    def test_odds_of_one_to_two_raise_it_by_one(self) -> None:
        grown = growth(history(PASTE, FUZZ, SLIVERS, FLAKES), Cohort(), LATER)[-1]
        quiet = growth(history(PASTE, PASTE), Cohort(), LATER)[-1]
        fuzz = self.seen(Part(form=Form.FUZZ, matter=Matter.STEEL, share=Decimal("0.1")))
        slivers = self.seen(Part(form=Form.SLIVERS, matter=Matter.STEEL, share=Decimal("0.1")))
        chips = self.seen(Part(form=Form.FRAGMENTS, matter=Matter.STEEL, share=Decimal("0.1")))
        for observed, growing, level in (
            (fuzz, quiet, Level.NOTE),
            (fuzz, grown, Level.WATCH),
            (slivers, grown, Level.INVESTIGATE),
            (chips, grown, Level.HOLD),
        ):
            with self.subTest(observed.parts[0].form):
                judged = verdict(observed, growing)
                self.assertEqual(judged.level, level)
                raised = [rule for rule in judged.spoke if rule.rule == "D15"]
                self.assertEqual(bool(raised), growing is grown and level != Level.HOLD)

    def test_it_is_said_as_odds_with_its_two_reasons(self) -> None:
        grown = growth(history(PASTE, FUZZ, SLIVERS), Cohort(), LATER)[-1]
        said = growing_words(grown)
        self.assertRegex(said, r"^Odds .* that a fault is growing: what is seen is \d+ times")
        self.assertIn("its amount", said)
        for chance, words in ((0.004, "under 1 %"), (0.206, "21 %"), (0.999, "over 99 %")):
            self.assertEqual(chance_words(chance), words)
        coarse = growth([found(0, flakes="0.05")], Cohort(), LATER)[-1]
        self.assertNotIn("its amount", growing_words(coarse))

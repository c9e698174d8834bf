"""The chance beside the rules: what it calms, what it raises, what it is measured by, and its order."""

from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from oilward_core.debris import (
    ALARM,
    Cohort,
    Form,
    Growth,
    Level,
    Matter,
    Observation,
    OilLook,
    Part,
    cohort_of,
    growth,
    growth_next,
    learned,
    so_far,
    told_by,
    verdict,
)
from oilward_core.spec import ReservoirKind
from oilward_sim import cohort

from .test_growth import FLAKES, FUZZ, LATER, LONE, PASTE, SLIVERS, START, found, history

QUIET, LOUD = 0.24, 0.26


def part(form: Form, matter: Matter = Matter.STEEL, mm: str = "") -> Part:
    size = Decimal(mm) if mm else None
    return Part(form=form, matter=matter, share=Decimal("0.05"), largest_mm=size)


def seen(*parts: Part, where: ReservoirKind = ReservoirKind.GEARBOX, oil: str = "") -> Observation:
    return Observation(
        reservoir=where,
        parts=parts,
        oil=frozenset({OilLook(oil)} if oil else ()),
        km_since_wiped=Decimal(8000),
        first_service=False,
    )


def grown(said: float, before: int) -> Growth:
    return Growth(day=START, raw=said, said=said, form=2.0, amount=None, before=before)


class CalmTests(TestCase):
    """A piece or two mean less where three findings stand before and the chance is under 1 in 4."""

    def test_a_flake_or_a_bit_is_watched(self) -> None:
        drive = ReservoirKind.FINAL_DRIVE
        for observation in (
            seen(part(Form.FLAKES)),
            seen(part(Form.CHIPS, mm="1")),
            seen(part(Form.SLIVERS), where=drive),
            seen(part(Form.FLAKES), where=drive),
        ):
            for said, before, level in (
                (QUIET, 3, Level.WATCH),
                (QUIET, 2, Level.INVESTIGATE),
                (LOUD, 3, Level.INVESTIGATE),
                (LOUD, 0, Level.INVESTIGATE),
            ):
                with self.subTest(observation=observation, said=said, before=before):
                    self.assertEqual(verdict(observation, grown(said, before)).level, level)
            self.assertEqual(verdict(observation).level, Level.INVESTIGATE)

    def test_what_is_grave_stays_what_it_is(self) -> None:
        for observation, level in (
            (seen(part(Form.FRAGMENTS)), Level.HOLD),
            (seen(part(Form.CHIPS, mm="2")), Level.HOLD),
            (seen(part(Form.CHIPS)), Level.HOLD),
            (seen(part(Form.FLAKES, Matter.BRASS)), Level.HOLD),
            (seen(part(Form.FLAKES, Matter.ALUMINIUM)), Level.INVESTIGATE),
            (seen(oil="milky"), Level.INVESTIGATE),
            (seen(oil="milky", where=ReservoirKind.ENGINE), Level.HOLD),
            (seen(oil="fuel smell"), Level.INVESTIGATE),
        ):
            with self.subTest(observation=observation):
                self.assertEqual(verdict(observation, grown(0.001, 20)).level, level)

    def test_it_speaks_from_one_in_four(self) -> None:
        slivers = seen(part(Form.SLIVERS))
        self.assertEqual(ALARM, 0.25)
        for said, level in (
            (0.249, Level.WATCH),
            (0.25, Level.INVESTIGATE),
            (0.9, Level.INVESTIGATE),
        ):
            self.assertEqual(verdict(slivers, grown(said, 5)).level, level)

    def test_findings_that_stand_before_are_counted_from_the_last_new_beginning(self) -> None:
        run_in = replace(found(0, paste="0.2"), run_in=True)
        three = [run_in, found(1, **PASTE), found(2, **PASTE)]
        self.assertEqual(growth([*three, found(3, **FLAKES)], Cohort(), LATER)[-1].before, 3)
        engine = replace(found(3, **FLAKES), new_baseline=True)
        self.assertEqual(growth([*three, engine], Cohort(), LATER)[-1].before, 0)


class NextTests(TestCase):
    """What the bench knows of what was before gives the chance that is signed."""

    def test_one_more_finding_is_judged_as_with_all_before(self) -> None:
        for number in range(12):
            for one in cohort(number, 4):
                all_of = [each.found for each in one.findings]
                for cut in range(1, len(all_of)):
                    whole = growth(all_of[: cut + 1], Cohort(), LATER)
                    begun = so_far(all_of[:cut], Cohort(), LATER)
                    now = growth_next(begun, replace(all_of[cut], nth=cut))
                    if all_of[cut].run_in:
                        self.assertIsNone(now)
                    else:
                        self.assertEqual(now, whole[-1])

    def test_a_repair_and_a_new_engine_since_count_with_the_next(self) -> None:
        before, last = history(PASTE, FUZZ, SLIVERS), found(3, **FUZZ)
        for flag in ("repaired", "new_baseline"):
            begun = so_far(before, Cohort(), LATER, **{flag: True})
            whole = growth([*before, replace(last, **{flag: True})], Cohort(), LATER)
            self.assertEqual(growth_next(begun, last), whole[-1], flag)
        kept = replace(found(3, **FUZZ), run_in=True, repaired=True)
        self.assertTrue(so_far([*before, kept], Cohort(), LATER).repaired)


class OrderTests(TestCase):
    def test_two_findings_of_one_day_keep_the_order_of_writing(self) -> None:
        day = START + timedelta(days=700)
        first = replace(found(2, **SLIVERS), day=day, nth=0, km_since_wiped=Decimal(8000))
        second = replace(
            found(2, **PASTE), day=day, nth=1, km_since_wiped=Decimal(200), repaired=True
        )
        before = history(PASTE, FUZZ)
        said = growth([*before, second, first], Cohort(), LATER)
        self.assertEqual(said, growth([*before, first, second], Cohort(), LATER))
        self.assertGreater(said[-2].said, 0.25)  # the slivers; then, put right, nothing of them
        self.assertLess(said[-1].said, 0.05)


class CleanTests(TestCase):
    """A magnet cleaner than usual is no sign of a fault."""

    def test_clean_magnets_in_a_row_say_nothing(self) -> None:
        for level in (-1.9, -1.68, -1.2):
            said = growth(history(*[{}] * 8), Cohort(m=level), LATER)
            self.assertLess(max(one.said for one in said), 0.02, level)
        above = growth(history(*[PASTE] * 5, *[{}] * 6), Cohort(), LATER)
        self.assertLess(max(one.said for one in above), 0.02)

    def test_below_its_level_no_amount_makes_a_fault_likelier(self) -> None:
        clean = growth(history(*[PASTE] * 4, {}), Cohort(m=-1.0, v=0.001, tau=0.05), LATER)[-1]
        assert clean.amount is not None
        self.assertLessEqual(clean.amount, 1.0)


class CohortTests(TestCase):
    """Nobody is measured by himself."""

    def setUp(self) -> None:
        self.all = {one.key: [each.found for each in one.findings] for one in cohort(7, 12)}

    def test_a_reservoir_s_own_findings_do_not_teach_it(self) -> None:
        day = date(2040, 1, 1)
        for key in self.all:
            others = {other: of for other, of in self.all.items() if other != key}
            self.assertEqual(cohort_of(self.all, day, without=key), cohort_of(others, day))
        self.assertEqual(cohort_of({"a": self.all["7/0"]}, day, without="a"), Cohort())

    def test_told_once_it_is_the_same(self) -> None:
        day = date(2021, 5, 1)
        told = told_by(self.all, day)
        self.assertEqual(
            learned(told, {}, 0.008, "7/3"), cohort_of(self.all, day, 0.008, {}, "7/3")
        )


class SpecksTests(TestCase):
    """Bright points of steel count as fuzz."""

    def test_the_chance_takes_them_for_fuzz(self) -> None:
        specks = {"specks": "0.10", "paste": "0.20"}
        for before in ([PASTE] * 3, [FUZZ, PASTE, LONE]):
            with_fuzz = growth(history(*before, FUZZ), Cohort(), LATER)
            self.assertEqual(growth(history(*before, specks), Cohort(), LATER), with_fuzz)


class LongTests(TestCase):
    def test_three_hundred_grave_findings_give_a_chance(self) -> None:
        grave = [{"fragments": "0.3", "flakes": "0.3", "fuzz": "0.4"}] * 300
        said = growth(history(*grave), Cohort(), date(2400, 1, 1))
        self.assertEqual(len(said), 300)
        self.assertGreater(said[-1].said, 0.95)
        calm = growth(history(*grave, *[{}] * 300), Cohort(), date(2700, 1, 1))
        self.assertEqual(len(calm), 600)

    @settings(max_examples=60)
    @given(
        st.lists(
            st.dictionaries(
                st.sampled_from([str(f) for f in Form]), st.sampled_from(["0.05", "0.9"])
            ),
            min_size=1,
            max_size=80,
        )
    )
    def test_whatever_comes_it_is_a_chance(self, findings: list[dict[str, str]]) -> None:
        for one in growth(history(*findings), Cohort(), date(2300, 1, 1)):
            self.assertTrue(0 <= one.said <= 1 and 0 <= one.raw <= 1)
            self.assertTrue(0 <= one.form <= 1e6)

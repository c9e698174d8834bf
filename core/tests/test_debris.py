"""Every rule with a case that fires and one that does not. Common practice, no source."""

from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import NamedTuple
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.debris import (
    Form,
    Level,
    Matter,
    Observation,
    OilLook,
    Part,
    Place,
    running_in,
    verdict,
    wear_index,
)
from oilward_core.due import DueLimits, Meter
from oilward_core.errors import CoreError
from oilward_core.spec import ReservoirKind as R


def part(
    form: Form,
    matter: Matter = Matter.STEEL,
    share: str = "0.1",
    largest: str | None = None,
    count: int | None = None,
    magnetic: bool | None = None,
) -> Part:
    """A part with usual values."""
    size = None if largest is None else Decimal(largest)
    return Part(
        form=form,
        matter=matter,
        share=Decimal(share),
        largest_mm=size,
        count=count,
        magnetic=magnetic,
    )


def seen(
    *parts: Part,
    where: R = R.ENGINE,
    first: bool = False,
    oil: tuple[OilLook, ...] = (),
    **more: bool,
) -> Observation:
    """An observation 8000 km after the last wipe."""
    return Observation(
        reservoir=where,
        parts=parts,
        oil=frozenset(oil),
        km_since_wiped=Decimal(8000),
        first_service=first,
        **more,
    )


class Case(NamedTuple):
    """A rule, an observation, and the level the rule gives (None: it stays silent)."""

    rule: str
    observation: Observation
    level: Level | None


F, M, L = Form, Matter, Level
BRIGHT = part(F.FLAKES, M.ALUMINIUM)
IN_PAN = replace(part(F.CHIPS), place=Place.PAN)
CASES = (
    Case("D1", seen(), L.ROUTINE),
    Case("D1", seen(part(F.PASTE, share="0.5")), L.ROUTINE),
    Case("D1", seen(part(F.PASTE, share="0.51")), None),
    Case("D1", seen(part(F.FUZZ)), None),
    Case("D2", seen(part(F.PASTE, share="0.6")), L.NOTE),
    Case("D2", seen(part(F.FUZZ), where=R.GEARBOX), L.NOTE),
    Case("D2", seen(part(F.FUZZ), where=R.GEARBOX, fine_last_time=True), L.WATCH),
    Case("D2", seen(part(F.PASTE, share="0.6"), where=R.GEARBOX, fine_last_time=True), L.WATCH),
    Case("D2", seen(part(F.FUZZ), fine_last_time=True), L.NOTE),  # an engine's is not so sure
    Case("D2", seen(part(F.FUZZ), where=R.PRIMARY), L.NOTE),
    Case("D2", seen(part(F.PASTE, share="0.9"), where=R.FINAL_DRIVE), None),
    Case("D2", seen(part(F.FUZZ), where=R.FINAL_DRIVE), L.NOTE),
    Case("D2", seen(part(F.FUZZ), where=R.FINAL_DRIVE, fine_last_time=True), L.WATCH),
    Case("D2", seen(part(F.PASTE, share="0.4")), None),
    Case("D3", seen(part(F.SLIVERS, largest="1"), first=True), L.ROUTINE),
    Case("D3", seen(part(F.SLIVERS, largest="1.5"), first=True), None),
    Case("D3", seen(part(F.FUZZ)), None),
    Case("D4", seen(part(F.SLIVERS)), L.WATCH),
    Case("D4", seen(part(F.SLIVERS, largest="0.5"), first=True), None),
    Case("D5", seen(part(F.FLAKES)), L.INVESTIGATE),
    Case("D5", seen(part(F.FLAKES), first=True), L.WATCH),
    Case("D5", seen(part(F.FLAKES, M.RUBBER)), None),
    Case("D6", seen(part(F.CHIPS, largest="2")), L.HOLD),
    Case("D6", seen(part(F.CHIPS)), L.HOLD),
    Case("D6", seen(part(F.CHIPS, largest="1.9")), L.INVESTIGATE),
    Case("D6", seen(part(F.FRAGMENTS, M.ALUMINIUM)), L.HOLD),
    Case("D6", seen(part(F.FRAGMENTS, M.RUBBER)), None),
    Case("D7", seen(part(F.SLIVERS, M.ALUMINIUM, count=5)), L.NOTE),
    Case("D7", seen(part(F.SLIVERS, M.ALUMINIUM, count=6)), L.WATCH),
    Case("D7", seen(part(F.FLAKES, M.ALUMINIUM)), L.INVESTIGATE),
    Case("D7", seen(part(F.SLIVERS, M.UNKNOWN, magnetic=False, share="0.01")), L.NOTE),
    Case("D7", seen(part(F.SLIVERS, M.UNKNOWN, magnetic=True)), None),
    Case("D8", seen(part(F.FUZZ, M.BRASS)), L.INVESTIGATE),
    Case("D8", seen(part(F.FLAKES, M.BRONZE)), L.HOLD),
    Case("D8", seen(part(F.FLAKES, M.STEEL)), None),
    Case("D9", seen(part(F.PASTE, M.FRICTION, "1"), where=R.PRIMARY), L.ROUTINE),
    Case("D9", seen(part(F.SLIVERS, M.FRICTION), where=R.PRIMARY), L.WATCH),
    Case("D9", seen(part(F.PASTE, M.FRICTION, "1")), None),
    Case("D9", seen(part(F.PASTE, M.FRICTION, "0.5"), wet_clutch=True), L.ROUTINE),
    Case("D9", seen(part(F.PASTE, M.FRICTION, "0.6"), wet_clutch=True), L.WATCH),
    Case("D4", seen(part(F.SLIVERS), where=R.PRIMARY), L.WATCH),  # chain, tensioner, compensator
    Case("D10", seen(part(F.FLAKES), where=R.FINAL_DRIVE), L.INVESTIGATE),
    Case("D10", seen(part(F.PASTE, share="1"), where=R.FINAL_DRIVE), L.ROUTINE),
    Case("D10", seen(part(F.PASTE, share="0.5"), where=R.FINAL_DRIVE), None),
    Case("D10", seen(part(F.SLIVERS), where=R.FINAL_DRIVE), L.INVESTIGATE),
    Case("D11", seen(oil=(OilLook.MILKY,)), L.HOLD),
    Case("D11", seen(oil=(OilLook.MILKY,), where=R.GEARBOX), L.INVESTIGATE),
    Case("D11", seen(oil=(OilLook.DARK,)), None),
    Case("D12", seen(oil=(OilLook.FUEL,)), L.INVESTIGATE),
    Case("D12", seen(oil=(OilLook.BURNT,)), L.WATCH),
    Case("D12", seen(oil=(OilLook.BURNT, OilLook.SPARKLE)), L.INVESTIGATE),
    Case("D12", seen(oil=(OilLook.CLEAR,)), None),
    Case("D13", seen(part(F.FRAGMENTS, M.SEALANT)), L.WATCH),
    Case("D13", seen(part(F.PASTE)), None),
    Case("D4", seen(part(F.SLIVERS), where=R.GEARBOX, dipstick_flakes=True), L.NOTE),
    Case("D14", seen(part(F.SLIVERS), where=R.GEARBOX, dipstick_flakes=True), L.NOTE),
    Case("D7", seen(BRIGHT, where=R.GEARBOX, dipstick_flakes=True), L.WATCH),
    Case("D7", seen(BRIGHT, where=R.GEARBOX, dipstick_flakes=True, excused=True), L.INVESTIGATE),
    Case("D14", seen(BRIGHT, where=R.GEARBOX, dipstick_flakes=True, excused=True), None),
    Case("D14", seen(part(F.SLIVERS), where=R.ENGINE, dipstick_flakes=True), None),
    Case("D5", seen(part(F.FLAKES), where=R.GEARBOX, dipstick_flakes=True), L.INVESTIGATE),
    Case("D16", seen(IN_PAN, pan_clean=False), L.NOTE),
    Case("D6", seen(IN_PAN, pan_clean=False), L.HOLD),
    Case("D6", seen(replace(IN_PAN, form=F.FRAGMENTS), pan_clean=False), L.HOLD),
    Case("D5", seen(replace(IN_PAN, form=F.FLAKES), pan_clean=False), L.WATCH),
    Case("D6", seen(IN_PAN, pan_clean=True), L.HOLD),
    Case("D6", seen(IN_PAN), L.HOLD),  # nobody said: the safe side
    Case("D6", seen(part(F.CHIPS), IN_PAN, pan_clean=False), L.HOLD),  # the plug stands
    Case("D16", seen(part(F.CHIPS), pan_clean=False), None),
    Case("D11", seen(oil=(OilLook.MILKY,), pan_clean=False), L.HOLD),
    Case("D12", seen(oil=(OilLook.FUEL,), pan_clean=False), L.WATCH),
    Case("D1", seen(part(F.SPECKS)), None),
    Case("D2", seen(part(F.SPECKS)), L.NOTE),
    Case("D2", seen(part(F.SPECKS), where=R.GEARBOX, fine_last_time=True), L.WATCH),
    Case("D3", seen(part(F.SPECKS), first=True), L.ROUTINE),
    Case("D4", seen(part(F.SPECKS)), None),
    Case("D7", seen(part(F.SPECKS, M.ALUMINIUM, count=5)), L.NOTE),
    Case("D7", seen(part(F.SPECKS, M.ALUMINIUM, count=6)), L.WATCH),
    Case("D8", seen(part(F.SPECKS, M.BRASS)), L.INVESTIGATE),
    Case("D9", seen(part(F.SPECKS, M.FRICTION), where=R.PRIMARY), L.ROUTINE),
)


class RuleTests(TestCase):
    """One rule at a time."""

    def test_cases(self) -> None:
        for number, case in enumerate(CASES):
            with self.subTest(rule=case.rule, number=number):
                spoke = {rule.rule: rule.level for rule in verdict(case.observation).spoke}
                self.assertEqual(spoke.get(case.rule), case.level)

    def test_it_says_where_it_comes_from(self) -> None:
        chain, overlay = "chain, tensioner or compensator", "bearing overlay or piston"
        for observation, origin in (
            (seen(part(F.FLAKES, M.ALUMINIUM)), overlay),
            (seen(part(F.CHIPS, M.ALUMINIUM)), overlay),
            (seen(part(F.SPECKS, M.ALUMINIUM, count=3)), "casting flash, clutch plates"),
            (seen(part(F.CHIPS, largest="3"), where=R.PRIMARY), chain),
            (seen(part(F.FRAGMENTS), where=R.PRIMARY), chain),
            (seen(part(F.FLAKES), where=R.PRIMARY), chain),
            (seen(part(F.SLIVERS), where=R.PRIMARY), chain),
            (seen(part(F.FUZZ), where=R.PRIMARY), chain),
            (seen(part(F.CHIPS, largest="3"), where=R.GEARBOX), "gear tooth"),
            (seen(part(F.PASTE, share="0.9"), where=R.FINAL_DRIVE), "normal wear"),
        ):
            with self.subTest(observation=observation):
                self.assertEqual(verdict(observation).origin, origin)

    def test_fuel_and_sparkle_are_both_said(self) -> None:
        looks = (OilLook.FUEL, OilLook.SPARKLE, OilLook.BURNT)
        (spoke,) = [one for one in verdict(seen(oil=looks)).spoke if one.rule == "D12"]
        for sign in ("Fuel smell.", "Sparkle in the light.", "Burnt smell."):
            self.assertIn(sign, spoke.text)
        self.assertIn("fuel past the rings", spoke.origin)
        self.assertIn("fine metal", spoke.origin)
        self.assertEqual(spoke.level, Level.INVESTIGATE)

    def test_highest_rule_wins_and_all_are_kept(self) -> None:
        answer = verdict(seen(part(F.PASTE, share="0.4"), part(F.FLAKES, M.BRONZE, "0.05")))
        self.assertEqual((answer.level, answer.origin), (Level.HOLD, "bearing"))
        self.assertIn("Do not run", answer.action)
        answer = verdict(seen(part(F.FUZZ), part(F.SLIVERS)))
        self.assertEqual({rule.rule for rule in answer.spoke}, {"D2", "D4"})

    def test_grey_paste_frightens_nobody(self) -> None:
        for where in (R.ENGINE, R.PRIMARY, R.GEARBOX, R.FINAL_DRIVE):
            with self.subTest(where):
                answer = verdict(seen(part(F.PASTE, share="0.3"), where=where))
                self.assertEqual(answer.level, Level.ROUTINE)

    @given(
        st.lists(
            st.builds(
                part,
                st.sampled_from(Form),
                st.sampled_from(Matter),
                st.sampled_from(["0", "0.2", "1"]),
                st.sampled_from([None, "0.5", "3"]),
                st.sampled_from([None, 2, 20]),
                st.sampled_from([None, True, False]),
            ),
            max_size=4,
        ),
        st.sampled_from([R.ENGINE, R.PRIMARY, R.GEARBOX, R.FINAL_DRIVE]),
        st.sampled_from([Form.FLAKES, Form.FRAGMENTS]),
    )
    def test_more_debris_never_lowers_a_verdict(
        self, parts: list[Part], where: R, extra: Form
    ) -> None:
        before = verdict(seen(*parts, where=where))
        after = verdict(seen(*parts, part(extra), where=where))
        loudest_kept = before.level if before.spoke else Level.ROUTINE
        self.assertGreaterEqual(after.level, min(loudest_kept, after.level))
        self.assertGreaterEqual(after.level, Level.INVESTIGATE)
        if before.spoke and all(rule.rule != "D1" for rule in before.spoke):
            self.assertGreaterEqual(after.level, before.level)


class RunningInTests(TestCase):
    """Below 1500 km, or at a first service within the sheet's first interval from new."""

    def test_cases(self) -> None:
        new, first = Meter(date(2026, 1, 1), Decimal(0)), DueLimits(first_km=Decimal(1800))
        by_time, none = DueLimits(first_months=3), DueLimits(repeat_km=Decimal(8000))
        for km, since, limits, served, expected in (
            (980, new, first, False, True),
            (980, new, none, True, True),
            (1700, new, first, False, True),
            (1700, new, first, True, False),
            (1900, new, first, False, False),
            (1700, None, first, False, False),
            (1700, new, none, False, False),
            (1700, new, by_time, False, True),
            # new, and with nothing on record: no longer excused by that alone
            (20_060, new, first, False, False),
            (20_060, new, none, False, False),
            (40_000, None, none, False, False),
        ):
            with self.subTest(km=km, served=served):
                now = Meter(date(2026, 3, 1), Decimal(km))
                self.assertEqual(running_in(now, since, limits, served), expected)
        late = Meter(date(2026, 6, 1), Decimal(1700))
        self.assertFalse(running_in(late, new, by_time))


class WearTests(TestCase):
    """W = Σ share·w(form) / max(km, 200)·1000, worked by hand."""

    def test_by_matter(self) -> None:
        parts = [part(F.PASTE, share="0.4"), part(F.FLAKES, share="0.1"), part(F.FUZZ, M.BRASS)]
        wear = wear_index(parts, Decimal(8000))
        self.assertEqual(wear[M.STEEL], Decimal("0.425"))  # (0.4 + 3)/8
        self.assertEqual(wear[M.BRASS], Decimal("0.038"))  # 0.3/8

    def test_short_distances_count_as_200_km(self) -> None:
        self.assertEqual(wear_index([part(F.PASTE)], Decimal(20))[M.STEEL], Decimal("0.500"))

    def test_share_stays_within_the_face(self) -> None:
        for share in ("1.4", "-0.1"):
            with self.subTest(share), self.assertRaises(CoreError) as caught:
                part(F.PASTE, share=share)
            self.assertEqual(caught.exception.code, "finding.share")

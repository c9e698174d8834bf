"""A look renews nothing: what it says was done, how grave that is, what ends it, and what is due."""

from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from oilward_core.ageing import said_on
from oilward_core.codes.options import MARK_LOOKS, SHOCK_LOOKS, Did, Look
from oilward_core.debris import (
    DID,
    Level,
    Outcome,
    Rule,
    asks_on,
    closed_by_look,
    leads_answer,
    look_outcomes,
    look_verdict,
)
from oilward_core.due import DueLimits, DueState, Meter
from oilward_core.schools import Schools
from oilward_core.spec import KINDS, FillRule, ReservoirKind, doubts, fields_for
from oilward_core.standing import LastDone, Running, running, standing

from .clerk import ENGINE

TODAY = date(2026, 3, 1)
BRAKE, CLUTCH = ReservoirKind.FRONT_BRAKE, ReservoirKind.CLUTCH_FLUID
COOLANT, SHOCK = ReservoirKind.COOLANT, ReservoirKind.SHOCK
CHANGE = DueLimits(repeat_months=24)
SPEC = replace(ENGINE, key="front brake", kind=BRAKE, limits=CHANGE, fill_rule=FillRule.WATCH)
BY_LEAD = (Outcome.NOTHING, Outcome.FAULT, Outcome.LIFTED, Outcome.HANDED_BACK)


def ago(days: int) -> Meter:
    return Meter(TODAY - timedelta(days=days), Decimal(10_000 - days))


def bike(today: date = TODAY) -> Running:
    new = Meter(TODAY - timedelta(days=2000), Decimal(0))
    read = Meter(TODAY, Decimal(10_000))
    return running([new, read], today, "mixed", "km", Decimal(1), new)


def rule_of(kind: ReservoirKind, look: Look, low_last: bool = False) -> Rule | None:
    found = look_verdict(kind, look, low_last)
    return found.spoke[0].rule if found else None


class VerdictTests(TestCase):
    def test_each_answer_is_as_grave_as_it_is_and_closed_by_what_ends_it(self) -> None:
        found = (Outcome.NOTHING, Outcome.FAULT)
        for kind, look, low_last, level, closes in (
            (BRAKE, Look.LOW_LEFT, False, Level.HOLD, BY_LEAD),
            (CLUTCH, Look.LOW_LEFT, True, Level.HOLD, BY_LEAD),
            (BRAKE, Look.TOPPED_UP, False, Level.INVESTIGATE, found),
            (CLUTCH, Look.TOPPED_UP, True, Level.INVESTIGATE, found),
            (BRAKE, Look.ABOVE, False, Level.NOTE, ()),
            (COOLANT, Look.ABOVE, False, Level.NOTE, ()),
            (COOLANT, Look.TOPPED_UP, False, Level.NOTE, ()),
            (COOLANT, Look.TOPPED_UP, True, Level.INVESTIGATE, found),
            (COOLANT, Look.LOW_LEFT, False, Level.INVESTIGATE, (Outcome.TOPPED_UP,)),
            (SHOCK, Look.OILY, False, Level.INVESTIGATE, (Outcome.HANDED_OUT, Outcome.LIFTED)),
            (
                SHOCK,
                Look.SOFT,
                False,
                Level.HOLD,
                (Outcome.HANDED_OUT, Outcome.LIFTED, Outcome.HANDED_BACK),
            ),
        ):
            with self.subTest(kind=kind, look=look, low_last=low_last):
                judged = look_verdict(kind, look, low_last)
                assert judged is not None
                self.assertEqual(judged.level, level)
                self.assertTrue(judged.action and judged.origin and judged.reasons)
                self.assertEqual(look_outcomes(judged.spoke[0].rule, level), closes)

    def test_what_is_fine_or_was_not_seen_asks_for_nothing(self) -> None:
        for kind in KINDS:
            for look in (Look.BETWEEN, Look.FIRM, Look.UNSEEN):
                self.assertIsNone(look_verdict(kind, look))

    def test_every_look_says_what_was_done(self) -> None:
        felt = {Look.LOOSE, Look.GAS_OFF}  # measured, never tapped
        self.assertEqual(set(DID), set(SHOCK_LOOKS) | set(MARK_LOOKS) | felt)
        self.assertNotIn(Did.CHANGED, DID.values())
        self.assertEqual(DID[Look.UNSEEN], Did.UNSEEN)

    def test_a_lead_lifts_and_anybody_hands_out(self) -> None:
        for outcome, level, leads in (
            (Outcome.HANDED_OUT, Level.HOLD, False),
            (Outcome.HANDED_OUT, Level.INVESTIGATE, False),
            (Outcome.LIFTED, Level.INVESTIGATE, True),
            (Outcome.LIFTED, Level.HOLD, True),
            (Outcome.FAULT, Level.HOLD, True),
            (Outcome.NOTHING, Level.INVESTIGATE, False),
            (Outcome.TOPPED_UP, Level.INVESTIGATE, False),
        ):
            with self.subTest(outcome=outcome, level=level):
                self.assertEqual(leads_answer(outcome, level), leads)

    def test_what_ends_it_ends_it(self) -> None:
        for outcome in Outcome:
            ends = outcome != Outcome.HANDED_BACK
            self.assertEqual(asks_on(Level.HOLD, [outcome]), not ends, outcome)

    def test_a_coolant_that_was_left_low_is_closed_by_topping_up_alone(self) -> None:
        for look, closed in (
            (Look.TOPPED_UP, Outcome.TOPPED_UP),
            (Look.BETWEEN, Outcome.TOPPED_UP),
            (Look.UNSEEN, None),
            (Look.LOW_LEFT, None),
        ):
            self.assertEqual(closed_by_look(Rule.COOLANT_LEFT, look), closed, look)
            for rule in (Rule.LOW_LEFT, Rule.LOW_TOPPED_UP, Rule.DAMPING_GONE, Rule.CHIPS):
                self.assertIsNone(closed_by_look(rule, look))

    def test_a_milder_level_asks_for_nothing_a_graver_one_for_a_lead(self) -> None:
        self.assertEqual(look_outcomes(Rule.LOW_LEFT, Level.NOTE), ())
        self.assertEqual(look_outcomes(Rule.ABOVE, Level.HOLD), BY_LEAD)


class DueTests(TestCase):
    def test_a_look_does_not_make_an_overdue_change_younger(self) -> None:
        last = LastDone(ago(760))
        before = standing(SPEC, bike(), Schools(), last, ())
        for looked in (None, ago(30), ago(0)):
            after = standing(SPEC, bike(), Schools(), last, (), looked=looked)
            self.assertEqual(
                (after.due, after.age, after.level, after.when),
                (before.due, before.age, before.level, before.when),
            )
        self.assertEqual(before.due.state, DueState.DUE)

    @settings(max_examples=200)
    @given(
        st.integers(0, 1500),
        st.none() | st.integers(0, 1500),
        st.none() | st.integers(1, 24),
        st.sampled_from(sorted(KINDS)),
    )
    def test_no_look_moves_a_changes_due_date(
        self, changed: int, looked: int | None, months: int | None, kind: ReservoirKind
    ) -> None:
        spec = replace(SPEC, kind=kind, looks=DueLimits(repeat_months=months))
        last, seen = LastDone(ago(changed)), None if looked is None else ago(looked)
        alone = standing(replace(SPEC, kind=kind), bike(), Schools(), last, ())
        found = standing(spec, bike(), Schools(), last, (), looked=seen)
        self.assertEqual(found.age, alone.age)
        if found.clock.look:
            self.assertLess(found.due.left, max(alone.due.left, Decimal("0.001")))
            told = [one.text for one in found.reasons if one.rule == "then change"]
            self.assertTrue(told, found.reasons)
        else:
            self.assertEqual(found.due, alone.due)

    def test_the_look_has_an_interval_of_its_own(self) -> None:
        spec = replace(SPEC, looks=DueLimits(repeat_months=6))
        for looked, state in (
            (ago(10), DueState.FINE),
            (ago(170), DueState.SOON),
            (ago(200), DueState.DUE),
        ):
            found = standing(spec, bike(), Schools(), LastDone(ago(30)), (), looked=looked)
            with self.subTest(state=state):
                self.assertEqual(found.due.state, state)
                self.assertEqual(found.clock.look, state != DueState.FINE or found.clock.look)
        self.assertEqual(found.when, "look 16 days over")

    def test_a_change_that_has_to_be_done_goes_before_a_look(self) -> None:
        spec = replace(SPEC, looks=DueLimits(repeat_months=1))
        found = standing(spec, bike(), Schools(), LastDone(ago(800)), (), looked=ago(300))
        self.assertFalse(found.clock.look)
        self.assertIn("A look is due on", " ".join(one.text for one in found.reasons))

    def test_nobody_knows_of_a_look(self) -> None:
        spec = replace(SPEC, looks=DueLimits(repeat_months=6))
        unknown = replace(bike(), new=None)
        found = standing(spec, unknown, Schools(), LastDone(ago(30)), ())
        self.assertEqual((found.due.state, found.clock.look), (DueState.BASELINE, True))
        self.assertIn("No record of a look", found.reasons[0].text)

    @settings(max_examples=200)
    @given(st.integers(0, 900), st.integers(0, 900), st.integers(1, 30), st.integers(1, 200))
    def test_kept_it_is_said_on_a_later_day_as_it_is_then(
        self, changed: int, looked: int, months: int, later: int
    ) -> None:
        spec = replace(SPEC, looks=DueLimits(repeat_months=months))

        def at(day: date) -> object:
            return standing(
                spec, bike(day), Schools(), LastDone(ago(changed)), (), looked=ago(looked)
            )

        kept, day = at(TODAY), TODAY + timedelta(days=later)
        changes = [one for one in (kept.turns_on,) if one]  # type: ignore[attr-defined]
        if any(one <= day for one in changes):
            return
        then, said = at(day), said_on(kept.clock, day, kept.when)  # type: ignore[attr-defined]
        self.assertEqual((said.left, said.when), (then.due.left, then.when))  # type: ignore[attr-defined]
        self.assertEqual(float(said.age), then.age)  # type: ignore[attr-defined]


class SheetTests(TestCase):
    def test_what_is_looked_at_has_a_look_interval(self) -> None:
        for kind, facts in KINDS.items():
            names = {field.name for field in fields_for(kind, None)}
            self.assertEqual({"look.km", "look.months"} <= names, facts.looked_at, kind)

    def test_swapped_intervals_are_doubted(self) -> None:
        spec = replace(SPEC, looks=DueLimits(repeat_months=36))
        found = [one for one in doubts([spec], 900) if one.place == "/look.months"]
        self.assertEqual(len(found), 1)

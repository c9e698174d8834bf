"""What would change a verdict, a second pair of eyes, and a plug that asks to be looked at sooner."""

from dataclasses import replace
from datetime import date
from decimal import Decimal
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.bench import check_regrade, gradings, may_regrade
from oilward_core.debris import (
    Form,
    Found,
    Level,
    Matter,
    Observation,
    OilLook,
    Outcome,
    Part,
    Place,
    cohort_of,
    verdict,
    watched,
    would_change,
)
from oilward_core.due import DueLimits, Meter, due
from oilward_core.errors import CoreError
from oilward_core.spec import ReservoirKind

from .clerk import PASTE, TASK, Clerk

D = Decimal
PARTS = st.builds(
    Part,
    form=st.sampled_from(Form),
    matter=st.sampled_from(Matter),
    share=st.sampled_from([D("0.05"), D("0.3")]),
    largest_mm=st.sampled_from([None, D("0.5"), D(3)]),
    count=st.none(),
    magnetic=st.sampled_from([None, True, False]),
    place=st.sampled_from([Place.PLUG, Place.PAN]),
)


def seen(*parts: Part, kind: ReservoirKind = ReservoirKind.GEARBOX, **more: object) -> Observation:
    return Observation(
        reservoir=kind,
        parts=parts,
        oil=frozenset(),
        km_since_wiped=D(8000),
        first_service=False,
        **more,
    )  # type: ignore[arg-type]


class OtherwiseTests(TestCase):
    def said(self, observation: Observation) -> dict[str, Level]:
        return {one.when: one.level for one in would_change(observation)}

    def test_each_thing_not_yet_known_with_the_level_it_would_give(self) -> None:
        chip = Part(form=Form.CHIPS, matter=Matter.STEEL, share=D("0.05"))
        self.assertEqual(self.said(seen(chip))["If no chip is 2 mm or longer"], Level.INVESTIGATE)
        slivers = Part(form=Form.SLIVERS, matter=Matter.STEEL, share=D("0.05"))
        self.assertEqual(self.said(seen(slivers))["If a magnet ignores the slivers"], Level.NOTE)
        self.assertEqual(self.said(seen(slivers))["If the dipstick's plating flakes"], Level.NOTE)
        milky = Observation(
            reservoir=ReservoirKind.ENGINE,
            parts=(),
            oil=frozenset({OilLook.MILKY}),
            km_since_wiped=D(8000),
            first_service=False,
        )
        self.assertEqual(self.said(milky)["If no drop crackles on a hot plate"], Level.ROUTINE)
        smells = replace(milky, oil=frozenset({OilLook.FUEL}))
        self.assertEqual(self.said(smells)["If the pan was not clean before"], Level.WATCH)

    def test_what_is_known_is_not_asked_again(self) -> None:
        tried = Part(form=Form.SLIVERS, matter=Matter.STEEL, share=D("0.05"), magnetic=True)
        self.assertFalse([when for when in self.said(seen(tried)) if "magnet" in when])
        self.assertEqual(
            would_change(seen(Part(form=Form.PASTE, matter=Matter.STEEL, share=D("0.2")))), ()
        )

    @given(st.lists(PARTS, max_size=3), st.sampled_from(ReservoirKind))
    def test_only_what_changes_it_is_named(self, parts: list[Part], kind: ReservoirKind) -> None:
        observation = seen(*parts, kind=kind)
        now = verdict(observation).level
        self.assertNotIn(now, [one.level for one in would_change(observation)])

    def test_a_missing_piece_of_the_seal_is_looked_for(self) -> None:
        whole, torn = verdict(seen()), verdict(seen(seal_missing=True))
        self.assertEqual((whole.level, torn.level), (Level.ROUTINE, Level.WATCH))
        self.assertIn("find it", torn.spoke[-1].text)


def graded() -> Clerk:
    """An engine whose plug mira read as fragments."""
    clerk = Clerk()
    clerk.until_open()
    clerk.wait(10)
    clerk.record("amount", {"amount": "2.6 l"})
    clerk.record("finding", {"parts": [{**PASTE, "form": "slivers"}], "oil": []})
    return clerk


class RegradeTests(TestCase):
    def test_the_second_reading_counts_and_both_stand(self) -> None:
        clerk = graded()
        first = clerk.stands.finding
        assert first
        self.assertEqual(first.level, Level.WATCH)
        clerk.record("regrade", {"parts": [PASTE], "oil": []}, "engine/inspect")
        again = clerk.stands.finding
        assert again
        self.assertEqual(again.level, Level.ROUTINE)
        kinds = [entry.kind for entry in gradings(clerk.entries, "engine/inspect")]
        self.assertEqual(kinds, ["finding", "regrade"])

    def test_a_correction_of_the_first_does_not_take_the_second_s_place(self) -> None:
        clerk = graded()
        first = clerk.last("finding")
        clerk.record("regrade", {"parts": [PASTE], "oil": []}, "engine/inspect")
        clerk.correct(first, {"parts": [{**PASTE, "form": "flakes"}], "oil": []})
        found = clerk.stands.finding
        assert found
        self.assertEqual(found.level, Level.ROUTINE)

    def test_who_may(self) -> None:
        clerk = graded()
        sheet, inspect = clerk.sheet, "engine/inspect"
        self.assertFalse(may_regrade(clerk.state(inspect), "mira"))
        self.assertTrue(may_regrade(clerk.state(inspect), "Oda"))
        for by, alone, lead, code in (
            ("mira", True, True, "finding.own_grade"),
            ("Runa", False, False, "finding.mentor"),
        ):
            with self.subTest(code), self.assertRaises(CoreError) as refused:
                check_regrade(sheet, inspect, by, alone, lead)
            self.assertEqual(refused.exception.code, code)
        check_regrade(sheet, inspect, "Oda", True, False)
        with self.assertRaises(CoreError) as refused:
            check_regrade(Clerk().sheet, inspect, "Oda", True, True)
        self.assertEqual(refused.exception.code, "finding.not_graded")

    def test_what_holds_the_visit_only_a_lead_reads_anew(self) -> None:
        clerk = graded()
        clerk.correct(clerk.last("finding"), {"parts": [{**PASTE, "form": "fragments"}], "oil": []})
        with self.assertRaises(CoreError) as refused:
            check_regrade(clerk.sheet, "engine/inspect", "Piet", True, False)
        self.assertEqual(refused.exception.code, "visit.hold_lead")
        check_regrade(clerk.sheet, "engine/inspect", "Oda", True, True)

    def test_both_readings_teach_what_their_graders_see(self) -> None:
        day = date(2026, 5, 1)
        paste = (Part(form=Form.PASTE, matter=Matter.STEEL, share=D("0.2")),)
        fuzz = (*paste, Part(form=Form.FUZZ, matter=Matter.STEEL, share=D("0.1")))
        counted = {
            "a": [Found(day=date(2026, 1, 9), parts=paste, km_since_wiped=D(8000), grader="oda")]
            * 8
        }
        first = {
            "a": [Found(day=date(2026, 1, 9), parts=fuzz, km_since_wiped=D(8000), grader="runa")]
            * 8
        }
        alone, both = cohort_of(counted, day), cohort_of(counted, day, regraded=first)
        self.assertNotIn("runa", alone.eyes)
        self.assertGreater(both.eyes["runa"].fuzz, both.eyes["oda"].fuzz)
        # what is healthy is read from the findings that count
        self.assertEqual((alone.anybody, alone.sigma), (both.anybody, both.sigma))


class WatchedTests(TestCase):
    """The next look at half the interval, with a sample of the oil."""

    def test_watch_and_graver_until_a_fault_was_put_right(self) -> None:
        for level, answers, asks in (
            (Level.NOTE, (), False),
            (Level.WATCH, (), True),
            (Level.INVESTIGATE, (Outcome.NOTHING,), True),
            (Level.HOLD, (Outcome.LIFTED,), True),
            (Level.HOLD, (Outcome.FAULT,), False),
        ):
            with self.subTest(level=level, answers=answers):
                self.assertEqual(watched(level, answers), asks)

    def test_it_halves_what_is_left_and_says_so(self) -> None:
        limits = DueLimits(first_km=D(1000), repeat_km=D(8000), repeat_months=24)
        last, now = Meter(date(2026, 1, 1), D(20_000)), Meter(date(2026, 2, 1), D(22_000))
        plain, soon = due(limits, last, now), due(limits, last, now, watched=True)
        self.assertEqual((plain.due_km, soon.due_km), (D(28_000), D(24_000)))
        self.assertEqual(soon.due_on, date(2027, 1, 1))
        self.assertIn("Half the interval", soon.reasons[-1].text)
        first = due(limits, last, now, first=True, watched=True)
        self.assertEqual(first.due_km, D(21_000))

    def test_a_sample_bottle_is_ready_before_the_plug_comes_out(self) -> None:
        clerk = Clerk(TASK.__class__(**{**vars(TASK), "sample": True}))
        clerk.until_open()
        self.assertEqual(clerk.sheet.focus, "engine/sample")
        blocked = clerk.state("engine/drain")
        self.assertIn("sample bottle", " ".join(one.words for one in blocked.unmet))
        clerk.tick()
        self.assertEqual(clerk.sheet.focus, "engine/drain")

"""What single steps ask for: two readings of one torque, measures, vessels, seals, nudges, waits."""

from dataclasses import replace
from datetime import datetime, timedelta
from decimal import Decimal
from unittest import TestCase

from oilward_core.bench import EntryKind, Speaker, Taken, as_before, read_entry, result
from oilward_core.bench.asks.amount import JUG, PAN
from oilward_core.errors import CoreError, Question
from oilward_core.expected import hold_in
from oilward_core.order import Stamp, learned_minutes, waited
from oilward_core.quantity import Kind, nudges, parse
from oilward_core.runsheet import COLD_JOBS

from .clerk import ENGINE, LEGS, TASK, Clerk, fastener


def engine_with(plug_torque: str, seal: str = "crush washer 12 mm") -> Clerk:
    """An engine whose plug has this torque and seal, before its plug is torqued."""
    plug = fastener("drain plug", plug_torque, seal, magnet=True)
    spec = replace(ENGINE, fasteners=(plug, *ENGINE.fasteners[1:]))
    return Clerk(replace(TASK, reservoir=spec))


class TorqueThenTurnTests(TestCase):
    def pulled(self, turned: str) -> Clerk:
        clerk = engine_with("22 N·m then 1/4 turn")
        clerk.until_open()
        clerk.wait(10)
        clerk.record("amount", {"amount": "2.5 l"})
        clerk.record("finding", {"parts": [], "oil": []})
        clerk.record("answer", {"value": "new"})
        clerk.tick()
        clerk.record("torque", {"reading": "22", "wrench": "m", "turned": turned})
        return clerk

    def test_both_readings_have_to_be_right(self) -> None:
        for turned, done in (("90", True), ("90°", True), ("94", True), ("60", False)):
            clerk = self.pulled(turned)
            with self.subTest(turned):
                self.assertEqual(clerk.state("engine/torque").status == "done", done)
        self.assertIn("Turned 60°; the manual says", clerk.state("engine/torque").remark)
        self.assertEqual(result(clerk.last("torque"), Speaker()), "22.0 N·m, then 60°")

    def test_without_the_angle_it_is_asked_for(self) -> None:
        for turned in ("", "a bit", "1/0"):
            with self.subTest(turned), self.assertRaises(CoreError) as caught:
                self.pulled(turned)
            self.assertEqual(caught.exception.code, "sheet.turned")


class SealTests(TestCase):
    def options(self, seal: str) -> tuple[str, ...]:
        options = engine_with("22 N·m", seal).state("engine/washer").step.options
        return tuple(option.words for option in options)

    def test_a_ring_can_be_reused_and_a_washer_turned_over(self) -> None:
        self.assertEqual(self.options("crush washer 12 mm"), ("new", "turned over"))
        ring = ("new", "reused, looks good", "reused, nothing else there")
        self.assertEqual(self.options("O-ring 12 mm"), ring)


class MeasureTests(TestCase):
    def measure(self, raw: dict[str, object], key: str = "tyres") -> Taken:
        step = Clerk(*LEGS, cold=(key,)).state(key).step
        taken = read_entry(step, EntryKind.MEASURE, raw, Speaker())
        assert isinstance(taken, Taken)
        return taken

    def test_as_found_and_as_left_in_any_unit(self) -> None:
        told = self.measure({"found": {"front": "33 psi"}, "left": {"front": "2.5 bar"}})
        self.assertEqual(told.left["front"].low, 250)
        self.assertAlmostEqual(float(told.found["front"].low), 227.5, 1)

    def test_a_range_of_clearances_is_one_value(self) -> None:
        told = self.measure({"found": {"inlet": "0.08-0.12 mm"}}, "valves")
        inlet = told.found["inlet"]
        self.assertEqual((inlet.low, inlet.high), (Decimal("0.08"), Decimal("0.12")))

    def test_bad_values_are_refused_at_their_field(self) -> None:
        for raw, field in (
            ({}, "found.front"),
            ({"found": {"rear": "2 l"}}, "found.rear"),
            ({"left": {"front": "soft"}}, "left.front"),
            ({"found": "2 bar"}, "found"),
            ({"fuond": {"front": "2 bar"}}, "fuond"),
        ):
            with self.subTest(raw=raw), self.assertRaises(CoreError) as caught:
                self.measure(raw)
            self.assertEqual(caught.exception.fields["field"], field)

    def test_cold_jobs_measure_what_they_name(self) -> None:
        for key, job in COLD_JOBS.items():
            step = Clerk(cold=(key,)).state(key).step
            self.assertEqual([one.name for one in step.measured], [n for n, _ in job.measured])


class CorrectionTests(TestCase):
    def test_what_a_correction_does_not_speak_of_stays_as_it_was(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        poured = clerk.pour("2370 ml", fluid="Skarholm Amber")
        raw = as_before(poured, {"amount": "2400 ml"})
        self.assertEqual(raw, {"amount": "2400 ml", "closed": True, "fluid": "Skarholm Amber"})
        self.assertEqual(as_before(poured, {"closed": False})["closed"], False)


class VesselTests(TestCase):
    PAN, JUG = ("a drain pan", PAN), ("a measuring jug", JUG)

    def test_more_than_it_holds_is_asked_and_may_stand(self) -> None:
        hold_in(self.PAN, Decimal(9900), "ml", "")
        with self.assertRaises(Question) as caught:
            hold_in(self.PAN, Decimal(11_000), "l", "12 l")
        self.assertEqual(caught.exception.fields["sure"], "11 l")
        hold_in(self.PAN, Decimal(11_000), "l", "11 l")

    def test_a_jug_holds_less_than_a_pan(self) -> None:
        with self.assertRaises(Question):
            hold_in(self.JUG, Decimal(6000), "ml", "")

    def test_what_is_poured_is_held_against_its_jug_and_what_came_out_against_its_pan(self) -> None:
        clerk = Clerk(replace(TASK, last_put_in=Decimal(9000)))
        clerk.until_open()
        clerk.wait(10)
        with self.assertRaises(Question) as caught:
            clerk.record("amount", {"amount": "10.5 l"})
        self.assertEqual(caught.exception.code, "expected.vessel")
        clerk.record("amount", {"amount": "10.5 l", "sure": "10.5 l"})


class NudgeTests(TestCase):
    def texts(self, said: str, kind: Kind) -> list[str]:
        return [one.text for one in nudges(parse(said, kind))]

    def test_two_down_and_two_up_in_the_unit_that_was_said(self) -> None:
        self.assertEqual(
            self.texts("500 ml", Kind.VOLUME), ["450 ml", "490 ml", "510 ml", "550 ml"]
        )
        self.assertEqual(
            self.texts("22 N·m", Kind.TORQUE), ["21 N·m", "21.5 N·m", "22.5 N·m", "23 N·m"]
        )
        self.assertEqual(self.texts("20 ml", Kind.VOLUME), ["10 ml", "30 ml", "70 ml"])

    def test_what_a_nudge_says_is_read_back_as_it_is_meant(self) -> None:
        for said, kind in (
            ("3.2 l", Kind.VOLUME),
            ("1 qt", Kind.VOLUME),
            ("170 lbf·in", Kind.TORQUE),
        ):
            for text in self.texts(said, kind):
                self.assertTrue(parse(text, kind).text)

    def test_ranges_and_other_units_have_none(self) -> None:
        self.assertEqual(self.texts("14-21 ft-lb", Kind.TORQUE), [])
        self.assertEqual(self.texts("3 gal", Kind.VOLUME), [])


class WaitTests(TestCase):
    def test_waits_are_learned_from_start_to_stop(self) -> None:
        start, minute = datetime(2026, 6, 1, 9), timedelta(minutes=1)
        told = [
            Stamp("engine/drain", "start", start),
            Stamp("gearbox/drain", "start", start + 2 * minute),
            Stamp("engine/drain", "stop", start + 12 * minute),
            Stamp("gearbox/drain", "stop", start + 20 * minute),
            Stamp("warm", "start", start + 30 * minute),
            Stamp("warm", "stop", start + 300 * minute),  # forgotten
            Stamp("engine/fill.1", "pour", start + 310 * minute),
        ]
        self.assertEqual(waited(told, minute), {"dripping": 18})
        self.assertEqual(learned_minutes([waited(told, minute)] * 3), {"dripping": (18, 3)})

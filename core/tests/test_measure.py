"""What is measured is held against what can be there, the sheet, and the other leg."""

from dataclasses import replace
from decimal import Decimal
from typing import Any
from unittest import TestCase

from oilward_core.bench import EntryKind, Speaker, TaskState, expected_at, read_entry
from oilward_core.bench.fold.state import OtherLeg
from oilward_core.codes.steps import Name
from oilward_core.codes.suspension import GapRod
from oilward_core.errors import CoreError, Question
from oilward_core.runsheet import COLD_JOBS, PlannedTask, Step, StepId, TaskPlan, build
from oilward_core.spec import FillRule, LegSpec, ReservoirKind, ReservoirSpec, Variant

from .clerk import spec

LEG = replace(
    spec("fork left", ReservoirKind.FORK, FillRule.AIR_GAP),
    capacities={Variant.DRY: Decimal(480)},
    air_gap=Decimal(112),
    level=None,
)
PLAN = TaskPlan(
    reservoir=LEG,
    variant=Variant.DRY,
    took=(),
    last_put_in=None,
    km_since_wiped=Decimal(0),
    first_service=False,
)
SPEAKS = Speaker()


def steps(leg: ReservoirSpec = LEG) -> dict[str, Step]:
    sheet = build([PlannedTask(spec=leg, variant=Variant.DRY)], tuple(COLD_JOBS.values()))
    return {str(step.id): step for step in sheet.steps}


STEPS = steps()


class ColdTests(TestCase):
    """A bare 36 in a tyre's field is not kPa; 8 mm is no valve clearance."""

    def read(self, job: str, found: dict[str, str], sure: tuple[str, ...] = ()) -> Any:
        raw = {"found": found, "left": {}, "sure": list(sure)}
        return read_entry(STEPS[job], EntryKind.MEASURE, raw, SPEAKS)

    def test_what_cannot_be_there_is_asked_with_what_is_meant(self) -> None:
        tyres, valves = str(StepId("", Name.TYRES)), str(StepId("", Name.VALVES))
        for job, name, text, options in (
            (tyres, "front", "36", ["36 psi", "36 kPa"]),
            (tyres, "front", "2.4", ["2.4 bar", "2.4 kPa"]),
            (tyres, "rear", "400 kPa", ["400 kPa", "400 kPa"]),
            (tyres, "rear", "24 bar", ["24 psi", "24 bar"]),
            (valves, "inlet", "8 mm", ["8 thou", "8 mm"]),
            (valves, "inlet", "0.8 mm", ["0.08 mm", "0.8 mm"]),
        ):
            with self.subTest(text=text):
                with self.assertRaises(Question) as asked:
                    self.read(job, {name: text})
                self.assertEqual(asked.exception.code, "measure.unlikely")
                self.assertEqual(asked.exception.fields["field"], f"found.{name}")
                said = asked.exception.fields["options"]
                self.assertEqual(said[-1], options[-1])
                self.assertIn(options[0], said)
        for text in ("36 psi", "2.4 bar", "240", "100 kPa", "350 kPa"):
            self.assertFalse(self.read(tyres, {"front": text}).found["front"].asked)
        for text in ("0.08 mm", "0.18", "8 thou", "0.08-0.12 mm"):
            self.assertFalse(self.read(valves, {"inlet": text}).found["inlet"].asked)

    def test_each_that_stands_is_said_once(self) -> None:
        tyres = str(StepId("", Name.TYRES))
        two = {"front": "400 kPa", "rear": "420 kPa"}
        with self.assertRaises(Question) as asked:
            self.read(tyres, two, ("400 kPa",))
        self.assertEqual(asked.exception.fields["field"], "found.rear")
        taken = self.read(tyres, two, ("400 kPa", "420 kPa"))
        self.assertTrue(taken.found["front"].asked and taken.found["rear"].asked)


class LegTests(TestCase):
    """3.25 l, 6 ml; gaps of 11 and 250 mm."""

    def pour(self, text: str, other: OtherLeg | None = None, sure: str = "") -> Any:
        return self._read(Name.LEG_FILL, EntryKind.AMOUNT, {"amount": text, "sure": sure}, other)

    def gap(self, text: str, other: OtherLeg | None = None, sure: str = "") -> Any:
        raw = {"found": {}, "left": {"air gap": text}, "sure": [sure] if sure else []}
        return self._read(Name.LEG_GAP, EntryKind.MEASURE, raw, other)

    def _read(self, name: Name, kind: EntryKind, raw: Any, other: OtherLeg | None) -> Any:
        step, state = STEPS[f"fork left/{name}"], TaskState(key="fork left", other_leg=other)
        expected = expected_at(PLAN, state, step, kind, raw)
        return read_entry(step, kind, raw, SPEAKS, expected)

    def asked(self, ask: Any, text: str, other: OtherLeg | None = None) -> str:
        with self.assertRaises(CoreError) as refused:
            ask(text, other)
        return str(refused.exception.code)

    def test_an_amount_is_held_against_the_sheet_and_the_other_leg(self) -> None:
        for text in ("3.25 l", "6 ml", "600 ml", "390 ml"):
            self.assertIn("expected.", self.asked(self.pour, text), text)
        self.assertEqual(self.asked(self.pour, "4.8 dl 3 ml", None)[:9], "quantity.")
        for text in ("480 ml", "475 ml", "520 ml"):
            self.assertIsNone(self.pour(text).asked)
        other = OtherLeg(Decimal(486), None)
        self.assertEqual(self.asked(self.pour, "480 ml", other), "expected.far")
        self.assertIsNone(self.pour("484 ml", other).asked)
        kept = self.pour("478 ml", other, "478 ml")
        self.assertEqual(kept.asked.basis, "other leg")

    def test_a_gap_is_held_against_the_sheet_and_the_other_leg(self) -> None:
        self.assertEqual(self.asked(self.gap, "11"), "measure.unlikely")
        self.assertEqual(self.asked(self.gap, "11 mm"), "measure.unlikely")
        self.assertEqual(self.asked(self.gap, "250"), "expected.far")
        self.assertEqual(self.asked(self.gap, "115"), "expected.far")
        self.assertFalse(self.gap("113.5").left["air gap"].asked)
        other = OtherLeg(None, Decimal(114))
        self.assertEqual(self.asked(self.gap, "110", other), "expected.far")
        self.assertFalse(self.gap("113", other).left["air gap"].asked)
        self.assertTrue(self.gap("118", other, "118 mm").left["air gap"].asked)

    def means(self, text: str, other: OtherLeg | None = None, **bore: Any) -> str:
        """What a question about a gap says of the oil."""
        plan = replace(PLAN, reservoir=replace(LEG, leg=LegSpec(**bore)))
        step = steps(plan.reservoir)[f"fork left/{Name.LEG_GAP}"]
        state = TaskState(key="x", other_leg=other)
        raw = {"found": {"air gap": text}, "left": {}, "sure": []}
        expected = expected_at(plan, state, step, EntryKind.MEASURE, raw)
        with self.assertRaises(Question) as asked:
            read_entry(step, EntryKind.MEASURE, raw, SPEAKS, expected)
        return str(asked.exception.fields["meaning"])

    def test_a_gap_that_is_off_is_told_in_oil(self) -> None:
        """π/4·D²·Δh: 15 mm of a 39 mm bore are 17.9 ml, 16.2 where a 12 mm rod stands in it."""
        bore = {"bore": Decimal(39), "rod": Decimal(12)}
        self.assertTrue(self.means("97", **bore).startswith("18 ml too much: draw it out"))
        up = {**bore, "gap_rod": GapRod.UP}
        self.assertTrue(self.means("97", **up).startswith("16 ml too much: draw it out"))
        self.assertTrue(self.means("127", **up).startswith("16 ml too little: pour it in"))
        # the other leg is what this one is held against, where there is one
        beside = self.means("112", OtherLeg(None, Decimal(122)), **up)
        self.assertTrue(beside.startswith("11 ml too much"), beside)
        # without a bore nobody knows what a millimetre is worth
        self.assertTrue(self.means("97").startswith("Collapsed"))
        self.assertTrue(self.means("97", bore=Decimal(12), rod=Decimal(12), gap_rod=GapRod.UP))

    def test_a_leg_is_over_filled_by_so_much(self) -> None:
        def told(**bore: Any) -> str:
            leg = replace(LEG, leg=LegSpec(**bore))
            return steps(leg)[f"fork left/{Name.LEG_FILL}"].instruction

        self.assertIn("Pour 492 ml: the sheet's 480 ml", told(bore=Decimal(39)))
        self.assertIn("480 ml; a little over", told())
        self.assertIn("480 ml; a little over", told(bore=Decimal(0)))

    def test_how_one_might_be_typed_is_what_can_be_there(self) -> None:
        told = {
            name: STEPS[step].measured[0].like
            for name, step in (
                ("gap", f"fork left/{Name.LEG_GAP}"),
                ("tyre", str(StepId("", Name.TYRES))),
                ("valve", str(StepId("", Name.VALVES))),
            )
        }
        self.assertEqual(told, {"gap": "112.0 mm", "tyre": "2.25 bar", "valve": "0.31 mm"})

    def test_as_found_it_may_be_anything_that_can_be(self) -> None:
        step = STEPS[f"fork left/{Name.LEG_GAP}"]
        raw = {"found": {"air gap": "140"}, "left": {"air gap": "112"}}
        expected = expected_at(PLAN, TaskState(key="fork left"), step, EntryKind.MEASURE, raw)
        taken = read_entry(step, EntryKind.MEASURE, raw, SPEAKS, expected)
        self.assertFalse(taken.found["air gap"].asked)  # type: ignore[attr-defined]

"""A shock that is felt and timed: the middle of three times beside its own past, its bushes, its gas."""

from dataclasses import replace
from decimal import Decimal
from typing import Any
from unittest import TestCase

from oilward_core.bench import Status, measures
from oilward_core.codes.entries import Ask
from oilward_core.errors import CoreError
from oilward_core.runsheet import TaskPlan
from oilward_core.spec import RideSpec

from .clerk import SHOCK, Clerk
from .test_fork import act, do, leg

GAS = RideSpec(gas=Decimal(1000), gas_read=True)
TIMES = ("rebound, first", "rebound, second", "rebound, third")


def shock(ride: RideSpec, **more: Any) -> TaskPlan:
    return replace(SHOCK, reservoir=replace(SHOCK.reservoir, ride=ride), **more)


def felt(clerk: Clerk, *times: str, **found: str) -> None:
    while clerk.sheet.focus != "shock/shock felt":
        act(clerk, clerk.sheet.focus or "")
    told = dict(zip(TIMES, times, strict=False)) | {
        n.replace("_", " "): v for n, v in found.items()
    }
    clerk.record("measure", {"found": told}, "shock/shock felt")


def answered(clerk: Clerk, value: str) -> tuple[str, str, str]:
    """What a look comes to: its code, how grave, and in words."""
    clerk.record("answer", {"value": value}, "shock/look")
    task = clerk.sheet.task("shock")
    assert task is not None and task.look is not None
    return task.look, task.finding.level.word if task.finding else "", task.found


class FeltTests(TestCase):
    def test_its_gas_is_asked_for_only_where_its_sheet_lets_it_be_read(self) -> None:
        for ride, asked in (
            (GAS, True),
            (replace(GAS, gas_read=False), False),
            (RideSpec(), False),
        ):
            step = Clerk(shock(ride)).state("shock/shock felt").step
            self.assertEqual("gas" in [one.name for one in step.measured], asked)
            self.assertEqual(step.ask, Ask.MEASURE)
            self.assertTrue(step.skippable)

    def test_the_middle_time_stands_beside_its_own_past(self) -> None:
        clerk = Clerk(shock(RideSpec(), past={"rebound": (Decimal("0.01"), Decimal("0.0125"))}))
        felt(clerk, "0.6 s", "0.9 s", "0.65 s")
        said = clerk.state("shock/shock felt").remark
        self.assertIn("The middle one: 0.65 s.", said)
        self.assertIn("Before: 0.75 s, 0.6 s.", said)
        self.assertEqual(clerk.state("shock/shock felt").status, Status.DONE)
        kept = measures(clerk.sheet, "shock")
        self.assertAlmostEqual(kept["rebound"] * 60, Decimal("0.65"), delta=Decimal("0.0001"))

    def test_a_dry_and_firm_one_is_judged_by_what_was_felt(self) -> None:
        for found, look, level in (
            ({"bush_play": "0.4 mm"}, "firm", ""),
            ({"bush_play": "1.5 mm"}, "loose", "investigate"),
            ({"gas": "9.6 bar", "temperature": "20 °C"}, "firm", ""),
            ({"gas": "9.6 bar", "temperature": "8 °C"}, "firm", ""),
            ({"gas": "9.4 bar", "temperature": "20 °C"}, "gas off", "investigate"),
        ):
            with self.subTest(**found):
                clerk = Clerk(shock(GAS))
                felt(clerk, "0.6 s", **found)
                self.assertEqual(answered(clerk, "firm")[:2], (look, level))

    def test_what_is_seen_counts_before_what_is_felt(self) -> None:
        clerk = Clerk(shock(GAS))
        felt(clerk, bush_play="1.5 mm")
        self.assertEqual(answered(clerk, "soft"), ("soft", "hold", "damping is gone"))

    def test_what_fits_only_as_another_unit_is_asked(self) -> None:
        for name, said, meant in (
            ("temperature", "293", "293 K"),
            ("gas", "-1", None),
            ("gas", "10.1", "10.1 bar"),
            ("gas", "145", "145 psi"),
            ("rebound, first", "40", None),
        ):
            clerk = Clerk(shock(GAS))
            while clerk.sheet.focus != "shock/shock felt":
                act(clerk, clerk.sheet.focus or "")
            with self.assertRaises(CoreError) as asked:
                clerk.record("measure", {"found": {name: said}}, "shock/shock felt")
            self.assertEqual(asked.exception.fields["field"], f"found.{name}")
            if meant:
                self.assertEqual(asked.exception.fields["options"][0], meant)

    def test_a_gas_is_read_with_its_temperature(self) -> None:
        with self.assertRaises(CoreError) as asked:
            felt(Clerk(shock(GAS)), gas="9.6 bar")
        said = asked.exception
        self.assertEqual(
            (said.code, said.fields["field"]), ("away.temperature_missing", "found.temperature")
        )

    def test_the_clicks_of_a_leg_are_no_time_of_a_shock(self) -> None:
        clerk = Clerk(leg(0, rebound=Decimal(12), spring_new=Decimal(350)))
        do(clerk, "fork left/leg set")
        clerk.record("measure", {"found": {"rebound": "12 clicks"}}, "fork left/leg set")
        self.assertEqual(measures(clerk.sheet, "fork left"), {})

    def test_a_visit_that_was_past_it_is_not_asked(self) -> None:
        clerk = Clerk(shock(GAS))
        clerk.record("answer", {"value": "firm"}, "shock/look", despite=True)
        clerk.entries[-1] = replace(clerk.entries[-1], against=())
        self.assertIsNone(clerk.sheet.step("shock/shock felt"))

"""Schools: whose choice counts, and where it acts. Common practice, no source."""

from dataclasses import replace
from unittest import TestCase

from oilward_core.errors import CoreError
from oilward_core.schools import (
    EVERY_THIRD,
    LOWER_THIRD,
    SEALANT,
    TORQUE,
    WASHER,
    Choice,
    Schools,
    check_choice,
    filter_is_due,
    since_filter,
)
from oilward_core.spec import ReservoirKind
from oilward_core.torque import read_torque

from .test_sheet import ENGINE, TASK, Clerk

SHOP = Choice("engine", TORQUE, LOWER_THIRD)


class SchoolsTests(TestCase):
    def test_the_bikes_own_before_the_workshops_before_the_usual(self) -> None:
        engine = ReservoirKind.ENGINE
        self.assertEqual(str(Schools().of(engine, TORQUE)), "middle (usual practice)")
        self.assertEqual(Schools((SHOP,)).of(engine, TORQUE).whose, "the workshop's school")
        both = Schools((SHOP, replace(SHOP, choice="middle", this_bike=True)))
        self.assertEqual(str(both.of(engine, TORQUE)), "middle (this bike's school)")
        self.assertEqual(both.of(ReservoirKind.PRIMARY, TORQUE).whose, "usual practice")

    def test_only_choices_that_exist(self) -> None:
        check_choice("engine", TORQUE, LOWER_THIRD)
        for kind, topic, choice, code in (
            ("engine", "horn", "loud", "school.none"),
            ("coolant", TORQUE, "middle", "school.none"),
            ("engine", TORQUE, "tight", "sheet.choose"),
        ):
            with self.subTest(topic=topic, choice=choice), self.assertRaises(CoreError) as caught:
                check_choice(kind, topic, choice)
            self.assertEqual(caught.exception.code, code)

    def test_filter_each_time_every_third_or_as_the_sheet_says(self) -> None:
        self.assertTrue(filter_is_due(2, "each change", 0))
        self.assertEqual(
            [filter_is_due(None, EVERY_THIRD, n) for n in range(3)], [False, False, True]
        )
        self.assertEqual(
            [filter_is_due(2, "as the sheet says", n) for n in range(2)], [False, True]
        )
        self.assertEqual(since_filter(["a", "f", "a", "a"], "f"), 2)
        self.assertEqual(since_filter([], "f"), 0)

    def test_a_school_acts_on_the_run_sheet_and_says_so(self) -> None:
        choices = (
            SHOP,
            Choice("engine", WASHER, "turned over once"),
            Choice("engine", SEALANT, "none"),
        )
        hard = replace(ENGINE.fasteners[0], soft=False, torque=read_torque("20-26 N·m"))
        spec = replace(ENGINE, fasteners=(hard, *ENGINE.fasteners[1:]))
        sheet = Clerk(replace(TASK, reservoir=spec, schools=Schools(choices))).sheet
        steps = {state.step.id: state.step for state in sheet.steps}
        self.assertIn(
            "turned over once (the workshop's school)", steps["engine/washer"].instruction
        )
        self.assertIn("none (the workshop's school)", steps["engine/refit"].instruction)
        assert sheet.torque is not None
        self.assertEqual(sheet.torque.aim.value, 22)

    def test_the_manuals_sealant_comes_before_any_school(self) -> None:
        plug = replace(ENGINE.fasteners[0], sealant="threadlocker")
        spec = replace(ENGINE, fasteners=(plug, *ENGINE.fasteners[1:]))
        sheet = Clerk(replace(TASK, reservoir=spec)).sheet
        refit = next(s.step for s in sheet.steps if s.step.id == "engine/refit")
        self.assertIn("threadlocker, as the manual says", refit.instruction)

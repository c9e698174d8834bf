"""Schools: whose choice counts, and where it acts. Common practice, no source."""

from dataclasses import replace
from unittest import TestCase

from oilward_core.errors import CoreError
from oilward_core.schools import (
    HALF_THE_BOOK,
    LOWER_THIRD,
    SEALANT,
    TORQUE,
    WASHER,
    Choice,
    Schools,
    check_choice,
    interval_reason,
)
from oilward_core.spec import ReservoirKind
from oilward_core.torque import read_torque

from .clerk import ENGINE, TASK, Clerk

SHOP = Choice(kind="engine", topic=TORQUE, choice=LOWER_THIRD)


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

    def test_half_the_book_says_so_and_the_book_itself_says_nothing(self) -> None:
        half = Schools((Choice(kind="engine", topic="interval", choice=HALF_THE_BOOK),))
        why = interval_reason(half.of(ReservoirKind.ENGINE, "interval"))
        assert why is not None
        self.assertEqual(why.text, "Intervals: half the book (the workshop's school).")
        self.assertIsNone(interval_reason(Schools().of(ReservoirKind.ENGINE, "interval")))

    def test_a_school_acts_on_the_run_sheet_and_says_so(self) -> None:
        choices = (
            SHOP,
            Choice(kind="engine", topic=WASHER, choice="turned over once"),
            Choice(kind="engine", topic=SEALANT, choice="none"),
        )
        hard = replace(ENGINE.fasteners[0], soft=False, torque=read_torque("20-26 N·m"))
        spec = replace(ENGINE, fasteners=(hard, *ENGINE.fasteners[1:]))
        sheet = Clerk(replace(TASK, reservoir=spec, schools=Schools(choices))).sheet
        steps = {str(state.step.id): state.step for state in sheet.steps}
        self.assertIn(
            "turned over once (the workshop's school)", steps["engine/washer"].instruction
        )
        self.assertIn("none (the workshop's school)", steps["engine/refit"].instruction)
        assert sheet.tasks[0].torque is not None
        self.assertEqual(sheet.tasks[0].torque.aim.value, 22)

    def test_the_manuals_sealant_comes_before_any_school(self) -> None:
        plug = replace(ENGINE.fasteners[0], sealant="threadlocker")
        spec = replace(ENGINE, fasteners=(plug, *ENGINE.fasteners[1:]))
        sheet = Clerk(replace(TASK, reservoir=spec)).sheet
        refit = next(s.step for s in sheet.steps if str(s.step.id) == "engine/refit")
        self.assertIn("threadlocker, as the manual says", refit.instruction)

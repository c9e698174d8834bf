"""Schools: whose choice counts, and where it acts. Common practice, no source."""

from dataclasses import replace
from datetime import date
from decimal import Decimal
from unittest import TestCase

from oilward_core.codes.schools import Practice
from oilward_core.due import DueLimits, Meter
from oilward_core.errors import CoreError
from oilward_core.fluid import Offer, match
from oilward_core.renewals import variants
from oilward_core.runsheet import TaskPlan
from oilward_core.schools import (
    FLUID,
    SEALANT,
    TOPICS,
    TORQUE,
    WASHER,
    Choice,
    Schools,
    check_choice,
    interval_reason,
)
from oilward_core.spec import Requirement, ReservoirKind
from oilward_core.standing import LastDone, running, standing
from oilward_core.torque import read_torque

from .clerk import ENGINE, TASK, Clerk

SHOP = Choice(kind="engine", topic=TORQUE, choice=Practice.LOWER_THIRD)


class SchoolsTests(TestCase):
    def test_the_bikes_own_before_the_workshops_before_the_usual(self) -> None:
        engine = ReservoirKind.ENGINE
        self.assertEqual(str(Schools().of(engine, TORQUE)), "middle (usual practice)")
        self.assertEqual(Schools((SHOP,)).of(engine, TORQUE).whose, "the workshop's school")
        both = Schools((SHOP, replace(SHOP, choice="middle", this_bike=True)))
        self.assertEqual(str(both.of(engine, TORQUE)), "middle (this bike's school)")
        self.assertEqual(both.of(ReservoirKind.PRIMARY, TORQUE).whose, "usual practice")

    def test_only_choices_that_exist(self) -> None:
        check_choice("engine", TORQUE, Practice.LOWER_THIRD)
        for kind, topic, choice, code in (
            ("engine", "horn", "loud", "school.none"),
            ("coolant", TORQUE, "middle", "school.none"),
            ("engine", TORQUE, "tight", "sheet.choose"),
        ):
            with self.subTest(topic=topic, choice=choice), self.assertRaises(CoreError) as caught:
                check_choice(kind, topic, choice)
            self.assertEqual(caught.exception.code, code)

    def test_half_the_book_says_so_and_the_book_itself_says_nothing(self) -> None:
        half = Schools((Choice(kind="engine", topic="interval", choice=Practice.HALF_THE_BOOK),))
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


RING_PLUG = replace(ENGINE.fasteners[0], seal="O-ring 14 mm", soft=False)
RANGE_PLUG = replace(
    ENGINE.fasteners[0], seal="crush washer 14 mm", soft=False, torque=read_torque("20-26 N·m")
)
PLUGS = tuple(
    replace(
        ENGINE,
        limits=DueLimits(repeat_km=Decimal(8000)),
        fasteners=(plug, *ENGINE.fasteners[1:]),
    )
    for plug in (RING_PLUG, RANGE_PLUG)
)
NEW = Meter(date(2026, 1, 1), Decimal(0))


def by_feel(task: TaskPlan) -> str:
    """What a plug still lacks that was tightened by feel."""
    clerk = Clerk(task)
    clerk.record("torque", {"feel": True}, "engine/torque", despite=True)
    return clerk.stands.cards["engine/torque"].lacks


def acted(kind: str, topic: str, choice: str) -> tuple[str, ...]:
    """Everything a school can act on, for a topic's ``choice``, in words."""
    schools = Schools((Choice(kind=kind, topic=topic, choice=choice),))
    runs = running(
        [NEW, Meter(date(2026, 6, 1), Decimal(3000))],
        date(2026, 6, 1),
        "touring",
        "km",
        Decimal(1),
        NEW,
    )
    answers: list[str] = []
    for spec in PLUGS:
        sheet = Clerk(replace(TASK, reservoir=spec, schools=schools)).sheet
        answers += [state.step.instruction for state in sheet.steps]
        answers += [str(task.torque) for task in sheet.tasks]
        answers.append(by_feel(replace(TASK, reservoir=spec, schools=schools)))
        answers.append(str(standing(spec, runs, schools, LastDone(NEW), ()).due.left))
        answers.append(str(variants(spec, schools, ("drain only",))))
    need = Requirement(grade="75W-90", service="GL-4")
    offer = Offer(name="b", family="engine", grade="20W-50", service="API SG", base="ester")
    found = match(need, ReservoirKind(kind), offer, schools)
    return (*answers, str(found.fit), *(reason.text for reason in found.reasons))


class ActsTests(TestCase):
    def test_a_school_that_acts_on_nothing_fails(self) -> None:
        for topic in TOPICS:
            kind = "gearbox" if topic.key == FLUID else "engine"
            with self.subTest(topic=topic.key):
                usual, *others = topic.choices
                before = acted(kind, topic.key, usual)
                self.assertTrue(any(acted(kind, topic.key, one) != before for one in others))

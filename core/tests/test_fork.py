"""Fork legs at the bench: the order of the hands, air, what holds them, and the wheel."""

import random
from dataclasses import replace
from decimal import Decimal
from typing import Any
from unittest import TestCase

from hypothesis import Phase, given, settings
from hypothesis import strategies as st
from oilward_core.bench import Speaker, Status, check_second, standing
from oilward_core.codes.suspension import LegFunction, LegKind
from oilward_core.errors import CoreError
from oilward_core.runsheet import TaskPlan
from oilward_core.spec import LegSpec, Variant

from . import tries
from .clerk import LEGS, TASK, Clerk, fastener, pulled, ticks, usual

LEG_PARTS = ("lower pinch bolt", "fork cap", "upper pinch bolt")
WHEEL_PARTS = ("axle", "calliper bolt", "axle pinch bolt")


def leg(which: int, *parts: str, **more: object) -> TaskPlan:
    """A leg whose sheet names what holds it."""
    plan = LEGS[which]
    held = tuple(replace(fastener(part, "22 N·m"), key=part) for part in parts)
    spec = replace(plan.reservoir, fasteners=held, leg=LegSpec(**more))  # type: ignore[arg-type]
    return replace(plan, reservoir=spec)


BOTH = (leg(0, *LEG_PARTS, *WHEEL_PARTS), leg(1, *LEG_PARTS))


def act(clerk: Clerk, name: str) -> None:
    """What is usually done at a step; where it was pulled, a second person looks."""
    state = clerk.state(name)
    if state.step.looks_at or state.remark.startswith("A second person"):
        raw = {"name": "Oda", "person": "oda", "alone": False}
        clerk.record("second look", raw, name)
    elif state.step.id.name == "leg pressure":
        clerk.record("measure", {"found": {"air": "10.5 bar"}}, name)
    elif state.step.id.name == "leg stayed":
        clerk.record("answer", {"value": "right so"}, name)
    elif state.step.id.name == "leg air":
        clerk.record("measure", {"found": {"air": "10.5 bar"}, "left": {"air": "0 bar"}}, name)
    else:
        usual(clerk, state)


def do(clerk: Clerk, until: str) -> None:
    """What is usually done, up to a step."""
    for _ in range(90):
        sheet = clerk.sheet
        if sheet.step(until).status == Status.READY:
            return
        act(clerk, sheet.focus or "")
    raise AssertionError(f"{until} was never offered")


class OrderTests(TestCase):
    def test_out_and_back_by_the_order_of_the_hands(self) -> None:
        clerk = Clerk(*BOTH)
        do(clerk, "fork left/leg out")
        out = clerk.state("fork left/leg out").step
        self.assertEqual(ticks(out), ["upper loose", "cap loose", "lower loose", "leg out"])
        names = [str(state.step.id) for state in clerk.sheet.steps]
        back = [name for name in names if name.startswith("fork left/torque leg")]
        self.assertEqual(back, [f"fork left/torque leg.{part}" for part in LEG_PARTS])
        wheel = [n for n in names if "torque wheel" in n or n in ("wheel in", "stroke")]
        self.assertEqual(
            wheel,
            [
                "wheel in",
                "fork left/torque wheel.axle",
                "fork left/torque wheel.calliper bolt",
                "stroke",
                "fork left/torque wheel.axle pinch bolt",
            ],
        )
        for before, then in zip([*back, *wheel], [*back, *wheel][1:], strict=False):
            with self.subTest(then):
                do(clerk, before)
                self.assertEqual(clerk.state(then).status, Status.BLOCKED)
                act(clerk, before)

    def test_each_is_asked_of_a_second_person_whatever_the_sheet_says(self) -> None:
        clerk = Clerk(*BOTH)
        do(clerk, "fork left/torque leg.fork cap")
        pull = pulled(clerk, "fork left/torque leg.fork cap")
        clerk.record(*pull, "fork left/torque leg.fork cap")
        cap = clerk.state("fork left/torque leg.fork cap")
        self.assertEqual(cap.remark, "A second person looks at it and says so.")
        after = clerk.state("fork left/torque leg.upper pinch bolt")
        self.assertEqual(after.status, Status.BLOCKED)

    def test_a_cap_pulled_too_far_has_its_thread_looked_at_and_is_pulled_again(self) -> None:
        clerk, cap = Clerk(*BOTH), "fork left/torque leg.fork cap"
        do(clerk, cap)
        clerk.record("torque", {**pulled(clerk, cap)[1], "reading": "60 N·m", "over": True}, cap)
        self.assertFalse(clerk.sheet.ready_to_sign)
        look = next(s for s in clerk.sheet.steps if s.step.id.name == "thread")
        self.assertEqual((look.step.id.reservoir, look.status), ("fork left", Status.READY))
        self.assertEqual(clerk.state(cap).status, Status.BLOCKED)
        clerk.record("answer", {"value": "good"}, str(look.step.id))
        act(clerk, cap)
        act(clerk, cap)
        self.assertEqual(clerk.state(cap).status, Status.DONE)

    def test_how_each_of_them_stands_is_told(self) -> None:
        clerk, cap = Clerk(*BOTH), "fork left/torque leg.fork cap"

        def stands() -> dict[str, str]:
            task = clerk.sheet.task("fork left")
            assert task is not None
            return {one.part: one.words for one in task.fasteners if one.open}

        do(clerk, "fork left/leg out")
        self.assertEqual(set(stands()), {"Axle", "Calliper bolt", "Axle pinch bolt"})
        act(clerk, "fork left/leg out")
        self.assertEqual(len(stands()), 6)
        do(clerk, cap)
        self.assertNotIn("Lower pinch bolt", stands())
        self.assertEqual(stands()["Fork cap"], "out, not torqued")
        do(clerk, "fork left/torque wheel.axle pinch bolt")
        self.assertEqual(set(stands()), {"Axle pinch bolt"})

    def test_a_sheet_that_names_none_is_ticked_as_before(self) -> None:
        clerk = Clerk(*LEGS)
        do(clerk, "fork left/leg out")
        self.assertEqual(ticks(clerk.state("fork left/leg out").step), ["leg out"])
        do(clerk, "wheel in")
        self.assertEqual(ticks(clerk.state("wheel in").step), ["axle", "lever"])

    def test_two_stand_for_axle_and_brake_though_the_sheet_names_neither(self) -> None:
        clerk, looked = Clerk(*LEGS), "wheel looked at"
        do(clerk, "wheel in")
        self.assertEqual(self.refused(clerk, "oda"), "second.not_pulled")
        clerk.tick("wheel in")
        clerk.tick(looked)  # a tick is nobody's look
        self.assertEqual(clerk.state(looked).status, Status.READY)
        self.assertEqual(self.refused(clerk, "mira"), "second.same")
        self.assertEqual(self.refused(clerk, "oda"), "")
        clerk.record("second look", {"name": "Oda", "person": "oda", "alone": False}, looked)
        self.assertEqual(clerk.state(looked).status, Status.DONE)

    def refused(self, clerk: Clerk, who: str) -> str:
        try:
            check_second(
                clerk.sheet, "wheel looked at", who, alone=False, at=clerk.now, bench=clerk.bench
            )
        except CoreError as error:
            return str(error.code)
        return ""


class AirTests(TestCase):
    air = leg(0, "fork cap", kind=LegKind.AIR, pressure=Decimal(1050))

    def test_the_cap_waits_until_the_gauge_is_at_nothing(self) -> None:
        clerk = Clerk(self.air, LEGS[1])
        do(clerk, "fork left/leg air")
        self.assertEqual(clerk.state("fork left/leg out").status, Status.BLOCKED)
        measured = {"found": {"air": "10.4 bar"}, "left": {"air": "0.3 bar"}}
        clerk.record("measure", measured, "fork left/leg air")
        self.assertEqual(clerk.state("fork left/leg out").status, Status.BLOCKED)
        self.assertIn("still air", clerk.state("fork left/leg air").remark)
        measured["left"]["air"] = "0 bar"
        clerk.record("measure", measured, "fork left/leg air")
        self.assertEqual(clerk.state("fork left/leg out").status, Status.READY)

    def test_no_other_leg_is_asked(self) -> None:
        steps = [str(state.step.id) for state in Clerk(*BOTH).sheet.steps]
        self.assertFalse([step for step in steps if "leg air" in step])


class WheelTests(TestCase):
    @settings(max_examples=tries(12, 200), deadline=None, phases=(Phase.explicit, Phase.generate))
    @given(st.randoms(use_true_random=False))
    def test_no_engine_runs_without_a_wheel_and_no_leg_is_opened_under_pressure(
        self, rng: random.Random
    ) -> None:
        clerk = Clerk(TASK, AirTests.air, leg(1, *LEG_PARTS, *WHEEL_PARTS))
        for _ in range(60):
            sheet = clerk.sheet
            at = {str(state.step.id): state for state in sheet.steps}
            done = {name for name, state in at.items() if state.status == Status.DONE}
            runs = [s for n, s in at.items() if n.startswith("run") and s.status == Status.READY]
            if runs and "wheel out" in done:
                held = [n for n in at if n in ("wheel in", "stroke") or "torque wheel" in n]
                self.assertLessEqual(set(held), done)
            if at["fork left/leg out"].status == Status.READY:
                self.assertIn("fork left/leg air", done)
            ready = [s for s in sheet.steps if s.status in (Status.READY, Status.RUNNING)]
            ready = [state for state in ready if state.step.ask != "wait"]
            if not ready:
                break
            state = rng.choice(ready)
            if state.step.id.name == "leg air":
                left = rng.choice(["0 bar", "2 bar"])
                told = {"found": {"air": "10.5 bar"}, "left": {"air": left}}
                clerk.record("measure", told, str(state.step.id))
            else:
                act(clerk, str(state.step.id))


class DrawnTests(TestCase):
    """What is drawn down to the gap is not in the leg any more."""

    def test_it_is_taken_off_what_was_poured_and_the_other_leg_is_poured_alike(self) -> None:
        bore = {"bore": Decimal(39), "rod": Decimal(12)}
        both = [leg(which, *LEG_PARTS, **bore) for which in (0, 1)]
        gap = {"air_gap": Decimal(112)}
        clerk = Clerk(*(replace(one, reservoir=replace(one.reservoir, **gap)) for one in both))
        # as much in the other one is no question, though some was drawn out of the first
        for side, found, poured_in, sure in (
            ("left", "97", "474.1", "492 ml"),
            ("right", "113", "493.2", ""),
        ):
            do(clerk, f"fork {side}/leg fill")
            clerk.record("amount", {"amount": "492 ml", "sure": sure}, f"fork {side}/leg fill")
            do(clerk, f"fork {side}/leg gap")
            gaps = {"found": {"air gap": f"{found} mm"}, "left": {"air gap": "112 mm"}}
            clerk.record("measure", gaps, f"fork {side}/leg gap")
            self.assertEqual(clerk.sheet.task(f"fork {side}").added, Decimal(poured_in))
            told = {one.part: one.word for one in standing(clerk.sheet, f"fork {side}", Speaker())}
            inside = f"{round(Decimal(poured_in))} ml"
            self.assertEqual(told["Oil"], f"492 ml poured, {inside} in it")
            self.assertEqual(told["Air gap"], f"{found}.0 mm, left at 112.0 mm")
        # without a bore nobody knows how much it was
        clerk = Clerk(leg(0, *LEG_PARTS))
        do(clerk, "fork left/leg gap")
        before = clerk.sheet.task("fork left").added
        gaps = {"found": {"air gap": "97 mm"}, "left": {"air gap": "112 mm"}, "sure": ["112 mm"]}
        clerk.record("measure", gaps, "fork left/leg gap")
        self.assertEqual(clerk.sheet.task("fork left").added, before)

    def told(self, poured: tuple[str, str], found: str = "102 mm", **other: Any) -> str:
        """What is said of the right leg, filled so, once both stand at 112 mm; ``other``: its own."""
        more: dict[str, Any] = {"air_gap": Decimal(112), "capacities": {Variant.DRY: Decimal(480)}}
        legs = []
        for which, own in ((0, more), (1, {**more, **other})):
            one = leg(which, *LEG_PARTS, bore=Decimal(39), function=own.pop("function", None))
            legs.append(replace(one, reservoir=replace(one.reservoir, **own)))
        clerk = Clerk(*legs)
        for side, amount in zip(("left", "right"), poured, strict=True):
            do(clerk, f"fork {side}/leg fill")
            kept = {"amount": f"{amount} ml", "sure": f"{amount} ml"}
            clerk.record("amount", kept, f"fork {side}/leg fill")
            do(clerk, f"fork {side}/leg gap")
            gaps = {"found": {"air gap": found} if found else {}, "left": {"air gap": "112 mm"}}
            clerk.record("measure", gaps, f"fork {side}/leg gap")
        return clerk.state("fork right/leg gap").remark

    def test_another_quantity_at_the_same_gap_asks_what_stayed_in(self) -> None:
        self.assertEqual(self.told(("492", "492")), "")
        self.assertEqual(self.told(("492", "496")), "")
        self.assertIn("8 ml more than in the other leg", self.told(("492", "500")))
        both = self.told(("492", "450"))
        self.assertIn("42 ml less than in the other leg", both)
        self.assertIn("9 % less than the sheet gives", both)
        self.assertIn("7 % more than the sheet gives", self.told(("526", "526")))
        # how much was drawn nobody knows where the gap before was not read
        self.assertEqual(self.told(("492", "450"), found=""), "")
        # legs that do not do the same are not held against each other
        self.assertEqual(self.told(("492", "450"), capacities={}, function=LegFunction.DAMPING), "")
        own = {"capacities": {Variant.DRY: Decimal(440)}, "function": LegFunction.DAMPING}
        self.assertEqual(self.told(("492", "452"), **own), "")

    def test_what_was_drawn_is_known_without_anything_to_hold_it_against(self) -> None:
        one = leg(0, *LEG_PARTS, bore=Decimal(39))
        clerk = Clerk(replace(one, reservoir=replace(one.reservoir, air_gap=None)))
        do(clerk, "fork left/leg gap")
        before = clerk.sheet.task("fork left").added
        gaps = {"found": {"air gap": "102 mm"}, "left": {"air gap": "112 mm"}}
        clerk.record("measure", gaps, "fork left/leg gap")
        self.assertEqual(clerk.sheet.task("fork left").added, before - Decimal("11.9"))
        # corrected: what was drawn is that of the correction alone
        clerk.correct(clerk.last("measure"), {**gaps, "found": {"air gap": "107 mm"}})
        self.assertEqual(clerk.sheet.task("fork left").added, before - Decimal("6.0"))

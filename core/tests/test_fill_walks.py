"""Whatever is answered of what is offered, causes, leaks and corrections included: no case is signed
outside its marks, no engine runs below its low mark, and the sum stays what was said."""

import random
from dataclasses import replace
from datetime import timedelta
from decimal import Decimal
from typing import Any
from unittest import TestCase

from hypothesis import Phase, given, settings
from hypothesis import strategies as st
from oilward_core.bench import DrawnOff, FilterOn, LevelRead, PouredIn, facts_of
from oilward_core.bench.asks.level import CauseNamed, LeftHere
from oilward_core.bench.asks.ran_out import RanOut
from oilward_core.bench.fold.draining import out_before_it_was_shut
from oilward_core.bench.fold.facts import Way
from oilward_core.bench.fold.filling import fill_case
from oilward_core.codes.bench import Status
from oilward_core.codes.fill import Cause, LeftFor
from oilward_core.codes.options import Emptied, Lost, Thread
from oilward_core.codes.poses import Pose
from oilward_core.codes.steps import Name
from oilward_core.errors import CoreError
from oilward_core.runsheet import Ask, Step, StepId, TaskPlan

from . import tries
from .clerk import GEARBOX, TASK, Clerk, ticks, usual

# a lead's word is no slip, one's own words need them, and these plans have no sheet to be looked up in
CAUSES = [c for c in Cause if c not in (Cause.GAUGE, Cause.ELSE, Cause.CAPACITY)]
TASKS: tuple[tuple[TaskPlan, ...], ...] = ((TASK,), (TASK, GEARBOX))


def offered(clerk: Clerk) -> list[str]:
    """What can be done now."""
    return [
        str(state.step.id)
        for state in clerk.sheet.steps
        if state.status in (Status.READY, Status.RUNNING)
        and state.step.ask not in (Ask.WAIT, Ask.LOOK_UP)
    ]


def slip(clerk: Clerk, rng: random.Random, name: str) -> bool:
    """Something a hand may also do at a step that is offered; False where nothing is odd about it."""
    state = clerk.state(name)
    ask = state.step.ask
    if ask == Ask.LEAKS and rng.random() < 0.4:
        place = rng.choice(state.step.places)
        clerk.record("leaks", {"result": place.code}, name)
    elif state.step.id.name == Name.ALL_OUT:
        clerk.record("answer", {"value": rng.choice(list(Emptied))}, name)
    elif ask == Ask.RAN_OUT:
        how = rng.choice(state.step.options).code
        said = {"how": how, "amount": "200 ml", "sure": "200 ml"}
        clerk.record("ran out", said if how == Lost.SOME else {"how": how}, name)
    elif ask in (Ask.FILL, Ask.LEVEL):
        return _slip_at_fill(clerk, rng, name, ask)
    elif state.step.tears and rng.random() < 0.2:
        clerk.record("tore", {}, name)
    elif ask == Ask.TORQUE:
        clerk.record("torque", _odd_pull(rng, state.step), name)
    elif state.step.id.name == Name.THREAD:
        clerk.record("answer", {"value": rng.choice(list(Thread))}, name)
    else:
        return False
    return True


def _odd_pull(rng: random.Random, step: Step) -> dict[str, Any]:
    """A pull as a hand may do it: too loose, too far, by feel, half of it ticked, a pass or a screw left
    out."""
    reading = f"{rng.choice((5, 11, 18, 22, 24, 30, 60))} N·m"
    told: dict[str, Any] = {"reading": reading, "sure": reading, "wrench": "m"}
    told["over"] = rng.random() < 0.1
    told["feel"] = rng.random() < 0.1
    told["items"] = [one for one in ticks(step) if rng.random() < 0.7]
    if step.fastener is not None and step.fastener.ring and rng.random() < 0.5:
        return {**told, "screw": str(rng.randint(1, step.fastener.count))}
    return {**told, "stage": rng.choice(("", "half", "full"))}


def _slip_at_fill(clerk: Clerk, rng: random.Random, name: str, ask: Ask) -> bool:
    stands = clerk.sheet.task(clerk.state(name).step.id.reservoir)
    assert stands is not None and stands.advice is not None
    advice, step = stands.advice, clerk.state(name).step
    if advice.action == "stop":
        clerk.record("cause", {"cause": rng.choice(CAUSES)}, name)
    elif ask == Ask.LEVEL and rng.random() < 0.05:
        clerk.record("cause", {"cause": Cause.UNREADABLE, "words": "blind"}, name)
    elif advice.may_stay and rng.random() < 0.3:
        clerk.record("left", {"reason": rng.choice(list(LeftFor))}, name)
    elif ask == Ask.LEVEL or (step.options and not step.draws and rng.random() < 0.3):
        clerk.now += timedelta(minutes=rng.choice((0, 2, 6)))
        sight = rng.choice(("seen", "seen", "seen", "below", "above"))
        told = {"sight": sight, "position": f"{rng.uniform(-0.1, 1.2):.2f}"}
        clerk.record("level", {**told, "attitude": rng.choice(step.options).code}, name)
    elif not step.draws:
        ml = f"{max(10, round(float(advice.ml) * rng.choice((0.3, 0.6, 1, 1.2))))} ml"
        clerk.record("pour", {"amount": ml, "sure": ml, "closed": rng.random() < 0.5}, name)
    else:
        return False
    return True


def walk(clerk: Clerk, rng: random.Random, most: int = 60) -> None:
    """Anything that is offered, done as it is usual or otherwise, until nothing is offered any more."""
    for _ in range(most):
        _strap(clerk)
        steps = offered(clerk)
        if not steps:
            return
        name = rng.choice(steps)
        try:
            if rng.random() < 0.6 or not slip(clerk, rng, name):
                usual(clerk, clerk.state(name))
        except CoreError:
            continue  # refused or asked: nothing was written down
        _correct(clerk, rng)
        _out_again(clerk, rng)
        _mended(clerk, rng)


def _mended(clerk: Clerk, rng: random.Random) -> None:
    """Now and then a lead says how a hurt thread was mended."""
    for stop in clerk.sheet.stops:
        if stop.step.partition("/")[2].startswith(Name.THREAD) and rng.random() < 0.5:
            clerk.record("answered", {"entry": stop.entry, "reason": "thread insert"}, stop.step)


def _out_again(clerk: Clerk, rng: random.Random) -> None:
    """Now and then what had been shut is out again."""
    shut = [one.step.id for one in clerk.sheet.steps if one.step.id.shuts and one.closed]
    if shut and rng.random() < 0.04:
        clerk.record("opens again", {}, str(rng.choice(shut)))


def _strap(clerk: Clerk) -> None:
    """A reading on the side stand takes the straps off; they go on again."""
    sheet = clerk.sheet
    if sheet.stance is not None and not sheet.stance.strapped and sheet.unfinished:
        told = {"pose": Pose.UPRIGHT, "strapped": True}
        clerk.record("stands", told, str(sheet.unfinished.step.id))


def _correct(clerk: Clerk, rng: random.Random) -> None:
    """Now and then an amount that was written down is put right."""
    poured = [e for e in clerk.entries if isinstance(e.data, PouredIn)]
    if not poured or rng.random() > 0.04:
        return
    old = rng.choice(poured)
    if any(one.supersedes == old.id for one in clerk.entries):
        return
    data = replace(old.data, ml=Decimal(rng.choice((100, 500, 900))))
    clerk.entries.append(replace(old, id=f"c{len(clerk.entries)}", data=data, supersedes=old.id))


class WalkTests(TestCase):
    # a walk is not made shorter by shrinking it: that takes minutes
    @settings(max_examples=tries(8, 60), deadline=None, phases=(Phase.explicit, Phase.generate))
    @given(st.randoms(use_true_random=False), st.sampled_from(TASKS))
    def test_nothing_untrue_is_run_or_signed(
        self, rng: random.Random, tasks: tuple[TaskPlan, ...]
    ) -> None:
        clerk = Clerk(*tasks)
        walk(clerk, rng)
        self._runs_on_enough(clerk)
        sheet = clerk.sheet
        # there is always something to do, unless it may be signed or stops
        looked_up = any(state.step.ask == Ask.LOOK_UP for state in sheet.steps)
        self.assertTrue(offered(clerk) or sheet.ready_to_sign or sheet.stops or looked_up)
        for task in sheet.tasks:
            self._is_what_was_said(clerk, task.key, task.added)
            if sheet.ready_to_sign:
                self._stands_inside(clerk, task.key)

    def _runs_on_enough(self, clerk: Clerk) -> None:
        """By the book it takes 0.97·C, and its low mark is t·V below; or a reading stood there."""
        for number, entry in enumerate(clerk.entries):
            if (StepId.of(entry.step).name, entry.kind) != ("run", "start") or entry.supersedes:
                continue
            before = [one for one in clerk.entries[:number] if one.at <= entry.at]
            facts = facts_of(before)
            for plan in clerk.plan.tasks:
                level, out = plan.reservoir.level, out_before_it_was_shut(plan, facts)
                assert level is not None and plan.capacity is not None
                takes = Decimal("0.97") * plan.capacity if out is None else out
                read = any(
                    isinstance(one.data, LevelRead)
                    and StepId.of(one.step).reservoir == plan.reservoir.key
                    for one in before
                )
                low = takes - level.target * level.between_marks
                if not read:
                    self.assertGreaterEqual(facts.into(plan.reservoir.key), low - 1)
                self.assertGreater(facts.into(plan.reservoir.key), takes / 4)

    def _is_what_was_said(self, clerk: Clerk, key: str, added: Decimal) -> None:
        facts = facts_of(clerk.entries)
        said = Decimal(0)
        for flow in facts.flows:
            if flow.reservoir != key or flow.way == Way.OUT:
                continue
            data = flow.entry.data
            assert isinstance(data, PouredIn | DrawnOff | FilterOn | RanOut)
            said += flow.into
            if isinstance(data, PouredIn | FilterOn):
                self.assertEqual(flow.into, data.ml)
        self.assertEqual(added, said)

    def _stands_inside(self, clerk: Clerk, key: str) -> None:
        facts, plan = facts_of(clerk.entries), clerk.plan.tasks[0 if key == "engine" else 1]
        counts = facts.events.get(key, [])
        case = fill_case(plan, facts)
        if case.gauge is None:  # it cannot be read: all of the book is in
            short = abs(case.capacity - facts.into(key))
            self.assertLessEqual(short, max(case.capacity / 100, Decimal(5)))
            return
        # a cause of what is no contradiction any more says nothing
        last = [one for one in counts if not isinstance(one.data, LeftHere | CauseNamed)][-1]
        self.assertIsInstance(last.data, LevelRead)
        assert isinstance(last.data, LevelRead)
        self.assertEqual(last.data.sight, "seen")
        self.assertTrue(Decimal("-0.001") <= last.data.position <= 1)
        level = plan.reservoir.level
        if level is not None and level.run_minutes:
            # what stood in the glass before the first start is not what is signed
            ran = facts_of(clerk.entries).ran_on(key)
            self.assertTrue(ran and ran[0].stopped and ran[0].stopped <= last.at)

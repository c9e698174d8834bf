"""Whatever is done of what is offered, over-pulls, leaks and plugs that are out again included: nothing
is signed, and no engine runs, with a fastener open, finger-tight or hurt."""

import random
from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from hypothesis import Phase, given, settings
from hypothesis import strategies as st
from oilward_core.bench import Pulled, fold
from oilward_core.codes.bench import Stands
from oilward_core.codes.options import Thread
from oilward_core.codes.roles import Role
from oilward_core.runsheet import StepId, TaskPlan
from oilward_core.torque import overpulled

from . import tries
from .clerk import ENGINE, GEARBOX, TASK, Clerk, fastener
from .test_fill_walks import walk
from .test_openings import FULL_SHEET, primary

BY_WRENCH = replace(
    TASK,
    reservoir=replace(
        ENGINE,
        fasteners=(
            ENGINE.fasteners[0],
            fastener("fill plug", "19 N·m"),
            fastener("filter", "16 N·m"),
        ),
    ),
)
TASKS: tuple[tuple[TaskPlan, ...], ...] = (
    (TASK,),
    (BY_WRENCH,),
    (BY_WRENCH, GEARBOX),
    (FULL_SHEET,),
    (TASK, primary(safety_wire=True)),
)


class WalkTests(TestCase):
    @settings(max_examples=tries(5, 80), deadline=None, phases=(Phase.explicit, Phase.generate))
    @given(st.randoms(use_true_random=False), st.sampled_from(TASKS))
    def test_nothing_runs_and_nothing_is_signed_with_a_fastener_open(
        self, rng: random.Random, tasks: tuple[TaskPlan, ...]
    ) -> None:
        clerk = Clerk(*tasks)
        walk(clerk, rng, 90)
        self._runs_shut(clerk)
        if clerk.sheet.ready_to_sign:
            self._signs_shut(clerk)

    def _runs_shut(self, clerk: Clerk) -> None:
        """At each start of the engine on new oil every drain plug stood torqued, every filler shut."""
        for n, entry in enumerate(clerk.entries):
            if entry.kind != "start" or not entry.step.startswith("run."):
                continue
            then = fold(clerk.plan, clerk.entries[:n], clerk.bench)
            for task in then.tasks:
                stands = {one.role: one.stands for one in task.fasteners}
                self.assertNotIn(stands[Role.FILL_PLUG], (Stands.OUT, Stands.LOOSE, Stands.LEAKING))
                # a filler is torqued once the level is right; everything else before anything runs
                stands.pop(Role.FILL_PLUG)
                by_hand = stands.pop(Role.FILTER, None)
                self.assertEqual(set(stands.values()), {Stands.TORQUED}, entry.step)
                self.assertNotIn(by_hand, (Stands.OUT, Stands.LEAKING, Stands.OLD))

    def _signs_shut(self, clerk: Clerk) -> None:
        for task in clerk.sheet.tasks:
            self.assertEqual([one.part for one in task.fasteners if one.open], [])
        for entry in clerk.entries:
            if isinstance(entry.data, Pulled) and self._went_too_far(clerk, entry.step, entry.data):
                look = StepId(StepId.of(entry.step).reservoir, "thread", entry.id[:8])
                answer = clerk.state(str(look)).entry
                assert answer is not None
                mended = any(one.step == str(look) for one in clerk.sheet.answered)
                self.assertTrue(answer.data.value == Thread.GOOD or mended)
                again = [e for e in clerk.entries if e.step == entry.step and e.at > entry.at]
                self.assertTrue(any(isinstance(e.data, Pulled) for e in again))

    def _went_too_far(self, clerk: Clerk, step: str, pulled: Pulled) -> bool:
        plug = clerk.state(step).step.fastener
        assert plug is not None and plug.torque is not None
        if pulled.feel:
            return False
        return pulled.over or overpulled(Decimal(pulled.nm), plug.torque, plug.soft)

"""The run order: hand-solvable cases, rules kept whatever the visit, wishes.

Optimal makespans are derived by exhaustive search (ortools CP-SAT and by hand), see each case.
"""

import random
from dataclasses import replace
from datetime import datetime, timedelta
from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from oilward_core.errors import CoreError
from oilward_core.order import (
    Stamp,
    Wish,
    broken_rules,
    cooled,
    hands_on,
    in_turn,
    kind_of_step,
    learned_minutes,
    slack,
    solve,
    solve_as_wished,
)
from oilward_core.order.placed import Order, Placed
from oilward_core.runsheet import COLD_JOBS, Ask, Job, JobKind, PlannedTask, cautions, jobs_for
from oilward_core.said.cautions import AXLE, GAS, HOT_OIL, SPRING
from oilward_core.said.cautions import BRAKE as BRAKE_FLUID
from oilward_core.spec import (
    FillRule,
    ReservoirKind,
    ReservoirSpec,
    Variant,
)

from . import tries
from .clerk import ENGINE, Clerk, spec

VALVES = COLD_JOBS["valves"]


PRIMARY = spec("primary", ReservoirKind.PRIMARY, FillRule.EXACT)
GEARBOX = spec("gearbox", ReservoirKind.GEARBOX)
DRIVE = spec("final drive", ReservoirKind.FINAL_DRIVE, FillRule.EXACT)
LEGS = [
    replace(spec(f"fork {side}", ReservoirKind.FORK, FillRule.AIR_GAP), capacities={})
    for side in ("left", "right")
]
BRAKE = spec("front brake", ReservoirKind.FRONT_BRAKE, FillRule.WATCH)
SHOCK = spec("shock", ReservoirKind.SHOCK, FillRule.REBUILD)
CIRCUIT = spec("clutch circuit", ReservoirKind.CLUTCH_CIRCUIT, FillRule.EXACT)


def tasks(*specs: ReservoirSpec) -> list[PlannedTask]:
    """Tasks on these reservoirs, with the filter where there is one."""
    return [
        PlannedTask(spec=s, variant=Variant.WITH_FILTER if s is ENGINE else Variant.DRAIN_ONLY)
        for s in specs
    ]


THREE_DRAINS = tasks(ENGINE, PRIMARY, GEARBOX)
SEVEN = tasks(ENGINE, PRIMARY, GEARBOX, DRIVE, *LEGS, BRAKE)


def random_visit(rng: random.Random) -> tuple[Job, ...]:
    """Some of seven reservoirs, sometimes with cold valves."""
    chosen = [task for task in SEVEN if rng.random() < 0.6] or SEVEN[:1]
    some = [
        PlannedTask(spec=task.spec, variant=rng.choice([task.variant, Variant.DRAIN_ONLY]))
        for task in chosen
    ]
    return jobs_for(some, [VALVES] if rng.random() < 0.3 else [])


def drain(name: str, work: int, drip: int, *rest: int, pan: bool = True) -> list[Job]:
    """Open, drip, then one job after another; the pan is held to the end of the first of them."""
    jobs = [
        Job(
            id=name,
            label=name,
            kind="drain",
            minutes=work,
            wait=drip,
            pan_until=f"{name}0" if pan else "",
        )
    ]
    for n, minutes in enumerate(rest):
        jobs.append(
            Job(
                id=f"{name}{n}",
                label=name,
                kind="work",
                minutes=minutes,
                after=(jobs[-1].id,),
                group=name,
            )
        )
    return jobs


class HandSolvedTests(TestCase):
    def test_a_job_that_waits_for_one_that_is_not_there_is_refused(self) -> None:
        for job in (
            Job(id="A", label="A", kind="work", minutes=5, after=("B",)),
            Job(id="A", label="A", kind="drain", minutes=5, pan_until="B"),
            Job(id="A", label="A", kind="work", minutes=-5),
        ):
            with self.subTest(job), self.assertRaises(CoreError) as refused:
                solve([job])
            self.assertEqual(refused.exception.code, "order.no_job")

    def test_three_jobs_by_hand(self) -> None:
        # start B 0–5, A 5–10, C 10–20, refill B 20–35, refill A 35–45: no idle minute
        jobs = [*drain("A", 5, 20, 10, pan=False), *drain("B", 5, 15, 15, pan=False)]
        jobs.append(Job(id="C", label="C", kind="work", minutes=10))
        found = solve(jobs)
        self.assertEqual((found.minutes, found.proven, found.hands_on), (45, True, 45))

    def test_three_equal_drains_with_three_two_and_one_pans(self) -> None:
        jobs = [job for name in "ABC" for job in drain(name, 5, 20, 5, 5)]
        for pans, minutes in ((3, 55), (2, 65), (1, 95)):
            with self.subTest(pans=pans):
                found = solve(jobs, pans=pans)
                self.assertEqual((found.minutes, found.proven), (minutes, True))

    def test_two_drains_one_run(self) -> None:
        # two pans 41 min, one reservoir at a time 59
        jobs = [*drain("A", 3, 15, 4, 4), *drain("B", 3, 15, 4, 4)]
        jobs.append(Job(id="run", label="run", kind="run", minutes=1, wait=3, after=("A1", "B1")))
        jobs.append(Job(id="level", label="level", kind="level", minutes=3, after=("run",)))
        self.assertEqual((solve(jobs, pans=2).minutes, in_turn(jobs)), (41, 59))


class VisitTests(TestCase):
    def test_a_three_drain_visit_is_proven_and_shorter_than_in_turn(self) -> None:
        found = solve(jobs_for(THREE_DRAINS))
        self.assertTrue(found.proven)
        self.assertLess(found.minutes, 0.85 * found.in_turn)
        self.assertEqual(broken_rules(found.placed, 1, 2), [])

    def test_cold_jobs_come_before_the_warm_up_and_every_fill_before_the_run(self) -> None:
        found = solve(jobs_for(SEVEN, [VALVES]))
        at = {placed.job.id: placed for placed in found.placed}
        self.assertLessEqual(at["valves"].end, at["warm up"].start)
        for key in ("engine", "primary", "gearbox", "final drive"):
            self.assertLessEqual(at[f"{key}/prove filler"].end, at[f"{key}/drain"].start)
            self.assertLessEqual(at[f"{key}/fill"].end, at["run"].start)
        self.assertGreaterEqual(at["gearbox/level"].start, at["run"].free + 5)
        self.assertGreaterEqual(at["leaks"].start, at["run"].free)
        self.assertEqual(broken_rules(found.placed, 1, 2), [])

    def test_two_technicians_are_quicker_and_keep_the_rules(self) -> None:
        one, two = solve(jobs_for(SEVEN)), solve(jobs_for(SEVEN), technicians=2)
        self.assertLess(two.minutes, one.minutes)
        self.assertLessEqual(two.bound, two.minutes)
        self.assertEqual(broken_rules(two.placed, 2, 2), [])

    def test_the_hottest_is_drained_first_in_no_longer_an_order(self) -> None:
        rng = random.Random(11)
        for _ in range(tries(8, 120)):
            jobs = random_visit(rng)
            found = solve(jobs, seconds=2.0)
            self.assertEqual(max(one.free for one in found.placed), found.minutes)
            self.assertEqual(broken_rules(found.placed, 1, 2), [])
            self.assertEqual(cooled(found), 0, [(p.job.id, p.start) for p in found.placed])

    def test_what_is_in_hand_comes_first(self) -> None:
        jobs = jobs_for(tasks(ENGINE, GEARBOX))
        done = {"cold checks", "warm up", "support"}
        left = [
            replace(job, after=tuple(name for name in job.after if name not in done))
            for job in jobs
            if job.id not in done
        ]
        for first in ("engine/prove filler", "gearbox/prove filler"):
            found = solve(left, first=first)
            self.assertEqual(min(found.placed, key=lambda one: one.start).job.id, first)
        # what cannot begin now does not come first
        self.assertEqual(solve(left, first="finish").minutes, solve(left).minutes)

    def test_learned_minutes_count(self) -> None:
        slow = jobs_for(THREE_DRAINS, learned={"refit": 20})
        self.assertGreater(solve(slow).minutes, solve(jobs_for(THREE_DRAINS)).minutes)

    def test_minutes_are_learned_from_three_visits_on(self) -> None:
        visits = [
            {"drain": 4.0, "refit": 3.0, "fill": 0.2},
            {"drain": 9.0, "refit": 4.0, "fill": 0.1},
            {"drain": 5.0, "fill": 0.3},
        ]
        self.assertEqual(learned_minutes(visits), {"drain": (5, 3), "fill": (1, 3)})

    def test_work_is_what_lies_between_entries_and_a_timer_s_end_ends_a_wait(self) -> None:
        start, minute = datetime(2026, 6, 1, 9), timedelta(minutes=1)
        told = (
            ("support", "confirm", 0),
            ("engine/filler", "answer", 2),
            ("engine/drain", "start", 5),
            ("engine/drain", "stop", 17),
            ("engine/measure", "amount", 19),
            ("engine/inspect", "finding", 22),
            ("engine/refit", "confirm", 24),
            ("engine/torque", "torque", 24 + 200),  # lunch
            ("engine/fill.1", "pour", 24 + 204),
            ("engine/settle.1", "start", 24 + 205),
            ("engine/settle.1", "stop", 24 + 210),
            ("engine/fill.2", "pour", 24 + 212),
        )
        stamps = [Stamp(step, kind, start + n * minute) for step, kind, n in told]
        worked = {"prove filler": 2, "drain": 3, "read plug": 5, "refit": 2, "fill": 6}
        self.assertEqual(hands_on(stamps, minute), worked)
        # where practice runs ten times as fast, minutes count as they would at the bench
        fast = [replace(s, at=start + (s.at - start) / 10) for s in stamps]
        for kind, minutes in hands_on(fast, minute / 10).items():
            if kind != "torque":
                self.assertAlmostEqual(minutes, worked[kind])

    def test_every_step_of_a_run_sheet_is_learned_under_a_kind_of_job(self) -> None:
        for state in Clerk().sheet.steps:
            step = str(state.step.id)
            waits = state.step.ask == Ask.WAIT
            self.assertTrue(kind_of_step(step) in list(JobKind) or waits, step)
            if not waits:
                self.assertTrue(state.step.job.endswith(kind_of_step(step)), step)

    def test_the_circuit_s_filter_is_changed_while_the_engine_is_empty(self) -> None:
        jobs = {job.id: job for job in jobs_for(tasks(ENGINE, CIRCUIT))}
        self.assertIn("engine/drain", jobs["clutch circuit/circuit filter"].while_waits)
        self.assertIn("clutch circuit/circuit filter", jobs["engine/fill"].after)
        alone = {job.id: job for job in jobs_for(tasks(CIRCUIT))}
        self.assertEqual(alone["clutch circuit/circuit filter"].after, ("support",))
        self.assertIn("clutch circuit/circuit filter", alone["finish"].after)

    def test_whatever_is_chosen_has_a_job(self) -> None:
        for kind in ReservoirKind:
            one = spec(kind.value, kind, FillRule.EXACT)
            groups = {job.group for job in jobs_for(tasks(one))}
            self.assertIn(one.key, groups)

    def test_without_its_forks_the_bike_stays_on_the_lift(self) -> None:
        found = solve(jobs_for(SEVEN))
        at = {placed.job.id: placed for placed in found.placed}
        out, back = at["front wheel out"], at["front wheel in"]
        between = [p for p in found.placed if out.start < p.start < back.end]
        self.assertEqual({p.job.attitude for p in between}, {"", "lifted"})
        self.assertFalse(out.start < at["run"].start < back.end)
        # the checker sees it without the model's help
        early = replace(at["run"], start=out.end, end=out.end + 2, free=out.end + 4)
        moved = [early if p.job.id == "run" else p for p in found.placed]
        said = "no time to move the bike from front wheel out to run"
        self.assertIn(said, broken_rules(moved, 1, 2))

    def test_a_tank_is_read_before_it_drains_back_and_the_forks_wait(self) -> None:
        for read_within in (None, 10):
            level = replace(ENGINE.level, latest=read_within and Decimal(read_within))
            tank = replace(ENGINE, kind=ReservoirKind.ENGINE_DRY, level=level)
            jobs = jobs_for(tasks(tank, *LEGS))
            found = solve(jobs)
            self.assertEqual(broken_rules(found.placed, 1, 2), [])
            at = {one.job.id: one for one in found.placed}
            after = at["engine/level"].start - at["run"].free
            if read_within:
                self.assertLessEqual(after, read_within)
                # as late as that and not later, with everything else in its place
                give = slack(found)["engine/level"]
                self.assertLessEqual(after + give, read_within)
        late = replace(at["engine/level"], start=at["run"].free + 11)
        said = broken_rules(
            [late if one is at["engine/level"] else one for one in found.placed], 1, 2
        )
        self.assertIn("engine/level begins too long after run", said)

    def test_two_legs_share_one_front_wheel_and_drip_together(self) -> None:
        one, two = solve(jobs_for(tasks(LEGS[0]))), solve(jobs_for(tasks(*LEGS)))
        self.assertEqual(sum(p.job.id == "front wheel out" for p in two.placed), 1)
        self.assertLess(two.minutes, one.minutes + 25)


class CautionTests(TestCase):
    def test_gathered_once_and_again_at_each_step(self) -> None:
        leg = replace(LEGS[0], caution="Hold the cap.")
        jobs = jobs_for(tasks(ENGINE, PRIMARY, leg, SHOCK, BRAKE), [VALVES])
        said = cautions(jobs)
        self.assertEqual(len(said), len(set(said)))
        self.assertEqual(set(said), {text for job in jobs for text in job.cautions})
        at = {job.id: job.cautions for job in jobs}
        self.assertEqual(at["front wheel out"], (AXLE,))
        self.assertEqual(at["fork left/leg out"], ("Fork left: Hold the cap.",))
        self.assertEqual(at["fork left/leg drain"], (SPRING,))
        self.assertEqual(at["shock/look"], (GAS,))
        self.assertEqual(at["front brake/look"], (BRAKE_FLUID,))
        self.assertEqual(at["engine/drain"], (HOT_OIL,))
        self.assertIn("fuel vapour", " ".join(at["valves"]))

    def test_the_bench_says_at_its_step_what_the_plan_says_before(self) -> None:
        at_bench = " ".join(state.caution for state in Clerk().sheet.steps)
        for text in cautions(jobs_for(tasks(ENGINE))):
            self.assertIn(text.removeprefix("Engine: "), at_bench)

    def test_nothing_drained_needs_no_warm_up(self) -> None:
        names = {job.id for job in jobs_for(tasks(*LEGS, BRAKE))}
        self.assertNotIn("warm up", names)
        self.assertNotIn("run", names)


class WishTests(TestCase):
    JOBS = jobs_for(THREE_DRAINS)

    def test_a_wish_is_kept(self) -> None:
        for first, then in (("gearbox", "engine"), ("engine", "gearbox")):
            wish = Wish(f"{first}/fill", f"{then}/prove filler")
            found = solve(self.JOBS, wishes=[wish])
            at = {placed.job.id: placed for placed in found.placed}
            self.assertLessEqual(at[wish.first].end, at[wish.then].start)
            self.assertEqual(broken_rules(found.placed, 1, 2), [])

    def test_an_impossible_wish_names_the_rule(self) -> None:
        for wishes, code in (
            ([Wish("engine/fill", "engine/drain")], "order.rule"),
            ([Wish("run", "warm up")], "order.rule"),
            (
                [
                    Wish("engine/fill", "gearbox/prove filler"),
                    Wish("gearbox/fill", "engine/prove filler"),
                ],
                "order.wishes",
            ),
            ([Wish("engine/fill", "tea")], "order.no_job"),
        ):
            with self.subTest(wishes=wishes), self.assertRaises(CoreError) as caught:
                solve(self.JOBS, wishes=wishes)
            self.assertEqual(caught.exception.code, code)

    def test_what_can_be_kept_is_kept_and_the_rest_is_said(self) -> None:
        good, bad = Wish("gearbox/fill", "engine/drain"), Wish("engine/fill", "engine/drain")
        other = Wish("engine/fill", "gearbox/prove filler")
        for wishes, code in (([bad, good], "order.rule"), ([good, other], "order.wishes")):
            with self.subTest(wishes=wishes):
                found, refused = solve_as_wished(self.JOBS, wishes=wishes)
                assert refused is not None
                self.assertEqual(refused.code, code)
                at = {placed.job.id: placed for placed in found.placed}
                self.assertLessEqual(at[good.first].end, at[good.then].start)
                self.assertEqual(broken_rules(found.placed, 1, 2), [])
        found, refused = solve_as_wished(self.JOBS, wishes=[good])
        self.assertIsNone(refused)
        with self.assertRaises(CoreError):
            solve_as_wished(self.JOBS, wishes=[Wish("engine/fill", "tea")])

    def test_hands_and_pans_have_limits(self) -> None:
        for more, code in (({"technicians": 9}, "order.technicians"), ({"pans": 0}, "order.pans")):
            with self.assertRaises(CoreError) as caught:
                solve(self.JOBS, **more)
            self.assertEqual(caught.exception.code, code)


class RuleTests(TestCase):
    CHOICES = (ENGINE, PRIMARY, GEARBOX, DRIVE, *LEGS, BRAKE)

    @settings(max_examples=25)
    @given(
        st.sets(st.integers(0, 6), min_size=1),
        st.integers(1, 3),
        st.integers(1, 3),
        st.booleans(),
        st.dictionaries(st.sampled_from(["drain", "refit", "fill"]), st.integers(1, 15)),
    )
    def test_no_order_breaks_a_rule(
        self, chosen: set[int], technicians: int, pans: int, cold: bool, learned: dict[str, int]
    ) -> None:
        planned = tasks(*(self.CHOICES[n] for n in sorted(chosen)))
        jobs = jobs_for(planned, [VALVES] if cold else [], learned)
        found = solve(jobs, technicians=technicians, pans=pans, seconds=0.5)
        self.assertEqual(broken_rules(found.placed, technicians, pans), [])
        self.assertEqual({placed.job.id for placed in found.placed}, {job.id for job in jobs})
        self.assertLessEqual(found.bound, found.minutes)

    def test_a_busy_machine_gets_an_order_that_is_not_called_proven(self) -> None:
        jobs = jobs_for(SEVEN, [VALVES])
        for technicians in (1, 2):
            found = solve(jobs, technicians=technicians, seconds=0)
            self.assertEqual(broken_rules(found.placed, technicians, 2), [])
            self.assertFalse(found.proven)
            self.assertLess(found.bound, found.minutes)

    def test_a_busy_machine_blames_no_wish_that_can_be_kept(self) -> None:
        jobs = jobs_for(THREE_DRAINS)
        wish = Wish("gearbox/fill", "engine/prove filler")
        at = {one.job.id: one for one in solve(jobs, wishes=[wish], seconds=0).placed}
        self.assertLessEqual(at[wish.first].end, at[wish.then].start)
        with self.assertRaises(CoreError) as caught:
            solve(jobs, wishes=[Wish("engine/fill", "engine/drain")], seconds=0)
        self.assertEqual(caught.exception.code, "order.rule")

    def test_the_same_jobs_give_the_same_order(self) -> None:
        jobs = jobs_for(THREE_DRAINS)
        self.assertEqual(solve(jobs).placed, solve(jobs).placed)

    def test_the_checker_sees_what_is_wrong(self) -> None:
        found = solve(jobs_for(SEVEN), technicians=2)
        crowded = [replace(placed, start=0, end=placed.job.minutes) for placed in found.placed]
        said = " ".join(broken_rules(crowded, 1, 1))
        for words in ("jobs at once", "begins before", "pans in use", "move the bike"):
            self.assertIn(words, said)


class SlackTests(TestCase):
    """How much later a job may begin."""

    def test_the_critical_path_of_a_worked_example(self) -> None:
        # A textbook network, worked by hand: A 3, then B 2 and C 4 side by side, then D 1; 8 in all,
        # A, C and D critical, B with 2 to spare.
        network = [
            Job(id="A", label="A", kind="a", minutes=3),
            Job(id="B", label="B", kind="b", minutes=2, after=("A",)),
            Job(id="C", label="C", kind="c", minutes=4, after=("A",)),
            Job(id="D", label="D", kind="d", minutes=1, after=("B", "C")),
        ]
        found = solve(network, technicians=2)
        self.assertEqual(found.minutes, 8)
        spare = slack(found)
        self.assertEqual({key: spare[key] for key in "ACD"}, {"A": 0, "C": 0, "D": 0})
        start = {one.job.id: one.start for one in found.placed}
        self.assertEqual(start["B"] + spare["B"], 5)

    def test_a_job_of_no_minutes_holds_up_what_begins_in_its_own_minute(self) -> None:
        wait = Job(id="wait", label="", kind="a", minutes=0, wait=20)
        meanwhile = Job(id="b", label="", kind="b", minutes=5, while_waits=("wait",))
        then = Job(id="c", label="", kind="c", minutes=30, after=("b",))
        placed = tuple(
            Placed(job=job, start=start, end=end, free=free, technician=0)
            for job, start, end, free in (
                (wait, 10, 10, 30),
                (meanwhile, 10, 15, 15),
                (then, 15, 45, 45),
            )
        )
        order = Order(placed=placed, minutes=45, bound=45, proven=True, in_turn=55)
        self.assertEqual(slack(order), {"wait": 0, "b": 0, "c": 0})

    def test_alone_nothing_but_a_wait_leaves_time(self) -> None:
        drips = [
            Job(id="drain", label="drain", kind="drain", minutes=3, wait=10),
            Job(id="refit", label="refit", kind="refit", minutes=4, after=("drain",)),
            Job(id="look", label="look", kind="look", minutes=2),
        ]
        found = solve(drips)
        self.assertEqual((found.minutes, slack(found)["drain"]), (17, 0))
        start = {one.job.id: one.start for one in found.placed}
        self.assertEqual(start["look"] + slack(found)["look"], 11)

    @settings(max_examples=12, deadline=None)
    @given(st.data())
    def test_begun_so_much_later_the_whole_is_as_soon(self, data: st.DataObject) -> None:
        chosen = data.draw(st.lists(st.sampled_from(SEVEN), min_size=2, max_size=4, unique_by=id))
        people = data.draw(st.integers(1, 2))
        jobs = jobs_for(chosen)
        found = solve(jobs, technicians=people)
        spare = slack(found)
        self.assertEqual(min(spare.values()), 0)
        late = data.draw(st.sampled_from(sorted(found.placed, key=lambda one: one.job.id)))
        held = Job(
            id="held", label="held", kind="held", minutes=0, wait=late.start + spare[late.job.id]
        )
        delayed = [
            replace(job, after=(*job.after, "held")) if job.id == late.job.id else job
            for job in jobs
        ]
        again = solve([held, *delayed], technicians=people, seconds=10)
        self.assertEqual(again.minutes, found.minutes)

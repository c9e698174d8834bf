"""The one description of the work: the same jobs as before it, and rows that cannot be left out."""

import json
from dataclasses import replace
from enum import StrEnum
from pathlib import Path as File
from unittest import TestCase

from oilward_core.bench.fold.gather import gathered
from oilward_core.bench.fold.knowing import known_of
from oilward_core.bench.fold.status import state_of
from oilward_core.debris import FAMILY, Matter
from oilward_core.errors import CoreError
from oilward_core.guard import whole_table
from oilward_core.runsheet import (
    COLD_JOBS,
    JOB_OF,
    JOBS,
    MAKERS,
    Fact,
    Job,
    JobKind,
    Name,
    PlannedTask,
    StepId,
    build,
)
from oilward_core.runsheet.build import RECIPES
from oilward_core.said.cautions import SPRING
from oilward_core.schools import TOPICS, Schools
from oilward_core.spec import KINDS, Recipe, ReservoirKind, fields_for
from oilward_core.spec.kinds import FillRule

from .clerk import EVERYTHING, Clerk, fastener, spec
from .test_order import BRAKE, CIRCUIT, DRIVE, ENGINE, GEARBOX, LEGS, PRIMARY, SHOCK, tasks

# the jobs of the last release, written down before this description took over
GOLDEN = json.loads((File(__file__).parent / "golden" / "jobs.json").read_text())
FILTERED = replace(CIRCUIT, fasteners=(fastener("second filter", "8 N·m"),))
VISITS = {
    "engine": tasks(ENGINE),
    "three drains": tasks(ENGINE, PRIMARY, GEARBOX),
    "seven": tasks(ENGINE, PRIMARY, GEARBOX, DRIVE, *LEGS, BRAKE),
    "forks alone": tasks(*LEGS),
    "looks alone": tasks(BRAKE, SHOCK),
    "circuit with engine": tasks(ENGINE, FILTERED),
    "circuit alone": tasks(FILTERED),
    "everything": tasks(ENGINE, FILTERED, PRIMARY, GEARBOX, DRIVE, *LEGS, SHOCK, BRAKE),
}
MEANWHILE = (JobKind.FILTER, JobKind.CIRCUIT_FILTER)
SAME = ("label", "kind", "minutes", "wait", "group", "attitude", "pan_until", "held_until")


def as_they_were(jobs: tuple[Job, ...]) -> tuple[Job, ...]:
    """The jobs while leaks were looked for once, with nothing to stand for, and no leg was looked
    over."""
    new = {job.id: job for job in jobs if job.kind in (JobKind.LEAKS_AGAIN, JobKind.LEG_LOOK)}

    def after(job: Job) -> tuple[str, ...]:
        waits = (new[name].after if name in new else (name,) for name in job.after)
        return tuple(name for names in waits for name in names)

    return tuple(
        replace(job, wait=0 if job.kind == JobKind.LEAKS else job.wait, after=after(job))
        for job in jobs
        if job.id not in new
    )


def before(jobs: list[dict[str, object]] | tuple[object, ...]) -> dict[str, set[str]]:
    """Everything that comes before each job."""
    found: dict[str, set[str]] = {}
    for job in jobs:
        after = (*job.after, *job.while_waits)  # type: ignore[union-attr]
        found[job.id] = set(after).union(*(found[name] for name in after))  # type: ignore[union-attr]
    return found


class GoldenTests(TestCase):
    def test_the_same_jobs_in_the_same_order_as_before(self) -> None:
        for name, chosen in VISITS.items():
            for cold in ((), tuple(COLD_JOBS.values())):
                title = f"{name}, cold" if cold else name
                jobs, golden = as_they_were(build(chosen, cold).jobs), GOLDEN[title]
                self.assertEqual([job.id for job in jobs], [job["id"] for job in golden], title)
                come_before = before(jobs)
                for job, was in zip(jobs, golden, strict=True):
                    with self.subTest(title, job=job.id):
                        found = {name: getattr(job, name) for name in SAME}
                        self.assertEqual(found, {name: was[name] for name in SAME})
                        found_before = sorted(come_before[job.id])
                        if job.kind in MEANWHILE:  # any time from the plug being out
                            self.assertLessEqual(set(found_before), set(was["before"]))
                        else:
                            self.assertEqual(found_before, was["before"])
                        # a leg is closed against its spring as well as opened
                        more = [SPRING] if job.kind == JobKind.LEG_GAP else []
                        self.assertEqual(list(job.cautions), was["cautions"] + more)

    def test_a_case_that_is_not_read_after_a_run_needs_none(self) -> None:
        # the one difference: a run was planned for every visit with a drain
        self.assertNotIn("run", [job.id for job in build(tasks(DRIVE)).jobs])
        self.assertIn("leaks", [job.id for job in build(tasks(DRIVE)).jobs])


class StepTests(TestCase):
    def test_ids_are_read_as_they_are_written(self) -> None:
        for text in (
            "warm",
            "run.2",
            "engine/fill.1",
            "fork left/leg gap",
            "engine/look up.drain plug.torque",
            "engine/look up..capacity.with filter",
        ):
            self.assertEqual(str(StepId.of(text)), text)

    def test_every_step_has_a_job_that_is_there_and_needs_what_is_there(self) -> None:
        for chosen in VISITS.values():
            sheet = build(chosen, tuple(COLD_JOBS.values()))
            jobs, steps = {job.id for job in sheet.jobs}, {step.id for step in sheet.steps}
            self.assertEqual({step.job for step in sheet.steps}, jobs)
            for step in sheet.steps:
                for need in step.needs:
                    self.assertLessEqual(set(sheet.makers().of(need)), steps)

    def test_what_a_job_is_careful_of_its_steps_say_and_their_own_as_well(self) -> None:
        clerk = Clerk(*EVERYTHING, cold=tuple(COLD_JOBS))
        sheet = build([task.task for task in EVERYTHING], tuple(COLD_JOBS.values()))
        said = {job.id: " ".join(job.cautions) for job in sheet.jobs}
        for state in clerk.sheet.steps:
            self.assertEqual(state.caution, said[state.step.job], state.step.id)
        facts, bench = gathered([]), clerk.bench
        known = known_of(clerk.plan, facts, bench)
        warm = next(step for step in sheet.steps if step.name == Name.WARM)
        own = state_of(replace(warm, caution="Mind the hot header."), known, {})
        self.assertEqual(own.caution, f"{said['warm up']} Mind the hot header.")

    def test_warming_up_fits_what_is_serviced(self) -> None:
        def said(*specs: object) -> str:
            steps = build(tasks(*specs)).steps  # type: ignore[arg-type]
            return next(step.instruction for step in steps if step.name == Name.WARM)

        self.assertIn("at idle", said(ENGINE))
        self.assertIn("idling does not warm the final drive", said(DRIVE))
        self.assertIn("idling does not warm the final drive", said(ENGINE, DRIVE))

    def test_a_dripping_that_was_learned_is_the_timer_s_and_the_plan_s(self) -> None:
        sheet = build(tasks(ENGINE), learned={"dripping": 17})
        drain = next(step for step in sheet.steps if step.name == Name.DRAIN)
        job = next(job for job in sheet.jobs if job.kind == JobKind.DRAIN)
        self.assertEqual((drain.minutes, job.wait), (17, 17))


class OneRowTests(TestCase):
    """What is added in one place, and what says so where a part of it is missing."""

    TABLES = (
        (ReservoirKind, KINDS),
        (Matter, FAMILY),
        (JobKind, JOBS),
        (Name, JOB_OF),
        (Fact, MAKERS),
        (Recipe, RECIPES),
    )

    def test_a_missing_row_is_refused_by_name(self) -> None:
        for words, rows in self.TABLES:
            whole_table(words, dict(rows))  # type: ignore[type-var]
            for word in words:
                short = {key: row for key, row in rows.items() if key != word}
                with self.subTest(word=word), self.assertRaises(CoreError) as caught:
                    whole_table(words, short)  # type: ignore[type-var]
                self.assertEqual(caught.exception.fields["missing"], [word.value])

    def test_a_new_word_without_its_row_fails(self) -> None:
        known = {kind.name: kind.value for kind in ReservoirKind}
        wider = StrEnum("wider", {**known, "SPARE": "a kind of the test"})
        rows = {wider[kind.name]: row for kind, row in KINDS.items()}
        with self.assertRaises(CoreError):
            whole_table(wider, rows)

    def test_every_kind_has_all_that_is_different_about_it(self) -> None:
        for kind, facts in KINDS.items():
            with self.subTest(kind=kind):
                self.assertTrue(facts.column and facts.families)
                self.assertIsInstance(facts.fill_rule, FillRule)
                self.assertTrue(fields_for(kind, facts.fill_rule))
                planned = PlannedTask(
                    spec=spec(kind.value, kind, FillRule.EXACT), variant=tasks(ENGINE)[0].variant
                )
                self.assertIn(kind.value, {job.group for job in build([planned]).jobs})

    def test_every_school_is_one_row_with_a_default(self) -> None:
        for topic in TOPICS:
            for kind in topic.kinds:
                self.assertEqual(Schools().of(kind, topic.key).choice, topic.choices[0])

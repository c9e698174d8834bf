"""Jobs: once where once is enough, tried three times, set aside and told, taken up when a process was
killed; and nothing is wanted by what did not come to pass."""

import threading
from unittest import mock

from demo.queue import worker_once
from demo.races import RaceTestCase
from django.db import DatabaseError, connection, transaction
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob
from rest_framework.test import APIClient

from workshop.background import AGAIN, begins, job, set_aside, take_up, want

seen: list[str] = []


@job("tests.fall_over", "falling over")
def fall_over(word: str) -> None:
    seen.append(word)
    raise DatabaseError(f"a value no database keeps: {word}")


@job("tests.note", "noting")
def note(word: str) -> None:
    seen.append(word)


class QueueTests(RaceTestCase):
    def setUp(self) -> None:
        super().setUp()
        seen.clear()
        self.enterContext(mock.patch.object(AGAIN, "exponential_wait", 0))

    def test_a_job_that_fails_is_tried_three_times_and_keeps_nothing_else_from_being_done(
        self,
    ) -> None:
        want(fall_over, word="bad")
        want(note, word="good")
        with self.assertLogs("oilward.background", "ERROR") as logged:
            for _ in range(4):
                worker_once()
        self.assertEqual(seen.count("bad"), 3)
        self.assertIn("good", seen)
        self.assertEqual(set_aside(), ["tests.fall_over"])
        self.assertIn("a value no database keeps", "".join(logged.output))
        self.assertEqual(APIClient().get("/api/health/").json()["set_aside"], 1)
        told = self.signed_in("oda").get("/api/keeping/").json()
        self.assertTrue(told["alarm"])
        self.assertIn("falling over (1)", told["aside"])

    def test_a_job_whose_process_was_killed_and_one_that_waits_under_the_same_name_are_one(
        self,
    ) -> None:
        want(note, "one", word="first")
        want(note, "two", word="alone")
        with connection.cursor() as cursor:
            cursor.execute("UPDATE procrastinate_jobs SET status = 'doing'")
        want(note, "one", word="again")
        want(take_up, timestamp=0)
        for _ in range(2):
            worker_once()
        self.assertEqual(sorted(seen), ["again", "alone"])
        self.assertFalse(ProcrastinateJob.objects.filter(task_name=note.name).exists())

    def test_what_was_set_aside_is_tried_once_more_when_the_worker_begins(self) -> None:
        want(fall_over, "one", word="bad")
        with self.assertLogs("oilward.background", "ERROR"):
            for _ in range(4):
                worker_once()
            begins.send(sender=None)
            worker_once()
        self.assertEqual((seen.count("bad"), set_aside()), (4, ["tests.fall_over"]))
        # one that waits already is enough
        want(fall_over, "one", word="new")
        begins.send(sender=None)
        self.assertEqual(set_aside(), [])
        with mock.patch.object(
            app.tasks["tests.fall_over"], "func", lambda word: seen.append(word)
        ):
            worker_once()
        self.assertEqual((seen[-1], set_aside()), ("new", []))

    def test_one_that_waits_already_is_enough(self) -> None:
        for _ in range(3):
            want(note, "only", word="x")
        want(note, word="y")
        self.assertEqual(ProcrastinateJob.objects.filter(status="todo").count(), 2)
        worker_once()
        self.assertEqual(sorted(seen), ["x", "y"])
        self.assertFalse(ProcrastinateJob.objects.filter(task_name=note.name).exists())

    def test_what_did_not_come_to_pass_wants_nothing(self) -> None:
        with transaction.atomic():
            want(note, word="x")
            transaction.set_rollback(True)
        worker_once()
        self.assertEqual(seen, [])

    def test_two_at_the_same_moment_are_one_job(self) -> None:
        from django.db import connection

        def both() -> None:
            try:
                want(note, "only", word="x")
            finally:
                connection.close()

        threads = [threading.Thread(target=both) for _ in range(6)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(ProcrastinateJob.objects.count(), 1)

    def test_every_job_has_its_own_name_and_what_is_due_is_brought_forward_by_the_clock(
        self,
    ) -> None:
        self.assertLessEqual(
            {"ward.roll", "lab.take_in", "visit.ahead", "tries.forget", "queue.take_up"},
            set(app.tasks),
        )
        periodic = {one.task.name for one in app.periodic_registry.periodic_tasks.values()}
        self.assertLessEqual(
            {"ward.roll", "tries.forget", "queue.take_up", "queue.clear"}, periodic
        )

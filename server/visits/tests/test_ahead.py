"""When visits will be through: worked out beside the API, by jobs on the queue."""

from uuid import UUID

from demo.queue import worker_once
from demo.races import RaceTestCase
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob
from workshop.background import begins

from visits.ahead import services
from visits.models import AheadRow
from visits.tests.bench import Technician


class WorkerTests(RaceTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.mira = Technician(self.signed_in("mira"), self.heron.pk)
        self.mira.open()

    def _row(self) -> AheadRow:
        """The finish, once the queue is worked off."""
        worker_once()
        return AheadRow.objects.get(visit=self.mira.visit)

    def test_it_is_known_soon_and_anew_when_work_is_done(self) -> None:
        first = self._row()
        self.mira.tick()
        later = self._row()
        self.assertNotEqual(later.of, first.of)
        self.assertLess(later.document["hands_on"], first.document["hands_on"])
        answer = self.mira.api.get(f"/api/visits/{self.mira.visit}/finish/").json()
        self.assertEqual(answer["at"], later.document["at"])

    def test_what_comes_together_is_solved_once(self) -> None:
        first = self._row()
        real, solved = services.solve, []

        def counting(*given: object, **more: object) -> object:
            solved.append(timezone.now())
            return real(*given, **more)  # type: ignore[arg-type]

        services.solve = counting  # type: ignore[assignment]
        self.addCleanup(setattr, services, "solve", real)
        for _ in range(4):
            self.mira.entry("takes")
            self.mira.entry("gives up")
        self.mira.tick()
        self.assertNotEqual(self._row().of, first.of)
        self.assertEqual(len(solved), 1)

    def test_one_that_waits_too_long_is_asked_for_anew(self) -> None:
        first = self._row()
        AheadRow.objects.update(worked_out=first.worked_out - 2 * services.STALE)
        self.mira.api.get(f"/api/visits/{self.mira.visit}/finish/")
        self.assertGreaterEqual(self._row().worked_out, first.worked_out)

    def test_what_was_written_down_while_nobody_worked_it_out_is_on_the_queue_again(self) -> None:
        ProcrastinateJob.objects.all()._raw_delete("default")
        begins.send(sender=None)
        self._row()

    def test_a_visit_that_is_closed_has_no_finish_ahead(self) -> None:
        self._row()
        self.mira.leave("wrong bike")
        self.assertFalse(services.look_ahead(UUID(self.mira.visit), timezone.now()))

"""When visits will be through: worked out beside the API, by a process that hears what is written."""

import threading
import time
from uuid import UUID

from demo.races import RaceTestCase
from django.db import connection
from django.utils import timezone

from visits.ahead import services
from visits.ahead.worker import Worker
from visits.models import AheadRow
from visits.tests.bench import Technician

LONGEST = 30.0  # seconds; how long it really takes is printed


class WorkerTests(RaceTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.mira = Technician(self.signed_in("mira"), self.heron.pk)
        self.mira.open()
        self.solved: list[float] = []
        self.goes_on = True
        self.worker = Worker(lambda: self.goes_on)
        self.thread = threading.Thread(target=self._run)
        self.thread.start()
        self.addCleanup(self._stop)

    def _run(self) -> None:
        try:
            self.worker.run()
        finally:
            connection.close()

    def _stop(self) -> None:
        self.goes_on = False
        self.thread.join(10)

    def _row(self, differs_from: str = "") -> AheadRow:
        """The finish as it is worked out anew."""
        until = time.monotonic() + LONGEST
        while time.monotonic() < until:
            row = AheadRow.objects.filter(visit=self.mira.visit).first()
            if row is not None and row.of != differs_from:
                return row
            time.sleep(0.02)
        self.fail("never worked out")

    def test_it_is_known_soon_and_anew_when_work_is_done(self) -> None:
        first = self._row()  # written down before anybody listened
        self.mira.tick()
        begun = time.monotonic()
        later = self._row(first.of)
        print(f"the finish was known anew after {time.monotonic() - begun:.2f} s")
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
        self._row(first.of)
        self.assertEqual(len(solved), 1)

    def test_one_that_waits_too_long_is_asked_for_anew(self) -> None:
        first = self._row()
        AheadRow.objects.update(worked_out=first.worked_out - 2 * services.STALE)
        self.mira.api.get(f"/api/visits/{self.mira.visit}/finish/")
        until = time.monotonic() + LONGEST
        while time.monotonic() < until:
            row = AheadRow.objects.get(visit=self.mira.visit)
            if row.worked_out >= first.worked_out:
                return
            time.sleep(0.02)
        self.fail("not worked out anew")

    def test_a_visit_that_is_closed_has_no_finish_ahead(self) -> None:
        self._row()
        self.mira.leave("wrong bike")
        self.assertFalse(services.look_ahead(UUID(self.mira.visit), timezone.now()))

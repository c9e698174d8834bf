"""A day begins at midnight where the workshop stands."""

from datetime import UTC, date, datetime
from unittest import mock

from demo.testing import WorkshopTestCase
from visits.models import Service
from visits.tests.bench import Technician

from workshop import days
from workshop.models import Workshop

LATE = datetime(2026, 5, 4, 22, 30, tzinfo=UTC)


class DayTests(WorkshopTestCase):
    def test_the_same_moment_is_another_day_elsewhere(self) -> None:
        for zone, day in (
            ("Pacific/Pago_Pago", date(2026, 5, 4)),
            ("Europe/Lisbon", date(2026, 5, 4)),
            ("Europe/Helsinki", date(2026, 5, 5)),
            ("Pacific/Kiritimati", date(2026, 5, 5)),
        ):
            Workshop.objects.update(time_zone=zone)
            with self.subTest(zone), mock.patch("django.utils.timezone.now", return_value=LATE):
                self.assertEqual(days.today(), day)

    def test_what_is_signed_late_in_the_evening_was_done_that_day(self) -> None:
        Workshop.objects.update(time_zone="Pacific/Pago_Pago")  # 11 hours behind
        mira = Technician(self.api, self.heron.pk)
        mira.now = mira.now.replace(hour=8, minute=0)  # still yesterday there
        mira.whole()
        mira.sign()
        service = Service.objects.get(visit_id=mira.visit)
        self.assertEqual(service.done_on, days.day_of(mira.now))
        self.assertLess(service.done_on, mira.now.date())
        self.assertEqual(service.reading.read_on, service.done_on)

    def test_a_lead_says_where_the_workshop_stands(self) -> None:
        oda = self.signed_in("oda")
        form = oda.get("/api/workshop/settings/").json()
        self.assertEqual(form["time_zone"], "Pacific/Kiritimati")
        bad = oda.put(
            "/api/workshop/settings/", {**form, "time_zone": "Harbour/Pier"}, format="json"
        )
        self.assertIn("Choose a time zone", self.sentence(bad, "/time_zone"))
        form["time_zone"] = "Europe/Lisbon"
        for _ in range(2):
            self.assertEqual(
                oda.put("/api/workshop/settings/", form, format="json").status_code, 200
            )
        self.assertEqual(Workshop.objects.get().time_zone, "Europe/Lisbon")

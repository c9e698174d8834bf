"""What brings everything forward outlives a database that was away, and says when it last ran."""

from datetime import timedelta
from unittest import mock

from demo.testing import WorkshopTestCase
from django.core.management import call_command
from django.db import OperationalError
from django.utils import timezone
from rest_framework.test import APIClient

from planning.models import Roller

ROLL = "planning.management.commands.roll_forward.roll_forward"


class Enough(BaseException):
    """Ends the loop."""


class RollerTests(WorkshopTestCase):
    def keep(self, *answers: object) -> list[str]:
        """Let it run through these answers of the database; what it logged."""
        with (
            mock.patch(ROLL, side_effect=[*answers, Enough]),
            mock.patch("time.sleep"),
            mock.patch("django.db.connection.close"),
            self.assertLogs("oilward", "INFO") as logged,
            self.assertRaises(Enough),
        ):
            call_command("roll_forward", "--keep")
        return logged.output

    def test_a_database_that_was_away_is_waited_for(self) -> None:
        away = OperationalError("connection refused")
        told = self.keep(away, away, 0, 3)
        self.assertEqual(len(told), 2)
        self.assertIn("away, waiting for it: connection refused", told[0])
        self.assertIn("back", told[1])
        self.assertTrue(Roller.objects.exists())

    def test_a_fault_of_one_round_does_not_end_it(self) -> None:
        told = self.keep(ZeroDivisionError("by nothing"), 0)
        self.assertIn("Traceback", told[0])
        self.assertTrue(Roller.objects.exists())

    def test_health_says_when_it_last_ran_without_signing_in(self) -> None:
        first = APIClient().get("/api/health/")
        self.assertEqual(first.json(), {"ran_at": "", "late": False, "behind": 0})
        call_command("roll_forward")
        self.assertFalse(APIClient().get("/api/health/").json()["late"])
        Roller.objects.update(ran_at=timezone.now() - timedelta(hours=2))
        self.assertTrue(APIClient().get("/api/health/").json()["late"])
        self.assertTrue(self.api.get("/api/ward/").json()["rolling"]["late"])

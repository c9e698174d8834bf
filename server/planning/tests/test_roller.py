"""What brings everything forward says when it last ran."""

from datetime import timedelta

from demo.testing import WorkshopTestCase
from django.core.management import call_command
from django.utils import timezone
from rest_framework.test import APIClient

from planning.models import Roller
from planning.tasks import bring_forward


class RollerTests(WorkshopTestCase):
    def test_health_says_when_it_last_ran_without_signing_in(self) -> None:
        first = APIClient().get("/api/health/").json()
        self.assertEqual(first, {"ran_at": "", "late": False, "behind": 0, "set_aside": 0})
        call_command("roll_forward")
        self.assertFalse(APIClient().get("/api/health/").json()["late"])
        Roller.objects.update(ran_at=timezone.now() - timedelta(hours=2))
        self.assertTrue(APIClient().get("/api/health/").json()["late"])
        self.assertTrue(self.api.get("/api/ward/").json()["rolling"]["late"])
        bring_forward.func.__wrapped__(0)
        self.assertFalse(APIClient().get("/api/health/").json()["late"])

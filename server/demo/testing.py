"""What server tests share: the demo workshop and somebody signed in."""

from typing import Any

from django.core.management import call_command
from django.test import TestCase
from garage.models import Bike
from rest_framework.test import APIClient
from workshop.models import Person


class WorkshopTestCase(TestCase):
    """The demo workshop, with `self.client` signed in as the technician."""

    @classmethod
    def setUpTestData(cls) -> None:
        call_command("load_demo", stories=True, verbosity=0)

    def setUp(self) -> None:
        self.api = self.signed_in("mira")
        self.heron = Bike.objects.get(name="Grey Heron")

    def signed_in(self, username: str) -> APIClient:
        client = APIClient()
        client.force_login(Person.objects.get(username=username))
        return client

    def sentence(self, response: Any, pointer: str = "") -> str:
        """The sentence of a refusal, at a field if one is named."""
        body = response.json()
        if not pointer:
            return str(body["detail"])
        return str(next(e["detail"] for e in body["errors"] if e["pointer"] == pointer))

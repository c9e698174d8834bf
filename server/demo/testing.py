"""What server tests share: the demo workshop and somebody signed in."""

import os
from datetime import date
from typing import Any

from django.apps import apps
from django.core.management import call_command
from django.core.management.color import no_style
from django.db import connection, transaction
from django.test import TestCase
from garage.models import Bike
from psycopg.sql import SQL, Identifier
from rest_framework.test import APIClient
from workshop import days, proof
from workshop.models import Person

from demo.as_in_use import tampered

WIDE = os.environ.get("OILWARD_PROPERTIES") == "wide"
_MODELS = apps.get_models(include_auto_created=True)
_STOOD: dict[date, dict[str, bytes]] = {}


def load_stories() -> None:
    """The demo workshop with its stories. A day's first is worked out as every demo is; after that its
    rows are put back as they stood."""
    today = days.today()
    if today in _STOOD:
        _put_back(_STOOD[today])
        return
    before = _tables()
    call_command("load_demo", stories=True, verbosity=0)
    _STOOD[today] = {name: rows for name, rows in _tables().items() if rows != before[name]}


def _tables() -> dict[str, bytes]:
    """Every table's rows."""
    found = {}
    with connection.cursor() as cursor:
        for model in _MODELS:
            name = model._meta.db_table
            with cursor.copy(SQL("COPY {} TO STDOUT").format(Identifier(name))) as rows:
                found[name] = b"".join(bytes(part) for part in rows)
    return found


def _put_back(tables: dict[str, bytes]) -> None:
    with transaction.atomic(), tampered(), connection.cursor() as cursor:
        for name, rows in tables.items():
            cursor.execute(SQL("DELETE FROM {}").format(Identifier(name)))
            with cursor.copy(SQL("COPY {} FROM STDIN").format(Identifier(name))) as copy:
                copy.write(rows)
        for words in connection.ops.sequence_reset_sql(no_style(), _MODELS):
            cursor.execute(words)


def signed_in(username: str) -> APIClient:
    """Somebody who has just come in by password."""
    client = APIClient()
    client.force_login(Person.objects.get(username=username))
    kept = client.session
    proof.note(kept)
    kept.save()
    return client


class WorkshopTestCase(TestCase):
    """The demo workshop, with `self.client` signed in as the technician."""

    @classmethod
    def setUpTestData(cls) -> None:
        load_stories()

    def setUp(self) -> None:
        self.api = self.signed_in("mira")
        self.heron = Bike.objects.get(name="Grey Heron")

    def signed_in(self, username: str) -> APIClient:
        return signed_in(username)

    def sentence(self, response: Any, pointer: str = "") -> str:
        """The sentence of a refusal, at a field if one is named."""
        body = response.json()
        if not pointer:
            return str(body["detail"])
        return str(next(e["detail"] for e in body["errors"] if e["pointer"] == pointer))

"""Figures of findings at the size of a large workshop; for ./ward bench, on a database of its own."""

import json
from datetime import date
from decimal import Decimal
from functools import partial
from random import Random
from typing import Any
from uuid import UUID

from django.core.management.base import BaseCommand, CommandParser
from django.db import connection
from django.db.models import F
from django.test import Client
from findings.models import Debris, Finding
from garage.models import OdometerReading
from visits.models import Service
from workshop import days
from workshop.models import Person

from planning.services import rebuild

from .bench_ward import Command as BenchWard
from .bench_ward import best

KEPT = ("engine", "gearbox", "primary")
PAGE = """
SELECT f.id, f.found_on, f.reservoir, f.kind, f.level, f.said, b.name, m.make, m.name, p.name,
  (SELECT s.fluid FROM visits_service s WHERE s.bike_id = f.bike_id AND s.reservoir = f.reservoir
   AND s.done_on < f.found_on AND s.fluid <> '' ORDER BY s.done_on DESC LIMIT 1)
FROM findings_finding f JOIN garage_bike b ON b.id = f.bike_id
JOIN garage_bikemodel m ON m.id = b.model_id JOIN workshop_person p ON p.id = f.found_by_id
WHERE NOT EXISTS (SELECT 1 FROM findings_finding r WHERE r.regrade_of_id = f.id)
ORDER BY f.found_on DESC, f.id DESC LIMIT 40
"""
COUNT = """
SELECT count(*) FROM findings_finding f
WHERE NOT EXISTS (SELECT 1 FROM findings_finding r WHERE r.regrade_of_id = f.id)
"""


LATELY = """
SELECT f.id, f.bike_id, f.reservoir, f.level, f.found_on, b.name FROM findings_finding f
JOIN garage_bike b ON b.id = f.bike_id
WHERE NOT EXISTS (SELECT 1 FROM findings_finding r WHERE r.regrade_of_id = f.id) AND f.bike_id IN
  (SELECT bike_id FROM findings_finding WHERE found_on > now()::date - 31
   ORDER BY found_on DESC LIMIT 60)
ORDER BY f.found_on DESC
"""
SHOWN_WITH = """
SELECT finding_id, level FROM findings_overruling WHERE finding_id = ANY(%s) ORDER BY at DESC
"""
CHOICES = (
    "SELECT make, name, year FROM garage_bikemodel",
    "SELECT name FROM shelf_fluid ORDER BY name",
    "SELECT name FROM workshop_person ORDER BY name",
)


def _rows(sql: str, *values: Any) -> list[tuple[Any, ...]]:
    with connection.cursor() as cursor:
        cursor.execute(sql, values)
        return list(cursor.fetchall())


def bare_ledger() -> str:
    """What the ledger's first page shows, read and encoded with nothing in between."""
    page, count, lately = _rows(PAGE), _rows(COUNT), _rows(LATELY)
    ids = [row[0] for row in (*page, *lately)]
    debris = _rows("SELECT * FROM findings_debris WHERE finding_id = ANY(%s)", ids)
    overruled = _rows(SHOWN_WITH, ids)
    asks = _rows(
        "SELECT name, bike_id::text, shape->'asks' FROM planning_wardrow WHERE asking "
        "ORDER BY on_hold DESC, starts - falls * 740000, name LIMIT 60"
    )
    choices = [_rows(sql) for sql in CHOICES]
    return json.dumps([page, count, lately, debris, overruled, asks, choices], default=str)


def bare_history(bike: UUID) -> str:
    """A reservoir's findings and services, its sheet and readings, read with nothing in between."""
    own = "bike_id = %s AND reservoir = 'gearbox'"
    rows = _rows(f"SELECT * FROM findings_finding WHERE {own}", bike)
    debris = "SELECT d.* FROM findings_debris d JOIN ({}) f ON f.id = d.finding_id"
    shown = _rows(debris.format(f"SELECT id FROM findings_finding WHERE {own}"), bike)
    kind = _rows("SELECT count(*), max(found_on) FROM findings_finding WHERE kind = 'gearbox'")
    cells = _rows(
        "SELECT c.* FROM garage_sheetcell c JOIN garage_specsheet s ON s.id = c.sheet_id "
        "JOIN garage_bike b ON b.model_id = s.model_id WHERE b.id = %s",
        bike,
    )
    read = _rows("SELECT * FROM garage_odometerreading WHERE bike_id = %s", bike)
    services = _rows(f"SELECT * FROM visits_service WHERE {own}", bike)
    return json.dumps([rows, shown, kind, cells, read, services], default=str)


class Command(BaseCommand):
    help = "Fill a database with many findings and measure the ledger and a history."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("sizes", nargs="+", type=int)

    def grow(self) -> None:
        """A finding with each service of what has a plug."""
        dice, mira = Random(7), Person.objects.get(username="mira")
        have = set(Finding.objects.values_list("bike", flat=True))
        services = Service.objects.filter(bike__name__startswith="Dinghy", reservoir__in=KEPT)
        services.filter(fluid="").update(fluid="Cogwork 90")
        findings, debris = [], []
        for row in services.exclude(bike__in=have).select_related("reading").order_by("done_on"):
            seen = Finding(
                bike_id=row.bike_id, reservoir=row.reservoir, kind=row.reservoir,
                found_on=row.done_on, reading=row.reading, km_since_wiped=7000, oil=["dark"],
                level="watch" if dice.random() < 0.01 else "routine", origin="-", action="-",
                rules=[], wear={"steel": "0.02"}, said=0.01, found_by=mira,
            )  # fmt: skip
            findings.append(seen)
            share = Decimal(dice.randrange(1, 9)) / 20
            debris.append(
                Debris(finding=seen, place="plug", form="paste", matter="steel", share=share)
            )
        Finding.objects.bulk_create(findings, batch_size=4000)
        Debris.objects.bulk_create(debris, batch_size=4000)

    def handle(self, *args: Any, **options: Any) -> None:
        today, client = days.today(), Client(SERVER_NAME="localhost")
        client.force_login(Person.objects.get(username="oda"))
        for size in options["sizes"]:
            BenchWard().grow(size)
            self.grow()
            rebuild(today)
            with connection.cursor() as cursor:
                cursor.execute("VACUUM ANALYZE")
            self.measured(client, size, today)

    def measured(self, client: Client, size: int, today: date) -> None:
        bike = OdometerReading.objects.filter(bike__name="Dinghy 01000").values(pk=F("bike"))[0][
            "pk"
        ]
        found = Finding.objects.count()
        for name, url, bare in (
            ("ledger, first page", "/api/findings/", bare_ledger),
            ("a history", f"/api/bikes/{bike}/wear/gearbox/", lambda: bare_history(bike)),
        ):
            assert client.get(url).status_code == 200
            page, least = best(partial(client.get, url), 15), best(bare, 15)
            self.stdout.write(
                f"{name}, {size} bikes, {found} findings: {page:.1f} ms, bare SQL {least:.1f} ms "
                f"({page / least:.2f}x)"
            )

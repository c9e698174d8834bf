"""Figures of the ward at the size of a large workshop; for ./ward bench, on a database of its own."""

import json
import statistics
import time
from collections.abc import Callable
from datetime import timedelta
from decimal import Decimal
from functools import partial
from typing import Any
from uuid import uuid4

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection
from django.test import Client
from garage.models import Bike, BikeModel, OdometerReading, SpecSheet
from visits.models import Service
from workshop import days
from workshop.models import Person

from planning.models import PlannedVisit, WardRow
from planning.services import rebuild, roll_forward

YEARS = 10
SERVED = ("engine", "gearbox", "primary", "fork left", "fork right", "front brake")


def best(action: Callable[[], Any], rounds: int = 25) -> float:
    """Median milliseconds."""
    times = []
    for _ in range(rounds):
        begun = time.perf_counter()
        action()
        times.append((time.perf_counter() - begun) * 1000)
    return statistics.median(times)


def bare_sql() -> str:
    """The same rows, read and encoded with nothing in between."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT name, count FROM planning_tally WHERE count > 0")
        tally = cursor.fetchall()
        cursor.execute(
            "SELECT bike_id::text, in_shop, shape, clocks FROM planning_wardrow ORDER BY in_shop DESC, "
            "starts - falls * 740000, name, bike_id LIMIT 50"
        )
        rows = [
            (key, shop, json.loads(shape), json.loads(clocks))
            for key, shop, shape, clocks in cursor.fetchall()
        ]
    return json.dumps([tally, rows])


class Command(BaseCommand):
    help = "Fill a database with many bikes and measure the ward."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("sizes", nargs="+", type=int)

    def grow(self, wanted: int) -> None:
        """More bikes with ten years of history each."""
        mira = Person.objects.get(username="mira")
        sheets = list(SpecSheet.objects.filter(model__in=BikeModel.objects.all()).order_by("id"))
        model = next(s.model for s in sheets if s.cells.filter(reservoir="primary").exists())
        today, have = days.today(), Bike.objects.count()
        bikes = [
            Bike(model=model, name=f"Dinghy {n:05}", use_class="touring", odometer_unit="km",
                 records="from new", new_on=today - timedelta(days=365 * YEARS))
            for n in range(have, wanted)
        ]  # fmt: skip
        Bike.objects.bulk_create(bikes, batch_size=2000)
        for start in range(0, len(bikes), 500):
            readings, services = [], []
            for n, bike in enumerate(bikes[start : start + 500]):
                for year in range(YEARS):
                    day = today - timedelta(days=365 * (YEARS - year) - n % 300)
                    km = Decimal(7000 * (year + 1) + n)
                    read = OdometerReading(
                        bike=bike, km=km, as_written="-", read_on=day, read_by=mira
                    )
                    readings.append(read)
                    services += [
                        Service(id=uuid4(), bike=bike, reservoir=key, variant="drain only",
                                done_on=day, reading=read, took_ml=900, done_by="Mira")
                        for key in SERVED
                    ]  # fmt: skip
            OdometerReading.objects.bulk_create(readings, batch_size=5000)
            Service.objects.bulk_create(services, batch_size=5000)

    def calendar(self, client: Client) -> None:
        """The calendar's page with 9 and with 99 planned visits."""
        bikes = list(Bike.objects.filter(name__startswith="Dinghy").order_by("name")[:99])
        task = {"reservoir": "primary", "variant": "drain only", "label": "primary"}
        took = []
        for first, last in ((0, 9), (9, 99)):
            PlannedVisit.objects.bulk_create(
                PlannedVisit(id=uuid4(), bike=bike, on=days.today(), tasks=[task], planned_by="-")
                for bike in bikes[first:last]
            )
            took.append(best(lambda: client.get("/api/calendar/"), 9))
        self.stdout.write(f"calendar: 9 visits {took[0]:.0f} ms, 99 visits {took[1]:.0f} ms")

    def in_the_shop(self, client: Client, count: int = 40) -> None:
        """The ward's first page with so many open visits, each beside the same without any."""
        without = best(lambda: client.get("/api/ward/"))
        bikes = list(Bike.objects.filter(name__startswith="Dinghy").order_by("name")[:count])
        for n, bike in enumerate(bikes):
            body = {
                "id": str(uuid4()),
                "bike": str(bike.pk),
                "tasks": [{"reservoir": key} for key in ("engine", "primary", "gearbox")],
                "odometer": f"{7000 * YEARS + n + 5} km",
                "order": ["support"],
            }
            answer = client.post("/api/visits/", body, content_type="application/json")
            if answer.status_code != 201:
                raise CommandError(answer.content.decode())
        with_them = best(lambda: client.get("/api/ward/"))
        self.stdout.write(
            f"ward with {count} open visits: {with_them:.1f} ms, with none {without:.1f} ms "
            f"({with_them / without:.2f}x)"
        )

    def a_school(self, size: int) -> None:
        """A lead's word on the interval of every primary, and the ward's first page after it."""
        lead, told = Client(SERVER_NAME="localhost"), {"kind": "primary", "topic": "interval"}
        lead.force_login(Person.objects.get(username="oda"))
        took = []
        for seen, choice in (("", "half the book"), ("half the book", "")):
            body = {**told, "choice": choice, "seen": seen, "bike": ""}
            asks: tuple[Callable[[], Any], ...] = (
                partial(lead.put, "/api/schools/", body, content_type="application/json"),
                partial(lead.get, "/api/ward/"),
            )
            for ask in asks:
                begun = time.perf_counter()
                if ask().status_code >= 300:
                    raise CommandError("no school was chosen")
                took.append((time.perf_counter() - begun) * 1000)
        begun = time.perf_counter()
        rolled = roll_forward(days.today())
        whole = time.perf_counter() - begun
        self.stdout.write(
            f"  a school changed at {size} bikes: {max(took[::2]):.0f} ms, the ward's first page by it "
            f"{max(took[1::2]):.0f} ms; {rolled} bikes brought forward in {whole:.0f} s"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        today, client = days.today(), Client(SERVER_NAME="localhost")
        client.force_login(Person.objects.get(username="mira"))
        pages = []
        for size in options["sizes"]:
            self.grow(size)
            begun = time.perf_counter()
            rebuild(today)
            built = time.perf_counter() - begun
            with connection.cursor() as cursor:
                cursor.execute("ANALYZE")
            reservoirs = sum(
                len(row["glasses"]) for row in WardRow.objects.values_list("shape", flat=True)
            )
            page = best(lambda: client.get("/api/ward/"))
            bare = best(bare_sql)
            pages.append(page)
            self.stdout.write(
                f"ward, {size} bikes, {reservoirs} reservoirs: page {page:.1f} ms, bare SQL "
                f"{bare:.1f} ms ({page / bare:.2f}x); worked out from nothing in {built:.0f} s"
            )
            begun = time.perf_counter()
            rolled = roll_forward(today + timedelta(days=1))
            took = time.perf_counter() - begun
            self.stdout.write(f"  nightly roll-forward of {rolled} bikes: {took:.1f} s")
            self.a_school(size)
        self.calendar(client)
        self.in_the_shop(client)
        if len(pages) > 1:
            self.stdout.write(f"ward, ten times the bikes: {pages[-1] / pages[0]:.2f}x a page")

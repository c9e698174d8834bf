"""Loads the invented harbour workshop once; a second call changes nothing."""

from datetime import UTC, date, datetime, timedelta
from decimal import Decimal
from typing import Any
from uuid import NAMESPACE_URL, uuid5

from django.core.management.base import BaseCommand
from django.db import transaction
from django.utils import timezone
from findings.services import keep_finding
from garage.models import (
    Bike,
    BikeModel,
    FastenerRow,
    OdometerReading,
    ReservoirRow,
    SpecSheet,
    SpecValue,
)
from oilward_core.debris import Form, Matter, Observation, OilLook, Part, verdict
from oilward_core.quantity import UNITS, Kind, parse
from oilward_core.sheet import part_data
from oilward_core.spec import ReservoirKind
from shelf.models import Fluid, WrenchRow
from visits.models import Service
from workshop.models import Person, Workshop

from demo.fleet import DATA, FLEET, Machine, Past, Tank

KINDS = {"capacity": Kind.VOLUME, "initial": Kind.VOLUME, "prefill": Kind.VOLUME}


def canonical(name: str, text: str) -> tuple[Decimal, Decimal]:
    """A value of the sheet, read as the core reads it. Months and hours are plain counts."""
    if name.endswith((".months", ".hours")):
        number = Decimal(text.split()[0])
        return number, number
    kind = KINDS.get(name.split(".")[0], Kind.VOLUME)
    if name.endswith(".km"):
        kind = Kind.DISTANCE
    if name in ("level.run", "level.settle"):
        kind = Kind.TIME
    measure = parse(text, kind)
    return measure.low, measure.high


class Loader:
    def __init__(self, today: date) -> None:
        self.today = today
        self.people = {
            person["username"]: Person.objects.create_person(**person) for person in DATA["people"]
        }
        self.mira, self.oda = self.people["mira"], self.people["oda"]

    def shelf(self) -> None:
        Workshop.objects.create(name=DATA["workshop"])
        for fluid in DATA["fluids"]:
            bottle = parse(fluid["bottle"], Kind.VOLUME).low
            known = {name: value for name, value in fluid.items() if name != "bottle"}
            Fluid.objects.create(**known, bottle_ml=bottle)
        for wrench in DATA["wrenches"]:
            WrenchRow.objects.create(**wrench)

    def _sourced(self, manual: str, page: int, text: str, checked: bool) -> dict[str, Any]:
        return {
            "as_written": text,
            "source_document": manual,
            "source_page": f"{page}",
            "entered_by": self.mira,
            "checked_by": self.oda if checked else None,
        }

    def tank(self, sheet: SpecSheet, tank: Tank, order: int, manual: str) -> None:
        row = ReservoirRow.objects.create(
            sheet=sheet,
            key=tank.key,
            kind=ReservoirKind(tank.kind).value,
            label=tank.label,
            order=order,
            fill_rule=tank.rule,
            fluid=tank.fluid,
            gauge=tank.gauge,
            attitude=tank.attitude,
        )
        page = 20 + 7 * order
        for number, (name, text) in enumerate(tank.values.items()):
            low, high = canonical(name, text)
            checked = not name.startswith("first")
            sourced = self._sourced(manual, page + number // 4, text, checked)
            SpecValue.objects.create(reservoir=row, name=name, low=low, high=high, **sourced)
        for plug in tank.plugs:
            FastenerRow.objects.create(
                reservoir=row,
                role=plug.role,
                place=plug.place,
                thread=plug.thread,
                drive=plug.drive,
                magnet=plug.magnet,
                soft=plug.soft,
                seal=plug.seal,
                **self._sourced(manual, page + 3, plug.torque, True),
            )

    def odometer(
        self, bike: Bike, machine: Machine, days: int, km: Decimal, hours: int | None
    ) -> None:
        day = self.today - timedelta(days=days)
        OdometerReading.objects.get_or_create(
            id=uuid5(bike.id, f"odometer-{days}"),
            defaults={
                "bike": bike,
                "km": km,
                "hours": None if hours is None else Decimal(hours),
                "as_written": f"{km:f} km",
                "read_on": day,
                "read_by": self.mira,
            },
        )

    def past(self, bike: Bike, machine: Machine, past: Past, wiped_at: int) -> None:
        day = self.today - timedelta(days=past.days)
        tank = next(tank for tank in machine.tanks if tank.key == past.tank)
        grades = {f["grade"]: f["name"] for f in DATA["fluids"] if f["serves"] == tank.kind}
        Service.objects.create(
            id=uuid5(bike.id, f"{past.tank}-{past.days}"),
            bike=bike,
            reservoir=past.tank,
            variant=past.variant,
            done_on=day,
            km=past.km,
            hours=past.hours,
            took_ml=past.took,
            drained_ml=past.drained,
            fluid=grades.get(tank.fluid, tank.fluid),
            done_by=self.mira.name,
        )
        self.odometer(bike, machine, past.days, Decimal(past.km), past.hours)
        if not past.parts:
            return
        parts = tuple(
            Part(
                Form(form),
                Matter(matter),
                Decimal(str(share)),
                Decimal("0.5") if form == "slivers" else None,
            )
            for form, matter, share in past.parts
        )
        since = Decimal(past.km - wiped_at)
        looks = frozenset(OilLook(look) for look in past.oil)
        seen = Observation(ReservoirKind(tank.kind), parts, looks, since, past.first)
        keep_finding(
            bike,
            past.tank,
            {"parts": [part_data(part) for part in parts], "oil": list(past.oil)},
            verdict(seen),
            finding_id=uuid5(bike.id, f"finding-{past.tank}-{past.days}"),
            found_on=day,
            km=Decimal(past.km),
            km_since_wiped=since,
            actor=self.mira,
        )

    def machine(self, machine: Machine) -> None:
        model = BikeModel.objects.create(
            make=machine.make,
            name=machine.model,
            year=machine.year,
            layout=machine.layout,
            displacement_cc=machine.cc,
        )
        sheet = SpecSheet.objects.create(
            model=model,
            version=1,
            state=SpecSheet.State.APPROVED,
            entered_by=self.mira,
            approved_by=self.oda,
            approved_at=datetime.combine(self.today - timedelta(days=30), datetime.min.time(), UTC),
        )
        for order, tank in enumerate(machine.tanks):
            self.tank(sheet, tank, order, machine.manual)
        known = machine.new_days is not None or bool(machine.past)
        bike = Bike.objects.create(
            id=uuid5(NAMESPACE_URL, f"demo/{machine.name}"),
            model=model,
            name=machine.name,
            owner=machine.owner,
            use_class=machine.use,
            odometer_unit=machine.unit,
            records=Bike.Records.FROM_NEW if known else Bike.Records.NONE,
            new_on=None
            if machine.new_days is None
            else self.today - timedelta(days=machine.new_days),
            severity=Decimal(machine.severity),
        )
        wiped: dict[str, int] = {}
        for past in machine.past:
            self.past(bike, machine, past, wiped.get(past.tank, 0))
            wiped[past.tank] = past.km
        shown = machine.km * UNITS[machine.unit].factor
        km = Decimal(round(float(shown), 3)).quantize(Decimal("0.001"))
        self.odometer(bike, machine, 3, km, machine.hours)


class Command(BaseCommand):
    help = "Load the demo workshop, once."

    def handle(self, *args: object, **options: object) -> None:
        if Bike.objects.exists() or Person.objects.exists():
            return
        self.stdout.write("· Loading the demo workshop")
        with transaction.atomic():
            loader = Loader(timezone.now().date())
            loader.shelf()
            for machine in FLEET:
                loader.machine(machine)

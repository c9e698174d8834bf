"""Loads the invented harbour workshop once; a second call changes nothing."""

from argparse import ArgumentParser
from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from uuid import NAMESPACE_URL, uuid5

from django.core.management.base import BaseCommand
from django.db import transaction
from findings.services import keep_finding
from garage.mapping import BikeSpec, cells
from garage.models import Bike, OdometerReading, SpecSheet
from garage.selectors import specs_of, workshop_schools
from garage.services import check_own, choose_school, write_own
from garage.shapes import SchoolChoice
from garage.sheets.services import approve
from garage.sheets.shapes import CellWrite
from garage.sheets.whole import import_document
from oilward_core.codes.away import Waits
from oilward_core.codes.options import Did
from oilward_core.debris import Form, Matter, Observation, OilLook, Part
from oilward_core.quantity import UNITS
from oilward_core.spec import (
    Requirement,
    ReservoirKind,
    ReservoirSpec,
    unchecked_that_matter,
)
from planning.services import rebuild
from shelf.models import Fluid, WrenchRow
from shelf.selectors import best_fluid
from shelf.services import save_fluid
from shelf.shapes import FluidForm
from shelf.stock.services import save_bottle, save_seals
from shelf.stock.shapes import BottleForm, SealForm
from shelf.waste.services import write as write_waste
from shelf.waste.shapes import WasteForm
from visits.away.services import hand_out
from visits.away.shapes import HandOut
from visits.models import Service
from workshop import days
from workshop.models import Person, Workshop

from demo.fleet import DATA, FLEET, STORIES, Machine, Past
from demo.history import history, looks_with


class Loader:
    def __init__(self, today: date) -> None:
        self.today = today
        self.people = {
            person["username"]: Person.objects.create_person(**person) for person in DATA["people"]
        }
        self.mira, self.oda = self.people["mira"], self.people["oda"]
        self.fitting: dict[tuple[Requirement, ReservoirKind], Fluid | None] = {}

    def shelf(self) -> None:
        Workshop.objects.create(
            name=DATA["workshop"],
            coldest_start=DATA["coldest_start"],
            currency=DATA["currency"],
        )
        for fluid in DATA["fluids"]:
            save_fluid(FluidForm(id=0, version=0, **fluid), actor=self.mira)
        self.stock()
        for wrench in DATA["wrenches"]:
            known = {key: value for key, value in wrench.items() if key != "calibrated_days"}
            calibrated = self.today - timedelta(days=wrench["calibrated_days"])
            WrenchRow.objects.create(**known, calibrated_on=calibrated)
        for school in DATA["schools"]:
            choose_school(SchoolChoice(**school), actor=self.oda, today=self.today)

    def stock(self) -> None:
        fluids = dict(Fluid.objects.values_list("name", "pk"))
        for number, bottle in enumerate(DATA["bottles"]):
            opened = f"{self._ago(bottle['days'])}" if "days" in bottle else ""
            one = str(uuid5(NAMESPACE_URL, f"demo/bottle/{number}"))
            form = BottleForm(
                act=one,
                id=one,
                fluid=fluids[bottle["fluid"]],
                version=0,
                size=bottle["size"],
                left=bottle.get("left", ""),
                opened_on=opened,
            )
            save_bottle(form, actor=self.mira, today=self.today)
        for name, count in DATA["seals"].items():
            act = str(uuid5(NAMESPACE_URL, f"demo/seal/{name}"))
            save_seals(
                SealForm(act=act, name=name, count=f"{count}"), actor=self.mira, today=self.today
            )

        for number, (ago, kind, amount, note) in enumerate(USED_OIL):
            line = WasteForm(
                id=str(uuid5(NAMESPACE_URL, f"demo/waste/{number}")),
                kind=kind,
                amount=amount,
                note=note,
            )
            write_waste(line, actor=self.mira, today=self._ago(ago))

    def handed_out(self) -> None:
        """A shock that should have been back by now."""
        bike = Bike.objects.get(name="Cormorant Rock")
        told = HandOut(
            id=str(uuid5(bike.pk, "handed out")),
            reservoir="shock",
            to="the suspension shop on the mainland",
            wanted="new seal, oil, charge",
            waits=Waits.LIFTED,
            back_by=f"{self._ago(2)}",
        )
        gone = self._ago(16)
        nine = datetime.combine(gone, time(9), tzinfo=UTC)
        hand_out(bike.pk, told, actor=self.mira, now=nine, today=gone)

    def _ago(self, days: int) -> date:
        return self.today - timedelta(days=days)

    def odometer(
        self, bike: Bike, days: int, km: Decimal, hours: int | None, replaced: bool = False
    ) -> OdometerReading:
        first = replaced or km < bike.offset_km
        reading, _ = OdometerReading.objects.get_or_create(
            id=uuid5(bike.id, f"odometer-{days}"),
            defaults={
                "bike": bike,
                "km": km,
                "hours": None if hours is None else Decimal(hours),
                "as_written": f"{km:f} km",
                "replaced": replaced,
                "read_on": self._ago(days),
                "read_by": self.mira,
                "offset_km": 0 if first else bike.offset_km,
            },
        )
        return reading

    def best(self, spec: ReservoirSpec) -> Fluid | None:
        """The fluid that fits best; the same question is worked out once."""
        asked = (spec.requirement, spec.kind)
        if asked not in self.fitting:
            self.fitting[asked] = best_fluid(*asked, workshop_schools())
        return self.fitting[asked]

    def past(self, bike: Bike, spec: BikeSpec, past: Past, wiped_at: int) -> None:
        day, reservoir = self._ago(past.days), spec.reservoir(past.tank)
        assert reservoir is not None
        fluid = self.best(reservoir)
        reading = self.odometer(bike, past.days, Decimal(past.km), past.hours)
        Service.objects.create(
            id=uuid5(bike.id, f"{past.tank}-{past.days}"),
            bike=bike,
            reservoir=past.tank,
            variant=past.variant,
            did=past.did,
            done_on=day,
            reading=reading,
            took_ml=past.took,
            drained_ml=past.drained,
            fluid="" if past.did == Did.LOOKED else fluid.name if fluid else reservoir.fluid,
            done_by=self.mira.name,
        )
        if not past.parts:
            return
        parts = tuple(
            Part(
                form=Form(form),
                matter=Matter(matter),
                share=Decimal(str(share)),
                largest_mm=Decimal("0.5") if form == "slivers" else None,
            )
            for form, matter, share in past.parts
        )
        since = Decimal(past.km - wiped_at)
        looks = frozenset(OilLook(look) for look in past.oil)
        seen = Observation(
            reservoir=reservoir.kind,
            parts=parts,
            oil=looks,
            km_since_wiped=since,
            first_service=past.first,
        )
        keep_finding(
            bike,
            past.tank,
            seen,
            past.note,
            finding_id=uuid5(bike.id, f"finding-{past.tank}-{past.days}"),
            found_on=day,
            reading=reading,
            actor=self.oda if past.by == "oda" else self.mira,
        )

    def sheet(self, machine: Machine) -> SpecSheet:
        sheet = import_document(machine.document, actor=self.mira, today=self.today)
        then = datetime.combine(self._ago(30), datetime.min.time(), UTC)
        known = [str(path) for path in unchecked_that_matter(cells(sheet.cells.all()))]
        return approve(sheet.pk, actor=self.oda, now=then, unchecked=known)

    def records(self, machine: Machine) -> Bike.Records:
        if machine.new_days is not None:
            return Bike.Records.FROM_NEW
        return Bike.Records.SOME if machine.past else Bike.Records.NONE

    def bike(self, machine: Machine, sheet: SpecSheet) -> Bike:
        replaced = machine.replaced
        bike = Bike.objects.create(
            id=uuid5(NAMESPACE_URL, f"demo/{machine.name}"),
            model=sheet.model,
            name=machine.name,
            owner=machine.owner,
            use_class=machine.use,
            odometer_unit=machine.unit,
            records=self.records(machine),
            new_on=None if machine.new_days is None else self._ago(machine.new_days),
            severity=Decimal(machine.severity),
            counts_hours=machine.counts_hours,
            notes=machine.notes,
            plate=machine.plate,
            frame_number=machine.frame_number,
            year_built=machine.year_built,
            engine_number=machine.engine_number,
            offset_km=replaced.old - replaced.new_shows if replaced else 0,
        )
        if replaced:
            self.odometer(bike, replaced.days, Decimal(replaced.old), None, replaced=True)
        return bike

    def _own(self, bike: Bike, machine: Machine) -> None:
        for value in machine.own:
            write = CellWrite(revision=0, **value)
            write_own(bike.pk, write, actor=self.oda, today=self.today)
            check_own(bike.pk, write.path, 1, actor=self.mira, today=self.today)
        for school in machine.schools:
            choice = SchoolChoice(bike=str(bike.pk), **school)
            choose_school(choice, actor=self.oda, today=self.today)

    def _pasts(self, machine: Machine, spec: BikeSpec) -> list[Past]:
        """What was done on a bike: as its story has it, else worked out."""
        if not machine.story:
            return list(history(machine, spec.reservoirs))
        looks = looks_with(machine.past, spec.reservoirs) if machine.past else ()
        return [*machine.past, *looks]

    def machine(self, machine: Machine, sheet: SpecSheet) -> None:
        bike = self.bike(machine, sheet)
        self._own(bike, machine)
        spec = specs_of([bike])[bike.pk]
        wiped: dict[str, int] = {}
        for past in self._pasts(machine, spec):
            self.past(bike, spec, past, wiped.get(past.tank, 0))
            wiped[past.tank] = past.km
        shown = machine.km * UNITS[machine.unit].factor
        km = Decimal(round(float(shown), 3)).quantize(Decimal("0.001")) + bike.offset_km
        self.odometer(bike, 3, km, machine.hours)


# the container of used oil: days ago, what happened, how much, from where or by whom
USED_OIL = (
    (120, "container", "60 l", "blue drum, back door"),
    (64, "added", "48 l", "from the old can"),
    (60, "collected", "47.5 l", "island recycling boat, slip 2231"),
    (12, "added", "31 l", "services of November"),
)


class Command(BaseCommand):
    help = "Load the demo workshop, once."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--stories", action="store_true", help="only the bikes with a story")

    def handle(self, *args: object, **options: object) -> None:
        fleet = STORIES if options["stories"] else FLEET
        if Bike.objects.exists() or Person.objects.exists():
            return
        self.stdout.write("· Loading the demo workshop")
        with transaction.atomic():
            loader = Loader(days.today())
            loader.shelf()
            sheets = {machine.sheet: loader.sheet(machine) for machine in STORIES}
            for machine in fleet:
                loader.machine(machine, sheets[machine.sheet])
            if not options["stories"]:
                loader.handed_out()
            rebuild(loader.today)

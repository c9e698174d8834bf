from datetime import date
from uuid import uuid5

from demo.as_in_use import tampered
from demo.testing import WorkshopTestCase
from django.core.management import call_command
from django.db import connection
from django.test.utils import CaptureQueriesContext
from garage.models import Bike, OdometerReading, SheetCell
from visits.models import Service
from visits.tests.bench import Technician
from workshop import days
from workshop.models import Person, Workshop

from planning.services import rebuild


class WardTests(WorkshopTestCase):
    def ward(self) -> dict:
        return self.api.get("/api/ward/").json()

    def test_due_bikes_come_first_and_say_why(self) -> None:
        ward = self.ward()
        names = [bike["name"] for bike in ward["bikes"]]
        self.assertEqual((ward["count"], ward["due"]), (6, 2))
        self.assertEqual(set(names[:2]), {"Grey Heron", "Lamplighter"})
        engine = ward["bikes"][names.index("Grey Heron")]["glasses"][0]
        self.assertEqual((engine["state"], engine["level"], engine["column"]), ("due", 0, "Engine"))
        self.assertIn("over", engine["when"])
        self.assertEqual(engine["plug"]["level"], "routine")

    def test_unknown_history_is_a_baseline(self) -> None:
        bikes = {bike["name"]: bike for bike in self.ward()["bikes"]}
        states = {glass["state"] for glass in bikes["Lamplighter"]["glasses"]}
        self.assertEqual(states, {"baseline"})

    def test_an_empty_workshop_shows_its_first_steps(self) -> None:
        self.assertEqual(self.ward()["first_steps"], [])
        Bike.objects.update(archived=True)
        rebuild(days.today())
        Workshop.objects.update(version=1)
        Person.objects.exclude(username="mira").update(is_active=False)

        def done() -> dict[str, bool]:
            return {one["step"]: one["done"] for one in self.ward()["first_steps"]}

        found = {"place": False, "people": False, "shelf": True, "model": True, "bike": False}
        self.assertEqual(done(), found)
        Workshop.objects.update(version=2)
        Person.objects.update(is_active=True)
        self.assertEqual(done(), {**found, "place": True, "people": True})

    def test_hours_count_for_the_trail_bike(self) -> None:
        bikes = {bike["name"]: bike for bike in self.ward()["bikes"]}
        engine = bikes["Goat"]["glasses"][0]
        # 30 h at severity 0.8 is 24 h; 11 h used since 158 h
        self.assertIn("13\xa0h" if "\xa0h" in engine["when"] else "13 h", engine["when"])

    def test_a_bike_in_the_shop_stands_on_top_with_its_step_and_timer(self) -> None:
        postie = Bike.objects.get(name="Postie")
        mira = Technician(self.api, postie.pk)
        mira.open("950", variant="drain only")
        mira.look_over()
        mira.entry("start")
        first = self.ward()["bikes"][0]
        self.assertEqual((first["name"], first["visit"]["step"]), ("Postie", "Warm it up"))
        self.assertIsNotNone(first["visit"]["ends_at"])

    def more_bikes(self, count: int) -> None:
        heron, mira = Bike.objects.get(name="Grey Heron"), Person.objects.get(username="mira")
        for number in range(count):
            bike = Bike.objects.create(
                model=heron.model,
                name=f"Dinghy {number}",
                use_class="touring",
                odometer_unit="km",
                records="none",
            )
            reading = OdometerReading.objects.create(
                bike=bike, km=100, as_written="100", read_on=date(2026, 1, 1), read_by=mira
            )
            Service.objects.create(
                id=uuid5(bike.id, "s"), bike=bike, reservoir="engine", variant="with filter",
                done_on=date(2026, 1, 1), reading=reading, done_by="Mira",
            )  # fmt: skip
            Technician(self.api, bike.pk).open(f"{200 + number}")

    def test_queries_do_not_grow_with_bikes_or_visits(self) -> None:
        self.more_bikes(1)
        with CaptureQueriesContext(
            connection,
        ) as few:
            self.ward()
        self.more_bikes(6)
        with CaptureQueriesContext(connection) as many:
            self.ward()
        self.assertEqual(len(few), len(many))
        self.assertLess(len(many), 25)

    def test_search_finds_every_word_anywhere(self) -> None:
        for typed, names in (
            ("heron", {"Grey Heron"}),
            ("chain single", {"Postie", "Goat", "Lamplighter"}),
            ("quillon vintage", {"Lamplighter"}),
            ("2020", {"Ferry Bell"}),
            ("heron boxer", set()),
            ("%", set()),
        ):
            with self.subTest(typed):
                ward = self.api.get("/api/ward/", {"search": typed}).json()
                self.assertEqual({bike["name"] for bike in ward["bikes"]}, names)

    def test_pages(self) -> None:
        heron = Bike.objects.get(name="Grey Heron")
        Bike.objects.bulk_create(
            Bike(model=heron.model, name=f"B{n}", use_class="x", odometer_unit="km", records="none")
            for n in range(50)
        )
        rebuild(days.today())
        first, second = self.ward(), self.api.get("/api/ward/?page=2").json()
        self.assertEqual((first["pages"], len(first["bikes"]), len(second["bikes"])), (2, 50, 6))
        names = [bike["name"] for bike in (*first["bikes"], *second["bikes"])]
        self.assertEqual(len(set(names)), 56)


class BikePageTests(WorkshopTestCase):
    def page(self, name: str) -> dict:
        bike = Bike.objects.get(name=name)
        return self.api.get(f"/api/bikes/{bike.pk}/").json()

    def test_values_stand_as_the_manual_writes_them_and_converted(self) -> None:
        engine = self.page("Grey Heron")["reservoirs"][0]
        groups = {group["title"]: group for group in engine["spec"]}
        self.assertEqual(list(groups)[:4], ["Capacity", "Level", "Fluid", "When"])
        self.assertEqual(groups["Drain plug"]["lines"][0]["short"], "Torque")
        lines = {line["name"]: line for group in engine["spec"] for line in group["lines"]}
        filled = lines["Capacity, with filter"]
        self.assertEqual((filled["as_written"], filled["converted"]), ("3.65 qt", "3454 ml"))
        self.assertIn("Colossine workshop manual, p. 20", filled["source"])
        self.assertEqual(filled["checked_by"], "Oda")
        self.assertEqual(lines["First service, distance"]["checked_by"], "")
        plug = lines["Drain plug, torque"]
        self.assertEqual((plug["as_written"], plug["converted"]), ("18-25 ft-lb", "24.4–33.9 N·m"))
        self.assertEqual(lines["Drain plug, seal"]["as_written"], "crush washer 14 mm")
        self.assertIn("run 2 min, settle 3 min", groups["Level"]["note"])

    def test_an_exact_quantity_says_so_under_its_capacity(self) -> None:
        pages = {r["glass"]["key"]: r for r in self.page("Ferry Bell")["reservoirs"]}
        capacity = pages["final drive"]["spec"][0]
        self.assertEqual(capacity["title"], "Capacity")
        self.assertIn("Exact quantity", capacity["note"])

    def test_what_a_finding_asks_for_stands_on_the_bike_and_in_the_ward(self) -> None:
        page = self.page("Ferry Bell")
        self.assertEqual([ask["label"] for ask in page["asks"]], ["gearbox"])
        self.assertEqual(page["asks"][0]["level"], "investigate")
        row = self.api.get("/api/ward/", {"search": "ferry"}).json()["bikes"][0]
        self.assertEqual(row["asks"], page["asks"])

    def test_the_tint_tells_the_oils_age_not_what_is_left(self) -> None:
        glasses = {r["glass"]["key"]: r["glass"] for r in self.page("Ferry Bell")["reservoirs"]}
        engine, gearbox = glasses["engine"], glasses["gearbox"]
        # both were changed on one day; the gearbox's oil may stay twice as long
        self.assertGreater(engine["age"], gearbox["age"])
        self.assertNotAlmostEqual(gearbox["age"], 1 - gearbox["level"], places=1)

    def test_what_it_really_takes(self) -> None:
        engine = self.page("Grey Heron")["reservoirs"][0]
        self.assertEqual(engine["expected_take"], "3390 ml ± 41 ml, against 3454 ml in the book")

    def test_a_slipped_number_is_doubted_where_it_stands(self) -> None:
        for name in ("Grey Heron", "Ferry Bell", "Red Buoy", "Postie", "Goat", "Lamplighter"):
            engine = self.page(name)["reservoirs"][0]
            with self.subTest(name):
                self.assertEqual([d for d in engine["doubts"] if "friction" not in d], [])
        values = SheetCell.objects.filter(sheet__model__name="Tandem 890", reservoir="engine")
        with tampered():
            values.filter(field="capacity.drain only").update(written="3.05 ml")
        said = self.page("Red Buoy")["reservoirs"][0]["doubts"]
        self.assertIn("Litres, not millilitres? 3.05 l.", said[0])

    def test_every_reservoir_has_a_run_sheet_unless_its_plug_is_missing(self) -> None:
        for reservoir in self.page("Grey Heron")["reservoirs"]:
            self.assertTrue(reservoir["serviceable"], reservoir["glass"]["key"])

    def test_queries_do_not_grow_with_history(self) -> None:
        with CaptureQueriesContext(connection) as long_history:
            self.page("Grey Heron")
        with CaptureQueriesContext(connection) as no_history:
            self.page("Lamplighter")
        # more where there are findings: what was seen, answered and overruled, and pictures of it
        self.assertEqual(len(long_history), len(no_history) + 4)


class DemoTests(WorkshopTestCase):
    def test_a_second_load_changes_nothing(self) -> None:
        before = (Bike.objects.count(), Service.objects.count(), Person.objects.count())
        call_command("load_demo", stories=True, verbosity=0)
        after = (Bike.objects.count(), Service.objects.count(), Person.objects.count())
        self.assertEqual((before, before[0]), (after, 6))

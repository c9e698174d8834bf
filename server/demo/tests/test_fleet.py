"""The demo harbour as a stranger meets it: a fleet that shows lists, trends and cohorts."""

from collections import Counter
from datetime import timedelta

from django.core.management import call_command
from django.test import TestCase
from findings.models import Debris, Finding
from garage.models import Bike, OdometerReading
from oilward_core.debris import ALARM
from planning.models import WardRow
from visits.models import Service
from workshop import days


class FleetTests(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        call_command("load_demo", verbosity=0)

    def test_about_two_dozen_bikes_several_of_each_model(self) -> None:
        bikes = Bike.objects.select_related("model")
        self.assertEqual(bikes.count(), 24)
        models = Counter(bike.model.name for bike in bikes)
        self.assertGreaterEqual(min(models.values()), 3, models)
        plates = [bike.plate for bike in bikes if bike.plate]
        self.assertEqual(len(set(plates)), len(plates))

    def test_five_years_of_services_and_a_ward_that_is_not_all_alarm(self) -> None:
        services = Service.objects.all()
        self.assertGreater(services.count(), 250)
        oldest = min(service.done_on for service in services)
        self.assertGreater(days.today() - oldest, timedelta(days=4.5 * 365))
        due = sum(1 for row in WardRow.objects.all() if row.tally.get("needing"))
        self.assertTrue(1 <= due <= 12, due)

    def test_the_bearing_is_noticed_two_services_before_its_last_and_nothing_else_is(self) -> None:
        grows = Finding.objects.filter(said__gte=ALARM)
        self.assertEqual({(f.bike.name, f.reservoir) for f in grows}, {("Ferry Bell", "gearbox")})
        bearing = Finding.objects.filter(bike__name="Ferry Bell", reservoir="gearbox")
        said = [f.said or 0 for f in bearing.order_by("found_on")]
        self.assertEqual([one >= ALARM for one in said], [False, False, False, True, True, True])
        loud = Finding.objects.filter(level__in=["investigate", "hold"])
        self.assertEqual({f.bike.name for f in loud}, {"Ferry Bell"})

    def test_the_slipped_clutch_is_called_one(self) -> None:
        slipped = Finding.objects.get(note__startswith="Clutch slipped")
        self.assertEqual((slipped.level, slipped.origin), ("watch", "clutch plates"))
        self.assertLess(slipped.said or 0, 0.05)

    def test_five_years_of_plugs_with_the_scatter_of_real_ones(self) -> None:
        shown = Counter(Debris.objects.values_list("form", flat=True))
        self.assertGreater(Finding.objects.count(), 120)
        self.assertTrue(0.03 < shown["fuzz"] / Finding.objects.count() < 0.3, shown)
        readers = Counter(Finding.objects.values_list("found_by__username", flat=True))
        self.assertGreater(readers["oda"], 20)

    def test_no_odometer_runs_backwards(self) -> None:
        for bike in Bike.objects.all():
            rows = OdometerReading.objects.filter(bike=bike).order_by("read_on")
            with self.subTest(bike.name):
                km = [row.km for row in rows]
                self.assertEqual(km, sorted(km))

    def test_loading_again_changes_nothing(self) -> None:
        before = Service.objects.count()
        call_command("load_demo", verbosity=0)
        self.assertEqual((Bike.objects.count(), Service.objects.count()), (24, before))

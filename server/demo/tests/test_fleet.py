"""The demo harbour as a stranger meets it: a fleet that shows lists, trends and cohorts."""

from collections import Counter
from datetime import timedelta

from django.core.management import call_command
from django.test import TestCase
from garage.models import Bike, OdometerReading
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
        due = sum(1 for row in WardRow.objects.all() if row.left <= 0)
        self.assertTrue(1 <= due <= 12, due)

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

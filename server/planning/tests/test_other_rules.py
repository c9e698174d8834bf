"""A new release is another set of rules: whatever was kept ready by the old one is worked out anew, and
nobody has to remember it."""

from typing import Any
from unittest import mock

from demo.testing import WorkshopTestCase
from django.utils import timezone
from visits.ahead.services import look_ahead
from visits.models import AheadRow, Visit
from visits.tests.bench import Technician
from workshop import days, kept
from workshop.models import Workshop
from workshop.touched import generation

from planning.models import KeptHistory, WardRow
from planning.selectors import stale
from planning.services import roll_forward


def other_rules() -> Any:
    return mock.patch("workshop.kept._of_the_code", return_value="0" * 64)


class OtherRulesTests(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.today = days.today()
        generation()
        roll_forward(self.today)

    def test_every_bike_of_the_ward(self) -> None:
        self.assertEqual(stale(self.today).count(), 0)
        with other_rules():
            self.assertEqual(stale(self.today).count(), WardRow.objects.count())
            counts = generation()
            self.assertEqual(generation(), counts, "counted once")
            roll_forward(self.today)
            self.assertEqual(stale(self.today).count(), 0)

    def test_a_history(self) -> None:
        url = f"/api/bikes/{self.heron.pk}/wear/engine/"
        told = self.api.get(url).json()
        KeptHistory.objects.update(page='{"said": "by the old rules"}')
        self.assertNotEqual(self.api.get(url).json(), told)
        with other_rules():
            self.assertEqual(self.api.get(url).json(), told)

    def test_a_run_sheet_is_sent_again(self) -> None:
        mira = Technician(self.api, self.heron.pk)
        mira.open()
        url = f"/api/visits/{mira.visit}/"
        mark = {"HTTP_IF_NONE_MATCH": self.api.get(url)["ETag"]}
        self.assertEqual(self.api.get(url, **mark).status_code, 304)
        with other_rules():
            self.assertEqual(self.api.get(url, **mark).status_code, 200)

    def test_where_a_visit_stands(self) -> None:
        mira = Technician(self.api, self.heron.pk)
        mira.open()
        row = Visit.objects.get(pk=mira.visit)
        Visit.objects.update(stands={**row.stands, "step": "By the old rules"})

        def step() -> str:
            bikes = self.api.get("/api/ward/?shop=true").json()["bikes"]
            return str(bikes[0]["visit"]["step"])

        self.assertEqual(step(), "By the old rules")
        with other_rules():
            self.assertEqual(step(), row.stands["step"])
            anew = Visit.objects.get(pk=mira.visit).stands
            self.assertEqual({**anew, "of": ""}, {**row.stands, "of": ""}, "written down again")

    def test_when_it_will_be_through(self) -> None:
        mira = Technician(self.api, self.heron.pk)
        mira.open()
        self.assertTrue(look_ahead(mira.visit, timezone.now()))
        self.assertFalse(look_ahead(mira.visit, timezone.now()))
        before = AheadRow.objects.get().of
        with other_rules():
            self.assertTrue(look_ahead(mira.visit, timezone.now()))
        self.assertNotEqual(AheadRow.objects.get().of, before)

    def test_a_workshop_of_before_counts_once(self) -> None:
        Workshop.objects.update(release="")
        before = Workshop.objects.get().generation
        self.assertEqual((generation(), generation()), (before + 1, before + 1))


class DeclaredTests(WorkshopTestCase):
    def test_what_is_not_declared_is_refused(self) -> None:
        with self.assertRaises(TypeError):
            kept.HISTORY.of(generation=1)
        with self.assertRaises(TypeError):
            kept.HISTORY.of(generation=1, newest="", colour="red")

    def test_the_same_is_the_same_and_anything_else_is_not(self) -> None:
        one = kept.HISTORY.of(generation=1, newest="a")
        self.assertEqual(one, kept.HISTORY.of(newest="a", generation=1))
        self.assertNotEqual(one, kept.HISTORY.of(generation=2, newest="a"))

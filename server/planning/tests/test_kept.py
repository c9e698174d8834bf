"""What is due is kept: up to date as things are written and as days pass."""

from collections import Counter
from dataclasses import fields
from datetime import UTC, date, datetime, time, timedelta
from typing import Any
from unittest import mock
from uuid import uuid4

from config.shaped import shaped
from demo.as_in_use import tampered
from demo.testing import WorkshopTestCase
from django.core.management import call_command
from django.db import connection, transaction
from django.test.utils import CaptureQueriesContext
from garage.models import Bike
from garage.selectors import workshop_schools
from oilward_core.schools import IN_THE_GLASS, TOPICS
from visits.tests.bench import Technician
from workshop import days

from planning.models import DueRow, Tally, WardRow
from planning.selectors import ward
from planning.services import rebuild, refresh, roll_forward
from planning.shapes import Glass, OpenVisit, Wanted, Ward, WardBike


class KeptCase(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.today = days.today()

    def glass(self, bike: str, reservoir: str) -> dict[str, Any]:
        ward = self.api.get("/api/ward/", {"search": bike}).json()
        glasses = ward["bikes"][0]["glasses"]
        return next(glass for glass in glasses if glass["key"] == reservoir)

    def tally(self) -> dict[str, int]:
        return dict(Tally.objects.exclude(count=0).values_list("name", "count"))

    def counted_anew(self) -> dict[str, int]:
        counts: Counter[str] = Counter()
        for row in WardRow.objects.all():
            counts.update(row.tally)
        return dict(counts)


class WrittenTests(KeptCase):
    def test_every_kind_of_write_moves_the_glass(self) -> None:
        before = self.glass("red buoy", "engine")
        buoy = Bike.objects.get(name="Red Buoy")
        new = {"id": str(uuid4()), "odometer": "33 900", "hours": "", "new_shows": ""}
        self.api.post(f"/api/bikes/{buoy.pk}/odometer/", new, format="json")
        read = self.glass("red buoy", "engine")
        self.assertNotEqual(read["when"], before["when"])
        own = {"path": "engine//repeat.km", "written": "2000 km", "revision": 0}
        self.api.put(f"/api/bikes/{buoy.pk}/own-values/", own, format="json")
        self.assertEqual(self.glass("red buoy", "engine")["state"], "due")
        self.assertEqual(self.tally(), self.counted_anew())

    def test_an_approved_sheet_reaches_every_bike_of_its_model(self) -> None:
        oda = self.signed_in("oda")
        draft = self.api.post(f"/api/models/{self.heron.model_id}/draft/").json()["id"]
        cell = {"path": "primary//repeat.km", "written": "1000 mi", "revision": 1}
        self.api.put(f"/api/sheets/{draft}/cells/", {"cells": [cell]}, format="json")
        self.assertEqual(self.glass("heron", "primary")["state"], "fine")
        page = oda.get(f"/api/sheets/{draft}/").json()
        named = {"unchecked": [number["path"] for number in page["unchecked_numbers"]]}
        oda.post(f"/api/sheets/{draft}/approval/", named, format="json")
        self.assertEqual(self.glass("heron", "primary")["state"], "due")

    def test_a_signed_visit_fills_the_glass_and_leaves_the_shop(self) -> None:
        mira = Technician(self.api, self.heron.pk)
        mira.open()
        self.assertTrue(WardRow.objects.get(bike=self.heron).in_shop)
        mira.visit = mira.visit
        self.api.post(f"/api/visits/{mira.visit}/leave/", {"reason": "no oil"}, format="json")
        self.assertFalse(WardRow.objects.get(bike=self.heron).in_shop)

    def test_a_schools_change_reaches_the_whole_fleet(self) -> None:
        body = {"kind": "engine", "topic": "interval", "choice": "half the book", "bike": ""}
        with mock.patch("planning.selectors.worked_out", side_effect=AssertionError("at once")):
            self.signed_in("oda").put("/api/schools/", body, format="json")
        self.assertEqual(self.api.get("/api/ward/").json()["rolling"]["behind"], 6)
        at_once = self.glass("ferry", "engine")
        self.assertIn("half the book", str(at_once["reasons"]))
        self.assertEqual((roll_forward(self.today), roll_forward(self.today)), (6, 0))
        self.assertEqual(self.api.get("/api/ward/").json()["rolling"]["behind"], 0)
        self.assertEqual(self.glass("ferry", "engine"), at_once)

    def test_a_school_no_glass_is_drawn_by_moves_no_bike(self) -> None:
        oda = self.signed_in("oda")
        for topic in TOPICS:
            for kind in topic.kinds if topic.key not in IN_THE_GLASS else ():
                told = {"kind": kind.value, "topic": topic.key, "bike": ""}
                stands = workshop_schools().of(kind, topic.key)
                seen = stands.choice if stands.whose != "usual practice" else ""
                body = {**told, "choice": topic.choices[-1], "seen": seen}
                answer = oda.put("/api/schools/", body, format="json")
                self.assertEqual(answer.status_code, 200, answer.content)
        self.assertEqual(self.api.get("/api/ward/").json()["rolling"]["behind"], 0)
        rows = list(WardRow.objects.order_by("pk").values_list("shape", "clocks"))
        rebuild(self.today)
        self.assertEqual(list(WardRow.objects.order_by("pk").values_list("shape", "clocks")), rows)

    def test_an_archived_bike_takes_its_counts_with_it(self) -> None:
        url = f"/api/bikes/{self.heron.pk}/form/"
        form = self.api.get(url).json()["form"]
        self.api.put(url, {**form, "archived": True}, format="json")
        self.assertEqual(self.tally(), self.counted_anew())
        self.assertEqual(self.tally()["bikes"], 5)
        self.assertFalse(DueRow.objects.filter(bike=self.heron).exists())


class RollTests(KeptCase):
    def test_days_pass_once(self) -> None:
        later = self.today + timedelta(days=200)
        before = self.glass("ferry", "engine")
        self.assertGreater(roll_forward(later), 0)
        self.assertEqual(roll_forward(later), 0)
        after = DueRow.objects.get(bike__name="Ferry Bell", reservoir="engine")
        self.assertEqual((before["state"], after.state), ("fine", "due"))
        self.assertEqual(self.tally(), self.counted_anew())

    def said(self, day: date) -> dict[str, Any]:
        """The ward's page as it is said on a day, with what it is filtered by."""
        page = ward(Wanted(), day, datetime.combine(day, time(12), UTC))
        return {key: value for key, value in page.items() if key not in ("now", "rolling")}

    def dues(self) -> list[Any]:
        told = ("state", "due_km", "forecast_on", "forecast_early", "lasts_days")
        return list(DueRow.objects.order_by("bike", "reservoir").values_list(*told))

    def test_a_day_that_changes_nothing_touches_nothing(self) -> None:
        rebuild(self.today)
        soonest = WardRow.objects.exclude(changes_on=None).earliest("changes_on").changes_on
        assert soonest is not None
        for passed in range((soonest - self.today).days):
            self.assertEqual(roll_forward(self.today + timedelta(days=passed)), 0)
        self.assertGreater(roll_forward(soonest), 0)

    def test_kept_and_said_later_is_the_same_as_worked_out_anew(self) -> None:
        rebuild(self.today)
        for passed in (1, 2, 9, 33, 90, 181, 366, 500, 900, 1600):
            day = self.today + timedelta(days=passed)
            roll_forward(day)
            kept, dues = self.said(day), self.dues()
            with transaction.atomic():
                rebuild(day)
                anew, dues_anew = self.said(day), self.dues()
                transaction.set_rollback(True)
            self.assertEqual(dues, dues_anew, passed)
            for one, other in zip(kept["bikes"], anew["bikes"], strict=True):
                self.assertEqual(one, other, (passed, one["name"]))
            self.assertEqual(kept, anew, passed)

    def test_rolling_a_day_at_a_time_ends_where_one_leap_does(self) -> None:
        for passed in range(1, 40):
            roll_forward(self.today + timedelta(days=passed))
        slowly = self.dues(), self.said(self.today + timedelta(days=39))
        rebuild(self.today)
        roll_forward(self.today + timedelta(days=39))
        self.assertEqual((self.dues(), self.said(self.today + timedelta(days=39))), slowly)

    def test_working_out_again_changes_nothing(self) -> None:
        rows = list(WardRow.objects.order_by("pk").values_list("clocks", "first_due", "tally"))
        counts = self.tally()
        refresh([bike.pk for bike in Bike.objects.all()], self.today)
        self.assertEqual(
            list(WardRow.objects.order_by("pk").values_list("clocks", "first_due", "tally")), rows
        )
        self.assertEqual(self.tally(), counts)

    def test_the_command_builds_what_is_missing(self) -> None:
        WardRow.objects.all().delete()
        Tally.objects.all().delete()
        call_command("roll_forward")
        self.assertEqual(WardRow.objects.count(), 6)
        self.assertEqual(self.tally(), self.counted_anew())


class AskedTests(KeptCase):
    def names(self, **asked: str) -> list[str]:
        ward = self.api.get("/api/ward/", asked).json()
        self.assertEqual(ward["count"], len(ward["bikes"]))
        return [bike["name"] for bike in ward["bikes"]]

    def test_filters(self) -> None:
        self.assertEqual(len(self.names()), 6)
        soon = set(self.names(within="30"))
        self.assertEqual(soon, {"Grey Heron", "Lamplighter", "Postie"})
        self.assertEqual(self.names(use="off-road"), ["Goat"])
        self.assertEqual(self.names(fluid="75W-90, GL-5"), ["Ferry Bell"])
        self.assertEqual(self.names(shop="true"), [])
        Technician(self.api, self.heron.pk).open()
        self.assertEqual(self.names(shop="true"), ["Grey Heron"])
        self.assertEqual(self.names(hold="true"), [])
        self.assertEqual(self.names(search="%"), [])

    def test_groups_stand_together_by_urgency(self) -> None:
        uses = [bike["use_class"] for bike in self.api.get("/api/ward/?group=use").json()["bikes"]]
        self.assertEqual(uses, sorted(uses))

    def test_the_strip_counts_the_coming_months(self) -> None:
        ward = self.api.get("/api/ward/").json()
        self.assertEqual(len(ward["months"]), 12)
        self.assertEqual(ward["months"][0]["month"], f"{self.today:%Y-%m}")
        self.assertGreater(sum(month["count"] for month in ward["months"]), 10)
        self.assertEqual(ward["months"][0]["label"], f"{self.today:%b}")
        self.assertEqual({choice["name"] for choice in ward["uses"]} & {"off-road"}, {"off-road"})

    def test_forecasts_say_when_and_how_sure(self) -> None:
        shock = self.glass("red buoy", "shock")
        self.assertRegex(shock["forecast"], r"^about \w{3} \d{4} \(")
        self.assertLess(shock["notch"], shock["level"])
        self.assertIn("readings of the last year", str(shock["reasons"]))

    def test_nothing_is_worked_out_on_a_request(self) -> None:
        with CaptureQueriesContext(connection) as asked:
            self.api.get("/api/ward/")
        self.assertLess(len(asked), 10)
        with mock.patch("oilward_core.standing.due", side_effect=AssertionError):
            self.assertEqual(self.api.get("/api/ward/").status_code, 200)

    def test_what_is_kept_has_the_shape_that_is_promised(self) -> None:
        Technician(self.api, self.heron.pk).open()
        ward = self.api.get("/api/ward/").json()
        promised = shaped(Ward)(data=ward)
        promised.is_valid()
        wrong = {k: v for k, v in promised.errors.items() if "blank" not in str(v)}
        self.assertEqual(wrong.keys() - {"bikes"}, set())
        glass = ward["bikes"][0]["glasses"][0]
        self.assertEqual(set(glass), {field.name for field in fields(Glass)})
        self.assertEqual(set(ward["bikes"][0]), {field.name for field in fields(WardBike)})
        self.assertEqual(set(ward["bikes"][0]["visit"]), {f.name for f in fields(OpenVisit)})

    def test_a_hold_is_seen_from_afar(self) -> None:
        from findings.models import Finding

        finding = Finding.objects.filter(bike__name="Ferry Bell", reservoir="gearbox").last()
        assert finding is not None
        with tampered():
            Finding.objects.filter(pk=finding.pk).update(level="hold", action="Do not run it.")
        bell = Bike.objects.get(name="Ferry Bell")
        refresh([bell.pk], days.today())
        self.assertEqual(self.names(hold="true"), ["Ferry Bell"])
        ward = self.api.get("/api/ward/?hold=true").json()
        self.assertEqual(ward["bikes"][0]["hold"], "gearbox: Do not run it.")

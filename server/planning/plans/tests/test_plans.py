"""The plan of a visit: proposal, order, kit, calendar, and the papers others read."""

from datetime import timedelta
from io import BytesIO
from typing import Any
from unittest.mock import patch
from uuid import uuid4

from demo.testing import WorkshopTestCase
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from findings.models import Finding
from garage.models import Bike
from icalendar import Calendar
from pypdf import PdfReader
from rest_framework.test import APIClient
from shelf.models import Fluid
from visits.tests.bench import Technician
from workshop import days
from workshop.models import Person, Workshop

from planning.models import DueRow, PlannedVisit
from planning.plans import orders


def amount(price: str) -> float:
    """The number of a price: ``1240.50 Kr``."""
    return float(price.replace("\u00a0", "").removesuffix("Kr"))


class PlanCase(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.today = days.today()

    def plan(self, bike: str = "Grey Heron", api: APIClient | None = None, **asked: Any) -> Any:
        pk = Bike.objects.get(name=bike).pk
        return (api or self.api).post(f"/api/bikes/{pk}/plan/", asked, format="json")

    def chosen(self, *tasks: tuple[str, str]) -> dict[str, Any]:
        return {
            "proposed": False,
            "tasks": [{"reservoir": key, "variant": variant} for key, variant in tasks],
        }

    THREE = (("engine", "with filter"), ("primary", "drain only"), ("gearbox", "drain only"))


class ProposalTests(PlanCase):
    def test_what_is_due_is_proposed_and_every_line_says_why(self) -> None:
        page = self.plan().json()
        lines = {line["reservoir"]: line for line in page["tasks"]}
        self.assertTrue(lines["engine"]["chosen"])
        self.assertIn("Due since", lines["engine"]["reason"]["text"])
        self.assertIn("of its life", lines["fork left"]["reason"]["text"])
        self.assertLessEqual(page["together"]["visits"], page["alone"]["visits"])

    def test_the_plan_is_for_the_day_something_is_due_or_the_day_asked_for(self) -> None:
        self.assertEqual(self.plan().json()["day"], f"{self.today}")
        buoy = self.plan("Red Buoy").json()
        soonest = DueRow.objects.filter(bike__name="Red Buoy").order_by("forecast_on")[0]
        self.assertEqual(buoy["day"], f"{soonest.forecast_on}")
        lines = {line["reservoir"]: line for line in buoy["tasks"]}
        self.assertTrue(lines[soonest.reservoir]["chosen"])
        for asked, day in (("2020-01-01", self.today), ("2026", soonest.forecast_on)):
            self.assertEqual(self.plan("Red Buoy", on=asked).json()["day"], f"{day}")
        later = self.plan("Red Buoy", on=f"{self.today + timedelta(days=600)}").json()
        self.assertTrue(all(line["proposed"] for line in later["tasks"]))

    def test_what_a_finding_asks_for_stands_in_the_plan_until_it_is_answered(self) -> None:
        (ask,) = self.plan("Ferry Bell").json()["asks"]
        self.assertEqual((ask["label"], ask["level"]), ("gearbox", "investigate"))
        grave = Finding.objects.filter(bike__name="Ferry Bell", reservoir="gearbox")
        newest = grave.latest("found_on").pk
        body = {
            "id": str(uuid4()),
            "outcome": "a fault was found, and put right",
            "words": "Renewed",
        }
        self.api.post(f"/api/findings/{newest}/answers/", body, format="json")
        self.assertEqual(self.plan("Ferry Bell").json()["asks"], [])

    def test_one_tap_overrides(self) -> None:
        page = self.plan(**self.chosen(("gearbox", "drain only"))).json()
        chosen = [line["reservoir"] for line in page["tasks"] if line["chosen"]]
        self.assertEqual(chosen, ["gearbox"])
        self.assertTrue(next(t for t in page["tasks"] if t["reservoir"] == "engine")["proposed"])

    def test_unknown_history_is_proposed_as_a_baseline(self) -> None:
        page = self.plan("Lamplighter").json()
        self.assertTrue(all(line["chosen"] for line in page["tasks"]))

    def test_places_that_are_none(self) -> None:
        for tasks in ((("boiler", "dry"),), (("engine", "half"),)):
            self.assertEqual(self.plan(**self.chosen(*tasks)).status_code, 422)
        pk = uuid4()
        self.assertEqual(
            self.api.post(f"/api/bikes/{pk}/plan/", {}, format="json").status_code, 404
        )

    def test_a_reader_may_ask(self) -> None:
        self.assertEqual(self.plan(api=self.signed_in("piet")).status_code, 200)

    def test_an_order_is_worked_out_once_and_never_for_who_only_looks(self) -> None:
        piet, solve = self.signed_in("piet"), orders.solve_as_wished
        with patch.object(orders, "solve_as_wished", side_effect=solve) as solved:
            first = self.plan(api=piet).json()
            self.assertEqual((first["order"], solved.call_count), (None, 0))
            self.assertIn("Nobody who works here has asked", first["refused"])
            told = [self.plan(api=api).json()["order"] for api in (self.api, self.api, piet)]
        self.assertEqual(solved.call_count, 1)
        self.assertEqual(told, [told[0]] * 3)
        self.assertGreater(told[0]["minutes"], 0)
        orders.forget(timezone.now() + timedelta(days=61))
        self.assertIsNone(self.plan(api=piet).json()["order"])
        self.assertEqual(self.plan(api=APIClient()).status_code, 401)


class OrderTests(PlanCase):
    def test_three_drains_with_valves_and_forks_in_one_order(self) -> None:
        asked = self.chosen(*self.THREE, ("fork left", "dry"), ("fork right", "dry"))
        page = self.plan(**asked, cold=["valves"]).json()
        order = page["order"]
        self.assertLess(order["minutes"], order["in_turn"])
        at = {job["id"]: job for job in order["jobs"]}
        self.assertLessEqual(at["valves"]["end"], at["warm up"]["start"])
        self.assertEqual(at["fork left/leg out"]["attitude"], "lifted")
        own = "Engine: The front exhaust runs beside the plug."
        self.assertIn(own, page["cautions"])
        self.assertIn(own, at["engine/drain"]["cautions"])

    def test_two_technicians_and_a_wish(self) -> None:
        wish = {"first": "gearbox/fill", "then": "engine/drain"}
        page = self.plan(**self.chosen(*self.THREE), technicians=2, wishes=[wish]).json()
        at = {job["id"]: job for job in page["order"]["jobs"]}
        self.assertLessEqual(at["gearbox/fill"]["end"], at["engine/drain"]["start"])
        self.assertEqual({job["technician"] for job in page["order"]["jobs"]}, {0, 1})

    def test_an_impossible_wish_says_which_rule_it_breaks(self) -> None:
        wish = {"first": "engine/fill", "then": "engine/drain"}
        page = self.plan(**self.chosen(*self.THREE), wishes=[wish]).json()
        self.assertIn("cannot come before", page["refused"])
        at = {job["id"]: job for job in page["order"]["jobs"]}
        self.assertLess(at["engine/drain"]["end"], at["engine/fill"]["start"])
        self.assertEqual(
            self.plan(**self.chosen(), technicians=9, cold=["tyres"]).json()["order"], None
        )

    def test_minutes_are_learned_from_signed_visits_and_say_from_how_many(self) -> None:
        for n in range(3):
            mira = Technician(self.api, self.heron.pk)
            mira.now += timedelta(days=n)
            mira.open(f"{61300 + n * 10}")
            mira.until_fill()
            for position in ("0.4", "0.72", "0.75"):
                if mira.task["coach"]["action"] == "done":
                    break
                mira.round(position)
            mira.dry()
            mira.tick()
            self.assertEqual(mira.sign().status_code, 200)
        order = self.plan(**self.chosen(("gearbox", "drain only"))).json()["order"]
        self.assertIn("torque: 1 min, from 3 visits", order["learned"])


class KitTests(PlanCase):
    def test_oil_in_bottle_words_from_what_stands_there(self) -> None:
        kit = self.plan(**self.chosen(*self.THREE)).json()["kit"]
        fluids = {line["fluid"]: line for line in kit["fluids"]}
        amber = fluids["Skarholm Amber"]
        self.assertIn(" left in the open 946 ml bottle", amber["words"])
        self.assertIn("×", amber["buy"])
        self.assertEqual(fluids["Cogwork 90"]["what_for"], "gearbox")
        self.assertTrue(kit["simulated"])

    def test_where_nothing_here_fits_the_kit_says_what_to_buy_by_what_is_asked(self) -> None:
        Fluid.objects.filter(family="gear").update(grade="85W-140", service="GL-5", kv100=26)
        kit = self.plan(**self.chosen(*self.THREE)).json()["kit"]
        line = next(one for one in kit["fluids"] if one["what_for"] == "gearbox")
        self.assertEqual(line["fluid"], "75W-90, GL-4")
        self.assertEqual(line["words"], f"nothing here fits: buy {line['need']}")
        self.assertIn(f"{line['need']} of 75W-90, GL-4", kit["to_buy"])

    def test_seals_tools_torques_and_money(self) -> None:
        kit = self.plan(**self.chosen(*self.THREE)).json()["kit"]
        parts = {line["name"]: line for line in kit["parts"]}
        self.assertEqual(parts["crush washer 14 mm"]["words"], "6 in the drawer")
        self.assertIn("8 mm hex key", kit["tools"])
        self.assertIn("PTFE paste", kit["consumables"])
        torques = {line["what"]: line for line in kit["torques"]}
        self.assertEqual(torques["engine, drain plug"]["manual"], "18-25 ft-lb")
        self.assertIn("N·m", torques["engine, drain plug"]["setting"])
        together = amount(kit["parts_cost"]) + amount(kit["labour"])
        self.assertAlmostEqual(together, amount(kit["total"]), places=2)
        self.assertTrue(kit["flat"].endswith("\u00a0Kr"))

    def test_what_is_not_here_is_said_first_filters_too(self) -> None:
        engine = self.chosen(("engine", "with filter"))
        kit = self.plan(**engine).json()["kit"]
        own = "filter for the engine, Brackwell Colossine 1640"
        self.assertIn(f"1 × {own}", kit["to_buy"])
        self.assertTrue(any(line.endswith("Skarholm Amber") for line in kit["to_buy"]))
        parts = {line["name"]: line for line in kit["parts"]}
        self.assertEqual(parts[own]["words"], "0 in the drawer, buy 1")
        came = {"act": str(uuid4()), "name": own, "count": "1", "seen": None}
        self.assertEqual(self.api.put("/api/shelf/seals/", came, format="json").status_code, 200)
        here = self.plan(**engine).json()["kit"]
        self.assertNotIn(f"1 × {own}", here["to_buy"])
        self.assertEqual(here["parts_cost"], kit["parts_cost"])
        self.assertLess(amount(here["buying"]), amount(kit["buying"]))

    def test_an_opened_bottle_counts(self) -> None:
        gear = Fluid.objects.get(name="Cogwork 90")
        form = {"fluid": gear.pk, "version": 0, "size": "500 ml", "left": "", "opened_on": ""}
        for _ in range(3):
            body = {**form, "id": str(uuid4()), "act": str(uuid4())}
            self.assertEqual(
                self.api.put("/api/shelf/bottles/", body, format="json").status_code, 200
            )
        kit = self.plan(**self.chosen(("gearbox", "drain only"))).json()["kit"]
        self.assertEqual(kit["fluids"][0]["buy"], "")


class CalendarTests(PlanCase):
    def new(self, **more: Any) -> dict[str, Any]:
        return {
            "id": str(uuid4()),
            "bike": str(self.heron.pk),
            "on": f"{self.today + timedelta(days=9)}",
            "version": 0,
            "asked": self.chosen(*self.THREE),
            **more,
        }

    def lines(self, answer: Any) -> list[dict[str, Any]]:
        return [line for week in answer.json()["weeks"] for line in week["visits"]]

    def post(self, body: dict[str, Any], api: APIClient | None = None) -> Any:
        return (api or self.api).post("/api/calendar/", body, format="json")

    def test_a_visit_is_planned_once_changed_by_version_and_dropped(self) -> None:
        body = self.new()
        for _ in range(2):
            found = self.post(body)
            self.assertEqual((found.status_code, found.json()["count"]), (201, 1))
        (line,) = self.lines(found)
        self.assertEqual([p["label"] for p in line["parts"]], ["engine", "primary", "gearbox"])
        later = {**body, "on": f"{self.today + timedelta(days=20)}"}
        self.assertEqual(self.post(later).status_code, 409)
        (moved,) = self.lines(self.post({**later, "version": 1}))
        self.assertEqual((moved["on"], moved["version"]), (later["on"], 2))
        for _ in range(2):
            gone = self.api.delete(f"/api/planned-visits/{body['id']}/")
            self.assertEqual(self.lines(gone), [])

    def test_bad_plans_say_what_to_do(self) -> None:
        wish = {"first": "engine/fill", "then": "engine/drain"}
        for more, word in (
            ({"on": "soon"}, "Choose a day"),
            ({"on": f"{self.today - timedelta(days=1)}"}, "today or later"),
            ({"asked": self.chosen()}, "at least one"),
            ({"asked": {**self.chosen(*self.THREE), "wishes": [wish]}}, "cannot come before"),
        ):
            with self.subTest(word):
                answer = self.post(self.new(**more))
                self.assertEqual(answer.status_code, 422)
                self.assertIn(word, answer.json()["detail"])
        self.assertEqual(self.post(self.new(), self.signed_in("piet")).status_code, 403)
        self.assertFalse(PlannedVisit.objects.exists())

    def test_the_calendar_goes_week_by_week_and_says_what_each_visit_lacks(self) -> None:
        monday = self.today + timedelta(days=7 - self.today.weekday())
        first = self.new(on=f"{monday}", asked=self.chosen(("primary", "drain only")))
        self.post(first)
        found = self.post(self.new(on=f"{monday + timedelta(days=7)}"))
        one, two = found.json()["weeks"]
        self.assertEqual((len(one["visits"]), len(two["visits"])), (1, 1))
        self.assertEqual(one["minutes"], one["visits"][0]["minutes"])
        self.assertIn("2 × 946 ml Plate & Chain", two["visits"][0]["missing"])
        self.assertFalse(one["visits"][0]["late"])

    def test_a_week_stands_by_people_and_hours(self) -> None:
        ids = {one.username: str(one.pk) for one in Person.objects.all()}
        asked = {**self.chosen(("primary", "drain only")), "hands": [ids["mira"], ids["runa"]]}
        page = self.plan(**asked).json()
        self.assertEqual((page["technicians"], page["hands"]), (2, asked["hands"]))
        self.assertEqual([one["name"] for one in page["people"]], ["Mira", "Oda", "Runa"])
        on = self.today + timedelta(days=1)
        body = self.new(on=f"{on}", asked=asked)
        weeks = self.post(body).json()["weeks"]
        line = weeks[0]["visits"][0]
        self.assertEqual(line["hands"], "Mira, Runa")
        nth = [day["on"] for day in weeks[0]["days"]].index(f"{on}")
        lanes = {lane["name"]: lane["days"][nth] for lane in weeks[0]["lanes"]}
        self.assertEqual(set(lanes), {"Mira", "Oda", "Runa"})
        self.assertEqual(lanes["Mira"]["visits"], [body["id"]])
        self.assertEqual((lanes["Runa"]["minutes"], lanes["Oda"]["minutes"]), (line["minutes"], 0))
        # who left is named no more once it is planned anew, and one who reads alone is not named at all
        Person.objects.filter(username="runa").update(is_active=False)
        self.assertEqual(self.plan(**asked, planned=body["id"]).json()["hands"], [ids["mira"]])
        stranger = {**asked, "hands": [ids["piet"]]}
        self.assertEqual(self.plan(**stranger).json()["code"], "planning.hands")
        self.assertEqual(self.plan(**{**asked, "hands": ["x"]}).json()["code"], "planning.hands")

    def test_what_nothing_here_fits_is_to_buy_as_well(self) -> None:
        Fluid.objects.filter(family="gear").update(grade="85W-140", service="GL-5", kv100=26)
        found = self.post(self.new(asked=self.chosen(*self.THREE))).json()
        line = next(one for one in found["shopping"] if one["what"] == "75W-90, GL-4")
        self.assertEqual((line["bottles"], line["count"], line["available"]), ([], 0, ""))
        self.assertEqual(line["for_bikes"], "Grey Heron")
        missing = found["weeks"][0]["visits"][0]["missing"]
        self.assertIn(f"{line['amount']} of 75W-90, GL-4", missing)

    def test_what_an_earlier_visit_needs_is_kept_for_it(self) -> None:
        asked = self.chosen(("primary", "drain only"))
        alone = self.plan(**asked).json()["kit"]["fluids"][0]
        self.assertEqual(alone["kept"], "")
        body = self.new(asked=asked)
        self.post(body)
        later = self.plan(**asked).json()["kit"]["fluids"][0]
        self.assertIn("kept for visits planned before", later["kept"])
        self.assertNotEqual(later["words"], alone["words"])
        own = self.plan(**asked, planned=body["id"]).json()
        self.assertEqual(own["kit"]["fluids"][0]["words"], alone["words"])
        self.assertEqual(own["planned"], [])
        others = self.plan(**asked).json()["planned"]
        self.assertEqual([line["id"] for line in others], [body["id"]])

    def test_queries_do_not_grow_with_the_calendar(self) -> None:
        counts = []
        for name in ("Grey Heron", "Ferry Bell", "Lamplighter"):
            bike = Bike.objects.get(name=name)
            self.post(self.new(bike=str(bike.pk), asked=self.chosen(("engine", "drain only"))))
            with CaptureQueriesContext(connection) as found:
                self.api.get("/api/calendar/")
            counts.append(len(found))
        self.assertEqual(len(set(counts)), 1, counts)

    def test_a_planned_visit_is_found_again_as_it_was_asked_for(self) -> None:
        wish = {"first": "gearbox/fill", "then": "engine/drain"}
        body = self.new(
            asked={**self.chosen(*self.THREE), "cold": ["valves"], "wishes": [wish], "pans": 3}
        )
        self.post(body)
        found = self.api.get(f"/api/planned-visits/{body['id']}/").json()
        self.assertEqual((found["state"], found["line"]["on"]), ("planned", body["on"]))
        again = {**found["asked"]}
        self.assertEqual(again["planned"], body["id"])
        self.assertEqual((again["cold"], again["wishes"], again["pans"]), (["valves"], [wish], 3))
        page = self.plan(**again).json()
        self.assertEqual(sum(line["chosen"] for line in page["tasks"]), 3)
        self.assertEqual(self.api.get(f"/api/planned-visits/{uuid4()}/").status_code, 404)

    def test_the_ward_says_what_is_planned_next(self) -> None:
        def planned() -> Any:
            row = self.api.get("/api/ward/", {"search": "grey heron"}).json()["bikes"][0]
            return row["planned"]

        self.assertIsNone(planned())
        later, sooner = self.new(on=f"{self.today + timedelta(days=90)}"), self.new()
        self.post(later)
        self.post(sooner)
        self.assertEqual((planned()["id"], planned()["late"]), (sooner["id"], False))
        PlannedVisit.objects.filter(pk=sooner["id"]).update(on=self.today - timedelta(days=2))
        self.assertTrue(planned()["late"])
        self.api.delete(f"/api/planned-visits/{sooner['id']}/")
        self.assertEqual(planned()["id"], later["id"])

    def test_a_bike_that_left_is_off_the_calendar(self) -> None:
        self.post(self.new())
        Bike.objects.filter(pk=self.heron.pk).update(archived=True)
        self.assertEqual(self.api.get("/api/calendar/").json()["count"], 0)
        self.assertEqual(self.post(self.new()).status_code, 404)

    def test_shopping_adds_up_over_all_planned_visits(self) -> None:
        self.post(self.new())
        bell = Bike.objects.get(name="Ferry Bell")
        asked = self.chosen(("gearbox", "drain only"), ("engine", "with filter"))
        found = self.post(self.new(bike=str(bell.pk), asked=asked)).json()["shopping"]
        things = {line["what"]: line for line in found}
        self.assertEqual(things["Cogwork 90"]["for_bikes"], "Ferry Bell, Grey Heron")
        self.assertIn("O-ring 12 mm", things)
        self.assertNotIn("crush washer 14 mm", things)
        filters = {name for name in things if name.startswith("filter")}
        self.assertEqual(len(filters), 2, filters)
        for bottle in self.api.get("/api/shelf/stock/").json()["bottles"]:
            gone = {"act": str(uuid4()), "id": bottle["id"], "gone": True}
            self.api.post("/api/shelf/bottles/", gone, format="json")
        more = {line["what"] for line in self.api.get("/api/calendar/").json()["shopping"]}
        self.assertIn("Plate & Chain", more)

    def test_a_lead_renews_the_feeds_address_and_the_old_one_is_nothing(self) -> None:
        old = self.api.get("/api/calendar/").json()["feed"]
        oda, url = self.signed_in("oda"), f"/api/workshop/calendar-address/{uuid4()}/"
        self.assertEqual(self.api.put(url).status_code, 403)
        self.assertEqual(oda.put(url).status_code, 204)
        new = self.api.get("/api/calendar/").json()["feed"]
        self.assertEqual(oda.put(url).status_code, 204)
        self.assertEqual(self.api.get("/api/calendar/").json()["feed"], new)
        self.assertEqual(APIClient().get(old).status_code, 404)
        self.assertEqual(APIClient().get(new).status_code, 200)

    def test_the_feed_is_a_calendar_others_read_and_its_secret_is_its_key(self) -> None:
        body = self.new()
        feed = self.post(body).json()["feed"]
        answer = APIClient().get(feed)
        calendar = Calendar.from_ical(answer.content)
        events = {str(event["uid"]): event for event in calendar.walk("VEVENT")}
        visit = events[f"visit-{body['id']}@oil-ward"]
        self.assertEqual(visit.decoded("dtstart"), self.today + timedelta(days=9))
        self.assertEqual(str(visit["summary"]), "Grey Heron: engine, primary, gearbox")
        expected = DueRow.objects.filter(forecast_on__isnull=False).count()
        self.assertEqual(len(events), expected + 1)
        self.assertEqual(APIClient().get("/api/calendar/guess.ics").status_code, 404)
        self.assertGreater(len(Workshop.objects.get().calendar_token), 20)

    def test_the_kit_is_printed_as_it_stands(self) -> None:
        body = self.new()
        self.post(body)
        answer = self.api.get(f"/api/planned-visits/{body['id']}/kit.pdf")
        self.assertEqual(answer["Content-Type"], "application/pdf")
        pages = [page.extract_text() for page in PdfReader(BytesIO(answer.content)).pages]
        for number, text in enumerate(pages, 1):
            self.assertIn("Kit: Grey Heron", text)
            self.assertIn(f"page {number} of {len(pages)}", text)
        whole = " ".join(pages)
        for words in ("Skarholm", "Torque", "simulated", "18-25 ft-lb", "Kr", "N·m"):
            self.assertIn(words, whole)
        self.assertEqual(self.api.get(f"/api/planned-visits/{uuid4()}/kit.pdf").status_code, 404)


class TickOffTests(PlanCase):
    """A planned visit is ticked off by what is signed, and closes itself."""

    def booked(self, *tasks: tuple[str, str], days: int = 0) -> PlannedVisit:
        body = {
            "id": str(uuid4()),
            "bike": str(self.heron.pk),
            "on": f"{self.today + timedelta(days=days)}",
            "version": 0,
            "asked": self.chosen(*tasks),
        }
        self.assertEqual(self.api.post("/api/calendar/", body, format="json").status_code, 201)
        return PlannedVisit.objects.get(pk=body["id"])

    def serviced(self, key: str = "primary", km: str = "61300") -> str:
        mira = Technician(self.api, self.heron.pk)
        mira.open(km, "drain only", key)
        mira.until_fill()
        if key == "primary":  # an exact quantity
            mira.pour()
        else:
            mira.round("0.4")
            mira.round("0.72")
        mira.dry()
        mira.tick()
        self.assertEqual(mira.sign().status_code, 200, mira.sheet["focus"])
        return str(mira.visit)

    def state(self, visit: PlannedVisit) -> tuple[str, dict[str, str]]:
        visit.refresh_from_db()
        return visit.state, visit.done

    def test_what_is_signed_is_ticked_off_and_the_last_one_closes_it(self) -> None:
        one, both = self.booked(("primary", "drain only")), None
        both = self.booked(("primary", "drain only"), ("engine", "drain only"), days=30)
        first = self.serviced()
        self.assertEqual(self.state(one), ("done", {"primary": first}))
        self.assertEqual(self.state(both), ("planned", {}))
        second = self.serviced(km="61400")
        self.assertEqual(self.state(both), ("planned", {"primary": second}))
        asked = {**self.chosen(("primary", "drain only"), ("engine", "drain only"))}
        page = self.plan(**asked, planned=str(both.pk)).json()
        self.assertEqual({t["reservoir"]: t["done"] for t in page["tasks"]}["primary"], second)
        self.assertNotIn("primary", {job["group"] for job in page["order"]["jobs"]})
        self.serviced("engine", km="61500")
        self.assertEqual(self.state(both)[0], "done")
        self.assertEqual(self.api.get("/api/calendar/").json()["count"], 0)

    def test_wishes_about_what_is_done_and_parts_that_left_the_sheet_stand_in_no_ones_way(
        self,
    ) -> None:
        both = self.booked(("primary", "drain only"), ("engine", "drain only"))
        both.wishes = [{"first": "primary/fill", "then": "engine/drain"}]
        both.tasks.append({"reservoir": "sidecar drive", "variant": "dry", "label": "sidecar"})
        both.save()
        self.serviced()
        asked = self.api.get(f"/api/planned-visits/{both.pk}/").json()["asked"]
        page = self.plan(**asked).json()
        self.assertEqual(page["refused"], "")
        self.assertIn("engine/drain", [job["id"] for job in page["order"]["jobs"]])
        self.assertEqual(self.api.get("/api/calendar/").status_code, 200)

    def test_dropping_the_rest_of_a_visit_keeps_it_as_done(self) -> None:
        both = self.booked(("primary", "drain only"), ("engine", "drain only"))
        self.serviced()
        for _ in range(2):
            self.api.delete(f"/api/planned-visits/{both.pk}/")
        self.assertEqual(self.state(both)[0], "done")
        untouched = self.booked(("engine", "drain only"))
        self.api.delete(f"/api/planned-visits/{untouched.pk}/")
        self.assertEqual(self.state(untouched)[0], "dropped")

    def test_taking_out_what_is_left_closes_it_and_then_it_stays_closed(self) -> None:
        both = self.booked(("primary", "drain only"), ("engine", "drain only"))
        self.serviced()
        body = {
            "id": str(both.pk),
            "bike": str(self.heron.pk),
            "on": f"{self.today}",
            "version": 1,
            "asked": self.chosen(("primary", "drain only")),
        }
        self.assertEqual(self.api.post("/api/calendar/", body, format="json").status_code, 201)
        self.assertEqual(self.state(both)[0], "done")
        late = {**body, "version": 2, "asked": self.chosen(("engine", "drain only"))}
        answer = self.api.post("/api/calendar/", late, format="json")
        self.assertEqual(answer.status_code, 409)
        self.assertIn("Plan a new one", answer.json()["detail"])


class ToldTests(PlanCase):
    """Who changed what tells of the day's visits, signatures and plans, too."""

    def lines(self, **asked: str) -> list[tuple[str, str, str]]:
        page = self.signed_in("oda").get("/api/audit/", {"text": "heron", **asked}).json()
        return [(line["by"], line["act"], line["about"]) for line in page["lines"]]

    def test_visits_and_plans_stand_in_words(self) -> None:
        body = {
            "id": str(uuid4()),
            "bike": str(self.heron.pk),
            "on": f"{self.today + timedelta(days=3)}",
            "version": 0,
            "asked": self.chosen(("primary", "drain only")),
        }
        for _ in range(2):  # sent twice, it is told once
            self.assertEqual(self.api.post("/api/calendar/", body, format="json").status_code, 201)
        moved = {**body, "on": f"{self.today + timedelta(days=4)}", "version": 1}
        self.api.post("/api/calendar/", moved, format="json")
        self.api.delete(f"/api/planned-visits/{body['id']}/")
        mira = Technician(self.api, self.heron.pk)
        mira.open()
        mira.leave("No parts")
        told = self.lines()
        for act in (
            "visit planned",
            "planned visit changed",
            "planned visit dropped",
            "visit opened",
            "bike left",
        ):
            with self.subTest(act):
                self.assertEqual(told.count(("Mira", act, "Grey Heron")), 1)
        page = self.signed_in("oda").get("/api/audit/", {"act": "planned visit changed"}).json()
        self.assertIn(
            f"on: {self.today + timedelta(days=3)}; what: primary", page["lines"][0]["was"]
        )
        self.assertIn("visit signed", page["acts"])
        self.assertEqual(self.lines(act="visit opened", by="Oda"), [])
        self.assertEqual(self.lines(until="2020-01-01"), [])

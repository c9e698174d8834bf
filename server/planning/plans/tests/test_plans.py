"""The plan of a visit: proposal, order, kit, calendar, and the papers others read."""

from datetime import timedelta
from typing import Any
from uuid import uuid4

from demo.testing import WorkshopTestCase
from django.utils import timezone
from garage.models import Bike
from icalendar import Calendar
from rest_framework.test import APIClient
from shelf.models import BottleRow, Fluid
from visits.tests.bench import Technician
from workshop.models import Workshop

from planning.models import DueRow, PlannedVisit


class PlanCase(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.today = timezone.now().date()

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
        self.assertIn("Due on", lines["engine"]["reason"]["text"])
        self.assertIn("of its life", lines["fork left"]["reason"]["text"])
        self.assertLessEqual(page["together"]["visits"], page["alone"]["visits"])

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
        self.assertEqual(self.plan(api=APIClient()).status_code, 401)


class OrderTests(PlanCase):
    def test_three_drains_with_valves_and_forks_in_one_order(self) -> None:
        asked = self.chosen(*self.THREE, ("fork left", "dry"), ("fork right", "dry"))
        page = self.plan(**asked, cold=["valves"]).json()
        order = page["order"]
        self.assertLess(order["minutes"], order["in_turn"])
        at = {job["id"]: job for job in order["jobs"]}
        self.assertLessEqual(at["valves"]["end"], at["warm up"]["start"])
        self.assertEqual(at["fork left/leg"]["attitude"], "lifted")
        self.assertIn("Engine: The front exhaust runs beside the plug.", page["cautions"])

    def test_two_technicians_and_a_wish(self) -> None:
        wish = {"first": "gearbox/fill", "then": "engine/drain"}
        page = self.plan(**self.chosen(*self.THREE), technicians=2, wishes=[wish]).json()
        at = {job["id"]: job for job in page["order"]["jobs"]}
        self.assertLessEqual(at["gearbox/fill"]["end"], at["engine/drain"]["start"])
        self.assertEqual({job["technician"] for job in page["order"]["jobs"]}, {0, 1})

    def test_an_impossible_wish_says_which_rule_it_breaks(self) -> None:
        wish = {"first": "engine/fill", "then": "engine/drain"}
        page = self.plan(**self.chosen(*self.THREE), wishes=[wish]).json()
        self.assertIsNone(page["order"])
        self.assertIn("cannot come before", page["refused"])
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
                if mira.sheet["coach"]["action"] == "done":
                    break
                mira.round(position)
            mira.entry("leaks", {"result": "dry"})
            mira.tick()
            self.assertEqual(mira.sign().status_code, 200)
        order = self.plan(**self.chosen(("gearbox", "drain only"))).json()["order"]
        self.assertIn("torque: 1 min, from 3 visits", order["learned"])


class KitTests(PlanCase):
    def test_oil_in_bottle_words_from_what_stands_there(self) -> None:
        kit = self.plan(**self.chosen(*self.THREE)).json()["kit"]
        fluids = {line["fluid"]: line for line in kit["fluids"]}
        amber = fluids["Skarholm Amber"]
        self.assertTrue(amber["words"].startswith("all of the open 946 ml bottle"))
        self.assertIn("×", amber["buy"])
        self.assertEqual(fluids["Cogwork 90"]["what_for"], "gearbox")
        self.assertTrue(kit["simulated"])

    def test_seals_tools_torques_and_money(self) -> None:
        kit = self.plan(**self.chosen(*self.THREE)).json()["kit"]
        self.assertIn({"name": "crush washer 14 mm", "count": 1, "in_drawer": 6}, kit["seals"])
        self.assertIn("8 mm hex key", kit["tools"])
        self.assertIn("PTFE paste", kit["consumables"])
        torques = {line["what"]: line for line in kit["torques"]}
        self.assertEqual(torques["engine, drain plug"]["manual"], "18-25 ft-lb")
        self.assertIn("N·m", torques["engine, drain plug"]["setting"])
        together = float(kit["parts_cost"]) + float(kit["labour"])
        self.assertAlmostEqual(together, float(kit["total"]), places=2)

    def test_an_opened_bottle_counts(self) -> None:
        gear = Fluid.objects.get(name="Cogwork 90")
        form = {"id": str(uuid4()), "fluid": gear.pk, "version": 0, "size": "500 ml"}
        for _ in range(3):
            body = {**form, "id": str(uuid4()), "left": "", "opened_on": ""}
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

    def post(self, body: dict[str, Any], api: APIClient | None = None) -> Any:
        return (api or self.api).post("/api/calendar/", body, format="json")

    def test_a_visit_is_planned_once_changed_by_version_and_dropped(self) -> None:
        body = self.new()
        for _ in range(2):
            found = self.post(body)
            self.assertEqual((found.status_code, len(found.json()["visits"])), (201, 1))
        (line,) = found.json()["visits"]
        self.assertEqual(line["what"], "engine, primary, gearbox")
        later = {**body, "on": f"{self.today + timedelta(days=20)}"}
        self.assertEqual(self.post(later).status_code, 409)
        moved = self.post({**later, "version": 1}).json()["visits"][0]
        self.assertEqual((moved["on"], moved["version"]), (later["on"], 2))
        for _ in range(2):
            gone = self.api.delete(f"/api/planned-visits/{body['id']}/")
            self.assertEqual(gone.json()["visits"], [])

    def test_bad_plans_say_what_to_do(self) -> None:
        wish = {"first": "engine/fill", "then": "engine/drain"}
        for more, word in (
            ({"on": "soon"}, "2026-12-01"),
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

    def test_shopping_adds_up_over_all_planned_visits(self) -> None:
        self.post(self.new())
        bell = Bike.objects.get(name="Ferry Bell")
        asked = self.chosen(("gearbox", "drain only"), ("engine", "with filter"))
        found = self.post(self.new(bike=str(bell.pk), asked=asked)).json()["shopping"]
        things = {line["what"]: line for line in found}
        self.assertEqual(things["Cogwork 90"]["for_bikes"], "Ferry Bell, Grey Heron")
        self.assertIn("O-ring 12 mm", things)
        self.assertNotIn("crush washer 14 mm", things)
        BottleRow.objects.all().delete()
        more = {line["what"] for line in self.api.get("/api/calendar/").json()["shopping"]}
        self.assertIn("Plate & Chain", more)

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
        self.assertTrue(answer.content.startswith(b"%PDF"))
        for words in (b"Kit: Grey Heron", b"Skarholm", b"Torque", b"simulated"):
            self.assertIn(words, answer.content)
        self.assertEqual(self.api.get(f"/api/planned-visits/{uuid4()}/kit.pdf").status_code, 404)


class StockTests(PlanCase):
    def put(self, **more: Any) -> Any:
        fluid = Fluid.objects.get(name="Slipway 15").pk
        form = {"id": str(uuid4()), "fluid": fluid, "version": 0, "size": "1 l", "left": ""}
        return self.api.put("/api/shelf/bottles/", {**form, "opened_on": "", **more}, format="json")

    def test_a_bottle_is_entered_opened_and_used_up(self) -> None:
        pk = str(uuid4())
        self.put(id=pk)
        self.put(id=pk)
        self.put(id=pk, left="400 ml", version=1)
        line = next(b for b in self.api.get("/api/shelf/stock/").json()["bottles"] if b["id"] == pk)
        self.assertEqual((line["share"], line["opened_on"]), (0.4, f"{self.today}"))
        self.assertEqual(self.put(id=pk, left="300 ml", version=1).status_code, 409)
        self.put(id=pk, gone=True)
        self.put(id=pk, gone=True)
        self.assertFalse(BottleRow.objects.filter(pk=pk).exists())

    def test_bad_amounts_name_their_field(self) -> None:
        for more, field in (
            ({"size": "big"}, "/size"),
            ({"left": "2 l"}, "/left"),
            ({"opened_on": "tomorrow"}, "/opened_on"),
            ({"opened_on": "2999-01-01"}, "/opened_on"),
        ):
            answer = self.put(**more)
            self.assertEqual(answer.status_code, 422)
            self.assertEqual(answer.json()["errors"][0]["pointer"], field)

    def test_seals_are_counted_by_name(self) -> None:
        put = lambda **body: self.api.put("/api/shelf/seals/", body, format="json")  # noqa: E731
        seals = put(name="O-ring 14 mm", count="9").json()["seals"]
        self.assertIn({"name": "O-ring 14 mm", "count": 9}, seals)
        self.assertEqual(put(name=" ", count="1").status_code, 422)
        self.assertEqual(put(name="x", count="some").status_code, 422)

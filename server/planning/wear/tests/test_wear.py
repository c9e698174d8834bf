"""Findings over time: one reservoir's, and the workshop's."""

from datetime import timedelta
from decimal import Decimal
from typing import Any
from uuid import uuid4

from demo.testing import WorkshopTestCase
from django.db import connection
from django.test.utils import CaptureQueriesContext
from findings.models import Answer, Finding
from findings.selectors import history_of
from findings.services import keep_finding
from garage.models import Bike, OdometerReading, OwnCell, OwnSchool
from oilward_core.debris import Form, Matter, Observation, Part
from oilward_core.spec import ReservoirKind
from visits.models import Service, TopUp
from workshop import days
from workshop.models import Person

FINE = (Part(form=Form.PASTE, matter=Matter.STEEL, share=Decimal("0.2")),)
COARSE = (*FINE, Part(form=Form.FLAKES, matter=Matter.STEEL, share=Decimal("0.1")))


class WearCase(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.ferry = Bike.objects.get(name="Ferry Bell")
        self.today = days.today()

    def wear(self, bike: Bike, reservoir: str) -> dict[str, Any]:
        answer = self.api.get(f"/api/bikes/{bike.pk}/wear/{reservoir}/")
        self.assertEqual(answer.status_code, 200, answer.content[:200])
        return dict(answer.json())

    def marks(self, page: dict[str, Any]) -> list[list[str]]:
        return [[mark["lane"], mark["words"]] for mark in page["marks"]]

    def found(self, bike: Bike, ago: int, parts: tuple[Part, ...], by: str = "mira") -> Finding:
        return keep_finding(
            bike,
            "gearbox",
            Observation(
                reservoir=ReservoirKind.GEARBOX,
                parts=parts,
                oil=frozenset(),
                km_since_wiped=Decimal(8000),
                first_service=False,
            ),
            "",
            finding_id=uuid4(),
            found_on=self.today - timedelta(days=ago),
            reading=OdometerReading.objects.filter(bike=bike).latest("km"),
            actor=Person.objects.get(username=by),
        )


class HistoryTests(WearCase):
    def test_plugs_by_distance_with_their_chance_and_wear(self) -> None:
        page = self.wear(self.ferry, "gearbox")
        km = [point["km"] for point in page["points"]]
        self.assertEqual((len(km), km), (6, sorted(km)))
        chances = [point["chance"] for point in page["points"]]
        self.assertGreater(chances[-1], 90)
        steel = page["series"][0]
        self.assertEqual((steel["matter"], len(steel["values"])), ("steel", 6))
        self.assertEqual({s["matter"] for s in page["series"]}, {"steel", "bronze"})
        self.assertGreater(steel["values"][-1], steel["values"][0])
        self.assertRegex(page["points"][-1]["at"], r"^53.300 km$")
        self.assertIn("Please let us look further", page["owner"])
        self.assertEqual([plug["id"] for plug in page["plugs"]], [p["id"] for p in page["points"]])

    def test_oil_is_on_the_same_axis_with_what_was_changed_and_topped_up(self) -> None:
        last = OdometerReading.objects.filter(bike=self.ferry).latest("km")
        TopUp.objects.create(
            id=uuid4(), bike=self.ferry, reservoir="gearbox", done_on=self.today, reading=last,
            ml=Decimal(120), done_by="Mira",
        )  # fmt: skip
        page = self.wear(self.ferry, "gearbox")
        self.assertEqual([one["drained"] for one in page["oil"]][-1], 812)
        self.assertIn(["Topped up", "120 ml"], self.marks(page))
        self.assertNotIn("Another oil", {lane for lane, _ in self.marks(page)})

    def test_another_oil_and_a_new_filter_stand_on_the_axis(self) -> None:
        last = OdometerReading.objects.filter(bike=self.ferry).latest("km")
        before = Service.objects.filter(bike=self.ferry, reservoir="engine").latest("done_on")
        Service.objects.create(
            bike=self.ferry, reservoir="engine", variant="with filter", done_on=self.today,
            reading=last, fluid="Harbour 40", done_by="Mira",
        )  # fmt: skip
        marks = self.marks(self.wear(self.ferry, "engine"))
        self.assertEqual(marks[-2:], [
            ["Another oil", f"Harbour 40, before: {before.fluid}"],
            ["New filter", "Oil filter renewed"],
        ])  # fmt: skip

    def test_a_repair_begins_a_new_baseline_and_stands_on_the_axis(self) -> None:
        newest = Finding.objects.filter(bike=self.ferry, reservoir="gearbox").latest("found_on")
        Answer.objects.create(
            id=uuid4(), finding=newest, outcome="a fault was found, and put right",
            words="Layshaft bearing renewed", by=Person.objects.get(username="oda"),
            at="2030-01-01T10:00Z", sent="-",
        )  # fmt: skip
        self.found(self.ferry, 0, FINE)
        page = self.wear(self.ferry, "gearbox")
        self.assertEqual([point["anew"] for point in page["points"]], [False] * 6 + [True])
        self.assertIn(["Put right", "Layshaft bearing renewed"], self.marks(page))
        self.assertLess(page["points"][-1]["chance"], 5)

    def test_another_engine_begins_anew_and_only_the_engine(self) -> None:
        rows = Finding.objects.filter(bike=self.ferry, reservoir="engine").order_by("found_on")
        fitted = rows[2].reading.km - 1
        Bike.objects.filter(pk=self.ferry.pk).update(engine_at_km=fitted, engine_had_km=9000)
        page = self.wear(self.ferry, "engine")
        self.assertEqual([point["anew"] for point in page["points"]].index(True), 2)
        self.assertIn(["Engine", "Another engine fitted"], self.marks(page))
        engine, _ = history_of(self.ferry.pk, "engine")
        self.assertEqual([one.new_baseline for one in engine].index(True), 2)
        gearbox, _ = history_of(self.ferry.pk, "gearbox")
        self.assertFalse(any(one.new_baseline for one in gearbox))

    def test_a_magnet_added_begins_anew(self) -> None:
        rows = Finding.objects.filter(bike=self.ferry, reservoir="gearbox").order_by("found_on")
        own = {"reservoir": "gearbox", "part": "drain plug", "field": "magnet", "written": "yes"}
        OwnCell.objects.create(
            bike=self.ferry, **own, entered_by="Oda", entered_on=rows[3].found_on
        )
        gearbox, _ = history_of(self.ferry.pk, "gearbox")
        self.assertEqual([one.new_baseline for one in gearbox].index(True), 3)
        page = self.wear(self.ferry, "gearbox")
        self.assertEqual([point["anew"] for point in page["points"]].index(True), 3)
        engine, _ = history_of(self.ferry.pk, "engine")
        self.assertFalse(any(one.new_baseline for one in engine))

    def test_what_is_not_there(self) -> None:
        for bike, reservoir in ((uuid4(), "engine"), (self.ferry.pk, "boiler")):
            url = f"/api/bikes/{bike}/wear/{reservoir}/"
            self.assertEqual(self.api.get(url).status_code, 404)
        empty = self.wear(Bike.objects.get(name="Lamplighter"), "engine")
        self.assertEqual((empty["points"], empty["owner"]), ([], ""))

    def test_queries_do_not_grow_with_findings(self) -> None:
        def asked() -> int:
            with CaptureQueriesContext(connection) as seen:
                self.wear(self.ferry, "gearbox")
            return len(seen)

        asked()
        before = asked()
        for number in range(12):
            self.found(self.ferry, 100 - number, FINE)
        asked()  # what the kind shows is worked out once for each finding more
        self.assertEqual(asked(), before)

    def test_a_second_look_finds_it_ready_until_something_is_written(self) -> None:
        self.wear(self.ferry, "gearbox")
        with CaptureQueriesContext(connection) as seen:
            ready = self.wear(self.ferry, "gearbox")
        self.assertFalse([one for one in seen if "findings_debris" in one["sql"]])
        overruled = f"/api/findings/{ready['points'][-1]['id']}/overrulings/"
        own = {
            "level": "hold",
            "reason": "The shavings are long: it stays here until it is opened.",
        }
        answer = self.signed_in("oda").post(overruled, {"id": str(uuid4()), **own}, format="json")
        self.assertEqual(answer.status_code, 201, answer.content)
        self.assertEqual(self.wear(self.ferry, "gearbox")["points"][-1]["level"], "hold")

    def test_what_its_kind_shows_elsewhere_moves_it_too(self) -> None:
        other = Bike.objects.exclude(pk=self.ferry.pk).filter(findings__kind="gearbox").first()
        assert other is not None
        before = self.wear(self.ferry, "gearbox")["series"][0]["band"]["n"]
        self.found(other, 0, FINE)
        self.assertEqual(self.wear(self.ferry, "gearbox")["series"][0]["band"]["n"], before + 1)


class LedgerTests(WearCase):
    def ledger(self, **asked: str) -> dict[str, Any]:
        answer = self.api.get("/api/findings/", asked)
        self.assertEqual(answer.status_code, 200, answer.content[:200])
        return dict(answer.json())

    def test_what_asks_stands_first_and_all_of_it_newest_first(self) -> None:
        page = self.ledger()
        self.assertIn("Ferry Bell", [one["bike"] for one in page["asking"]])
        on = [line["on"] for line in page["lines"]]
        self.assertEqual(on, sorted(on, reverse=True))
        self.assertEqual(page["count"], Finding.objects.count())

    def test_each_filter_leaves_what_fits(self) -> None:
        for name, value, key in (
            ("level", "investigate", "level"),
            ("kind", "gearbox", "kind"),
            ("grader", "Mira", "by"),
            ("fluid", "Cogwork 90", "fluid"),
        ):
            page = self.ledger(**{name: value})
            with self.subTest(name):
                self.assertTrue(page["lines"])
                self.assertEqual({line[key] for line in page["lines"]}, {value})
                self.assertLess(page["count"], Finding.objects.count() + 1)
        bronze = self.ledger(matter="bronze")["lines"]
        self.assertTrue(bronze)
        self.assertTrue(all("bronze" in line["words"] for line in bronze))
        model = self.ledger()["lines"][0]["model"]
        self.assertEqual({line["model"] for line in self.ledger(model=model)["lines"]}, {model})
        self.assertEqual(self.ledger(kind="gearbox", matter="rubber")["lines"], [])
        self.assertEqual(self.ledger(page="99", level="dire")["page"], 1)

    def test_an_overruled_finding_is_filtered_by_the_level_that_counts(self) -> None:
        row = Finding.objects.filter(level="investigate").latest("found_on")
        body = {"id": str(uuid4()), "level": "note", "reason": "flash"}
        url = f"/api/findings/{row.pk}/overrulings/"
        self.signed_in("oda").post(url, body, format="json")
        noted = [line["id"] for line in self.ledger(level="note")["lines"]]
        self.assertIn(str(row.pk), noted)
        grave = [line["id"] for line in self.ledger(level="investigate")["lines"]]
        self.assertNotIn(str(row.pk), grave)

    def test_by_how_often_the_oil_is_changed(self) -> None:
        half = {line["bike"] for line in self.ledger(school="half the book")["lines"]}
        self.assertEqual(half, set())
        choice = {"kind": "gearbox", "topic": "interval", "choice": "half the book"}
        OwnSchool.objects.create(bike=self.ferry, **choice, chosen_by="Oda", chosen_on=self.today)
        lines = self.ledger(school="half the book")["lines"]
        self.assertEqual({(one["bike"], one["kind"]) for one in lines}, {("Ferry Bell", "gearbox")})
        others = self.ledger(school=self.ledger()["choices"]["schools"][0], kind="gearbox")["lines"]
        self.assertNotIn("Ferry Bell", {one["bike"] for one in others})

    def test_only_what_got_worse_in_the_last_month_is_named(self) -> None:
        self.assertEqual(self.ledger()["changed"], [])
        self.found(self.heron, 2, COARSE)
        (one,) = self.ledger()["changed"]
        self.assertEqual(
            (one["bike"], one["was"], one["now"]), ("Grey Heron", "routine", "investigate")
        )
        self.found(self.heron, 1, FINE)
        self.assertEqual(self.ledger()["changed"], [])

    def test_queries_do_not_grow_with_the_page(self) -> None:
        def asked(**wanted: str) -> int:
            with CaptureQueriesContext(connection) as seen:
                self.ledger(**wanted)
            return len(seen)

        self.found(self.ferry, 3, COARSE)
        before = asked(), asked(kind="gearbox")
        for number in range(30):
            self.found(self.ferry, number, COARSE if number < 2 else FINE)
        self.assertEqual((asked(), asked(kind="gearbox")), before)


class ComparisonTests(WearCase):
    def compared(self, kind: str, who: str = "mira") -> Any:
        return self.signed_in(who).get(f"/api/findings/compared/{kind}/")

    def test_nothing_is_claimed_of_too_few(self) -> None:
        compared = self.compared("engine").json()
        for claim in (*compared["fluids"], *compared["schools"]):
            if claim["bikes"] < 3:
                self.assertIsNone(claim["ratio"])
                self.assertIn("Too few", claim["words"])

    def test_a_lead_sees_every_eye_anybody_else_their_own(self) -> None:
        for number in range(20):
            self.found(self.heron, 900 - number, FINE, by="runa" if number % 2 else "mira")
        self.assertEqual({one["name"] for one in self.compared("gearbox").json()["eyes"]}, {"Mira"})
        every = {one["name"] for one in self.compared("gearbox", "oda").json()["eyes"]}
        self.assertTrue({"Mira", "Runa"} <= every)

    def test_a_kind_that_has_no_plug(self) -> None:
        self.assertEqual(self.compared("fork").status_code, 404)
        self.assertEqual(self.compared("boiler").status_code, 404)

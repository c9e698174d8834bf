"""What an owner says was done when, taken for what it is."""

from datetime import timedelta
from typing import Any
from uuid import uuid4

from demo.testing import WorkshopTestCase
from garage.models import Bike
from workshop import days

from visits.models import Service


class ElsewhereTests(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.bike = Bike.objects.get(name="Lamplighter")  # came without papers
        self.day = f"{days.today() - timedelta(days=100)}"

    def say(self, **more: Any) -> Any:
        body = {
            "id": str(uuid4()),
            "what": "service",
            "reservoir": "engine",
            "done_on": self.day,
            "odometer": "26 900",
            **more,
        }
        return self.api.post(f"/api/bikes/{self.bike.pk}/elsewhere/", body, format="json")

    def engine(self) -> dict[str, Any]:
        return self.api.get(f"/api/bikes/{self.bike.pk}/").json()["reservoirs"][0]

    def test_it_counts_from_then_on_and_stays_marked(self) -> None:
        self.assertEqual(self.engine()["glass"]["state"], "baseline")
        once = str(uuid4())
        for _ in range(2):
            self.assertEqual(self.say(id=once).status_code, 204)
        engine = self.engine()
        self.assertNotEqual(engine["glass"]["state"], "baseline")
        rules = [why["rule"] for why in engine["glass"]["reasons"]]
        self.assertIn("owner's word", rules)
        (line,) = engine["services"]
        self.assertTrue(line["by_word"])
        self.assertEqual((line["done_on"], line["took"]), (self.day, ""))
        self.assertIn("Mira wrote it down", line["done_by"])

    def test_what_cannot_be_says_where(self) -> None:
        for more, field in (
            ({"done_on": ""}, "/done_on"),
            ({"done_on": f"{days.today() + timedelta(days=2)}"}, "/done_on"),
            ({"odometer": "28 500"}, "/odometer"),  # more than it shows today
            ({"odometer": "some"}, "/odometer"),
            ({"reservoir": "boiler"}, "/reservoir"),
        ):
            with self.subTest(field=field, more=more):
                answer = self.say(**more)
                self.assertEqual(answer.status_code, 422)
                self.assertEqual(answer.json()["errors"][0]["pointer"], field)
        self.assertFalse(Service.objects.filter(bike=self.bike).exists())

    def test_a_record_goes_before_a_word_and_an_id_means_one_thing(self) -> None:
        self.bike = self.heron
        self.assertEqual(self.say(odometer="61 000").status_code, 409)
        self.bike = Bike.objects.get(name="Lamplighter")
        once = str(uuid4())
        self.assertEqual(self.say(id=once).status_code, 204)
        other = self.say(id=once, done_on=f"{days.today() - timedelta(days=50)}")
        self.assertEqual((other.status_code, other.json()["code"]), (409, "visit.id_taken"))

    def test_a_day_before_the_odometer_was_replaced_is_read_with_the_old_one(self) -> None:
        replaced = {"id": str(uuid4()), "odometer": "28 000", "new_shows": "5"}
        url = f"/api/bikes/{self.bike.pk}/odometer/"
        answer = self.api.post(url, replaced, format="json")
        self.assertLess(answer.status_code, 300, answer.content)
        answer = self.say()
        self.assertEqual(answer.status_code, 204, answer.content)
        reading = Service.objects.get(bike=self.bike).reading
        self.assertEqual(reading.offset_km, 0)
        self.assertAlmostEqual(float(reading.km), 26_900 * 1.609344, 0)  # miles, by definition

    def test_an_invoice_is_a_record_and_every_kind_of_reservoir_can_leave_due(self) -> None:
        before = self.api.get(f"/api/bikes/{self.bike.pk}/").json()["reservoirs"]
        for reservoir in before:
            key = reservoir["glass"]["key"]
            answer = self.say(
                reservoir=key, by="Pier Workshop", proof="invoice 118", amount="1.1 l", fluid="any"
            )
            self.assertEqual(answer.status_code, 204, answer.content)
        for reservoir in self.api.get(f"/api/bikes/{self.bike.pk}/").json()["reservoirs"]:
            self.assertNotEqual(reservoir["glass"]["state"], "baseline", reservoir["glass"]["key"])
            (line,) = reservoir["services"]
            self.assertEqual((line["by_word"], line["proof"]), (False, "invoice 118"))
            self.assertIn("Pier Workshop", line["done_by"])

    def test_a_top_up_stands_between_services_and_changes_no_due_date(self) -> None:
        before = self.engine()["glass"]["state"]
        once = str(uuid4())
        for _ in range(2):
            self.assertEqual(self.say(id=once, what="top-up", amount="250 ml").status_code, 204)
        engine = self.engine()
        self.assertEqual(engine["glass"]["state"], before)
        (line,) = engine["top_ups"]
        self.assertEqual(line["amount"], "250 ml")
        refused = self.say(what="top-up", amount="")
        self.assertIn("Nothing typed yet", self.sentence(refused, "/amount"))

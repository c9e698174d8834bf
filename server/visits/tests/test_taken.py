"""What a visit took goes off the shelf with its signature, as whoever signs has looked it over."""

from uuid import uuid4

from django.utils import timezone
from shelf.models import Fluid
from shelf.stock.selectors import bottles, drawer
from shelf.stock.services import put_away, save_seals
from shelf.stock.shapes import Arrival, Bottles, SealForm
from workshop.models import Person

from visits.models import Service
from visits.tests.test_visit import VisitTestCase


class TakenTests(VisitTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.mira.whole()
        self.oil = self.mira.task["fluid"]
        self.oda = Person.objects.get(username="oda")

    def came(self, ml: int, count: int) -> None:
        arrival = Arrival(act=str(uuid4()), what=self.oil, bottles=[Bottles(ml, count)], count=0)
        put_away(arrival, actor=self.oda, today=timezone.now().date())

    def drawer_holds(self, name: str, count: int) -> None:
        form = SealForm(act=str(uuid4()), name=name, count=str(count), kind="came in")
        save_seals(form, actor=self.oda, today=timezone.now().date())

    def taken(self) -> dict:
        return dict(self.api.get(f"/api/visits/{self.mira.visit}/taken/").json())

    def sign(self, taken: list[dict[str, str]]):
        return self.mira._post(f"/api/visits/{self.mira.visit}/signature/", {"taken": taken})

    def off(self, said: dict) -> list[dict[str, str]]:
        return [
            *({"bottle": one["what"], "amount": one["amount"]} for one in said["bottles"]),
            *({"part": one["what"], "amount": one["amount"]} for one in said["parts"]),
        ]

    def left(self) -> int:
        fluid = Fluid.objects.get(name=self.oil).pk
        return int(sum(one.bottle.left for one in bottles() if one.fluid == fluid))

    def test_what_was_poured_and_put_on_new_is_summed_up(self) -> None:
        self.came(1000, 5)
        said = self.taken()
        poured = int(self.mira.task["added"].split()[0])
        counted = sum(float(one["amount"].split()[0]) for one in said["bottles"])
        self.assertAlmostEqual(counted, poured, delta=2)
        self.assertIn(f"bottle, {self.oil}", said["bottles"][0]["words"])
        names = [one["what"] for one in said["parts"]] + said["short"]
        self.assertEqual(sum("crush washer" in name for name in names), 1)
        self.assertEqual(sum("filter for the engine" in name for name in names), 1)

    def test_signed_the_shelf_sinks_once(self) -> None:
        self.came(1000, 5)
        for name in [line.split(" of ", 1)[1].split(" came")[0] for line in self.taken()["short"]]:
            self.drawer_holds(name, 3)
        said, poured, before = self.taken(), int(self.mira.task["added"].split()[0]), self.left()
        self.assertEqual(said["short"], [])
        held = drawer()
        self.assertEqual(len(said["parts"]), 2)
        for _ in range(2):
            self.assertEqual(self.sign(self.off(said)).status_code, 200, self.mira.last.content)
            self.assertAlmostEqual(self.left(), before - poured, delta=2)
            for one in said["parts"]:
                self.assertEqual(drawer()[one["what"]], held[one["what"]] - 1)
        self.assertEqual(self.taken(), {"bottles": [], "parts": [], "short": []})

    def test_the_record_says_the_batch_of_what_was_poured(self) -> None:
        self.came(1000, 4)
        fluid = Fluid.objects.get(name=self.oil).pk
        stands = self.api.get("/api/shelf/stock/").json()["bottles"]
        for number, one in enumerate(one for one in stands if one["fluid"] == fluid):
            named = {**one, "act": str(uuid4()), "batch": f"L{number % 2}"}
            form = {key: value for key, value in named.items() if key != "share"}
            put = self.api.put("/api/shelf/bottles/", form, format="json")
            self.assertEqual(put.status_code, 200, put.content)
        said = self.taken()
        self.assertIn(f"{self.oil}, batch L", said["bottles"][0]["words"])
        self.assertEqual(self.sign(self.off(said)).status_code, 200, self.mira.last.content)
        self.assertIn(self.mira.task["batch"], ("L0", "L1", "L0, L1", "L1, L0"))
        again = self.api.get(f"/api/visits/{self.mira.visit}/").json()
        self.assertEqual(again["tasks"][0]["batch"], self.mira.task["batch"])
        kept = Service.objects.get(visit_id=self.mira.visit)
        self.assertEqual(kept.batch, self.mira.task["batch"])

    def test_what_stays_there_stays_and_what_was_put_right_counts(self) -> None:
        self.came(1000, 5)
        first, before = self.taken()["bottles"][0], self.left()
        self.sign([{"bottle": first["what"], "amount": "0.2 l"}])
        self.assertEqual((self.mira.last.status_code, self.left()), (200, before - 200))

    def test_what_is_not_there_any_more_signs_nothing(self) -> None:
        self.came(1000, 1)
        line, before = self.off(self.taken())[0], self.left()
        for amount, code in (("90 l", "shelf.not_there"), ("much", "quantity.")):
            refused = self.sign([{**line, "amount": amount}])
            self.assertEqual(refused.status_code, 422)
            self.assertIn(code, refused.json()["code"])
        gone = self.sign([{"bottle": str(uuid4()), "amount": "1 l"}])
        self.assertEqual((gone.status_code, gone.json()["code"]), (409, "shelf.gone"))
        self.assertEqual(self.left(), before)
        self.assertEqual(self.sign([]).status_code, 200)

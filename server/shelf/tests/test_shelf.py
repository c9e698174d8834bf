from demo.testing import WorkshopTestCase
from django.db import IntegrityError, connection, transaction
from django.test.utils import CaptureQueriesContext

from shelf.models import Fluid


class ShelfTests(WorkshopTestCase):
    def cards(self) -> dict[str, dict]:
        body = self.api.get("/api/shelf/").json()
        self.assertIn("compare with the current edition", body["caveat"])
        return {card["name"]: card for card in body["fluids"]}

    def test_measured_values_give_the_grade_they_satisfy(self) -> None:
        cards = self.cards()
        self.assertEqual(cards["Tidewater Bench 40"]["satisfies"], ["SAE 40", "friction MA2"])
        self.assertEqual(cards["Cogwork 90"]["satisfies"], ["gear oil 90"])
        self.assertEqual(cards["Tidewater Bench 40"]["disagrees"], [])

    def test_engine_and_gear_scales_stand_side_by_side(self) -> None:
        engine, gear = self.api.get("/api/shelf/").json()["scales"]
        self.assertEqual((engine["name"], engine["bands"][5]["grade"]), ("Engine", "40"))
        self.assertEqual((gear["name"], gear["bands"][-1]["high"]), ("Gear", None))

    def test_disagreement_with_the_label_is_said(self) -> None:
        said = self.cards()["Tidewater Long Haul"]["disagrees"]
        self.assertEqual(said, ["16.1 cSt at 100 °C is outside 16.3–21.9 of a 50"])
        Fluid.objects.filter(name="Skarholm Amber").update(sfi="1.50")
        said = self.cards()["Skarholm Amber"]["disagrees"]
        self.assertEqual(said, ["friction indices are MA, the label says MA2"])

    def test_curves_fall_and_pass_through_the_measured_points(self) -> None:
        for card in self.cards().values():
            if card["family"] in ("brake", "coolant"):
                self.assertEqual(card["curve"], [])
                continue
            curve = {point["t"]: point["v"] for point in card["curve"]}
            with self.subTest(card["name"]):
                self.assertEqual(sorted(curve.values(), reverse=True), list(curve.values()))
                self.assertAlmostEqual(curve[40], float(card["kv40"]), delta=0.1)
                self.assertAlmostEqual(curve[100], float(card["kv100"]), delta=0.06)

    def test_a_fluid_without_measurements_says_nothing_it_does_not_know(self) -> None:
        Fluid.objects.create(name="Unlabelled drum", grade="?", family="engine", bottle_ml=5000)
        card = self.cards()["Unlabelled drum"]
        self.assertEqual((card["satisfies"], card["curve"], card["index"]), ([], [], None))

    def test_one_query_for_the_whole_shelf(self) -> None:
        with CaptureQueriesContext(connection) as few:
            self.cards()
        Fluid.objects.bulk_create(
            Fluid(name=f"Drum {n}", grade="SAE 50", family="engine", bottle_ml=1000)
            for n in range(30)
        )
        with CaptureQueriesContext(connection) as many:
            self.cards()
        self.assertEqual(len(few), len(many))

    def test_the_database_knows_that_oil_thins_with_heat(self) -> None:
        with self.assertRaises(IntegrityError), transaction.atomic():
            Fluid.objects.filter(name="Slipway 15").update(kv100=99)

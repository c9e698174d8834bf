"""How far a bike sinks, over HTTP."""

from typing import Any

from demo.testing import WorkshopTestCase
from garage.models import Bike


class SagTests(WorkshopTestCase):
    def asked(self, status: int = 200, reservoir: str = "shock", **other: Any) -> dict[str, Any]:
        bike = Bike.objects.filter(model__name="Tandem 890")[0]
        body = {
            "free": "620", "bike_down": "608", "bike_up": "604", "rider_down": "582",
            "rider_up": "577", "weight": "80 kg", **other,
        }  # fmt: skip
        answer = self.api.post(f"/api/bikes/{bike.pk}/sag/{reservoir}/", body, format="json")
        self.assertEqual(answer.status_code, status, answer.content)
        found: dict[str, Any] = answer.json()
        return found

    def test_both_sags_their_windows_and_what_to_do(self) -> None:
        found = self.asked()
        alone, rider = found["lines"]
        self.assertEqual((alone["sag"], alone["window"]), ("14.0 mm", "10.0–18.0 mm"))
        self.assertTrue(alone["right"])
        self.assertEqual((rider["sag"], rider["source"]), ("40.5 mm", "by the sheet"))
        self.assertEqual((found["says"], found["turn"]), ("right", "3.4 mm"))
        far = self.asked(rider_down="560", rider_up="564")
        self.assertIn("turns in", far["words"])
        leg = self.asked(reservoir="fork left", rider_down="583", rider_up="588")
        self.assertIn("common practice", leg["lines"][0]["source"])

    def test_what_cannot_be_is_said_at_its_field(self) -> None:
        for other, field in (
            ({"free": ""}, "free"),
            ({"bike_up": "1 m"}, "bike_up"),
            ({"weight": "heavy"}, "weight"),
            ({"rider_down": "619", "rider_up": "619"}, "rider_up"),
        ):
            with self.subTest(**other):
                self.assertEqual(self.asked(422, **other)["errors"][0]["pointer"], f"/{field}")
        self.asked(422, reservoir="engine")
        self.asked(404, reservoir="nothing")

    def test_another_gap_stands_beside_the_sheets(self) -> None:
        bike = Bike.objects.filter(model__name="Tandem 890")[0]

        def gap(typed: str, status: int = 200, reservoir: str = "fork left") -> dict[str, Any]:
            url = f"/api/bikes/{bike.pk}/gap/{reservoir}/"
            answer = self.api.post(url, {"gap": typed}, format="json")
            self.assertEqual(answer.status_code, status, answer.content)
            found: dict[str, Any] = answer.json()
            return found

        found = gap("90 mm")
        self.assertEqual(found["lines"][1]["gap"], "90.0 mm")
        self.assertGreater(found["lines"][1]["forces"][-1], found["lines"][0]["forces"][-1])
        self.assertRegex(found["words"], r"firmer at the end: it carries .* earlier\.")
        self.assertEqual(gap("", 422)["errors"][0]["pointer"], "/gap")
        gap("90 mm", 422, "shock")

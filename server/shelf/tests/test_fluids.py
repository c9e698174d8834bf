"""Entering fluids, holding them against reservoirs, blending."""

from typing import Any

from demo.testing import WorkshopTestCase
from garage.models import Bike

from shelf.models import Fluid

FORM = {"id": 0, "version": 0, "name": "Gannet 40", "family": "engine", "bottle": "1 qt"}


class FluidFormTests(WorkshopTestCase):
    def save(self, **changes: Any) -> Any:
        return self.api.put("/api/shelf/fluids/", {**FORM, **changes}, format="json")

    def test_measured_values_give_the_grade_and_the_swelling(self) -> None:
        measured = {"grade": "10W-40", "kv40": "95", "kv100": "14.3 cSt", "density15": "0.87"}
        cards = {c["name"]: c for c in self.save(**measured).json()["fluids"]}
        card = cards["Gannet 40"]
        self.assertEqual((card["index"], card["satisfies"]), (155, ["SAE 40"]))
        self.assertEqual(card["density"], "0.870 kg/l at 15 °C")
        self.assertEqual(card["swells"], "1 l at 20 °C stands as 1054 ml at 90 °C")
        self.assertTrue(card["cold_ok"])

    def test_saved_twice_it_stands_once_and_changes_name_their_version(self) -> None:
        self.save()
        self.assertEqual(self.save().status_code, 200)
        fluid = Fluid.objects.get(name="Gannet 40")
        self.assertEqual(self.save(id=fluid.pk, version=1, base="mineral").status_code, 200)
        retried = self.save(id=fluid.pk, version=1, base="mineral")
        self.assertEqual(retried.status_code, 200)  # one's own change again is no conflict
        stale = self.save(id=fluid.pk, version=1, base="synthetic")
        self.assertEqual((stale.status_code, stale.json()["code"]), (409, "garage.edited"))
        taken = self.save(name="Slipway 15")
        self.assertEqual((taken.status_code, taken.json()["code"]), (409, "shelf.name_taken"))

    def test_retired_fluids_leave_the_shelf(self) -> None:
        fluid = Fluid.objects.get(name="Drizzle Saver 30")
        card = {c["id"]: c for c in self.api.get("/api/shelf/").json()["fluids"]}[fluid.pk]
        self.save(**{**card["form"], "retired": True})
        names = [c["name"] for c in self.api.get("/api/shelf/").json()["fluids"]]
        self.assertNotIn("Drizzle Saver 30", names)

    def test_bad_values_name_their_field(self) -> None:
        for field, value in (
            ("name", " "),
            ("family", "soup"),
            ("bottle", ""),
            ("bottle", "3 N·m"),
            ("kv40", "thick"),
            ("kv100", "99 cSt"),
            ("hths", "-1"),
            ("cranking", "1e9"),
            ("density15", "2000"),
            ("density15", "heavy"),
            ("pour_point", "cold"),
            ("pour_point", "-900"),
            ("friction_class", "MX"),
        ):
            with self.subTest(field=field, value=value):
                answer = self.save(**{"kv40": "95", field: value})
                self.assertEqual(answer.status_code, 422)
                self.assertEqual(answer.json()["errors"][0]["pointer"], f"/{field}")
        self.assertFalse(Fluid.objects.filter(name="Gannet 40").exists())


class MatchTests(WorkshopTestCase):
    def held(self, bike: str, reservoir: str) -> dict[str, dict[str, Any]]:
        pk = Bike.objects.get(name=bike).pk
        body = self.api.get(f"/api/bikes/{pk}/fluids/", {"reservoir": reservoir}).json()
        ranks = [fluid["rank"] for fluid in body["fluids"]]
        self.assertEqual(ranks, sorted(ranks))
        return {fluid["name"]: fluid for fluid in body["fluids"]}

    def test_the_shelf_is_held_against_each_reservoir(self) -> None:
        final = self.held("Ferry Bell", "final drive")
        self.assertEqual(final["Crownwheel 90"]["fit"], "fits")
        self.assertEqual(final["Cogwork 90"]["fit"], "refused")
        engine = self.held("Red Buoy", "engine")
        self.assertEqual(engine["Tidewater Bench 40"]["fit"], "fits")
        self.assertEqual(engine["Drizzle Saver 30"]["fit"], "refused")
        self.assertIn("slip", engine["Drizzle Saver 30"]["reasons"][0]["text"])
        self.assertEqual(engine["Cogwork 90"]["fit"], "refused")  # gear oil in an engine
        self.assertEqual(engine["Tidewater Bench 30"]["fit"], "caution")  # one grade too thin
        self.assertFalse(self.held("Lamplighter", "engine")["Skarholm Straw"]["cold"] == "")
        forks = self.held("Postie", "fork left")
        self.assertEqual(forks["Slipway 15"]["fit"], "fits")

    def test_a_school_may_vouch_for_one_oil_in_all_cases(self) -> None:
        body = {"kind": "gearbox", "topic": "fluid", "choice": "one engine oil for all cases"}
        body["seen"] = "as the manual says"
        before = self.held("Grey Heron", "gearbox")["Skarholm Amber"]["fit"]
        self.signed_in("oda").put("/api/schools/", body, format="json")
        after = self.held("Grey Heron", "gearbox")["Skarholm Amber"]["fit"]
        self.assertEqual((before, after), ("caution", "fits by school"))

    def test_an_unknown_reservoir(self) -> None:
        pk = Bike.objects.get(name="Postie").pk
        answer = self.api.get(f"/api/bikes/{pk}/fluids/", {"reservoir": "boiler"})
        self.assertEqual(answer.status_code, 404)


class BlendTests(WorkshopTestCase):
    def blend(self, target: str, total: str = "1 l", thick: str = "Slipway 36") -> Any:
        ids = {f.name: f.pk for f in Fluid.objects.all()}
        asked = {"thin": ids["Slipway 15"], "thick": ids[thick], "target": target, "total": total}
        return self.api.get("/api/shelf/blend/", asked)

    def test_two_fork_oils_to_one_between(self) -> None:
        answer = self.blend("23 cSt").json()
        self.assertEqual(answer["kv40"], "23.0 cSt")
        self.assertEqual(answer["words"], "496 ml of Slipway 15 and 504 ml of Slipway 36")
        self.assertIn("by volume", answer["reasons"][0]["text"])

    def test_what_cannot_be_blended(self) -> None:
        for target, total, thick, field in (
            ("60 cSt", "1 l", "Slipway 36", "target"),
            ("23 l", "1 l", "Slipway 36", "target"),
            ("23", "", "Slipway 36", "total"),
            ("23", "1 l", "Slipway 15", "thick"),
            ("23", "1 l", "Fjord Blue", "thin"),
        ):
            with self.subTest(target=target, total=total, thick=thick):
                answer = self.blend(target, total, thick)
                self.assertEqual(answer.status_code, 422)
                self.assertEqual(answer.json()["errors"][0]["pointer"], f"/{field}")

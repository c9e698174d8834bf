"""What stands on the shelf and lies in the drawer, and what comes from the counter."""

from typing import Any
from uuid import uuid4

from shelf.models import BottleRow, Fluid, SealRow

from .test_plans import PlanCase


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
        clash = put(name="O-ring 14 mm", count="9", seen=1)
        self.assertEqual(clash.status_code, 409)
        self.assertIn("counted 2", clash.json()["detail"])
        for _ in range(2):
            seals = put(name="O-ring 14 mm", count="9", seen=2).json()["seals"]
            self.assertIn({"name": "O-ring 14 mm", "count": 9}, seals)
        self.assertEqual(put(name=" ", count="1").status_code, 422)
        self.assertEqual(put(name="x", count="some").status_code, 422)

    def test_what_has_come_is_put_away_once_and_is_no_longer_to_buy(self) -> None:
        asked = {"proposed": False, "tasks": [{"reservoir": "engine", "variant": "with filter"}]}
        new = {"id": str(uuid4()), "bike": str(self.heron.pk), "version": 0, "asked": asked}
        self.api.post("/api/calendar/", {**new, "on": f"{self.today}"}, format="json")
        stood = BottleRow.objects.count()
        lines = self.api.get("/api/calendar/").json()["shopping"]
        self.assertEqual({bool(line["bottles"]) for line in lines}, {True, False})
        for line in lines:
            keys = ("what", "bottles", "count", "seen")
            body = {"id": str(uuid4()), **{key: line[key] for key in keys}}
            for _ in range(2):
                answer = self.api.post("/api/shelf/arrivals/", body, format="json")
                self.assertEqual(answer.status_code, 200, answer.content)
        self.assertEqual(self.api.get("/api/calendar/").json()["shopping"], [])
        kit = self.api.get("/api/calendar/").json()["weeks"][0]["visits"][0]
        self.assertEqual(kit["missing"], [])
        came = sum(b["count"] for line in lines for b in line["bottles"])
        self.assertEqual(BottleRow.objects.count(), stood + came)

    def test_an_arrival_is_checked(self) -> None:
        def post(**more: Any) -> Any:
            body = {"id": str(uuid4()), "what": "Skarholm Amber", "bottles": [], "count": 0}
            return self.api.post("/api/shelf/arrivals/", {**body, **more}, format="json")

        for ml, count in ((0, 1), (946, 0), (946, 51), (10**9, 1)):
            self.assertEqual(post(bottles=[{"ml": ml, "count": count}]).status_code, 422)
        self.assertEqual(post(what="Ghost", bottles=[{"ml": 946, "count": 1}]).status_code, 404)
        self.assertEqual(post(what="O-ring 14 mm", count=-3).status_code, 422)
        self.assertEqual(post(what="O-ring 14 mm", count=3, seen=1).status_code, 409)
        self.assertEqual(post(what="O-ring 14 mm", count=3, seen=2).status_code, 200)
        self.assertEqual(SealRow.objects.get(name="O-ring 14 mm").count, 5)

"""What stands on the shelf and lies in the drawer, and what comes from the counter."""

from typing import Any
from uuid import uuid4

from planning.plans.tests.test_plans import PlanCase

from shelf.models import Fluid, StockLine
from shelf.stock import selectors


class StockTests(PlanCase):
    def put(self, **more: Any) -> Any:
        fluid = Fluid.objects.get(name="Slipway 15").pk
        form = {"act": str(uuid4()), "id": str(uuid4()), "fluid": fluid, "version": 0, "size": "1 l",
                "left": "", "opened_on": ""}  # fmt: skip
        return self.api.put("/api/shelf/bottles/", {**form, **more}, format="json")

    def take(self, pk: str, **more: Any) -> Any:
        body = {"act": str(uuid4()), "id": pk, "used": "", "gone": False, **more}
        return self.api.post("/api/shelf/bottles/", body, format="json")

    def seals(self, **body: Any) -> Any:
        body = {"act": str(uuid4()), "name": "O-ring 14 mm", "seen": None, **body}
        return self.api.put("/api/shelf/seals/", body, format="json")

    def line(self, pk: str) -> dict[str, Any]:
        bottles = self.api.get("/api/shelf/stock/").json()["bottles"]
        return next((bottle for bottle in bottles if bottle["id"] == pk), {})

    def test_a_bottle_is_entered_opened_and_used_up(self) -> None:
        pk, act = str(uuid4()), str(uuid4())
        for _ in range(2):
            self.assertEqual(self.put(id=pk, act=act).status_code, 200)
        self.put(id=pk, left="400 ml", version=1)
        line = self.line(pk)
        self.assertEqual((line["share"], line["opened_on"]), (0.4, f"{self.today}"))
        stale = self.put(id=pk, left="300 ml", version=1)
        self.assertEqual(stale.status_code, 409)
        self.assertIn("Mira changed this", stale.json()["detail"])
        self.assertEqual(self.take(pk, used="0.1 l").status_code, 200)
        self.assertEqual(self.line(pk)["left"], "300 ml")
        too_much = self.take(pk, used="301 ml")
        self.assertEqual(too_much.json()["errors"][0]["pointer"], "/used")
        for _ in range(2):
            self.assertEqual(self.take(pk, gone=True).status_code, 200)
        self.assertEqual(self.line(pk), {})
        self.assertEqual(self.put(id=pk, version=5).status_code, 409)

    def test_its_batch_is_kept_and_what_was_printed_last_counts(self) -> None:
        pk, stands = str(uuid4()), {"left": ""}
        self.put(id=pk, batch=" L22 ")
        self.assertEqual(self.line(pk)["batch"], "L22")
        for batch, version in (("", 1), ("L23", 1)):
            self.assertEqual(
                self.put(id=pk, version=version, batch=batch, **stands).status_code, 200
            )
        line = self.line(pk)
        self.assertEqual((line["batch"], line["left"], line["version"]), ("L23", "1000 ml", 2))
        self.assertEqual(self.put(id=pk, version=1, batch="L24", **stands).status_code, 409)
        self.assertEqual(line["opened_on"], "")
        self.take(pk, used="0.4 l")
        self.put(id=pk, version=4, batch="L24", opened_on=f"{self.today}", **stands)
        line = self.line(pk)
        self.assertEqual((line["batch"], line["left"]), ("L24", "600 ml"))

    def test_every_line_stays_with_its_person_and_the_shelf_is_their_sum(self) -> None:
        pk = str(uuid4())
        self.put(id=pk, left="0.6 l")
        oda = self.signed_in("oda")
        use = {"act": str(uuid4()), "id": pk, "used": "150 ml", "gone": False}
        oda.post("/api/shelf/bottles/", use, format="json")
        fluid = Fluid.objects.get(name="Slipway 15").pk
        told = self.api.get(f"/api/shelf/ledger/?fluid={fluid}").json()["lines"][:4]
        self.assertEqual(
            [(line["kind"], line["change"], line["by"]) for line in told],
            [("used", "−150 ml", "Oda"), ("counted", "−400 ml", "Mira"), ("opened", "", "Mira"),
             ("came in", "+1000 ml", "Mira")],
        )  # fmt: skip
        lines = StockLine.objects.filter(bottle=pk)
        self.assertEqual(sum(line.change for line in lines), 450)
        self.assertEqual(self.line(pk)["left"], "450 ml")

    def test_an_act_sent_twice_is_done_once_and_never_means_something_else(self) -> None:
        pk, act = str(uuid4()), str(uuid4())
        self.put(id=pk)
        for _ in range(3):
            self.assertEqual(self.take(pk, act=act, used="100 ml").status_code, 200)
        self.assertEqual(self.line(pk)["left"], "900 ml")
        other = self.take(pk, act=act, used="200 ml")
        self.assertEqual((other.status_code, other.json()["code"]), (409, "visit.id_taken"))

    def test_bad_amounts_name_their_field(self) -> None:
        for more, field in (
            ({"size": "big"}, "/size"),
            ({"size": "0 ml"}, "/size"),
            ({"left": "2 l"}, "/left"),
            ({"opened_on": "tomorrow"}, "/opened_on"),
            ({"opened_on": "2999-01-01"}, "/opened_on"),
        ):
            answer = self.put(**more)
            self.assertEqual(answer.status_code, 422)
            self.assertEqual(answer.json()["errors"][0]["pointer"], field)

    def test_seals_are_counted_by_name_and_a_stale_count_is_told(self) -> None:
        clash = self.seals(count="9", seen=1)
        self.assertEqual(clash.status_code, 409)
        self.assertIn("counted 2", clash.json()["detail"])
        act = str(uuid4())
        for _ in range(2):
            seals = self.seals(count="9", seen=2, act=act).json()["seals"]
            self.assertIn({"name": "O-ring 14 mm", "count": 9}, seals)
        self.assertEqual(self.seals(name=" ", count="1").status_code, 422)
        self.assertEqual(self.seals(name="x", count="some").status_code, 422)
        used = self.seals(count="4", kind="used").json()["seals"]
        self.assertIn({"name": "O-ring 14 mm", "count": 5}, used)
        self.assertEqual(self.seals(count="6", kind="used").status_code, 422)
        self.assertEqual(self.seals(count="1", kind="opened").status_code, 422)
        self.assertEqual(self.seals(count="1", kind="stolen").status_code, 422)

    def test_two_deliveries_of_the_same_count_are_two(self) -> None:
        def deliver(act: str, **more: Any) -> Any:
            body = {"act": act, "what": "O-ring 14 mm", "bottles": [], "count": 3, **more}
            return self.api.post("/api/shelf/arrivals/", body, format="json")

        first, second = str(uuid4()), str(uuid4())
        for act in (first, second, first):
            self.assertEqual(deliver(act).status_code, 200)
        self.assertEqual(selectors.drawer()["O-ring 14 mm"], 8)
        self.assertEqual(deliver(first, count=4).status_code, 409)

    def test_what_has_come_is_put_away_once_and_is_no_longer_to_buy(self) -> None:
        asked = {"proposed": False, "tasks": [{"reservoir": "engine", "variant": "with filter"}]}
        new = {"id": str(uuid4()), "bike": str(self.heron.pk), "version": 0, "asked": asked}
        self.api.post("/api/calendar/", {**new, "on": f"{self.today}"}, format="json")
        stood = len(selectors.bottles())
        lines = self.api.get("/api/calendar/").json()["shopping"]
        self.assertEqual({bool(line["bottles"]) for line in lines}, {True, False})
        for line in lines:
            body = {"act": str(uuid4()), **{key: line[key] for key in ("what", "bottles", "count")}}
            for _ in range(2):
                answer = self.api.post("/api/shelf/arrivals/", body, format="json")
                self.assertEqual(answer.status_code, 200, answer.content)
        self.assertEqual(self.api.get("/api/calendar/").json()["shopping"], [])
        kit = self.api.get("/api/calendar/").json()["weeks"][0]["visits"][0]
        self.assertEqual(kit["missing"], [])
        came = sum(b["count"] for line in lines for b in line["bottles"])
        self.assertEqual(len(selectors.bottles()), stood + came)

    def test_an_arrival_is_checked(self) -> None:
        def post(**more: Any) -> Any:
            body = {"act": str(uuid4()), "what": "Skarholm Amber", "bottles": [], "count": 0}
            return self.api.post("/api/shelf/arrivals/", {**body, **more}, format="json")

        for ml, count in ((0, 1), (946, 0), (946, 51), (10**9, 1)):
            self.assertEqual(post(bottles=[{"ml": ml, "count": count}]).status_code, 422)
        self.assertEqual(post(what="Ghost", bottles=[{"ml": 946, "count": 1}]).status_code, 404)
        self.assertEqual(post(what="O-ring 14 mm", count=-3).status_code, 422)

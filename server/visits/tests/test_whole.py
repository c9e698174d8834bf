"""Visits of several reservoirs: what is in them, what is added, what a correction reopens."""

from datetime import timedelta
from decimal import Decimal
from typing import Any
from uuid import uuid4

from shelf.models import Fluid
from workshop.models import Trace

from visits.models import EntryRow, Service, Visit
from visits.tests.bench import Technician, ticks
from visits.tests.test_visit import VisitTestCase

THREE = [
    {"reservoir": "engine", "variant": "with filter"},
    {"reservoir": "primary", "variant": "drain only"},
    {"reservoir": "gearbox", "variant": "drain only"},
]
EVERYTHING = [
    *THREE,
    *({"reservoir": key} for key in ("fork left", "fork right", "rear brake", "front brake")),
]
PART = {"form": "paste", "matter": "steel", "share_percent": 20}


def _measured(step: dict[str, Any]) -> dict[str, str]:
    said = {"inlet": "0.12 mm", "exhaust": "0.18 mm", "front": "2 bar", "rear": "2.2 bar"}
    return {one["name"]: said.get(one["name"], "112 mm") for one in step["measured"]}


class WholeTestCase(VisitTestCase):
    def offered(self) -> list[dict[str, Any]]:
        """What can be done now, in the planned order."""
        return [
            step
            for step in self.mira.sheet["steps"]
            if step["status"] in ("ready", "running") and step["kind"] != "wait"
        ]

    def usual(self, step: dict[str, Any]) -> Any:
        """What is usually written down at a step."""
        mira, kind = self.mira, step["kind"]
        task = mira.task_of(step["reservoir"]) if step["reservoir"] else {}
        if step["status"] == "running":
            mira.now += timedelta(minutes=20)
            return mira.entry("stop", step=step["id"])
        if kind in ("fill", "level") and task["coach"]["action"] == "stop":
            return self.lead_says("cause", {"cause": "gauge"}, step["id"])
        if kind == "fill":
            amount = {"amount": task["coach"]["amount"]}
            if step["draws"]:
                return mira.entry("draw", amount, step=step["id"])
            if not amount["amount"]:  # what is in is looked at, or run
                close = mira.step(f"{step['reservoir']}/close")
                if close["status"] == "ready":
                    return mira.entry("confirm", {"items": ticks(close)}, step=close["id"])
                mira.now += timedelta(minutes=2)
                data = {"position": "0.75", "attitude": task["gauge"]["marks"][0]["attitude"]}
                return mira.entry("level", data, step=step["id"])
            return mira.entry("pour", {**amount, "closed": True}, step=step["id"])
        if kind == "level":
            mira.now += timedelta(minutes=20)
            data = {"position": "0.75", "attitude": task["gauge"]["marks"][0]["attitude"]}
            return mira.entry("level", data, step=step["id"])
        if step["not_before"]:
            mira.now += timedelta(minutes=5)
        first = {"value": step["options"][0]["code"] if step["options"] else ""}
        said: dict[str, tuple[str, dict[str, Any]]] = {
            "check": ("confirm", {"items": ticks(step)}),
            "timer": ("start", {}),
            "drain": ("start", {}),
            "gate": ("answer", first),
            "choice": ("answer", first),
            "amount": ("amount", {"amount": task.get("expected_out") or "600 ml"}),
            "finding": ("finding", {"parts": [PART], "oil": []}),
            "filter": ("filter", {"amount": "5 oz", "items": ticks(step)}),
            "leaks": ("leaks", {"result": "dry"}),
            "measure": ("measure", {"found": _measured(step)}),
        }
        if kind == "torque" or step["second"]:
            return mira.carded(step)
        entry, data = said[kind]
        return mira.entry(entry, data, step=step["id"])

    def unstrapped(self) -> bool:
        """Whether something waits for the bike to be strapped down again, after a look on its stand."""
        unmet = [need for step in self.mira.sheet["steps"] for need in step["unmet"]]
        return "the bike is not strapped down" in unmet

    def straps(self) -> Any:
        stands = {"pose": "upright", "strapped": True}
        return self.mira.entry("stands", stands, step="wheel out")

    def until_done(self, most: int = 200) -> None:
        for _ in range(most):
            steps = self.offered()
            if not steps and not self.unstrapped():
                return
            answer = self.usual(steps[0]) if steps else self.straps()
            self.assertEqual(answer.status_code, 200, answer.content[:400])


class WholeVisitTests(WholeTestCase):
    def test_everything_in_one_visit_under_one_signature(self) -> None:
        opened = self.mira.open_for(EVERYTHING, "61 300", cold=["valves", "tyres"])
        self.assertEqual(opened.status_code, 201, opened.content)
        self.assertEqual(len(self.mira.sheet["tasks"]), 7)
        self.until_done()
        self.assertTrue(self.mira.sheet["ready_to_sign"])
        self.assertEqual(self.mira.sign().status_code, 200)
        rows = {row.reservoir: row for row in Service.objects.filter(visit_id=self.mira.visit)}
        self.assertEqual(set(rows), {task["reservoir"] for task in EVERYTHING})
        self.assertEqual(rows["front brake"].found, "between the marks")
        self.assertIn("112 mm", rows["fork left"].found)
        self.assertEqual((rows["fork left"].took_ml, rows["fork left"].drained_ml), (600, 600))
        self.assertIsNone(rows["rear brake"].took_ml)
        for name in ("warm", "leaks", "finish", "support"):
            steps = EntryRow.objects.filter(visit=self.mira.visit, step=name)
            self.assertIn(steps.count(), (1, 2), name)  # a wait has a start and an end
        page = self.api.get(f"/api/bikes/{self.heron.pk}/").json()
        states = {r["glass"]["key"]: r["glass"]["state"] for r in page["reservoirs"]}
        for key in rows:
            self.assertNotIn(states[key], ("due", "baseline"), key)

    def test_the_order_is_solved_unless_the_plan_gives_one(self) -> None:
        self.mira.open_for(THREE, "61 300")
        order = Visit.objects.get(pk=self.mira.visit).order
        self.assertLess(order.index("engine/drain"), order.index("run"))
        self.mira.leave("other order")
        mine = ["gearbox/prove filler", "engine/prove filler"]
        other = Technician(self.api, self.heron.pk)
        other.open_for(THREE, "61 301", order=mine)
        steps = [step["id"] for step in other.sheet["steps"]]
        self.assertLess(steps.index("gearbox/filler"), steps.index("engine/filler"))

    def test_what_has_no_run_sheet_is_refused(self) -> None:
        answer = self.mira.open_for([{"reservoir": "boiler"}], "61 300")
        self.assertIn("no such reservoir", self.sentence(answer, "/tasks"))
        answer = self.mira.open_for([], "61 300")
        self.assertIn("Choose at least one", self.sentence(answer, "/tasks"))
        self.assertEqual(Visit.objects.count(), 0)

    def test_which_oil_went_in_is_what_was_confirmed_at_the_fill(self) -> None:
        offers = self.api.get(f"/api/bikes/{self.heron.pk}/offers/").json()
        primary = next(offer for offer in offers if offer["key"] == "primary")
        best = primary["fluids"][0]["name"]
        self.mira.open("61 300", "drain only", "primary")
        self.assertEqual(self.mira.task["fluid"], best)
        fits = [one["name"] for one in primary["fluids"] if one["fit"] != "refused"]
        other = Fluid.objects.get(name=fits[1])
        self.mira.until_fill()
        unknown = self.mira.pour(fluid="Nobody's oil")
        self.assertIn("no such fluid", self.sentence(unknown, "/fluid"))
        self.mira.pour(fluid=other.name)
        self.mira.dry()
        self.mira.tick()
        self.mira.sign()
        self.assertEqual(Service.objects.get(visit_id=self.mira.visit).fluid, other.name)

    def test_an_oil_that_may_not_go_in_leads_back_to_the_drain_or_to_a_lead(self) -> None:
        self.mira.open("61 300", "drain only", "primary")
        refused = next(one for one in self.mira.task["fluids"] if one["fit"] == "refused")
        self.assertTrue(refused["why"])
        self.mira.until_fill()
        self.assertEqual(self.mira.pour(fluid=refused["name"]).status_code, 200)
        (stop,) = self.mira.sheet["stops"]
        self.assertIn(f"{refused['name']} may not go into the primary", stop["text"])
        self.assertIn("Drain it again", self.mira.task["coach"]["words"])
        said = {"entry": stop["entry"], "reason": "asked the importer"}
        alone = self.mira.entry("answered", said, step=stop["step"])
        self.assertEqual((alone.status_code, alone.json()["code"]), (422, "visit.hold_lead"))
        oda = Technician(self.signed_in("oda"), self.heron.pk)
        oda.visit, oda.now, oda.sheet = self.mira.visit, self.mira.now, self.mira.sheet
        self.assertEqual(oda.entry("answered", said, step=stop["step"]).status_code, 200)
        self.assertEqual(oda.sheet["stops"], [])
        row = EntryRow.objects.get(visit=self.mira.visit, kind="pour")
        self.assertTrue(row.data["refused"])

    def test_another_oil_than_the_shelfs_goes_in_by_name_and_label_and_is_judged(self) -> None:
        self.mira.open("61 300", "drain only", "gearbox")
        self.mira.until_fill()
        for label, name, pointer in (("oil", "Quern", "/label"), ("75W-90", " ", "/fluid")):
            unread = self.mira.pour(fluid=name, label=label)
            self.assertEqual(unread.status_code, 422)
            self.assertTrue(self.sentence(unread, pointer))
        self.assertEqual(self.mira.pour("0.1 l", fluid="Quern", label="0W-16").status_code, 200)
        self.assertIn("Quern, 0W-16 may not go into", self.mira.sheet["stops"][0]["text"])
        self.mira.entry("draw", {"amount": "0.1 l"})
        self.assertEqual(self.mira.sheet["stops"], [])
        self.mira.entry("answer", {"value": "new"})
        self.mira.tick()
        self.mira.entry("torque", {"reading": self.mira.task["torque"]["aim"]})
        self.mira.pour(fluid="Quern", label="75W-90 GL-4")
        self.assertEqual(self.mira.sheet["stops"], [])
        self.assertEqual(self.mira.task["fluid"], "Quern, 75W-90 GL-4")

    def test_more_than_a_pan_or_a_jug_holds_is_asked(self) -> None:
        self.mira.open()
        self.mira.until_drained()
        asked = self.mira.entry("amount", {"amount": "11 l"})
        self.assertEqual((asked.status_code, asked.json()["code"]), (422, "expected.far"))
        # answered once, it is answered for the pan as well
        sure = asked.json()["errors"][0]["sure"]
        stands = self.mira.entry("amount", {"amount": "11 l", "sure": sure})
        self.assertEqual(stands.status_code, 200, stands.content)


class ChangeTests(WholeTestCase):
    def tasks(self, body: dict[str, Any]) -> Any:
        return self.mira._post(f"/api/visits/{self.mira.visit}/tasks/", body)

    def take_out(self, key: str) -> Any:
        answer = self.api.delete(f"/api/visits/{self.mira.visit}/tasks/{key}/")
        if answer.status_code == 200:
            self.mira.sheet = answer.json()
        return answer

    def test_a_reservoir_is_added_and_taken_out_while_nothing_of_it_is_open(self) -> None:
        self.mira.open()
        for _ in range(2):
            answer = self.tasks({"reservoir": "primary", "variant": "drain only"})
            self.assertEqual(answer.status_code, 200)
        self.assertEqual(len(self.mira.sheet["tasks"]), 2)
        for _ in range(2):
            self.assertEqual(self.take_out("primary").status_code, 200)
        self.assertEqual(len(self.mira.sheet["tasks"]), 1)
        self.assertEqual(self.take_out("engine").json()["code"], "visit.last_task")
        self.tasks({"reservoir": "primary", "variant": "drain only"})
        self.mira.look_over()
        self.mira.wait(10)
        self.mira.tick()
        self.mira.entry("answer", {"value": "open"}, step="primary/filler")
        self.assertEqual(self.take_out("primary").json()["code"], "visit.opened")
        about = Trace.objects.filter(about__endswith="/primary").values_list("act", flat=True)
        self.assertEqual(len(about), 3)

    def test_what_is_taken_in_again_is_as_chosen_now(self) -> None:
        self.mira.open("61 300", "drain only", "primary")
        for variant in ("with filter", "drain only"):
            self.tasks({"reservoir": "engine", "variant": variant})
            self.assertEqual(self.mira.task_of("engine")["variant"], variant)
            self.take_out("engine")

    def test_an_id_that_stands_for_something_else_opened_no_plug(self) -> None:
        self.mira.open("61 300", "drain only", "primary")
        self.mira.tick()
        taken = self.mira.step("cold")["entry"]["id"]
        body = {"reservoir": "gearbox", "variant": "drain only", "entry": taken}
        self.assertEqual(self.tasks(body).json()["code"], "visit.id_taken")
        stands = self.api.get(f"/api/visits/{self.mira.visit}/").json()
        keys = [task["key"] for task in stands["tasks"]]
        self.assertEqual(keys, ["primary"])

    def test_the_wrong_plug_opened_joins_the_visit_and_is_finished_with_it(self) -> None:
        self.mira.open("61 300", "drain only", "primary")
        self.mira.tick()
        body = {"reservoir": "gearbox", "variant": "drain only", "entry": str(uuid4())}
        for _ in range(2):
            self.assertEqual(self.tasks(body).status_code, 200)
        stands = {part["part"]: part["word"] for part in self.mira.task_of("gearbox")["standing"]}
        self.assertEqual((stands["Drain plug"], stands["Oil"]), ("out", "draining"))
        self.assertFalse(self.mira.sheet["may_leave"])
        self.until_done()
        self.assertEqual(self.mira.sign().status_code, 200, self.mira.last.content)
        self.assertEqual(Service.objects.filter(visit_id=self.mira.visit).count(), 2)

    def test_a_plug_of_the_visit_that_came_out_for_another_one_s_is_said_once(self) -> None:
        self.mira.open_for(
            [{"reservoir": key, "variant": "drain only"} for key in ("primary", "gearbox")],
            "61 300",
        )
        self.mira.tick()
        for _ in range(2):  # tapped twice, or by two tablets
            body = {"reservoir": "gearbox", "variant": "drain only", "entry": str(uuid4())}
            self.assertEqual(self.tasks(body).status_code, 200)
        out = EntryRow.objects.filter(visit=self.mira.visit, step="gearbox/drain")
        self.assertEqual(out.count(), 1)
        stands = {part["part"]: part["word"] for part in self.mira.task_of("gearbox")["standing"]}
        self.assertEqual(stands["Drain plug"], "out")

    def test_what_a_correction_reopens_is_asked_first(self) -> None:
        self.mira.whole()
        leaks = self.mira.step("leaks")["entry"]["id"]
        wet = {"step": "leaks", "supersedes": leaks}
        asked = self.mira.entry("leaks", {"result": "engine/drain plug"}, **wet)
        self.assertEqual((asked.status_code, asked.json()["code"]), (422, "sheet.reopens"))
        self.assertIn("Torque the plug", asked.json()["detail"])
        said = asked.json()["errors"][0]["sure"]
        self.assertEqual(
            self.mira.entry(
                "leaks", {"result": "engine/drain plug"}, **wet, accepts=said
            ).status_code,
            200,
        )
        self.assertTrue(self.mira.step("engine/torque")["reopened"])
        self.assertFalse(self.mira.sheet["ready_to_sign"])

    def test_a_correction_keeps_the_time_and_the_kind_of_what_it_corrects(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        poured = self.mira.pour()
        then = self.mira.step("engine/fill.1")["entry"]["at"]
        self.mira.now += timedelta(hours=5)
        corrects = {"step": "engine/fill.1", "supersedes": poured.body_sent["id"]}
        turned = self.mira.entry("draw", {"amount": "3.2 l", "sure": "3.2 l"}, **corrects)
        self.assertEqual(turned.json()["code"], "sheet.wrong_kind")
        right = self.mira.entry("pour", {"amount": "3.2 l", "sure": "3.2 l"}, **corrects)
        self.assertEqual(right.status_code, 200, right.content)
        self.assertEqual(self.mira.step("engine/fill.1")["entry"]["at"], then)
        added = Decimal(self.mira.task["added"].split()[0])
        self.assertAlmostEqual(float(added), 3200 + 147.9, delta=1)

    def test_a_skipped_step_is_done_after_all_by_a_correction(self) -> None:
        self.mira.open()
        self.mira.until_drained()
        skipped = self.mira.entry("skip", {"reason": "no jug"}).body_sent["id"]
        done = self.mira.entry(
            "amount", {"amount": "3.4 l"}, step="engine/measure", supersedes=skipped
        )
        self.assertEqual(done.status_code, 200, done.content)
        self.assertEqual(self.mira.task["drained"], "3400 ml")

    def test_what_the_last_release_wrote_down_is_corrected_where_it_stands_now(self) -> None:
        self.mira.open("61 300", "drain only", "primary")
        visit = Visit.objects.get(pk=self.mira.visit)
        person = visit.opened_by
        ids = []
        for minute, ml in enumerate(("1200", "190")):
            row = EntryRow.objects.create(
                id=uuid4(),
                visit=visit,
                step=f"primary/fill.{minute + 1}",
                kind="pour",
                data={"ml": ml, "said": f"{ml} ml", "unit": "ml"},
                at=visit.opened_at + timedelta(minutes=minute),
                by=person,
                description=1,
            )
            ids.append(str(row.pk))
        wrong = {"step": "primary/fill.2", "supersedes": ids[1]}
        # the coach had asked to take it out: it is corrected as taken out, and as nothing else
        turned = self.mira.entry("pour", {"amount": "200 ml"}, **wrong)
        self.assertEqual(turned.json()["code"], "sheet.wrong_kind")
        right = self.mira.entry("draw", {"amount": "200 ml"}, **wrong)
        self.assertEqual(right.status_code, 200, right.content)
        self.assertEqual(self.mira.task["added"], "1000 ml")
        elsewhere = self.mira.entry("pour", {"amount": "1 l"}, step="warm", supersedes=ids[0])
        self.assertEqual(elsewhere.status_code, 404)

"""A look at a brake, a coolant or a shock renews nothing; what it shows is followed up like a finding."""

from datetime import timedelta
from typing import Any
from uuid import uuid4

from django.utils import timezone
from findings.models import Answer, Finding
from garage.models import OdometerReading
from planning.models import DueRow, PlannedVisit

from visits.models import Service
from visits.tests.bench import Technician
from visits.tests.test_visit import VisitTestCase


class LookCase(VisitTestCase):
    """Looks at what no oil runs out of, and how it stands after them."""

    def setUp(self) -> None:
        super().setUp()
        self.oda = Technician(self.signed_in("oda"), self.heron.pk)

    def look(self, key: str, value: str, who: Technician | None = None, ago: int = 0) -> Technician:
        """A visit that looks at one reservoir, up to its signature."""
        mira = who or Technician(self.api, self.heron.pk)
        mira.now -= timedelta(days=ago)
        last = OdometerReading.objects.filter(bike=self.heron).order_by("-km")[0]
        more = {} if last.hours is None else {"hours": f"{last.hours + 1:.0f}"}
        odometer = f"{last.km - last.offset_km + 20:.0f} km"
        opened = mira.open_for([{"reservoir": key, "variant": "drain only"}], odometer, **more)
        self.assertEqual(opened.status_code, 201, opened.content)
        while mira.sheet["focus"]:
            step = mira.step(mira.sheet["focus"])
            if step["id"] == f"{key}/look":
                mira.entry("answer", {"value": value})
            elif step["id"] == "shock/shock felt":
                mira.entry(
                    "measure", {"found": {"rebound, first": "0.62 s", "bush play": "0.2 mm"}}
                )
            else:
                mira.tick()
        return mira

    def signed(self, key: str, value: str, ago: int = 0) -> Technician:
        mira = self.look(key, value, ago=ago)
        self.assertEqual(mira.sign().status_code, 200, mira.last.content)
        return mira

    def page(self, key: str) -> dict[str, Any]:
        page = self.api.get(f"/api/bikes/{self.heron.pk}/").json()
        return next(one for one in page["reservoirs"] if one["glass"]["key"] == key)

    def due(self, key: str) -> tuple[Any, ...]:
        row = DueRow.objects.get(bike=self.heron, reservoir=key)
        return row.state, row.due_on, row.due_km

    def bike_with(self, key: str) -> None:
        """One of the bikes that has it, and is not in the shop."""
        rows = DueRow.objects.filter(reservoir=key, bike__ward_row__in_shop=False)
        self.heron = rows.order_by("bike__name")[0].bike


class LookTests(LookCase):
    def test_no_answer_moves_the_change(self) -> None:
        self.bike_with("shock")
        before = {
            key: (self.due(key), self.page(key)["glass"]["age"]) for key in ("front brake", "shock")
        }
        for key, value in (
            ("front brake", "between"),
            ("front brake", "topped up"),
            ("front brake", "above"),
            ("front brake", "unseen"),
            ("shock", "firm"),
            ("shock", "oily"),
            ("shock", "unseen"),
        ):
            with self.subTest(key=key, value=value):
                self.signed(key, value)
                self.assertEqual((self.due(key), self.page(key)["glass"]["age"]), before[key])
        said = Service.objects.filter(bike=self.heron, visit__isnull=False).order_by(
            "done_on", "pk"
        )
        self.assertEqual(
            sorted(said.values_list("did", flat=True)),
            ["looked", "looked", "looked", "looked", "not seen", "not seen", "topped up"],
        )

    def test_what_could_not_be_seen_ticks_no_planned_visit_off(self) -> None:
        task = {"reservoir": "front brake", "variant": "drain only"}
        asked = {"proposed": False, "tasks": [task]}
        body = {"id": str(uuid4()), "bike": str(self.heron.pk), "version": 0,
                "on": f"{timezone.localdate()}", "asked": asked}  # fmt: skip
        answer = self.api.post("/api/calendar/", body, format="json")
        self.assertEqual(answer.status_code, 201, answer.content)
        planned = PlannedVisit.objects.filter(pk=body["id"])
        self.signed("front brake", "unseen")
        self.assertEqual(planned.values_list("state", "done").get(), ("planned", {}))
        self.signed("front brake", "between")
        self.assertEqual(planned.get().state, "done")

    def test_low_and_left_is_held_until_a_lead_says_why(self) -> None:
        mira = self.look("front brake", "low left")
        (stop,) = mira.sheet["stops"]
        self.assertTrue(stop["hold"])
        self.assertIn("pads or a leak", stop["text"])
        self.assertEqual(mira.sign().status_code, 409)
        answer = {"entry": stop["entry"], "reason": "Trailered to the brake specialist"}
        self.assertEqual(mira.entry("answered", answer, step=stop["step"]).status_code, 422)
        self.oda.visit, self.oda.now, self.oda.sheet = mira.visit, mira.now, mira.sheet
        self.assertEqual(self.oda.entry("answered", answer, step=stop["step"]).status_code, 200)
        self.oda.tick()
        self.assertEqual(self.oda.sign().status_code, 200, self.oda.last.content)
        found = Finding.objects.get(bike=self.heron, look="low left")
        self.assertEqual((found.level, found.rules[0]["rule"]), ("hold", "L1"))
        (said,) = found.answers.all()
        self.assertEqual((said.outcome, said.by.name), ("lifted", "Oda"))

    def test_a_bike_that_is_left_keeps_what_was_seen(self) -> None:
        mira = self.look("front brake", "low left")
        self.assertEqual(mira.leave("No parts").status_code, 200, mira.last.content)
        ward = self.api.get("/api/ward/?search=Grey+Heron").json()["bikes"][0]
        self.assertIn("front brake", ward["hold"].lower())

    def test_topped_up_asks_for_pads_and_leaks(self) -> None:
        self.signed("front brake", "topped up")
        page = self.api.get(f"/api/bikes/{self.heron.pk}/").json()
        asked = [one for one in page["asks"] if one["reservoir"] == "front brake"]
        self.assertEqual([one["level"] for one in asked], ["investigate"])
        self.assertIn("pads", asked[0]["action"])
        found = self.page("front brake")["findings"][0]
        self.assertEqual(found["outcomes"], ["nothing found", "a fault was found, and put right"])
        self.assertTrue(found["look"])
        self.answer(found["id"], "nothing found", "Pads at 4 mm, hoses dry")
        self.assertEqual(self.api.get(f"/api/bikes/{self.heron.pk}/").json()["asks"], [])

    def answer(self, finding: str, outcome: str, words: str, status: int = 201) -> Any:
        body = {"id": str(uuid4()), "outcome": outcome, "words": words}
        answer = self.api.post(f"/api/findings/{finding}/answers/", body, format="json")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def test_what_was_timed_stands_beside_its_own_past(self) -> None:
        self.bike_with("shock")
        self.signed("shock", "firm")
        kept = Service.objects.get(
            bike=self.heron, reservoir="shock", did="looked", visit__state="signed"
        )
        self.assertEqual(list(kept.measured), ["rebound"])
        mira = self.look("shock", "firm")
        self.assertIn("Before: 0.62 s.", mira.step("shock/shock felt")["remark"])

    def test_an_oily_shaft_is_handed_out(self) -> None:
        self.bike_with("shock")
        self.signed("shock", "oily")
        found = self.page("shock")["findings"][0]
        self.answer(found["id"], "lifted", "Wiped", status=422)  # a lead's to say
        self.answer(found["id"], "nothing found", "Wiped", status=422)
        self.answer(found["id"], "handed out to a specialist", "To the island's suspension shop")
        self.assertFalse(self.page("shock")["findings"][0]["asks"])

    def test_a_coolant_low_twice_running_is_looked_into_and_left_low_is_topped_up(self) -> None:
        self.bike_with("coolant")
        self.signed("coolant", "low left", ago=30)
        left = Finding.objects.get(bike=self.heron, look="low left")
        self.assertEqual(left.level, "investigate")
        self.signed("coolant", "topped up", ago=20)
        (closed,) = Answer.objects.filter(finding=left)
        self.assertEqual(closed.outcome, "topped up")
        first = Finding.objects.get(bike=self.heron, look="topped up")
        self.assertEqual(first.level, "note")
        self.signed("coolant", "topped up", ago=10)
        second = (
            Finding.objects.filter(bike=self.heron, look="topped up").exclude(pk=first.pk).get()
        )
        self.assertEqual((second.level, second.rules[0]["rule"]), ("investigate", "L5"))

"""A shock that goes to a specialist, is waited for, comes back, and is fitted."""

from datetime import timedelta
from typing import Any
from uuid import uuid4

from garage.models import OdometerReading
from workshop import days
from workshop.models import Person
from workshop.touched import touch

from visits.models import CameBack, HandedOut, Service
from visits.tests.bench import Technician
from visits.tests.test_looks import LookCase


class AwayTests(LookCase):
    def setUp(self) -> None:
        super().setUp()
        self.bike_with("shock")
        self.id = str(uuid4())

    def out(self, status: int = 204, **other: str) -> Any:
        soon = (days.today() + timedelta(days=3)).isoformat()
        body = {
            "id": self.id, "reservoir": "shock", "to": "the island's suspension shop",
            "wanted": "new seal, oil, charge", "waits": "on the lift", "back_by": soon, **other,
        }  # fmt: skip
        answer = self.api.post(f"/api/bikes/{self.heron.pk}/away/", body, format="json")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json() if answer.content else {}

    def back(self, status: int = 204, **other: Any) -> Any:
        body = {
            "id": str(uuid4()), "came": "rebuilt", "oil": "light shock oil",
            "paper": "bill 12", **other,
        }  # fmt: skip
        answer = self.api.post(f"/api/away/{self.id}/back/", body, format="json")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json() if answer.content else {}

    def fitted(self, status: int = 204, **other: str) -> Any:
        body = {
            "id": str(uuid4()), "torqued": "both bolts, by the sheet", "username": "oda",
            "password": "harbour-oda", **other,
        }  # fmt: skip
        answer = self.api.post(f"/api/away/{self.id}/fitted/", body, format="json")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json() if answer.content else {}

    def who(self, username: str) -> str:
        return str(Person.objects.get(username=username).pk)

    def age(self) -> float:
        age: float = self.page("shock")["glass"]["age"]
        return age

    def told(self) -> dict[str, Any]:
        told: dict[str, Any] = self.api.get(f"/api/bikes/{self.heron.pk}/away/shock/").json()
        return told

    def ward(self) -> list[dict[str, Any]]:
        bikes = self.api.get("/api/ward/", {"search": self.heron.name}).json()["bikes"]
        away: list[dict[str, Any]] = next(
            one["away"] for one in bikes if one["id"] == str(self.heron.pk)
        )
        return away

    def test_out_back_fitted_and_only_that_is_a_rebuild(self) -> None:
        self.signed("shock", "oily")
        before = self.age()
        self.out()
        self.out()  # sent again: once
        (line,) = self.told()["lines"]
        self.assertEqual((line["state"], line["overdue"], len(line["tag"])), ("out", False, 4))
        self.assertTrue(self.page("shock")["findings"][0]["asks"])  # nothing is done to it yet
        self.assertEqual(self.age(), before)
        self.assertIn(line["tag"], self.ward()[0]["text"])
        self.fitted(409)
        self.back()
        self.assertEqual(self.told()["lines"][0]["state"], "back")
        self.assertFalse(self.page("shock")["findings"][0]["asks"])
        (service,) = Service.objects.filter(
            bike=self.heron, visit=None, reservoir="shock", found__contains="tag"
        )
        self.assertEqual(
            (service.did, service.proof, service.fluid), ("changed", "bill 12", "light shock oil")
        )
        self.assertEqual(self.age(), 0)
        self.assertIn("not fitted", self.ward()[0]["text"])
        refused = self.fitted(422, username="mira", password="harbour-mira")
        self.assertEqual(refused["errors"][0]["pointer"].lstrip("/"), "username")
        self.fitted(422, password="wrong")
        self.fitted()
        self.assertEqual(self.told()["lines"][0]["state"], "fitted")
        self.assertEqual(self.ward(), [])
        self.id = str(uuid4())
        self.out()  # and another time

    def test_what_was_only_charged_or_came_as_it_went_renews_nothing(self) -> None:
        before = self.age()
        for came in ("charged", "as it went"):
            self.id = str(uuid4())
            self.out()
            self.back(came=came, oil="")
            self.fitted()
        self.assertEqual(self.age(), before)

    def test_what_a_look_asked_for_is_answered_by_what_was_done_alone(self) -> None:
        self.signed("shock", "oily")
        for came, asks in (("as it went", True), ("charged", True), ("exchanged", False)):
            with self.subTest(came):
                self.id = str(uuid4())
                self.out()
                self.back(came=came, oil="")
                self.assertEqual(self.page("shock")["findings"][0]["asks"], asks)
                self.fitted()

    def test_each_is_said_once_and_under_its_own_id(self) -> None:
        first, told = self.id, str(uuid4())
        self.out()
        self.back(id=told)
        self.back(id=told)  # sent again
        self.back(409)
        self.fitted(id=told)
        self.fitted(id=told)
        self.fitted(409)
        self.id = str(uuid4())
        self.out()
        self.back(409, id=told)  # that id stands for the other one
        self.back()
        self.fitted(409, id=told)
        self.assertNotEqual(first, self.id)

    def test_overdue_is_on_the_ward(self) -> None:
        self.out()
        self.assertFalse(self.ward()[0]["overdue"])
        row = HandedOut.objects.get()
        late = days.today() - timedelta(days=1)
        HandedOut.objects.create(
            id=uuid4(), bike=row.bike, reservoir="shock", part=row.part, to=row.to, wanted="oil",
            waits=row.waits, back_by=late, out_on=late, by=row.by, at=row.at,
        )  # fmt: skip
        touch(self.heron.pk)
        away = next(one for one in self.ward() if one["overdue"])
        self.assertIn("overdue: due back", away["text"])
        # a bike that is not to be ridden is among those on hold, and no finding asks for anything by that
        held = self.api.get("/api/ward/", {"hold": "1"}).json()["bikes"]
        self.assertIn(self.heron.name, [one["name"] for one in held])
        self.assertEqual(self.api.get("/api/findings/").status_code, 200)

    def test_nothing_is_run_or_signed_as_if_it_were_there(self) -> None:
        self.out()
        mira = self.look("front brake", "between")
        finish = mira.step("finish")
        self.assertEqual(finish["status"], "blocked")
        self.assertIn("ridden by nobody", str(finish["unmet"]))

    def test_nothing_is_seen_of_what_is_not_there(self) -> None:
        self.out()
        task = {"reservoir": "shock", "variant": "drain only"}
        mira = Technician(self.api, self.heron.pk)
        last = OdometerReading.objects.filter(bike=self.heron).order_by("-km")[0]
        more = {} if last.hours is None else {"hours": f"{last.hours + 1:.0f}"}
        opened = mira.open_for([task], f"{last.km - last.offset_km + 20:.0f} km", **more)
        self.assertEqual(opened.status_code, 201, opened.content)
        while mira.sheet["focus"]:
            mira.tick()
        self.assertEqual(mira.step("shock/look")["status"], "blocked")
        self.assertIn("shock is away", str(mira.step("shock/shock felt")["unmet"]))

    def test_it_comes_back_though_its_sheet_has_changed(self) -> None:
        self.out()
        row = HandedOut.objects.get()
        self.id = str(uuid4())
        HandedOut.objects.create(
            id=self.id, bike=row.bike, reservoir="a shock of before", part=row.part, to=row.to,
            wanted="oil", waits=row.waits, back_by=row.back_by, out_on=row.out_on, by=row.by,
            at=row.at,
        )  # fmt: skip
        self.back(pressure="10 bar", temperature="20")
        self.assertTrue(Service.objects.filter(reservoir="a shock of before").exists())

    def test_bad_input_has_its_sentence_and_loses_nothing(self) -> None:
        yesterday = (days.today() - timedelta(days=1)).isoformat()
        for other, field in (
            ({"to": " "}, "to"),
            ({"wanted": ""}, "wanted"),
            ({"back_by": yesterday}, "back_by"),
            ({"back_by": "soon"}, "back_by"),
            ({"own": "nobody"}, "own"),
            ({"own": "oda"}, "own"),  # a person is told by their id
            ({"own": self.who("piet")}, "own"),  # a reader works on nothing
            ({"own": self.who("oda")}, "qualified"),
            ({"reservoir": "engine"}, "reservoir"),
            ({"reservoir": "nothing"}, "reservoir"),
        ):
            with self.subTest(**other):
                self.assertEqual(self.out(422, **other)["errors"][0]["pointer"].lstrip("/"), field)
        self.assertFalse(HandedOut.objects.exists())
        self.out(own=self.who("oda"), to="somebody", qualified="the maker's course, 2024")
        self.assertEqual(self.told()["lines"][0]["to"], "Oda")
        for more, field in (
            ({"paper": ""}, "paper"),
            ({"oil": ""}, "oil"),
            ({"pressure": "10 bar"}, "temperature"),
            ({"pressure": "ten", "temperature": "20"}, "pressure"),
            ({"pressure": "10 bar", "temperature": "293"}, "temperature"),
        ):
            with self.subTest(**more):
                self.assertEqual(self.back(422, **more)["errors"][0]["pointer"].lstrip("/"), field)
        self.assertFalse(CameBack.objects.exists())

    def test_it_is_out_once_though_two_say_so(self) -> None:
        self.out()
        self.id = str(uuid4())
        self.out(409)

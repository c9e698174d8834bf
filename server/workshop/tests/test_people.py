"""People come by a one-time link, change, and go; tablets belong to benches; who changed what is kept."""

import csv
from datetime import timedelta
from io import StringIO
from typing import Any
from unittest.mock import patch
from uuid import UUID, uuid4

from demo.testing import WorkshopTestCase
from django.conf import settings
from django.http import HttpRequest
from django.utils import timezone
from oilward_core.errors import CoreError
from rest_framework.request import Request
from rest_framework.test import APIClient

from workshop.access import countersigner
from workshop.audit.mapping import about_words, was_words
from workshop.models import Person, Trace, Welcome, Workshop
from workshop.people import links
from workshop.tablets import here

NEW = {"username": "bram", "name": "Bram", "role": "technician", "qualifications": ["tyres"]}


class PeopleCase(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.lead = self.signed_in("oda")

    def add(self, act: UUID | None = None, **more: Any) -> Any:
        body = {"id": str(act or uuid4()), **NEW, **more}
        return self.lead.post("/api/people/", body, format="json")

    def line(self, username: str) -> dict[str, Any]:
        people = self.lead.get("/api/people/").json()["people"]
        return dict(next(one for one in people if one["username"] == username))

    def change(self, username: str, **more: Any) -> Any:
        line = self.line(username) | more
        return self.lead.put(f"/api/people/{line['id']}/", line, format="json")

    def code(self, answer: Any) -> tuple[int, str]:
        return answer.status_code, answer.json()["code"]


class PeopleTests(PeopleCase):
    def test_from_the_lead_to_the_first_sign_in(self) -> None:
        link = self.add().json()
        self.assertTrue(self.line("bram")["waits"])
        new = APIClient()
        url = f"/api{link['path']}/"
        self.assertEqual(new.get(url).json()["name"], "Bram")
        for password, code in (
            ("short", "people.password_too_short"),
            ("qwerty123456", "people.password_too_common"),
        ):
            answer = new.post(url, {"password": password, "pin": ""}, format="json")
            self.assertEqual(self.code(answer), (422, code))
        session = new.post(
            url, {"password": "seven pale gulls", "pin": "2580"}, format="json"
        ).json()
        self.assertEqual((session["name"], session["role"]), ("Bram", "technician"))
        self.assertEqual(new.get("/api/ward/").status_code, 200)
        # the link was good once
        self.assertEqual(APIClient().get(url).status_code, 404)
        again = APIClient().post(url, {"password": "eight pale gulls"}, format="json")
        self.assertEqual(again.status_code, 404)
        self.assertEqual(
            {key: self.line("bram")[key] for key in ("waits", "has_pin", "qualifications")},
            {"waits": False, "has_pin": True, "qualifications": ["tyres"]},
        )

    def test_an_answer_that_was_lost_is_given_again_to_who_chose_that_password(self) -> None:
        line = self.add().json()
        url, mine = f"/api{line['path']}/", {"password": "nine dry docks", "pin": ""}
        self.assertEqual(APIClient().post(url, mine, format="json").status_code, 200)
        lost = APIClient()
        self.assertEqual(lost.post(url, mine, format="json").json()["username"], "bram")
        self.assertTrue(lost.get("/api/session/").json()["signed_in"])
        # the link says no more than before, and another password opens nothing
        self.assertEqual(lost.get(url).status_code, 404)
        other = {"password": "nine wet docks", "pin": ""}
        answers = [APIClient().post(url, other, format="json").status_code for _ in range(5)]
        self.assertEqual(answers, [404, 404, 404, 429, 429])
        with patch("workshop.people.views.timezone") as clock:
            clock.now.return_value = timezone.now() + timedelta(minutes=11)
            self.assertEqual(APIClient().post(url, mine, format="json").status_code, 404)

    def test_sent_twice_adds_nobody_twice_and_gives_the_same_link(self) -> None:
        act = uuid4()
        first, again = self.add(act).json(), self.add(act).json()
        self.assertEqual(first, again)
        self.assertEqual(Person.objects.filter(name="Bram").count(), 1)
        other = self.add(act, username="brun", name="Brun")
        self.assertEqual(self.code(other), (409, "people.id_taken"))

    def test_what_cannot_be_added(self) -> None:
        for wrong, code in (
            ({"username": "Br am"}, "people.username"),
            ({"username": "MIRA"}, "people.taken"),
            ({"name": " "}, "people.name"),
            ({"name": "mira"}, "people.name_taken"),
            ({"role": "king"}, "people.role"),
            ({"qualifications": ["wings"]}, "people.qualification"),
        ):
            self.assertEqual(self.code(self.add(**wrong)), (422, code))
        answer = self.api.post("/api/people/", {"id": str(uuid4()), **NEW}, format="json")
        self.assertEqual(answer.status_code, 403)
        self.assertEqual(self.api.get("/api/people/").status_code, 403)
        self.assertFalse(Person.objects.filter(username="bram").exists())

    def test_a_link_ends_with_time_with_another_link_and_with_access(self) -> None:
        first = self.add().json()["path"]
        line, act = self.line("bram"), uuid4()
        url = f"/api/people/{line['id']}/welcome/{act}/"
        second = self.lead.put(url).json()["path"]
        self.assertEqual(self.lead.put(url).json()["path"], second)
        self.assertEqual(APIClient().get(f"/api{first}/").status_code, 404)
        self.assertEqual(APIClient().get(f"/api{second}/").status_code, 200)
        self.change("bram", active=False)
        self.assertEqual(APIClient().get(f"/api{second}/").status_code, 404)
        self.assertEqual(self.code(self.lead.put(url)), (422, "people.ended"))
        self.change("bram", active=True)
        Welcome.objects.update(until=timezone.now())
        self.assertEqual(APIClient().get(f"/api{second}/").status_code, 404)
        self.assertEqual(Welcome.objects.filter(digest__contains="/").count(), 0)

    def test_a_role_counts_at_once_and_access_ends_at_once(self) -> None:
        mira = self.signed_in("mira")
        self.assertEqual(mira.post("/api/tablets/", {}, format="json").status_code, 400)
        self.change("mira", role="reader")
        self.assertEqual(mira.post("/api/tablets/", {}, format="json").status_code, 403)
        self.assertEqual(self.change("mira", active=False).json()["active"], False)
        self.assertEqual(mira.get("/api/ward/").status_code, 401)
        signed = {"username": "mira", "password": "harbour-mira"}
        self.assertEqual(APIClient().post("/api/session/", signed, format="json").status_code, 401)
        trace = Trace.objects.get(act="access ended")
        self.assertEqual((trace.by.name, trace.about), ("Oda", "person/mira"))

    def test_never_last_write_wins_and_never_without_a_lead(self) -> None:
        line = self.line("mira")
        self.change("mira", role="apprentice")
        late = self.lead.put(f"/api/people/{line['id']}/", line | {"name": "Mirra"}, format="json")
        self.assertEqual(self.code(late), (409, "people.edited"))
        for wrong in ({"role": "technician"}, {"active": False}):
            self.assertEqual(self.code(self.change("oda", **wrong)), (422, "people.last_lead"))
        self.change("mira", role="lead")
        self.assertEqual(self.change("oda", role="technician").status_code, 200)

    def test_own_password_pin_and_units(self) -> None:
        mira, elsewhere = APIClient(), self.signed_in("mira")
        signed = {"username": "mira", "password": "harbour-mira"}
        mira.post("/api/session/", signed, format="json")
        wrong = {"current": "no", "password": "nine dry docks"}
        answer = mira.put("/api/own/password/", wrong, format="json")
        self.assertEqual(self.code(answer), (422, "people.current"))
        right = {"current": "harbour-mira", "password": "nine dry docks"}
        self.assertEqual(mira.put("/api/own/password/", right, format="json").status_code, 200)
        # here one stays signed in, elsewhere not
        self.assertEqual(mira.get("/api/ward/").status_code, 200)
        self.assertEqual(elsewhere.get("/api/ward/").status_code, 401)
        easy = mira.put(
            "/api/own/pin/", {"current": "nine dry docks", "pin": "1111"}, format="json"
        )
        self.assertEqual(self.code(easy), (422, "people.pin_easy"))
        units = {"volume_unit": "fl oz", "torque_unit": "lbf·ft", "ounces": "imperial"}
        self.assertEqual(mira.put("/api/own/", units, format="json").json()["volume_unit"], "fl oz")
        self.assertEqual(mira.get("/api/session/").json()["torque_unit"], "lbf·ft")

    def test_new_people_read_in_the_workshops_units(self) -> None:
        stands = self.lead.get("/api/workshop/settings/").json()
        set_so = stands | {"volume_unit": "qt", "torque_unit": "lbf·ft", "name": "North Quay"}
        self.assertEqual(
            self.lead.put("/api/workshop/settings/", set_so, format="json").status_code, 200
        )
        self.add()
        row = Person.objects.get(username="bram")
        self.assertEqual((row.volume_unit, row.torque_unit), ("qt", "lbf·ft"))
        self.assertEqual(self.api.get("/api/session/").json()["workshop"], "North Quay")


class TabletTests(PeopleCase):
    def setUp(self) -> None:
        super().setUp()
        row = Person.objects.get(username="mira")
        pin = {"current": "harbour-mira", "pin": "2580"}
        self.assertEqual(
            self.signed_in("mira").put("/api/own/pin/", pin, format="json").status_code, 200
        )
        self.mira = row

    def paired(self, name: str = "Bench 2, left") -> APIClient:
        device = self.signed_in("oda")
        answer = device.post("/api/tablets/", {"id": str(uuid4()), "name": name}, format="json")
        self.assertEqual(answer.status_code, 201, answer.content)
        self.assertFalse(answer.json()["signed_in"])
        return device

    def tap(self, device: APIClient, pin: str = "2580") -> Any:
        return device.post("/api/doorway/", {"username": "mira", "pin": pin}, format="json")

    def test_a_name_and_a_pin_on_a_paired_tablet_and_nowhere_else(self) -> None:
        self.assertEqual(self.code(self.tap(APIClient())), (401, "access.no_tablet"))
        device = self.paired()
        door = device.get("/api/doorway/").json()
        self.assertEqual(
            door, {"name": "Bench 2, left", "people": [{"username": "mira", "name": "Mira"}]}
        )
        self.assertEqual(self.code(self.tap(device, "2581")), (401, "access.wrong_pin"))
        session = self.tap(device).json()
        self.assertEqual((session["name"], session["tablet"]), ("Mira", "Bench 2, left"))
        self.assertEqual(device.get("/api/ward/").status_code, 200)
        cookie = device.cookies[settings.TABLET_COOKIE]
        self.assertTrue(cookie["httponly"])
        self.assertEqual(cookie["samesite"], "Strict")
        forged = APIClient()
        forged.cookies[settings.TABLET_COOKIE] = cookie.value[:-1] + "~"
        self.assertEqual(forged.get("/api/doorway/").json()["name"], "")

    def test_unpaired_it_lets_nobody_in_and_who_is_in_is_out(self) -> None:
        device = self.paired()
        self.tap(device)
        (tablet,) = self.lead.get("/api/tablets/").json()
        self.assertEqual((tablet["name"], tablet["paired_by"]), ("Bench 2, left", "Oda"))
        for _ in range(2):
            self.assertEqual(self.lead.delete(f"/api/tablets/{tablet['id']}/").status_code, 204)
        self.assertEqual(device.get("/api/ward/").status_code, 401)
        self.assertEqual(self.code(self.tap(device)), (401, "access.no_tablet"))
        self.assertEqual(Trace.objects.filter(act="tablet unpaired").count(), 1)

    def test_without_hands_it_ends_and_with_them_it_goes_on(self) -> None:
        device = self.paired()
        self.tap(device)
        begun = timezone.now().timestamp()
        with patch.object(here.time, "time", lambda: begun + 9 * 60):
            self.assertEqual(device.put("/api/session/hands/").status_code, 204)
        with patch.object(here.time, "time", lambda: begun + 18 * 60):
            # looking on is nothing a hand does: screens ask by themselves
            self.assertEqual(device.get("/api/ward/").status_code, 200)
        with patch.object(here.time, "time", lambda: begun + 20 * 60):
            self.assertEqual(device.get("/api/ward/").status_code, 401)
            self.assertFalse(device.get("/api/session/").json()["signed_in"])

    def test_who_comes_in_by_a_link_there_is_out_without_hands_as_well(self) -> None:
        device, link = self.paired(), self.add().json()["path"]
        chosen = {"password": "seven pale gulls", "pin": ""}
        session = device.post(f"/api{link}/", chosen, format="json").json()
        self.assertEqual(session["tablet"], "Bench 2, left")
        later = timezone.now().timestamp() + 11 * 60
        with patch.object(here.time, "time", lambda: later):
            self.assertEqual(device.get("/api/ward/").status_code, 401)

    def test_a_lead_beside_is_known_by_pin_on_a_benchs_tablet_and_nowhere_else(self) -> None:
        pin = {"current": "harbour-oda", "pin": "1379"}
        self.lead.put("/api/own/pin/", pin, format="json")
        device = self.paired()
        self.tap(device)
        mira = Person.objects.get(username="mira")
        asked = HttpRequest()
        with self.assertRaises(CoreError):
            countersigner(Request(asked), "oda", "1379", mira)
        asked.COOKIES = {settings.TABLET_COOKIE: device.cookies[settings.TABLET_COOKIE].value}
        self.assertEqual(countersigner(Request(asked), "oda", "1379", mira).name, "Oda")
        for name, wrong in (("oda", "1378"), ("mira", "2580")):
            with self.assertRaises(CoreError):
                countersigner(Request(asked), name, wrong, mira)

    def test_tries_are_throttled(self) -> None:
        device = self.paired()
        codes = [self.tap(device, "9999").status_code for _ in range(9)]
        self.assertEqual(codes[-1], 429)

    def test_what_cannot_be_paired(self) -> None:
        self.paired()
        for name, code in ((" ", "tablets.name"), ("bench 2, LEFT", "tablets.taken")):
            answer = self.lead.post(
                "/api/tablets/", {"id": str(uuid4()), "name": name}, format="json"
            )
            self.assertEqual(self.code(answer), (422, code))
        answer = self.api.post("/api/tablets/", {"id": str(uuid4()), "name": "Mine"}, format="json")
        self.assertEqual(answer.status_code, 403)
        act = str(uuid4())
        for _ in range(2):
            answer = self.signed_in("oda").post(
                "/api/tablets/", {"id": act, "name": "Press"}, format="json"
            )
            self.assertEqual(answer.status_code, 201)


class AuditTests(PeopleCase):
    def audit(self, **asked: str) -> dict[str, Any]:
        answer = self.lead.get("/api/audit/", asked)
        self.assertEqual(answer.status_code, 200, answer.content)
        return dict(answer.json())

    def test_who_changed_what_narrowed_and_as_a_table(self) -> None:
        self.add()
        self.change("bram", role="apprentice")
        said = self.audit()
        self.assertEqual(
            [line["act"] for line in said["lines"][:2]], ["person changed", "person added"]
        )
        self.assertEqual(said["lines"][0]["was"], "role: technician")
        self.assertEqual(self.audit(act="person added")["count"], 1)
        self.assertEqual(self.audit(by="Mira", act="person added")["count"], 0)
        self.assertEqual(self.audit(text="bram technician", act="person changed")["count"], 1)
        self.assertEqual(self.audit(until="2020-01-01")["count"], 0)
        self.assertEqual(self.audit(since="2020-01-01")["count"], said["count"])
        self.assertEqual(self.lead.get("/api/audit/", {"since": "soon"}).status_code, 422)
        Trace.objects.create(by=Person.objects.get(name="Oda"), act="=1+1", about="person/x")
        answer = self.lead.get("/api/audit.csv")
        rows = list(csv.reader(StringIO(answer.content.decode())))
        self.assertEqual(rows[0], ["when", "who", "what", "about", "was"])
        self.assertEqual(rows[1][2], "'=1+1")
        self.assertEqual(self.api.get("/api/audit/").status_code, 403)
        self.assertEqual(self.api.get("/api/audit.csv").status_code, 403)

    def test_a_bike_stands_under_its_name(self) -> None:
        Trace.objects.create(
            by=Person.objects.get(name="Oda"), act="looked", about=f"bike/{self.heron.pk}/engine"
        )
        self.assertEqual(self.audit(act="looked")["lines"][0]["about"], "Grey Heron, engine")
        self.assertEqual(self.audit(act="looked", text="heron")["count"], 1)
        self.assertEqual(self.audit(act="looked", text="cormorant")["count"], 0)

    def test_paths_become_words(self) -> None:
        for about, words in (
            (
                "bike/Grey Heron/engine//capacity.with filter",
                "Grey Heron, engine, capacity, with filter",
            ),
            (
                "workshop/gearbox/fluid/as the manual says",
                "the workshop, gearbox, fluid, as the manual says",
            ),
            ("person/runa/apprentice", "runa, apprentice"),
            ("sheet/12", "spec sheet 12"),
            (f"calendar/{uuid4()}", "calendar"),
            ("bike/St. Anne/engine", "St. Anne, engine"),
            ("tablet/Bench 4", "Bench 4"),
            ("Small click wrench", "Small click wrench"),
            ("", ""),
        ):
            with self.subTest(about):
                self.assertEqual(about_words(about), words)
        was = {"role": "technician", "engine//capacity.dry": "3 l", "offset_km": ""}
        self.assertEqual(was_words(was), "role: technician; engine, capacity, dry: 3 l")

    def test_a_link_is_told_by_nobody_without_the_key(self) -> None:
        act = uuid4()
        first = links.token_of(act)
        with self.settings(SECRET_KEY="another"):
            self.assertNotEqual(links.token_of(act), first)

    def test_idle_minutes_and_week_are_bounded(self) -> None:
        stands = self.lead.get("/api/workshop/settings/").json()
        for wrong in ({"idle_minutes": 0}, {"idle_minutes": 999}, {"week_begins": 7}):
            answer = self.lead.put("/api/workshop/settings/", stands | wrong, format="json")
            self.assertEqual(self.code(answer), (422, "number.range"))
        self.assertEqual(Workshop.objects.get().idle_minutes, 10)

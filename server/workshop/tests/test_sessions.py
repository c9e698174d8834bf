"""Where one is signed in, told and ended; and what happened to one's keys meanwhile."""

from uuid import uuid4

from demo.testing import WorkshopTestCase
from rest_framework.test import APIClient

MIRA = {"username": "mira", "password": "harbour-mira"}


class SessionsTests(WorkshopTestCase):
    def at(self, agent: str) -> APIClient:
        client = APIClient(HTTP_USER_AGENT=agent)
        self.assertEqual(client.post("/api/session/", MIRA, format="json").status_code, 200)
        return client

    def test_each_is_told_and_any_can_be_ended_and_nobody_elses(self) -> None:
        here = self.at("Mozilla/5.0 (X11; Linux x86_64) Firefox/140.0")
        other = self.at("Mozilla/5.0 (iPad; CPU OS 18_0) AppleWebKit Safari/604.1")
        told = [one for one in here.get("/api/own/sessions/").json() if one["device"]]
        devices = {one["device"]: one for one in told}
        self.assertEqual(set(devices), {"Firefox on Linux", "Safari on iPad"})
        self.assertEqual([one["device"] for one in told if one["here"]], ["Firefox on Linux"])
        end = f"/api/own/sessions/{devices['Safari on iPad']['id']}/"
        oda = self.signed_in("oda")
        self.assertEqual(oda.delete(end).status_code, 200)
        self.assertEqual(other.get("/api/ward/").status_code, 200)
        for _ in range(2):
            self.assertEqual(here.delete(end).status_code, 200)
        self.assertEqual(other.get("/api/ward/").status_code, 401)
        self.assertEqual(here.get("/api/ward/").status_code, 200)

    def test_what_happened_to_ones_keys_is_said_at_the_next_sign_in_once(self) -> None:
        first = APIClient().post("/api/session/", MIRA, format="json").json()
        self.assertEqual(first["news"], [])
        self.api.put("/api/own/pin/", {"current": "harbour-mira", "pin": "2580"}, format="json")
        mira = next(p for p in self.people() if p["username"] == "mira")
        oda = self.signed_in("oda")
        path = f"/api/people/{mira['id']}/welcome/{uuid4()}/"
        self.assertEqual(oda.put(path, {}, format="json").status_code, 200)
        second = APIClient().post("/api/session/", MIRA, format="json").json()["news"]
        self.assertEqual(len(second), 2)
        self.assertIn("your PIN was set, by Mira.", second[0])
        self.assertIn("a link to choose a new password was made for you, by Oda.", second[1])
        third = APIClient().post("/api/session/", MIRA, format="json").json()
        self.assertEqual(third["news"], [])

    def people(self) -> list[dict[str, str]]:
        return list(self.signed_in("oda").get("/api/people/").json()["people"])

    def test_links_and_roles_ask_for_the_password_again_and_a_pin_is_none(self) -> None:
        oda = self.signed_in("oda")
        kept = oda.session
        kept["proved"] = 0
        kept.save()
        mira = next(p for p in self.people() if p["username"] == "mira")
        for method, path in (
            ("post", "/api/people/"),
            ("put", f"/api/people/{mira['id']}/"),
            ("put", f"/api/people/{mira['id']}/welcome/{uuid4()}/"),
        ):
            answer = getattr(oda, method)(path, {}, format="json")
            self.assertEqual((answer.status_code, answer.json()["code"]), (403, "access.prove"))

    def test_a_short_password_of_before_opens_and_none_is_chosen(self) -> None:
        body = {"current": "harbour-mira", "password": "nine wet r"}
        answer = self.api.put("/api/own/password/", body, format="json")
        self.assertEqual(answer.json()["code"], "people.password_too_short")

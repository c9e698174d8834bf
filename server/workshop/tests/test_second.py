"""A lead's second factor: set up, asked for, its recovery codes, and cleared."""

import hmac
import struct
from base64 import b32decode
from datetime import UTC, datetime
from typing import Any
from unittest import mock
from urllib.parse import parse_qs, urlsplit

from demo.testing import WorkshopTestCase
from django.core.management import call_command
from django_otp.plugins.otp_static.models import StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice
from rest_framework.test import APIClient

from workshop.models import Person, Tries
from workshop.second import services

ODA = {"username": "oda", "password": "harbour-oda"}
# RFC 6238, appendix B, SHA-1: a secret, a moment and what an app shows then (its last six figures)
RFC_SECRET, RFC_SHOWN = (
    b"12345678901234567890",
    {59: "287082", 1111111109: "081804", 2000000000: "279037"},
)


def shown(secret: bytes, at: float) -> str:
    """What an app shows, by RFC 4226 and 6238 with nothing but a hash: 30 seconds, six figures."""
    digest = hmac.digest(secret, struct.pack(">Q", int(at) // 30), "sha1")
    place = digest[-1] & 15
    (number,) = struct.unpack(">I", digest[place : place + 4])
    return f"{(number & 0x7FFFFFFF) % 1_000_000:06}"


class SecondCase(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.now = datetime(2026, 3, 14, 9, 30, tzinfo=UTC).timestamp()
        clock = mock.patch("django_otp.plugins.otp_totp.models.time")
        self.enterContext(clock).time.side_effect = lambda: self.now
        self.oda = APIClient()
        self.oda.post("/api/session/", ODA, format="json")

    def put(self, path: str, body: Any) -> Any:
        return self.oda.put(path, body, format="json")

    def set_up(self) -> tuple[bytes, list[str]]:
        """The secret in the app, and the recovery codes."""
        begun = self.oda.post("/api/own/second/").json()
        secret = b32decode(begun["secret"])
        found = parse_qs(urlsplit(begun["address"]).query)
        self.assertEqual(
            b32decode(found["secret"][0] + "=" * (-len(found["secret"][0]) % 8)), secret
        )
        answer = self.put("/api/own/second/", {"code": shown(secret, self.now)})
        self.assertEqual(answer.status_code, 200, answer.content)
        self.now += 30
        return secret, answer.json()["codes"]

    def sign_in(self, second: str | None = None) -> tuple[int, str]:
        body = ODA if second is None else {**ODA, "second": second}
        answer = APIClient().post("/api/session/", body, format="json")
        return answer.status_code, answer.json().get("code", "")


class SecondFactorTests(SecondCase):
    def test_the_figures_are_the_standards(self) -> None:
        device = TOTPDevice(key=RFC_SECRET.hex(), user=Person.objects.get(username="oda"))
        for at, figures in RFC_SHOWN.items():
            self.assertEqual(shown(RFC_SECRET, at), figures)
            self.now, device.last_t = at, -1
            self.assertTrue(device.verify_token(figures))

    def test_asked_for_once_it_is_confirmed_and_each_code_is_good_once(self) -> None:
        self.assertEqual(self.sign_in(), (200, ""))
        secret, _ = self.set_up()
        self.assertEqual(self.sign_in(), (401, "access.second"))
        self.assertEqual(self.sign_in(" "), (401, "access.second"))
        code = shown(secret, self.now)
        self.assertEqual(self.sign_in(f"{code[:3]} {code[3:]}"), (200, ""))
        self.assertEqual(self.sign_in(code), (401, "access.wrong_second"))
        self.now += 600
        # a phone's clock half a minute off is none the worse
        self.assertEqual(self.sign_in(shown(secret, self.now - 30)), (200, ""))
        self.assertEqual(self.sign_in(shown(secret, self.now - 300)), (401, "access.wrong_second"))

    def test_a_secret_that_was_begun_is_not_asked_for(self) -> None:
        first = self.oda.post("/api/own/second/").json()
        self.assertEqual(self.oda.post("/api/own/second/").json(), first)  # pressed twice
        wrong = self.put("/api/own/second/", {"code": "000000"})
        self.assertEqual((wrong.status_code, wrong.json()["code"]), (422, "second.code"))
        self.assertEqual(self.sign_in(), (200, ""))
        self.assertFalse(self.oda.get("/api/own/second/").json()["on"])

    def test_recovery_codes(self) -> None:
        _, codes = self.set_up()
        self.assertEqual(len(set(codes)), 10)
        kept = "".join(StaticToken.objects.values_list("token", flat=True))
        self.assertFalse([code for code in codes if code[:5] in kept or code[6:] in kept])
        self.assertEqual(self.sign_in(codes[0].upper().replace("-", " ")), (200, ""))
        self.assertEqual(self.sign_in(codes[0]), (401, "access.wrong_second"))
        self.assertEqual(self.oda.get("/api/own/second/").json()["codes_left"], 9)
        made = self.oda.post("/api/own/second/codes/").json()["codes"]
        self.assertEqual(self.sign_in(codes[1]), (401, "access.wrong_second"))
        self.assertEqual(self.sign_in(made[1]), (200, ""))

    def test_wrong_ones_wait_wherever_they_are_tried_and_a_missing_one_is_no_try(self) -> None:
        secret, _ = self.set_up()
        for _ in range(6):
            self.assertEqual(self.sign_in(), (401, "access.second"))
        for place in ("10.0.0.1", "10.0.0.2", "10.0.0.3"):
            body = {**ODA, "second": "123456"}
            APIClient(REMOTE_ADDR=place).post("/api/session/", body, format="json")
        self.assertEqual(self.sign_in(shown(secret, self.now))[0], 429)
        Tries.objects.all().delete()
        self.assertEqual(self.sign_in(shown(secret, self.now)), (200, ""))

    def test_a_wrong_password_learns_nothing_of_it(self) -> None:
        self.set_up()
        body = {**ODA, "password": "harbour-odd", "second": "123456"}
        answer = APIClient().post("/api/session/", body, format="json")
        self.assertEqual(answer.json()["code"], "access.wrong_password")

    def test_a_link_alone_does_not_come_in_and_a_pin_at_a_bench_does(self) -> None:
        secret, _ = self.set_up()
        other = self.lead_beside()
        path = f"/api/people/{Person.objects.get(username='oda').pk}/welcome/"
        link = other.put(f"{path}7c3c8e5e-7f1c-4f7e-9f44-1f0c1a0f0a11/").json()["path"]
        chosen = {"password": "four wet ropes", "pin": "2580"}
        answer = APIClient().post(f"/api{link}/", chosen, format="json")
        self.assertEqual((answer.status_code, answer.json()["signed_in"]), (200, False))
        body = {**ODA, "password": "four wet ropes", "second": shown(secret, self.now)}
        self.assertEqual(APIClient().post("/api/session/", body, format="json").status_code, 200)
        bench = APIClient()
        bench.post("/api/session/", {"username": "mira", "password": "harbour-mira"}, format="json")
        tablet = other.post(
            "/api/tablets/",
            {"id": "7c3c8e5e-7f1c-4f7e-9f44-1f0c1a0f0a12", "name": "Bench 7"},
            format="json",
        )
        self.assertEqual(tablet.status_code, 201, tablet.content)
        answer = other.post("/api/doorway/", {"username": "oda", "pin": "2580"}, format="json")
        self.assertEqual(answer.status_code, 200, answer.content)

    def lead_beside(self) -> APIClient:
        """Another lead, signed in by password."""
        lund = Person(username="lund", name="Lund", role="lead")
        lund.set_password("harbour-lund")
        lund.save()
        client = APIClient()
        client.post(
            "/api/session/", {"username": "lund", "password": "harbour-lund"}, format="json"
        )
        return client

    def test_cleared_by_oneself_by_another_lead_and_from_the_machine(self) -> None:
        self.set_up()
        self.assertFalse(self.oda.delete("/api/own/second/").json()["on"])
        self.assertEqual(self.sign_in(), (200, ""))
        self.set_up()
        oda, other = Person.objects.get(username="oda"), self.lead_beside()
        line = next(p for p in other.get("/api/people/").json()["people"] if p["id"] == oda.pk)
        self.assertTrue(line["second"])
        for _ in range(2):
            answer = other.delete(f"/api/people/{oda.pk}/second/")
            self.assertEqual(answer.status_code, 204)
        self.assertEqual(self.sign_in(), (200, ""))
        self.set_up()
        call_command("first_lead", oda.name, again=True, verbosity=0)
        self.assertEqual(self.sign_in(), (200, ""))

    def test_who_may_not(self) -> None:
        secret, _ = self.set_up()
        oda = Person.objects.get(username="oda")
        for name in ("mira", "runa", "piet"):
            client = APIClient()
            body = {"username": name, "password": f"harbour-{name}"}
            client.post("/api/session/", body, format="json")
            self.assertEqual(client.post("/api/own/second/").status_code, 403)
            self.assertEqual(client.delete(f"/api/people/{oda.pk}/second/").status_code, 403)
        self.assertEqual(APIClient().get("/api/own/second/").status_code, 401)
        # nor does a tablet somebody walked away from
        for do in (self.oda.delete, self.oda.post):
            session = self.oda.session
            session["proved"] = 0
            session.save()
            answer = do("/api/own/second/")
            self.assertEqual((answer.status_code, answer.json()["code"]), (403, "access.prove"))
        self.assertTrue(services.is_right(oda, shown(secret, self.now)))

    def test_told_at_the_next_sign_in(self) -> None:
        _, codes = self.set_up()
        body = {**ODA, "second": codes[0]}
        news = " ".join(APIClient().post("/api/session/", body, format="json").json()["news"])
        self.assertIn("a second factor was set up for you", news)
        self.assertIn("one of your recovery codes was used", news)

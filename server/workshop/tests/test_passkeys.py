"""A lead's passkeys: made and shown under the workshop's name, and nothing else opens."""

import json
import time
from typing import Any
from unittest import mock

from demo.testing import WorkshopTestCase
from django.test import override_settings
from django_otp.plugins.otp_static.models import StaticToken
from rest_framework.test import APIClient

from workshop.models import Person, Trace, Tries
from workshop.second.models import Passkey

from .authenticator import Authenticator

ODA = {"username": "oda", "password": "harbour-oda"}
HOST, ORIGIN = "bench.local", "https://bench.local"
MADE, OWN = "/api/own/second/passkeys/", "/api/own/second/"


class Tablet(APIClient):
    """It comes by this name, encrypted or not."""

    def __init__(self, host: str, scheme: str) -> None:
        super().__init__(SERVER_NAME=host)
        self.safe = scheme == "https"

    def generic(self, *told: Any, **more: Any) -> Any:
        return super().generic(*told, **{**more, "secure": self.safe})


def tablet(host: str = HOST, scheme: str = "https") -> Tablet:
    return Tablet(host, scheme)


@override_settings(ALLOWED_HOSTS=[HOST, "bench", "10.0.0.9", "localhost", "testserver"])
class PasskeyCase(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.oda, self.device = tablet(), Authenticator()
        self.oda.post("/api/session/", ODA, format="json")

    def put(self, answer: object, name: str = "The bench's tablet") -> Any:
        told = answer if isinstance(answer, str) else json.dumps(answer)
        return self.oda.put(MADE, {"answer": told, "name": name}, format="json")

    def made(self) -> list[str]:
        """One made; the recovery codes."""
        options = self.oda.post(MADE).json()["options"]
        answer = self.put(self.device.make(options, ORIGIN))
        self.assertEqual(answer.status_code, 200, answer.content)
        codes: list[str] = answer.json()["codes"]
        return codes

    def sign_in(self, at: APIClient, **more: Any) -> tuple[int, Any]:
        answer = at.post("/api/session/", {**ODA, **more}, format="json")
        return answer.status_code, answer.json()

    def asked(self, at: APIClient) -> str:
        status, said = self.sign_in(at)
        self.assertEqual((status, said["code"]), (401, "access.second"))
        options: str = said["passkey"]
        return options

    def shown(self, at: APIClient, answer: object) -> int:
        return self.sign_in(at, passkey=json.dumps(answer))[0]


class PasskeyTests(PasskeyCase):
    def test_made_asked_for_shown_and_removed(self) -> None:
        codes = self.made()
        self.assertEqual(len(codes), 10)
        page = self.oda.get(OWN).json()
        self.assertTrue(page["on"])
        self.assertEqual([one["host"] for one in page["passkeys"]], [HOST])
        there = tablet()
        self.assertEqual(self.shown(there, self.device.show(self.asked(there), ORIGIN)), 200)
        self.assertEqual(there.get("/api/session/").json()["username"], "oda")
        self.assertEqual(
            self.sign_in(tablet(), second=codes[0])[0], 200
        )  # nor is the device needed
        gone = self.oda.delete(f"{MADE}{page['passkeys'][0]['id']}/").json()
        self.assertEqual((gone["on"], gone["codes_left"]), (False, 0))
        self.assertEqual(self.sign_in(tablet())[0], 200)
        self.assertEqual(StaticToken.objects.count(), 0)
        acts = set(Trace.objects.filter(about="person/oda").values_list("act", flat=True))
        self.assertLessEqual({"passkey made", "passkey removed"}, acts)

    def test_a_second_one_leaves_the_recovery_codes(self) -> None:
        codes = self.made()
        self.device = Authenticator()
        self.assertEqual(self.made(), [])
        self.assertEqual(self.sign_in(tablet(), second=codes[3])[0], 200)

    def test_each_question_is_good_once_and_not_for_long(self) -> None:
        self.made()
        there = tablet()
        shown = self.device.show(self.asked(there), ORIGIN)
        self.assertEqual(self.shown(there, shown), 200)
        self.assertEqual(self.shown(there, shown), 401)
        there = tablet()
        late = self.device.show(self.asked(there), ORIGIN)
        with mock.patch("workshop.second.passkeys.time") as clock:
            clock.time.return_value = time.time() + 301
            self.assertEqual(self.shown(there, late), 401)

    def test_what_was_asked_in_one_browser_is_not_answered_in_another(self) -> None:
        self.made()
        options, there = self.asked(tablet()), tablet()
        self.asked(there)
        self.assertEqual(self.shown(there, self.device.show(options, ORIGIN)), 401)

    def test_what_it_showed_wrongly_opens_nothing_and_it_is_asked_anew(self) -> None:
        self.made()
        there = tablet()
        for origin, device in (
            ("https://bench.local.elsewhere", self.device),  # another site, under a name like ours
            ("http://bench.local", self.device),
            (ORIGIN, Authenticator()),  # a device nobody knows
        ):
            with self.subTest(origin):
                self.assertEqual(self.shown(there, device.show(self.asked(there), origin)), 401)
                Tries.objects.all().delete()
        status, said = self.sign_in(there, passkey="{}")
        self.assertEqual((status, said["code"]), (401, "access.wrong_second"))
        self.assertEqual(self.shown(there, self.device.show(said["passkey"], ORIGIN)), 200)

    def test_a_copied_device_is_noticed(self) -> None:
        """W3C Web Authentication, level 3, 7.2, step 22: a count that does not go up is a copy's."""
        self.made()
        there = tablet()
        self.device.count = 7
        self.assertEqual(self.shown(there, self.device.show(self.asked(there), ORIGIN)), 200)
        self.device.count = 3
        there = tablet()
        self.assertEqual(self.shown(there, self.device.show(self.asked(there), ORIGIN)), 401)

    def test_anothers_passkey_is_not_ones_own(self) -> None:
        self.made()
        Passkey.objects.update(user=Person.objects.get(username="mira"))
        mine = Authenticator()
        options = self.oda.post(MADE).json()["options"]
        self.assertEqual(self.put(mine.make(options, ORIGIN)).status_code, 200)
        there = tablet()
        self.assertEqual(self.shown(there, self.device.show(self.asked(there), ORIGIN)), 401)

    def test_none_is_made_by_number_or_unencrypted_and_the_name_is_told(self) -> None:
        for host, scheme in (("10.0.0.9", "https"), (HOST, "http")):
            with self.subTest(host, scheme=scheme):
                self.oda = tablet(host, scheme)
                self.oda.post("/api/session/", ODA, format="json")
                page = self.oda.get(OWN).json()
                self.assertEqual((page["here"], page["by_name"]), ("", f"{scheme}://{HOST}/"))
                refused = self.oda.post(MADE)
                self.assertEqual(
                    (refused.status_code, refused.json()["code"]), (422, "second.by_number")
                )

    def test_where_links_lead_by_number_no_name_is_told(self) -> None:
        with override_settings(ALLOWED_HOSTS=["10.0.0.9", HOST]):
            page = tablet("10.0.0.9")
            page.post("/api/session/", ODA, format="json")
            self.assertEqual(page.get(OWN).json()["by_name"], "")

    def test_who_comes_by_another_name_is_asked_for_a_code(self) -> None:
        codes = self.made()
        at = tablet("bench")
        _, said = self.sign_in(at)
        self.assertEqual((said["code"], said.get("passkey")), ("access.second", None))
        self.assertEqual(self.sign_in(at, second=codes[0])[0], 200)

    def test_what_is_no_passkey_is_refused_with_a_sentence(self) -> None:
        for answer in (
            "",
            "[]",
            "{}",
            "null",
            "\x00",
            '{"rawId":"a"}',
            "{" * 4000,
            '{"id": 1e999}',
        ):
            with self.subTest(answer[:9]):
                self.oda.post(MADE)
                refused = self.put(answer)
                self.assertIn(refused.status_code, (400, 422), refused.content)
        good = self.device.make(self.oda.post(MADE).json()["options"], ORIGIN)
        for spoilt in (
            {**good, "clientExtensionResults": 7},
            {**good, "response": {**good["response"], "attestationObject": "oWF4"}},
            {**good, "response": []},
            {**good, "rawId": "AAAA"},
        ):
            with self.subTest(str(spoilt)[-40:]):
                self.oda.post(MADE)
                self.assertEqual(self.put(spoilt).status_code, 422)
        self.assertEqual(self.put(good).json()["code"], "second.no_passkey")  # nothing was asked
        self.assertFalse(Passkey.objects.exists())

    def test_the_same_device_twice_is_one(self) -> None:
        self.made()
        again = self.device.make(self.oda.post(MADE).json()["options"], ORIGIN)
        self.assertEqual(self.put(again).status_code, 409)
        self.assertEqual(Passkey.objects.count(), 1)

    def test_ten_are_the_most(self) -> None:
        for _ in range(10):
            self.device = Authenticator()
            self.made()
        refused = self.oda.post(MADE)
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "second.many"))

    def test_a_lead_clears_anothers_and_a_technician_makes_none(self) -> None:
        self.made()
        mira = tablet()
        mira.post("/api/session/", {"username": "mira", "password": "harbour-mira"}, format="json")
        self.assertEqual(mira.post(MADE).status_code, 403)
        oda = Person.objects.get(username="oda")
        self.assertEqual(self.oda.delete(f"/api/people/{oda.pk}/second/").status_code, 204)
        self.assertEqual(self.sign_in(tablet())[0], 200)

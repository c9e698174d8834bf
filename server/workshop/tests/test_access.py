from typing import Any

from config import settings as in_use
from demo.testing import WorkshopTestCase
from django.contrib.auth.hashers import make_password
from django.test import override_settings
from rest_framework.test import APIClient

from workshop.models import Person

GOOD = {"username": "mira", "password": "harbour-mira"}
BAD = {"username": "mira", "password": "wrong"}


class SignInTests(WorkshopTestCase):
    def browser(self) -> APIClient:
        """A client that has the CSRF cookie and checks it."""
        client = APIClient(enforce_csrf_checks=True)
        client.get("/api/session/")
        client.credentials(HTTP_X_CSRFTOKEN=client.cookies["csrftoken"].value)
        return client

    def test_signing_in_and_out(self) -> None:
        client = self.browser()
        self.assertFalse(client.get("/api/session/").json()["signed_in"])
        session = client.post("/api/session/", GOOD, format="json").json()
        self.assertEqual((session["name"], session["role"]), ("Mira", "technician"))
        client.credentials(HTTP_X_CSRFTOKEN=client.cookies["csrftoken"].value)
        self.assertEqual(client.get("/api/ward/").status_code, 200)
        client.delete("/api/session/")
        self.assertEqual(client.get("/api/ward/").status_code, 401)

    def test_a_password_kept_by_an_earlier_release_still_opens_and_is_kept_anew(self) -> None:
        with override_settings(PASSWORD_HASHERS=in_use.PASSWORD_HASHERS):
            kept = make_password(GOOD["password"], hasher="pbkdf2_sha256")
            Person.objects.filter(username="mira").update(password=kept)
            for _ in range(2):
                client = self.browser()
                self.assertEqual(client.post("/api/session/", BAD, format="json").status_code, 401)
                self.assertEqual(client.post("/api/session/", GOOD, format="json").status_code, 200)
                self.assertEqual(client.get("/api/ward/").status_code, 200)
                self.assertRegex(Person.objects.get(username="mira").password, r"^scrypt\$")

    def test_without_the_csrf_token_nobody_signs_in_or_writes(self) -> None:
        client = APIClient(enforce_csrf_checks=True)
        self.assertEqual(client.post("/api/session/", GOOD, format="json").status_code, 403)
        client.force_login(Person.objects.get(username="mira"))
        self.assertEqual(client.post("/api/visits/", {}, format="json").status_code, 403)

    def test_wrong_password_is_said_and_throttled(self) -> None:
        client = self.browser()
        answer = client.post("/api/session/", BAD, format="json")
        self.assertEqual(answer.status_code, 401)
        self.assertIn("do not fit together", self.sentence(answer))
        codes = [client.post("/api/session/", BAD, format="json").status_code for _ in range(4)]
        self.assertEqual(codes[-1], 429)
        slow = client.post("/api/session/", GOOD, format="json")
        self.assertEqual(slow.status_code, 429)
        self.assertIn("Retry-After", slow)

    def test_no_header_steps_round_the_waits(self) -> None:
        client = self.browser()

        def last_of(count: int, header: str) -> int:
            for n in range(count):
                says = {header: f"10.0.0.{n}"}
                answer = client.post("/api/session/", BAD, format="json", **says)
            return int(answer.status_code)

        self.assertEqual(last_of(9, "HTTP_X_FORWARDED_FOR"), 429)
        self.assertEqual(last_of(9, "REMOTE_ADDR"), 401)

    def test_a_success_clears_the_count(self) -> None:
        client = self.browser()
        for _ in range(4):
            for _ in range(2):
                client.post("/api/session/", BAD, format="json")
            self.assertEqual(client.post("/api/session/", GOOD, format="json").status_code, 200)
            client = self.browser()


class RightsTests(WorkshopTestCase):
    READ = ("/api/ward/", "/api/bikes/{bike}/", "/api/amount/?kind=volume&text=1+l")

    def test_signed_out_gets_401_everywhere(self) -> None:
        for path in self.READ:
            with self.subTest(path):
                answer = APIClient().get(path.format(bike=self.heron.pk))
                self.assertEqual(answer.status_code, 401)
                self.assertEqual(answer["Content-Type"], "application/problem+json")
        self.assertEqual(APIClient().post("/api/visits/", {}, format="json").status_code, 401)

    def test_a_reader_reads_and_writes_nothing(self) -> None:
        reader = self.signed_in("piet")
        for path in self.READ:
            with self.subTest(path):
                self.assertEqual(reader.get(path.format(bike=self.heron.pk)).status_code, 200)
        answer = reader.post("/api/visits/", {}, format="json")
        self.assertEqual(answer.status_code, 403)
        self.assertIn("Your role may look", self.sentence(answer))

    def test_what_is_not_there_is_404(self) -> None:
        answer = self.api.get("/api/boats/")
        self.assertEqual((answer.status_code, answer.json()["code"]), (404, "not_found"))
        nobody = "00000000-0000-4000-8000-000000000000"
        for path in (f"/api/bikes/{nobody}/", f"/api/visits/{nobody}/"):
            with self.subTest(path):
                self.assertEqual(self.api.get(path).status_code, 404)
        entry = {"id": nobody, "step": "cold", "kind": "confirm", "at": "now", "data": {}}
        for path in ("entries", "signature", "leave"):
            body = entry if path == "entries" else {"reason": "x"}
            with self.subTest(path):
                answer = self.api.post(f"/api/visits/{nobody}/{path}/", body, format="json")
                self.assertEqual(answer.status_code, 404)


class AmountTests(WorkshopTestCase):
    def ask(self, **query: str) -> object:
        return self.api.get("/api/amount/", query)

    def test_says_back_what_was_understood(self) -> None:
        answer = self.ask(kind="volume", text="2.5 qt").json()
        self.assertEqual(answer["words"], "2366 ml")
        answer = self.ask(kind="torque", text="186 in-lb", unit="lbf·ft").json()
        self.assertAlmostEqual(answer["number"], 15.5, places=4)

    def test_quick_sums(self) -> None:
        for text, words in (
            ("2.7 l - 2.5 qt", "334 ml"),
            ("38 oz in qt", "1.19 qt"),
            ("mid 14-21 ft-lb in Nm", "23.7 N·m"),
            ("3 x 946 ml", "2838 ml"),
        ):
            with self.subTest(text):
                answer = self.api.get("/api/quick-sum/", {"text": text})
                self.assertEqual(answer.json()["words"], words)
        mixed = self.api.get("/api/quick-sum/", {"text": "2.7 l - 20 Nm"})
        self.assertEqual(mixed.status_code, 422)
        self.assertEqual(self.sentence(mixed), "A volume and a torque do not add up.")

    def test_asks_or_refuses_in_sentences(self) -> None:
        for text, words in (
            ("20 N·m", "That is a torque. This field wants a volume"),
            ("2,750 l", "Is that 2.75 l or 2750 l?"),
            ("", "Nothing typed yet"),
            ("-1 l", "cannot be below zero"),
            ("5 flurbs", "“flurbs” is no unit we know"),
        ):
            with self.subTest(text):
                answer = self.ask(kind="volume", text=text)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, self.sentence(answer))


class PricesTests(WorkshopTestCase):
    GOOD: dict[str, Any] = {
        "version": 1,
        "coldest_start": "−12 °C",
        "hour_price": "72,50",
        "flat_price": "150",
    }

    def put(self, who: str = "oda", **more: Any) -> Any:
        return self.signed_in(who).put(
            "/api/workshop/settings/", {**self.GOOD, **more}, format="json"
        )

    def test_a_lead_sets_them_and_everybody_sees_them(self) -> None:
        self.assertEqual(self.put("mira").status_code, 403)
        self.assertEqual(self.put().json()["hour_price"], "72.50")
        seen = self.signed_in("piet").get("/api/workshop/settings/").json()
        self.assertEqual(seen["coldest_start"], "-12")

    def test_two_leads_do_not_write_over_each_other(self) -> None:
        for _ in range(2):
            self.assertEqual(self.put().json()["version"], 2)
        late = self.put(hour_price="80")
        self.assertEqual(late.status_code, 409)
        self.assertEqual(self.put(hour_price="80", version=2).json()["hour_price"], "80.00")

    def test_bad_values_name_their_field(self) -> None:
        for field, value in (
            ("coldest_start", "arctic"),
            ("coldest_start", "-90"),
            ("hour_price", ""),
            ("flat_price", "1e99"),
        ):
            answer = self.put(**{field: value})
            self.assertEqual(answer.status_code, 422)
            self.assertEqual(answer.json()["errors"][0]["pointer"], f"/{field}")

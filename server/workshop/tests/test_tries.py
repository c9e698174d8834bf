"""Who may try how often, from where, and that a hundred tries at once are a hundred."""

from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from threading import Event, Thread
from uuid import uuid4

from demo.testing import WorkshopTestCase
from django.db import connection
from django.test import SimpleTestCase, TransactionTestCase
from django.utils import timezone
from rest_framework.exceptions import Throttled
from rest_framework.test import APIClient

from workshop.hashing import Busy, Turns
from workshop.models import Person, Tries
from workshop.tries import FREE, forget, tried

ANNA = Person(username="anna")


class WaitTests(WorkshopTestCase):
    def test_each_wrong_one_after_the_third_waits_longer(self) -> None:
        now, waited = timezone.now(), list[int]()
        for _ in range(9):
            tried("anna", "bench 1", lambda: None, now)
            until = Tries.objects.get().until or now
            waited.append(round((until - now).total_seconds() / 60))
            now = until
        self.assertEqual(waited, [0, 0, 1, 2, 4, 8, 15, 15, 15])

    def test_what_could_not_be_looked_at_is_no_try(self) -> None:
        def busy() -> None:
            raise Busy

        for _ in range(FREE + 2):
            with self.assertRaises(Busy):
                tried("anna", "bench 1", busy)
        self.assertIs(tried("anna", "bench 1", lambda: ANNA), ANNA)

    def test_a_right_one_begins_anew(self) -> None:
        for _ in range(5):
            for _ in range(FREE - 1):
                tried("anna", "bench 1", lambda: None)
            self.assertIs(tried("anna", "bench 1", lambda: ANNA), ANNA)

    def test_nothing_is_looked_at_while_it_waits(self) -> None:
        now, looked = timezone.now(), list[int]()

        def look() -> None:
            looked.append(1)

        for _ in range(20):
            try:
                tried("anna", "bench 1", look, now)
            except Throttled:
                continue
        self.assertEqual(len(looked), FREE)
        # elsewhere and for others nothing waits
        self.assertIs(tried("anna", "bench 2", lambda: ANNA, now), ANNA)
        self.assertIs(tried("bert", "bench 1", lambda: ANNA, now), ANNA)

    def test_tries_of_days_ago_are_forgotten(self) -> None:
        now = timezone.now()
        tried("anna", "bench 1", lambda: None, now - timedelta(days=2))
        tried("bert", "bench 1", lambda: None, now)
        forget(now)
        self.assertEqual(Tries.objects.count(), 1)


class AtOnceTests(TransactionTestCase):
    def test_a_hundred_tries_at_once_are_a_hundred(self) -> None:
        now, looked = timezone.now(), list[int]()

        def one(_: int) -> None:
            try:
                tried("anna", "bench 1", lambda: looked.append(1), now)
            except Throttled:
                return
            finally:
                connection.close()

        with ThreadPoolExecutor(12) as pool:
            list(pool.map(one, range(100)))
        self.assertEqual(len(looked), FREE)


class TurnTests(SimpleTestCase):
    def test_one_at_a_time_and_few_that_wait(self) -> None:
        turns, go, inside, busy = Turns(2), Event(), list[int](), list[int]()

        def one() -> None:
            try:
                with turns.turn():
                    inside.append(1)
                    go.wait(10)
            except Busy:
                busy.append(1)

        threads = [Thread(target=one) for _ in range(8)]
        for thread in threads:
            thread.start()
        while len(busy) < 5:
            pass
        self.assertEqual(len(inside), 1)
        go.set()
        for thread in threads:
            thread.join()
        self.assertEqual((len(inside), len(busy), turns.waiting), (3, 5, 0))


class DoorTests(WorkshopTestCase):
    def tablet(self, name: str, address: str = "127.0.0.1") -> APIClient:
        device = APIClient(REMOTE_ADDR=address)
        device.force_login(Person.objects.get(username="oda"))
        body = {"id": str(uuid4()), "name": name}
        self.assertEqual(device.post("/api/tablets/", body, format="json").status_code, 201)
        return device

    def pin_of(self, who: str, pin: str) -> None:
        body = {"current": f"harbour-{who}", "pin": pin}
        answer = self.signed_in(who).put("/api/own/pin/", body, format="json")
        self.assertEqual(answer.status_code, 200)

    def tap(self, device: APIClient, who: str, pin: str) -> int:
        body = {"username": who, "pin": pin}
        return int(device.post("/api/doorway/", body, format="json").status_code)

    def test_a_right_pin_is_never_held_up_by_tries_made_elsewhere(self) -> None:
        self.pin_of("mira", "2580")
        left, right = self.tablet("left"), self.tablet("right")
        stranger = APIClient(REMOTE_ADDR="10.9.9.9")
        for n in range(40):
            body = {"username": "mira", "password": f"guess {n}"}
            stranger.post("/api/session/", body, format="json")
            stranger.get(f"/api/welcome/{n}/")
            self.tap(left, "mira", "9999")
            self.tap(stranger, "mira", "9999")
        self.assertEqual(self.tap(left, "mira", "2580"), 429)
        self.assertEqual(self.tap(right, "mira", "2580"), 200)
        # and the PIN is there when the wait is over
        Tries.objects.all().delete()
        self.assertEqual(self.tap(left, "mira", "2580"), 200)

    def test_people_behind_one_address_do_not_hold_each_other_up(self) -> None:
        for _ in range(12):
            wrong = {"username": "mira", "password": "wrong"}
            APIClient().post("/api/session/", wrong, format="json")
            right = {"username": "oda", "password": "harbour-oda"}
            answer = APIClient().post("/api/session/", right, format="json")
            self.assertEqual(answer.status_code, 200)
        answer = APIClient().post("/api/session/", wrong, format="json")
        self.assertEqual(answer.status_code, 429)
        self.assertIn("Wait 1 min", answer.json()["detail"])
        self.assertLessEqual(int(answer["Retry-After"]), 60)

    def test_whoever_tries_a_leads_name_hurts_themselves_alone(self) -> None:
        self.pin_of("oda", "1379")
        device = self.tablet("left")
        self.tap(device, "oda", "1379")
        mira = self.signed_in("mira")
        visit = uuid4()
        for n in range(14):
            for password in ("", "9999"):
                body = {"username": "oda", "password": password}
                code = mira.post(f"/api/visits/{visit}/signature/", body, format="json").status_code
                self.assertEqual(code, 429 if password and n >= FREE else 422)
        # whoever tries from another device is the same one
        other = self.signed_in("mira")
        other.defaults["REMOTE_ADDR"] = "10.8.8.8"
        body = {"username": "oda", "password": "9998"}
        answer = other.post(f"/api/visits/{visit}/signature/", body, format="json")
        self.assertEqual(answer.status_code, 429)
        self.assertEqual(self.tap(device, "oda", "1379"), 200)
        lead = {"username": "oda", "password": "harbour-oda"}
        self.assertEqual(APIClient().post("/api/session/", lead, format="json").status_code, 200)

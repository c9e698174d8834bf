"""What changed, told as it happens: by the real events process, to real readers."""

import http.client
import os
import statistics
import subprocess
import sys
import time
from datetime import UTC, datetime
from uuid import uuid4

from config.settings import ROOT
from config.tests.test_kills import free_port
from demo.races import RaceTestCase
from django.db import connection, transaction
from visits.tests.bench import Technician
from workshop.announce import announce


class Told:
    """A tablet that is told."""

    def __init__(self, port: int, session: str, query: str = "", **headers: str) -> None:
        self.line = http.client.HTTPConnection("127.0.0.1", port, timeout=10)
        cookie = {"Cookie": f"sessionid={session}"} if session else {}
        self.line.request("GET", f"/events/{query}", headers={**cookie, **headers})
        self.answer = self.line.getresponse()

    def next(self) -> str:
        """The next thing told; waits for it."""
        while True:
            line = self.answer.readline().decode().strip()
            if line.startswith("data: "):
                return line.removeprefix("data: ")

    def close(self) -> None:
        self.line.close()


class LiveTests(RaceTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.port = free_port()
        at = connection.settings_dict
        env = {
            **os.environ,
            "OILWARD_DB_HOST": str(at["HOST"]),
            "OILWARD_DB_PORT": str(at["PORT"]),
            "OILWARD_DB_NAME": str(at["NAME"]),
            "OILWARD_DB_USER": str(at["USER"]),
            "OILWARD_DB_PASSWORD": str(at["PASSWORD"]),
        }
        words = [sys.executable, "-m", "uvicorn", "config.events:application"]
        words += ["--port", str(self.port), "--log-level", "critical"]
        self.process = subprocess.Popen(words, cwd=ROOT / "server", env=env)
        self.addCleanup(self.process.wait)
        self.addCleanup(self.process.kill)
        self.mira = Technician(self.signed_in("mira"), self.heron.pk)
        self.session = self.mira.api.cookies["sessionid"].value
        self._until_up()

    def _until_up(self) -> None:
        until = time.monotonic() + 20
        while time.monotonic() < until:
            try:
                told = Told(self.port, self.session)
            except OSError:
                time.sleep(0.1)
                continue
            # it listens once the database has been heard
            for _ in range(100):
                announce("up")
                if told.next() in ("up", "again"):
                    told.close()
                    return
        self.fail("the events process did not come up")

    def test_an_entry_is_told_to_who_watches_its_visit_and_to_nobody_else(self) -> None:
        self.mira.open()
        mine = Told(self.port, self.session, f"?topic=visit/{self.mira.visit}")
        other = Told(self.port, self.session, f"?topic=visit/{uuid4()}&topic=x")
        everything = Told(self.port, self.session)
        delays = []
        for _ in range(10):
            begun = time.perf_counter()
            announce(f"visit/{self.mira.visit}")
            self.assertEqual(mine.next(), f"visit/{self.mira.visit}")
            delays.append((time.perf_counter() - begun) * 1000)
        self.assertEqual(self.mira.tick().status_code, 200, self.mira.last.content)
        self.assertEqual(mine.next(), f"visit/{self.mira.visit}")
        self.assertEqual(everything.next(), f"visit/{self.mira.visit}")
        announce("x")
        self.assertEqual(other.next(), "x")  # of the visit it was told nothing before
        print(
            f"told after {statistics.median(delays):.1f} ms, at most {max(delays):.1f}", flush=True
        )

    def test_what_did_not_come_to_pass_is_not_told(self) -> None:
        watch = Told(self.port, self.session)
        with transaction.atomic():
            announce("never")
            transaction.set_rollback(True)
        announce("after")
        self.assertEqual(watch.next(), "after")

    def test_only_who_is_signed_in_is_told_and_only_pages_of_this_house_may_read(self) -> None:
        self.assertEqual(Told(self.port, "").answer.status, 401)
        self.assertEqual(Told(self.port, "made up").answer.status, 401)
        self.assertEqual(Told(self.port, self.session, "../x").answer.status, 404)
        house = Told(self.port, self.session, Origin="http://127.0.0.1:8000")
        self.assertEqual(
            house.answer.getheader("access-control-allow-origin"), "http://127.0.0.1:8000"
        )
        far = Told(self.port, self.session, Origin="http://elsewhere.example")
        self.assertIsNone(far.answer.getheader("access-control-allow-origin"))
        for told in (house, far):
            told.close()

    def test_one_person_holds_so_many_streams_and_others_still_get_theirs(self) -> None:
        held = [Told(self.port, self.session) for _ in range(60)]
        statuses = [told.answer.status for told in held]
        self.assertEqual(statuses.count(200), 20)
        self.assertEqual(statuses.count(429), 40)
        oda = self.signed_in("oda").cookies["sessionid"].value
        other = Told(self.port, oda)
        announce("x")
        self.assertEqual(other.next(), "x")
        # one that is closed makes room for another
        for told in (*held, other):
            told.close()
        for _ in range(50):
            if (again := Told(self.port, self.session)).answer.status == 200:
                break
            time.sleep(0.1)
        self.assertEqual(again.answer.status, 200)
        again.close()

    def test_a_database_that_went_away_is_heard_again_and_nothing_is_missed(self) -> None:
        watch = Told(self.port, self.session)
        with connection.cursor() as cursor:
            cursor.execute("RESET ROLE")
            cursor.execute(
                "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE query LIKE 'LISTEN%'"
            )
        self.assertEqual(watch.next(), "again")
        announce("after")
        self.assertEqual(watch.next(), "after")


class MarkTests(RaceTestCase):
    def test_a_sheet_that_is_as_it_was_is_not_sent_again_but_its_clock_goes_on(self) -> None:
        mira = Technician(self.signed_in("mira"), self.heron.pk)
        mira.open()
        url = f"/api/visits/{mira.visit}/"
        first = mira.api.get(url)
        self.assertEqual(first.json()["state"], "open")
        mark = first["ETag"]
        same = mira.api.get(url, headers={"If-None-Match": mark})
        self.assertEqual((same.status_code, same.content), (304, b""))
        self.assertLess(
            abs((datetime.fromisoformat(same["Oil-Ward-Now"]) - datetime.now(UTC)).total_seconds()),
            5,
        )
        oda = self.signed_in("oda").get(url, headers={"If-None-Match": mark})
        self.assertEqual(oda.status_code, 200)  # she reads it in her own units
        changes = {
            "an entry": mira.tick,
            "a bottle": lambda: self.drawn(mira),
            "a tip": lambda: self.tip(mira),
            "a reservoir": lambda: mira._post(f"{url}tasks/", {"reservoir": "front brake"}),
            "left": lambda: mira.leave("wrong bike"),
        }
        for what, change in changes.items():
            with self.subTest(what):
                self.assertLess(change().status_code, 300, mira.last.content)
                answer = mira.api.get(url, headers={"If-None-Match": mark})
                self.assertEqual(answer.status_code, 200)
                self.assertNotEqual(answer["ETag"], mark)
                mark = answer["ETag"]

    def test_who_writes_is_told_what_the_answer_is_told_apart_by(self) -> None:
        mira = Technician(self.signed_in("mira"), self.heron.pk)
        mira.open()
        url = f"/api/visits/{mira.visit}/"
        answer = mira.tick()
        same = mira.api.get(url, headers={"If-None-Match": answer["ETag"]})
        self.assertEqual(same.status_code, 304)
        # what a colleague writes meanwhile is not mistaken for it
        oda = Technician(self.signed_in("oda"), self.heron.pk)
        oda.visit, oda.now, oda.sheet = mira.visit, mira.now, mira.sheet
        oda.entry("takes")
        told = mira.api.get(url, headers={"If-None-Match": answer["ETag"]})
        self.assertEqual(told.status_code, 200)
        self.assertIn("Oda", [step["taken_by"] for step in told.json()["steps"]])

    def tip(self, mira: Technician) -> object:
        tip = {"id": str(uuid4()), "step": mira.sheet["focus"], "text": "panel first", "tools": ""}
        return mira.api.post(f"/api/visits/{mira.visit}/tips/", tip, format="json")

    def drawn(self, mira: Technician) -> object:
        bottle = mira.api.get("/api/shelf/stock/").json()["bottles"][0]["id"]
        use = {"act": str(uuid4()), "id": bottle, "used": "10 ml", "gone": False}
        return mira.api.post("/api/shelf/bottles/", use, format="json")

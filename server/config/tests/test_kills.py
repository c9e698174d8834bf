"""Three hundred entries while workers and master are killed: nothing lost, nothing doubled."""

import json
import os
import random
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from http.cookiejar import CookieJar
from itertools import pairwise
from pathlib import Path
from typing import Any
from urllib.error import HTTPError, URLError
from uuid import uuid4

from demo.races import RaceTestCase
from demo.testing import WIDE
from django.db import connection
from visits.models import EntryRow
from visits.tests.bench import Technician

from config.settings import ROOT

ENTRIES, KILL_EVERY = (300 if WIDE else 150), 25


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class Served:
    """Gunicorn on the test's database, as ./ward runs it."""

    def __init__(self) -> None:
        self.port = free_port()
        at = connection.settings_dict
        self.env = {
            **os.environ,
            "DJANGO_SETTINGS_MODULE": "config.settings_test",
            "OILWARD_DB_HOST": str(at["HOST"]),
            "OILWARD_DB_PORT": str(at["PORT"]),
            "OILWARD_DB_NAME": str(at["NAME"]),
            "OILWARD_DB_USER": str(at["USER"]),
            "OILWARD_DB_PASSWORD": str(at["PASSWORD"]),
            "OILWARD_SECRET_KEY": "kept over every restart",
        }
        self.start()

    def start(self) -> None:
        words = [sys.executable, "-m", "gunicorn", "config.wsgi:application", "--workers", "2",
                 "--threads", "2", "--bind", f"127.0.0.1:{self.port}", "--log-level", "critical",
                 "--worker-tmp-dir", "/dev/shm", "--preload", "--no-control-socket"]  # fmt: skip
        quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
        self.master = subprocess.Popen(words, cwd=ROOT / "server", env=self.env, **quiet)

    def workers(self) -> list[int]:
        tasks = Path(f"/proc/{self.master.pid}/task/{self.master.pid}/children")
        return [int(pid) for pid in tasks.read_text().split()]

    def kill_a_worker(self) -> None:
        if alive := self.workers():
            os.kill(random.choice(alive), signal.SIGKILL)

    def kill_the_master(self) -> None:
        """The master goes; its workers see it and go too; another one comes."""
        orphans = self.workers()
        self.master.kill()
        self.master.wait()
        for pid in orphans:
            while Path(f"/proc/{pid}").exists():
                time.sleep(0.05)
        self.start()

    def stop(self) -> None:
        self.master.terminate()
        self.master.wait(20)


class Tablet:
    """A client that sends until it is answered, as the outbox does."""

    def __init__(self, url: str) -> None:
        self.url, self.jar = url, CookieJar()
        self.open = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar)).open
        self.repeated = 0

    def ask(self, path: str, body: Any = None) -> Any:
        csrf = next((c.value or "" for c in self.jar if c.name == "csrftoken"), "")
        headers = {"Content-Type": "application/json", "X-CSRFToken": csrf}
        data = None if body is None else json.dumps(body).encode()
        for _ in range(400):
            try:
                request = urllib.request.Request(self.url + path, data, headers)
                with self.open(request, timeout=10) as answer:
                    return json.load(answer)
            except HTTPError as error:
                if error.code != 503:
                    raise AssertionError(error.read()) from error
            except (URLError, OSError):
                pass
            self.repeated += 1
            time.sleep(0.05)
        raise AssertionError("never answered")


class KillTests(RaceTestCase):
    takes_long = True

    def test_nothing_is_lost_or_doubled(self) -> None:
        bench = Technician(self.signed_in("mira"), self.heron.pk)
        bench.open()
        bench.until_fill()
        amount = bench.task["coach"]["amount"]
        first = bench.entry("pour", {"amount": amount}).body_sent
        served = Served()
        self.addCleanup(served.stop)
        tablet = Tablet(f"http://127.0.0.1:{served.port}")
        tablet.ask("/api/session/")
        tablet.ask("/api/session/", {"username": "mira", "password": "harbour-mira"})
        sent = [first["id"]]
        for n in range(ENTRIES):
            if n and n % KILL_EVERY == 0:
                served.kill_the_master() if n % (4 * KILL_EVERY) == 0 else served.kill_a_worker()
            body = {**first, "id": str(uuid4()), "supersedes": sent[-1],
                    "data": {"amount": f"{3000 + n} ml", "sure": f"{3000 + n} ml"}}  # fmt: skip
            tablet.ask(f"/api/visits/{bench.visit}/entries/", body)
            sent.append(body["id"])
        rows = EntryRow.objects.filter(visit=bench.visit, step=first["step"])
        stands = {str(row.pk): str(row.supersedes_id) for row in rows}
        self.assertEqual(len(stands), ENTRIES + 1)
        self.assertTrue(all(stands[new] == old for old, new in pairwise(sent)))
        print(f"kills: {ENTRIES} entries, {tablet.repeated} sent again, none lost or doubled")

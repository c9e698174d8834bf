"""./ward bench attack: a workshop's server as it is served, asked everything by everybody, and worked on
while others hold it up."""

import json
import os
import random
import re
import shutil
import socket
import ssl
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from http.client import HTTPException, HTTPSConnection
from pathlib import Path
from typing import Any
from uuid import uuid4

from oilward_core.bench import DESCRIPTION

from .bench_tablets import Line, open_visits
from .children import child, end
from .paths import ROOT, SERVER, free_ports
from .postgres import OWNER, Postgres
from .serve import build_web, by_url, manage, migrate, wait_until_up

HOST, SECONDS, PAUSE = "127.0.0.1", 12.0, 0.05
# how many examples an operation for each role, beside the edges of what it takes
ROLES = {"oda": 12, "mira": 4, "runa": 2, "piet": 4, "": 4}
# who is asked these is signed out, or has another password: they have tests of their own
LEFT_OUT = ("session_sign_out", "tablet_pair", "own_password", "person_change", "own_session_end")
CHECKS = "not_a_server_error,status_code_conformance,content_type_conformance"
CHECKS += ",response_schema_conformance"
TRUSTING = ssl.create_default_context()
TRUSTING.check_hostname, TRUSTING.verify_mode = False, ssl.CERT_NONE


class Tablet(Line):
    """A line to a server behind HTTPS."""

    def __init__(self, port: int, cookie: str = "", token: str = "") -> None:
        super().__init__(port, cookie, token)
        self.line = HTTPSConnection(HOST, port, timeout=30, context=TRUSTING)

    def ask(self, method: str, path: str, body: Any = None, mark: str = "") -> tuple[int, Any, str]:
        headers = {"Cookie": self.cookie, "X-CSRFToken": self.token}
        headers |= {"Content-Type": "application/json", "Referer": f"https://{HOST}:{self.at}/"}
        told = None if body is None else json.dumps(body)
        try:
            self.line.request(method, path, told, headers)
            answer = self.line.getresponse()
        except (HTTPException, OSError):  # it was kept open too long
            self.line.close()
            self.line.request(method, path, told, headers)
            answer = self.line.getresponse()
        said = answer.read()
        cookies = [one.split(";")[0] for one in answer.headers.get_all("Set-Cookie") or []]
        if cookies:
            kept = dict(one.split("=", 1) for one in self.cookie.split("; ") if one)
            kept |= dict(one.split("=", 1) for one in cookies)
            self.cookie = "; ".join(f"{name}={value}" for name, value in kept.items())
            self.token = next((v for n, v in kept.items() if n.endswith("csrftoken")), "")
        return answer.status, json.loads(said) if said else None, ""

    def again(self) -> "Tablet":
        return Tablet(self.at, self.cookie, self.token)

    def sign_in(self, name: str) -> "Tablet":
        self.ask("GET", "/api/session/")
        who = {"username": name, "password": f"harbour-{name}"}
        status, said, _ = self.ask("POST", "/api/session/", who)
        assert status == 200, said
        return self


@dataclass(frozen=True)
class Server:
    """./ward serve on data of its own."""

    port: int
    folder: Path
    process: "subprocess.Popen[bytes]"


@contextmanager
def served(prepare: Callable[[Path], None] = lambda _: None) -> Iterator[Server]:
    """./ward serve on data that are thrown away, with the demo's people and bikes; ``prepare`` the folder
    they are to lie in."""
    folder = Path(tempfile.mkdtemp(prefix="oilward-bench-", dir="/var/tmp"))
    prepare(folder)
    folder.chmod(0o755)
    https, http = free_ports(8490, 2)
    settings = folder / "oilward.toml"
    # the limits of requests are not what is measured here
    settings.write_text(
        f'hosts = ["{HOST}"]\nhttps_port = {https}\nhttp_port = {http}\n[backup]\nevery_hours = 0\n'
        "[limits]\nrequests_per_person = 1000\nrequests_per_address = 10000\n"
    )
    told = {"OILWARD_STATE": str(folder), "OILWARD_SETTINGS": str(settings)}
    os.environ |= told
    server: subprocess.Popen[bytes] | None = None
    try:
        build_web()
        postgres = Postgres("serve")
        postgres.start()
        migrate(postgres)
        manage(postgres.environment(role=OWNER), "load_demo", "--stories")
        postgres.stop()
        if postgres.lock:
            postgres.lock.close()
        server = child([sys.executable, "-m", "ops", "serve"], cwd=ROOT, env={**os.environ})
        wait_until_up(by_url(f"http://{HOST}:{http}/"), server)
        _until_it_answers(https)
        yield Server(https, folder, server)
    finally:
        end(server)
        shutil.rmtree(folder, ignore_errors=True)
        for name in told:
            del os.environ[name]


def _until_it_answers(port: int) -> None:
    """And lets in: a try to sign in is answered, however."""
    until = time.monotonic() + 120
    while time.monotonic() < until:
        with suppress(OSError, HTTPException, ValueError):
            well = Tablet(port).ask("GET", "/api/health/")[0] == 200
            if well and Tablet(port).ask("POST", "/api/session/", {})[0] < 500:
                return
        time.sleep(0.3)
    raise SystemExit("It never answered.")


def asked_everything(port: int, name: str, examples: int) -> str:
    """Every route by one role, with every edge of its schema and more at random."""
    who = Tablet(port)
    if name:
        who.sign_in(name)
    left = [word for one in LEFT_OUT if name for word in ("--exclude-operation-id", one)]
    words = [
        str(Path(sys.executable).with_name("schemathesis")), "run", str(SERVER / "openapi.json"),
        "--url", f"https://{HOST}:{port}", "--tls-verify", "false", "--no-color",
        "-H", f"Referer: https://{HOST}:{port}/",
        *(["-H", f"Cookie: {who.cookie}", "-H", f"X-CSRFToken: {who.token}"] if name else []),
        "-c", CHECKS, "-n", str(examples), "--continue-on-failure", "--warnings", "off",
        "--phases", "coverage,fuzzing", "-w", "2", "--request-timeout", "30", *left,
    ]  # fmt: skip
    done = subprocess.run(words, capture_output=True, text=True, check=False, cwd="/tmp")
    found = re.search(r"(\d+) generated.*", done.stdout)
    told = found[0] if found else done.stdout[-600:]
    if done.returncode:
        told += "\n" + "\n".join(done.stdout.splitlines()[-80:])
    return f"asked by {name or 'nobody signed in'}: {told}"


def entries(port: int, line: Tablet, visit: dict[str, Any], seconds: float) -> list[float]:
    """How long each entry took, ms: somebody takes the step in hand and gives it up again."""
    mine, times, path = line.again(), list[float](), f"/api/visits/{visit['id']}/entries/"
    until, taken = time.monotonic() + seconds, False
    while time.monotonic() < until:
        said = {"step": visit["focus"], "kind": "gives up" if taken else "takes", "data": {}}
        entry = {**said, "id": str(uuid4()), "at": datetime.now(UTC).isoformat()}
        begun = time.perf_counter()
        status, answer, _ = mine.ask("POST", path, {**entry, "description": DESCRIPTION})
        times.append((time.perf_counter() - begun) * 1000)
        assert status == 200, answer
        taken = not taken
        time.sleep(PAUSE)
    return sorted(times)


def slow_clients(port: int, stop: threading.Event) -> None:
    """Half a request over TLS, a byte every now and then."""
    line = TRUSTING.wrap_socket(socket.create_connection((HOST, port)))
    line.sendall(b"GET /api/ward/ HTTP/1.1\r\nHost: x\r\nX-")
    while not stop.wait(1):
        with suppress(OSError):
            line.sendall(b"a")
    line.close()


def sign_in_flood(port: int, stop: threading.Event) -> None:
    line = Tablet(port)
    line.ask("GET", "/api/session/")
    while not stop.is_set():
        body = {"username": f"u{random.random()}", "password": "a wrong one for this"}
        with suppress(OSError, HTTPException, ValueError):
            line.ask("POST", "/api/session/", body)


def streams(port: int, cookie: str, number: int, stop: threading.Event) -> None:
    lines = []
    for _ in range(number):
        with suppress(OSError, HTTPException):
            line = HTTPSConnection(HOST, port, timeout=5, context=TRUSTING)
            line.request("GET", "/events/", headers={"Cookie": cookie})
            line.getresponse()
            lines.append(line)
    stop.wait()
    for line in lines:
        line.close()


def planner(port: int, line: Tablet, bike: str, stop: threading.Event) -> None:
    mine, rng = line.again(), random.Random()
    while not stop.is_set():
        asked = {
            "technicians": rng.randint(1, 4), "pans": rng.randint(1, 4), "wishes": [],
            "on": None, "proposed": True, "tasks": [], "cold": rng.sample(["valves", "tyres"], 1),
        }  # fmt: skip
        with suppress(OSError, HTTPException, ValueError):
            mine.ask("POST", f"/api/bikes/{bike}/plan/", asked)


def both(port: int, lines: tuple[Tablet, ...], bikes: list[str], stop: threading.Event) -> None:
    """One planner of each."""
    threads = [
        threading.Thread(target=planner, args=(port, line, random.choice(bikes), stop))
        for line in lines
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()


def _held_up(
    name: str,
    number: int,
    attack: Callable[[threading.Event], None],
    work: Callable[[], list[float]],
) -> str:
    """An entry's times without and with something that holds the server up, one after the other."""
    before, stop = work(), threading.Event()
    threads = [threading.Thread(target=attack, args=(stop,), daemon=True) for _ in range(number)]
    for thread in threads:
        thread.start()
    time.sleep(2)
    during = work()
    stop.set()
    for thread in threads:
        thread.join(35)
    time.sleep(3)
    told = []
    for word, share in (("median", 0.5), ("95th percentile", 0.95)):
        a, b = (times[int(len(times) * share)] for times in (before, during))
        told.append(f"{word} {a:.0f} → {b:.0f} ms ({b / a:.2f} times)")
    return f"{name}: {', '.join(told)}; {len(during)} entries, worst {during[-1]:.0f} ms"


def held_up(port: int) -> Iterator[str]:
    """What an entry takes while others do their worst."""
    mira, piet = Tablet(port).sign_in("mira"), Tablet(port).sign_in("piet")
    oda, runa = Tablet(port).sign_in("oda"), Tablet(port).sign_in("runa")
    visits = open_visits(mira, 9)  # a new one each time: a long one is folded longer
    bikes = [one["id"] for one in mira.ask("GET", "/api/ward/")[1]["bikes"]]

    def work() -> list[float]:
        return entries(port, mira, visits.pop(), SECONDS)

    work()  # warm
    attacks: list[tuple[str, int, Callable[[threading.Event], None]]] = [
        ("20 slow clients", 20, lambda stop: slow_clients(port, stop)),
        ("a flood of 20 sign-ins", 20, lambda stop: sign_in_flood(port, stop)),
        ("500 streams of one reader", 10, lambda stop: streams(port, piet.cookie, 50, stop)),
        ("8 planners", 4, lambda stop: both(port, (oda, runa), bikes, stop)),
    ]
    for name, number, attack in attacks:
        yield _held_up(name, number, attack, work)


def attack_figures() -> None:
    with served() as server:
        for line in held_up(server.port):
            print(line, flush=True)
        for name, examples in ROLES.items():
            print(asked_everything(server.port, name, examples), flush=True)

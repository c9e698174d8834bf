"""./ward bench tablets: a workshop full of tablets, told of changes and asking for them."""

import http.client
import json
import os
import random
import subprocess
import threading
import time
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from typing import Any
from uuid import uuid4

from oilward_core.bench import DESCRIPTION

from .children import end
from .paths import free_port
from .postgres import OWNER, Postgres
from .serve import build_web, by_url, manage, migrate, spawn, spawn_beside, wait_until_up

PAGE = os.sysconf("SC_PAGE_SIZE")
EVERY = (5.0, 11.0)  # seconds between two entries of one tablet
POLL = 2.0


class Line:
    """One tablet's connection, signed in."""

    def __init__(self, port: int, cookie: str = "", token: str = "") -> None:
        self.at, self.cookie, self.token = port, cookie, token
        self.line = http.client.HTTPConnection("127.0.0.1", port, timeout=30)

    def ask(self, method: str, path: str, body: Any = None, mark: str = "") -> tuple[int, Any, str]:
        """Status, what was said, and its mark."""
        headers = {"Cookie": self.cookie, "X-CSRFToken": self.token}
        headers |= {"Content-Type": "application/json"} | ({"If-None-Match": mark} if mark else {})
        told = None if body is None else json.dumps(body)
        try:
            self.line.request(method, path, told, headers)
            answer = self.line.getresponse()
        except (ConnectionError, http.client.RemoteDisconnected):  # it was kept open too long
            self.line.close()
            self.line.request(method, path, told, headers)
            answer = self.line.getresponse()
        said = answer.read()
        return answer.status, json.loads(said) if said else None, answer.headers.get("ETag", "")

    def again(self) -> "Line":
        return Line(self.at, self.cookie, self.token)


def sign_in(port: int) -> Line:
    line = Line(port)
    line.line.request("GET", "/")
    first = line.line.getresponse()
    first.read()
    token = first.headers["Set-Cookie"].split(";")[0]
    line.cookie, line.token = token, token.split("=")[1]
    who = {"username": "mira", "password": "harbour-mira"}
    headers = {"Cookie": line.cookie, "X-CSRFToken": line.token, "Content-Type": "application/json"}
    line.line.request("POST", "/api/session/", json.dumps(who), headers)
    answer = line.line.getresponse()
    answer.read()
    cookies = [c.split(";")[0] for c in answer.headers.get_all("Set-Cookie") or []]
    line.cookie = "; ".join(cookies)
    line.token = next(c.split("=")[1] for c in cookies if c.startswith("csrftoken"))
    return line


def open_visits(line: Line, number: int) -> list[dict[str, Any]]:
    """So many bikes of the first one's model, each with an open visit."""
    _, ward, _ = line.ask("GET", "/api/ward/?search=Grey+Heron")
    form = line.ask("GET", f"/api/bikes/{ward['bikes'][0]['id']}/form/")[1]["form"]
    found = []
    for n in range(number):
        bike = {**form, "id": str(uuid4()), "name": f"Dinghy {n}", "odometer": "1000", "plate": ""}
        bike |= {"frame_number": ""}
        status, said, _ = line.ask("POST", "/api/bikes/", bike)
        assert status == 201, said
        task = {"reservoir": "engine", "variant": "with filter"}
        visit = {"id": str(uuid4()), "bike": bike["id"], "tasks": [task], "odometer": "1001"}
        status, said, _ = line.ask("POST", "/api/visits/", visit)
        assert status == 201, said
        found.append(said)
    return found


def usual(sheet: dict[str, Any]) -> tuple[str, str, dict[str, Any]]:
    """What is usually written down next; once the plug is in, who has the step in hand."""
    step = next(s for s in sheet["steps"] if s["id"] == sheet["focus"])
    task, kind = sheet["tasks"][0], step["kind"]
    said: dict[str, tuple[str, dict[str, Any]]] = {
        "check": ("confirm", {"items": [item["code"] for item in step["items"]]}),
        "timer": ("stop" if step["status"] == "running" else "start", {}),
        "drain": ("stop" if step["status"] == "running" else "start", {}),
        "gate": ("answer", {"value": step["options"][0]["code"] if step["options"] else ""}),
        "amount": ("amount", {"amount": task["capacity"]}),
        "finding": ("finding", {"parts": [], "oil": ["dark"]}),
        "choice": ("answer", {"value": "new"}),
    }
    taken = "gives up" if step["taken_by"] else "takes"
    return (step["id"], *said.get(kind, (taken, {})))


class Workshop:
    """Tablets at work, and what they measured, in milliseconds."""

    def __init__(self, port: int, events: int, line: Line, visits: list[dict[str, Any]]) -> None:
        self.port, self.events, self.line, self.visits = port, events, line, visits
        self.entries: list[float] = []
        self.delays: list[float] = []
        self.looks: list[float] = []
        self.lost: list[str] = []
        self.until = 0.0
        self.told = False
        self._written: dict[str, float] = {}

    def write(self, sheet: dict[str, Any]) -> None:
        line, rng = self.line.again(), random.Random(sheet["id"])
        path = f"/api/visits/{sheet['id']}/entries/"
        time.sleep(rng.uniform(0, EVERY[1]))
        while time.monotonic() < self.until:
            step, kind, data = usual(sheet)
            now = datetime.now(UTC).isoformat()
            said: dict[str, Any] = {"step": step, "kind": kind, "data": data}
            entry = {**said, "id": str(uuid4()), "at": now, "description": DESCRIPTION}
            begun = time.perf_counter()
            status, answer, mark = line.ask("POST", path, entry)
            done = time.perf_counter()
            self.entries.append((done - begun) * 1000)
            self._written[sheet["id"]] = done
            if status == 200:
                sheet = answer
            else:
                self.lost.append(f"{status} {answer}")
            if self.told:  # of its own entry as well
                status, _, _ = line.ask("GET", f"/api/visits/{sheet['id']}/", mark=mark)
                self.lost += [] if status in (200, 304) else [f"own look {status}"]
            time.sleep(rng.uniform(*EVERY))

    def watch(self, sheet: dict[str, Any]) -> None:
        """Told of a change, it asks what it is."""
        line, mark = self.line.again(), ""
        told = http.client.HTTPConnection("127.0.0.1", self.events, timeout=20)
        told.request("GET", f"/events/?topic=visit/{sheet['id']}", headers={"Cookie": line.cookie})
        answer = told.getresponse()
        while time.monotonic() < self.until:
            if not answer.readline().startswith(b"data:"):
                continue
            heard = time.perf_counter()
            status, _, mark = line.ask("GET", f"/api/visits/{sheet['id']}/", mark=mark)
            self.looks.append((time.perf_counter() - heard) * 1000)
            time.sleep(0.05)  # the writer has its answer by now
            self.delays.append(max(0.0, (heard - self._written.get(sheet["id"], heard)) * 1000))
            if status not in (200, 304):
                self.lost.append(f"look {status}")
        told.close()

    def poll(self, sheet: dict[str, Any]) -> None:
        line, mark = self.line.again(), ""
        while time.monotonic() < self.until:
            begun = time.perf_counter()
            _, _, mark = line.ask("GET", f"/api/visits/{sheet['id']}/", mark=mark)
            self.looks.append((time.perf_counter() - begun) * 1000)
            time.sleep(POLL)

    def run(self, seconds: float, look: Callable[[dict[str, Any]], None]) -> None:
        self.until, self.told = time.monotonic() + seconds, look == self.watch
        work = [threading.Thread(target=self.write, args=(one,)) for one in self.visits]
        work += [threading.Thread(target=look, args=(one,)) for one in self.visits]
        for one in work:
            one.start()
        for one in work:
            one.join()


def _memory(processes: list[subprocess.Popen[bytes]]) -> float:
    """MB that these and their children hold."""
    total, todo = 0, [process.pid for process in processes]
    while todo:
        pid = todo.pop()
        total += int(Path(f"/proc/{pid}/statm").read_text().split()[1]) * PAGE
        todo += map(int, Path(f"/proc/{pid}/task/{pid}/children").read_text().split())
    return total / 1e6


def _shares(name: str, values: list[float]) -> str:
    found = sorted(values) or [0.0]
    at = [found[min(len(found) - 1, int(len(found) * share))] for share in (0.5, 0.95, 0.99)]
    return f"{name}: {len(values)}, median {at[0]:.0f} ms, p95 {at[1]:.0f}, p99 {at[2]:.0f}"


def tablets_figures(seconds: float = 300.0, tablets: int = 30) -> None:
    """So many tablets at benches and as many that look on: told of changes, then by polling."""
    postgres, started = Postgres("bench", fast=True), []
    build_web()
    try:
        postgres.start()
        migrate(postgres)
        manage(postgres.environment(role=OWNER), "load_demo", "--stories")
        env = postgres.environment() | {"OILWARD_SECONDS_PER_MINUTE": "0.2"}
        port, events = free_port(8800), free_port(8850)
        started = [spawn(env, port), *spawn_beside({**env, "OILWARD_EVENTS_PORT": str(events)})]
        wait_until_up(by_url(f"http://127.0.0.1:{port}/"), started[0])
        line = sign_in(port)
        for how in ("told", "polling"):
            visits = open_visits(line, tablets)
            work = Workshop(port, events, line, visits)
            before = _memory(started)
            work.run(seconds, work.watch if how == "told" else work.poll)
            print(f"{2 * tablets} tablets for {seconds:.0f} s, {how}:")
            print("  " + _shares("entries", work.entries))
            if work.delays:
                print("  " + _shares("told after the writer's answer", work.delays))
            print("  " + _shares("looks", work.looks))
            print(
                f"  memory {before:.0f} MB, then {_memory(started):.0f} MB; lost: {len(work.lost)}"
            )
            if work.lost:
                raise SystemExit(f"Not a measure, entries were refused: {work.lost[0][:300]}")
            for visit in visits:
                line.ask("POST", f"/api/visits/{visit['id']}/leave/", {"reason": "measured"})
    finally:
        for process in started:
            end(process)
        postgres.stop()
        postgres.remove()

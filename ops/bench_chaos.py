"""./ward bench chaos server: a workshop's server is killed, starved and asked twice, a thousand times
over, while tablets write; what they were told is kept is counted."""

import os
import random
import signal
import subprocess
import threading
import time
from collections import defaultdict
from collections.abc import Callable
from contextlib import ExitStack, suppress
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from functools import partial
from http.client import HTTPException
from pathlib import Path
from typing import Any
from uuid import uuid4

from oilward_core.bench import DESCRIPTION

from .bench_attack import Server, Tablet, served
from .bench_tablets import open_visits
from .postgres import READER, Postgres

EACH, LONGEST, BACK = 84, 60.0, 20.0  # tries of each kind; seconds
ROUND = 15.0  # seconds, at least
FRESH = 25  # entries after which a visit is long enough
DISK = "3g"
_ROWS = """
SELECT id::text, visit_id::text, at FROM public.visits_entryrow WHERE visit_id::text = ANY(%s)
"""


@dataclass
class Told:
    """What became of one kind of try: how long until an entry was taken again, what was sent again."""

    back: list[float] = field(default_factory=list)
    again: int = 0
    refused: int = 0
    wrong: list[str] = field(default_factory=list)  # answers that no tablet should get


class Chaos:
    """Tablets that send until they are answered, as the outbox does, and what is done to them."""

    def __init__(self, server: Server, process: "subprocess.Popen[bytes]") -> None:
        self.server, self.process = server, process
        self.told: dict[str, Told] = defaultdict(Told)
        self.mira, self.oda = (Tablet(server.port).sign_in(name) for name in ("mira", "oda"))
        self.visits: list[dict[str, Any]] = []
        self.kept: dict[str, tuple[str, datetime]] = {}  # entry: its visit, and when it was made
        self.unsure: set[str] = set()
        self.written = 0

    def visit(self) -> dict[str, Any]:
        """An open one that is not too long yet."""
        if not self.visits or self.written % FRESH == 0:
            self.visits += open_visits(self.mira, 1)
        self.written += 1
        return self.visits[-1]

    def entry(self, visit: dict[str, Any], off: timedelta = timedelta(0)) -> dict[str, Any]:
        """Somebody takes the step in hand or gives it up; by a clock that may be off."""
        now = (datetime.now(UTC) + off).isoformat()
        kind = random.choice(("takes", "gives up"))
        said = {"step": visit["focus"], "kind": kind, "data": {}, "description": DESCRIPTION}
        return {**said, "id": str(uuid4()), "at": now, "sent_at": now}

    def send(self, line: Tablet, visit: str, entry: dict[str, Any], told: Told) -> int:
        """Send it until it is answered; what was answered. Stops where that never is."""
        until, made = time.monotonic() + LONGEST, datetime.now(UTC)
        path = f"/api/visits/{visit}/entries/"
        while time.monotonic() < until:
            with suppress(OSError, HTTPException, ValueError):
                status, said, _ = line.ask("POST", path, entry)
                if status == 200:
                    self.kept[entry["id"]] = visit, made
                    return status
                if status in (409, 422):  # somebody else has the step
                    told.refused += 1
                    return status
                if status not in (429, 502, 503, 504):
                    told.wrong.append(f"{status}: {said}")
            told.again += 1
            line.line.close()
            time.sleep(0.1)
        raise SystemExit(f"an entry was not answered for {LONGEST:.0f} s")

    def while_it_is_away(self, kind: str, name: str, at: int) -> None:
        """An entry on its way while a process is killed, and the next one; until both are answered and
        another process stands in its place."""
        visit, told = self.visit(), self.told[kind]
        first = threading.Thread(
            target=self.send, args=(self.mira.again(), visit["id"], self.entry(visit), told)
        )
        first.start()
        time.sleep(random.random() * 0.05)
        begun = time.monotonic()
        gone, number = self.kill(name, at)
        self.send(self.oda, visit["id"], self.entry(visit), told)
        while gone in (now := self.running(name)) or len(now) < number:
            if time.monotonic() - begun > LONGEST:
                raise SystemExit(f"{name} never came back")
            time.sleep(0.1)
        told.back.append(time.monotonic() - begun)
        first.join()

    def running(self, name: str) -> list[int]:
        """Processes of that name below the server, the oldest first. A child of the database has its
        name until it takes one of its own."""
        from psutil import Error, Process

        found = []
        for one in Process(self.process.pid).children(True):
            with suppress(Error):
                above = one.parent()
                if one.name() == "postgres" and above and above.name() == "postgres":
                    continue
                if name == one.name() or name in f"{' '.join(one.cmdline())} ":
                    found.append((one.create_time(), one.pid))
        return [pid for _, pid in sorted(found)]

    def kill(self, name: str, at: int) -> tuple[int, int]:
        """Kill one of that name; which it was, and how many there were."""
        until = time.monotonic() + LONGEST
        while len(found := self.running(name)) <= at:
            if time.monotonic() > until:
                raise SystemExit(f"{name} is not running")
            time.sleep(0.1)
        with suppress(ProcessLookupError):
            os.kill(found[at], signal.SIGKILL)
        return found[at], len(found)

    def connection_dropped(self) -> None:
        """The tablet is gone before it is answered; later it sends the same once more."""
        visit, told = self.visit(), self.told["connection dropped"]
        entry, line = self.entry(visit), self.mira.again()
        begun = time.monotonic()
        with suppress(OSError, HTTPException):
            import json

            headers = {"Cookie": line.cookie, "X-CSRFToken": line.token}
            headers |= {"Content-Type": "application/json"}
            headers |= {"Referer": f"https://127.0.0.1:{line.at}/"}
            path = f"/api/visits/{visit['id']}/entries/"
            line.line.request("POST", path, json.dumps(entry), headers)
            time.sleep(random.random() * 0.1)
        line.line.close()
        self.send(line, visit["id"], entry, told)
        told.back.append(time.monotonic() - begun)

    def sent_twice(self) -> None:
        """The same entry at once from two lines: a double tap, or a proxy that asks again."""
        visit, told = self.visit(), self.told["sent twice"]
        entry, begun = self.entry(visit), time.monotonic()
        lines = [self.mira.again() for _ in range(3)]
        threads = [
            threading.Thread(target=self.send, args=(line, visit["id"], entry, told))
            for line in lines
        ]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        told.back.append(time.monotonic() - begun)

    def two_tablets(self) -> None:
        """Two people at one bike write at the same moment."""
        visit, told = self.visit(), self.told["two tablets"]
        begun = time.monotonic()
        threads = [
            threading.Thread(
                target=self.send, args=(one.again(), visit["id"], self.entry(visit), told)
            )
            for one in (self.mira, self.oda)
        ]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        told.back.append(time.monotonic() - begun)

    def clock_off(self) -> None:
        """A tablet's clock is an hour ahead, or behind."""
        visit, told = self.visit(), self.told["a clock an hour off"]
        begun = time.monotonic()
        off = timedelta(hours=random.choice((-1, 1)))
        self.send(self.mira, visit["id"], self.entry(visit, off), told)
        told.back.append(time.monotonic() - begun)

    def disk_full(self) -> None:
        """There is no room for what is written, for a while."""
        visit, told = self.visit(), self.told["disk full"]
        ballast = self.server.folder / "ballast"
        entry = self.entry(visit)
        with ballast.open("wb") as out:
            for free in (1 << 30, 1 << 24, 1 << 20, 1 << 16, 1 << 12):
                while True:
                    try:
                        os.posix_fallocate(out.fileno(), out.tell(), free)
                    except OSError:
                        break
                    out.seek(free, os.SEEK_CUR)
        timer = threading.Timer(2.0, partial(ballast.unlink, missing_ok=True))
        timer.start()
        for _ in range(20):
            self.send(self.mira, visit["id"], self.entry(visit), told)
            if not ballast.exists():
                break
        timer.join()
        begun = time.monotonic()
        self.send(self.mira, visit["id"], entry, told)
        told.back.append(time.monotonic() - begun)

    def kinds(self) -> dict[str, Callable[[], None]]:
        killed = {
            "all that is Python": ("-m family", 0),
            "application": ("oilward-app", 0), "a worker of it": ("oilward-app", 1),
            "events": ("oilward-events", 0), "background": ("oilward-backgro", 0),
            "database": ("serve/pg ", 0), "nginx": ("nginx: master", 0),
        }  # fmt: skip
        found: dict[str, Callable[[], None]] = {
            f"{name} killed": partial(self.while_it_is_away, f"{name} killed", *of)
            for name, of in killed.items()
        }
        found |= {
            "connection dropped": self.connection_dropped,
            "sent twice": self.sent_twice,
            "two tablets": self.two_tablets,
            "a clock an hour off": self.clock_off,
        }
        if os.geteuid() == 0:
            found["disk full"] = self.disk_full
        return found

    def counted(self) -> str:
        """What the database has of all that was answered as kept."""
        visits = list({visit for visit, _ in self.kept.values()})
        with Postgres("serve").connect("oilward", READER) as connection:
            rows = connection.execute(_ROWS, [visits]).fetchall()
        found = {row: (visit, at) for row, visit, at in rows}
        lost = self.kept.keys() - found.keys()
        doubled = len(rows) - len(found) + len(found.keys() - self.kept.keys())
        off = [abs(at - self.kept[row][1]) for row, (_, at) in found.items() if row in self.kept]
        late = sum(one > timedelta(seconds=LONGEST + 5) for one in off)
        return (
            f"{len(self.kept)} entries told as kept: {len(lost)} lost, {doubled} doubled, {late} at "
            "another time than they were made"
        )


def _with_a_disk_of_its_own(stack: ExitStack) -> Callable[[Path], None]:
    def prepare(folder: Path) -> None:
        if os.geteuid():
            return
        subprocess.run(
            ["mount", "-t", "tmpfs", "-o", f"size={DISK}", "oilward", folder], check=True
        )
        stack.callback(folder.rmdir)
        stack.callback(lambda: subprocess.run(["umount", "-l", folder], check=False))

    return prepare


def chaos_figures(each: int) -> None:
    """So many tries of each kind, mixed; what each kind came to."""
    begun = time.monotonic()
    with ExitStack() as stack:
        server = stack.enter_context(served(_with_a_disk_of_its_own(stack)))
        chaos = Chaos(server, server.process)
        kinds = chaos.kinds()
        for done in range(each):
            since = time.monotonic()
            for name in random.sample(list(kinds), len(kinds)):
                kinds[name]()
            # what falls more often than five times a minute stays down, and says why
            time.sleep(max(0.0, ROUND - (time.monotonic() - since)))
            if done % 10 == 9:
                print(f"· {done + 1} of {each} rounds, {chaos.counted()}", flush=True)
        for name, told in chaos.told.items():
            back = sorted(told.back)
            slow = sum(one > BACK for one in back)
            print(
                f"{name}: {len(back)} tries, answered again after {back[len(back) // 2]:.1f} s "
                f"(95th percentile {back[int(len(back) * 0.95)]:.1f}, most {back[-1]:.1f}; over "
                f"{BACK:.0f} s: {slow}), {told.again} sent again, {told.refused} refused with a reason",
                *told.wrong[:3],
                flush=True,
                sep="\n  ",
            )
        tries = sum(len(told.back) for told in chaos.told.values())
        print(
            f"{tries} tries in {(time.monotonic() - begun) / 60:.0f} min: {chaos.counted()}",
            flush=True,
        )

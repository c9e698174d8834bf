"""Everything in Python that serves a workshop, loaded once and then forked, so that what all of them need
is in memory once. Whatever falls is forked anew."""

import ctypes
import gc
import logging
import os
import signal
import sys
import time
from collections.abc import Callable
from dataclasses import dataclass
from importlib import import_module
from pathlib import Path
from types import ModuleType
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "core"))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings_serve")

log = logging.getLogger("oilward.family")
GENTLY, LAST = 10, 19  # give way to whoever stands at a bench; and to everybody
DOOR_THREADS = 16
# the database ends a connection nobody used for so long; the next request makes another
UNUSED = "-c idle_session_timeout=30s"
LONGEST_PAUSE, CALM, LAST_WORDS = 10.0, 60.0, 15.0  # seconds
_PR_SET_PDEATHSIG, _PR_SET_NAME = 1, 15
LOADED = (
    "gunicorn.app.base", "gunicorn.workers.gthread", "uvicorn", "uvicorn.protocols.http.h11_impl",
    "uvicorn.lifespan.on", "uvicorn.loops.asyncio", "config.events", "psycopg_pool",
    "procrastinate.worker",
)  # fmt: skip


@dataclass(kw_only=True)
class Member:
    """One of them: what it does, what is loaded for it first, and how soon after a fall it may begin
    again."""

    name: str
    does: Callable[[], object]
    needs: Callable[[], object] = lambda: None
    nice: int = 0
    pid: int = 0
    begun: float = 0.0
    pause: float = 0.5

    def begin(self) -> None:
        """Fork it. It ends when the family does, however that ends."""
        self.needs()
        gc.collect()
        gc.freeze()
        self.begun, parent = time.monotonic(), os.getpid()
        self.pid = os.fork()
        if self.pid:
            return
        try:
            os.setsid()
            _ends_with(parent)
            ctypes.CDLL(None).prctl(
                _PR_SET_NAME, f"oilward-{self.name}".encode()[:15]
            )  # as ps tells it
            for number in (signal.SIGTERM, signal.SIGINT, signal.SIGCHLD):
                signal.signal(number, signal.SIG_DFL)
            _gives_way(self.nice)
            self.does()
        except SystemExit as ended:
            os._exit(ended.code if isinstance(ended.code, int) else 1)
        except BaseException:
            log.exception("%s fell", self.name)
            os._exit(1)
        os._exit(0)

    def fell(self, status: int) -> None:
        """Begin anew, later each time it falls soon again."""
        log.error("%s ended (%s); starting it anew", self.name, os.waitstatus_to_exitcode(status))
        _to_group(self.pid, signal.SIGKILL)
        calm = time.monotonic() - self.begun > CALM
        self.pause = 0.5 if calm else min(2 * self.pause, LONGEST_PAUSE)
        time.sleep(self.pause)
        self.begin()


def _ends_with(parent: int) -> None:
    """Whatever becomes of the one that forked it, this goes too: else it would hold on to its place."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGKILL)
    if os.getppid() != parent:
        os._exit(1)


def _gives_way(by: int) -> None:
    """To the others, in its session and out of it: where the machine shares itself out by sessions, and
    each of ours has one, niceness alone counts for nothing between them."""
    told, group = os.nice(by), Path("/proc/self/autogroup")
    for _ in range(20 if group.exists() else 0):
        try:
            group.write_text(str(told))
            return
        except BlockingIOError:  # once in a tenth of a second, for all who are not root
            time.sleep(0.11)
        except OSError:
            return


def _to_group(pid: int, number: signal.Signals) -> None:
    try:
        os.killpg(pid, number)
    except (ProcessLookupError, PermissionError):
        return


def _gunicorn(at: Path, workers: int, threads: int) -> None:
    from django.core.wsgi import get_wsgi_application
    from django.db import connections
    from gunicorn.app.base import BaseApplication  # type: ignore[import-untyped]

    connections.settings["default"]["OPTIONS"] = {"options": UNUSED}

    class Served(BaseApplication):  # type: ignore[misc]
        def load_config(self) -> None:
            told = {
                "bind": f"unix:{at}", "workers": workers, "threads": threads,
                "worker_tmp_dir": "/dev/shm", "loglevel": "warning", "preload_app": True,
                "control_socket_disable": True,
                "post_fork": lambda master, worker: _ends_with(master.pid),
            }  # fmt: skip
            for name, value in told.items():
                self.cfg.set(name, value)

        def load(self) -> Any:
            return get_wsgi_application()

    Served().run()


def _doors(at: Path) -> None:
    from workshop import hashing

    hashing.TURNS.most = DOOR_THREADS
    _gunicorn(at, 1, DOOR_THREADS)


def solver() -> None:
    """Load it: it is large, and takes seconds. It names a table library in its signatures, which no order
    uses and which alone is larger than the solver: the names are all it is given of it."""
    tables = ModuleType("pandas")
    tables.__dict__.update(Index=type("Index", (), {}), Series=type("Series", (), {}))
    sys.modules.setdefault("pandas", tables)
    import_module("oilward_core.order.search")


def _events(at: Path) -> None:
    import uvicorn
    from config.events import application

    uvicorn.run(application, uds=str(at), log_level="warning", timeout_graceful_shutdown=1)


def _background() -> None:
    from django.core.management import call_command

    call_command("work")


def members(behind: Path) -> list[Member]:
    """Who belongs to it, who answers each at a socket in this folder; last those who work out orders,
    for whom the solver is loaded once the others are there."""
    return [
        Member(name="app", does=lambda: _gunicorn(behind / "app", 2, 6)),
        Member(name="doors", does=lambda: _doors(behind / "doors"), nice=GENTLY),
        Member(name="events", does=lambda: _events(behind / "events")),
        Member(
            name="plans", does=lambda: _gunicorn(behind / "plans", 1, 4), nice=LAST, needs=solver
        ),
        Member(name="background", does=_background, nice=LAST, needs=solver),
    ]


def load() -> None:
    """All that any of them needs, but for the solver."""
    import django

    django.setup()
    from django.urls import get_resolver

    _ = get_resolver().url_patterns
    for name in LOADED:
        import_module(name)
    _first_look()


def _first_look() -> None:
    """What the first requests would load and keep, each process for itself."""
    from wsgiref.util import setup_testing_defaults

    from django.db import connections

    answer = import_module("django.core.wsgi").get_wsgi_application()
    for path in ("/api/health/", "/api/session/", "/api/ward/", "/"):
        asked = {"PATH_INFO": path, "HTTP_HOST": "localhost", "HTTP_X_FORWARDED_PROTO": "https"}
        setup_testing_defaults(asked)
        answer(asked, lambda status, headers: None).close()
    connections.close_all()


def run(family: list[Member]) -> None:
    """Begin them all, and begin anew whatever falls, until told to stop."""
    gc.collect()

    def stop(number: int, frame: object) -> None:
        raise KeyboardInterrupt

    signal.signal(signal.SIGTERM, stop)
    try:
        for one in family:
            one.begin()
        while True:
            pid, status = os.wait()
            for one in family:
                if one.pid == pid:
                    one.fell(status)
    except KeyboardInterrupt:
        signal.signal(signal.SIGTERM, signal.SIG_IGN)
    finally:
        _end(family)


def _end(family: list[Member]) -> None:
    """Let each finish what it is at, for a while."""
    left = {one.pid for one in family if one.pid}
    for pid in left:
        try:
            os.kill(pid, signal.SIGTERM)
        except ProcessLookupError:
            continue
    until = time.monotonic() + LAST_WORDS
    while left and time.monotonic() < until:
        try:
            pid, _ = os.waitpid(-1, os.WNOHANG)
        except ChildProcessError:
            break
        left.discard(pid)
        if not pid:
            time.sleep(0.05)
    for pid in {one.pid for one in family if one.pid}:
        _to_group(pid, signal.SIGKILL)


if __name__ == "__main__":
    load()
    run(members(Path(sys.argv[1])))

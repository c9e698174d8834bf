"""The demo and the server: build, migrate, load once, serve, stop what was started."""

import argparse
import hashlib
import os
import signal
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable
from contextlib import closing, suppress
from http import HTTPStatus
from http.client import HTTPConnection, HTTPException
from pathlib import Path
from socket import AF_UNIX, socket

from .children import child, end, run, while_it_moves
from .paths import DIST, RELEASE, ROOT, SERVER, WEB, free_port
from .postgres import OWNER, Postgres


def manage(env: dict[str, str], *words: str) -> None:
    command = [sys.executable, str(SERVER / "manage.py"), *words]
    if code := run(command, env={**os.environ, **env}, cwd=SERVER):
        raise subprocess.CalledProcessError(code, command)


def _web_stamp() -> str:
    digest = hashlib.sha256((ROOT / "package-lock.json").read_bytes())
    for path in sorted([*(WEB / "src").rglob("*"), *WEB.glob("*.*")]):
        if path.is_file():
            digest.update(str(path.relative_to(WEB)).encode() + path.read_bytes())
    return digest.hexdigest()


def build_web() -> None:
    """Build the front end, unless the last build was made from the same files, or came with a release."""
    if RELEASE.exists():
        return
    stamp, now = ROOT / "node_modules" / ".web-stamp", _web_stamp()
    if DIST.is_dir() and stamp.exists() and stamp.read_text() == now:
        return
    print("· 4 of 6: building the front end (a few seconds)", flush=True)
    if run(["npm", "run", "--silent", "build"], cwd=WEB):
        raise SystemExit("The front end could not be built. What is wrong stands above.")
    stamp.write_text(now)


def app_words(at: str, workers: int = 2, threads: int = 4) -> list[str]:
    """Gunicorn, listening at an address and port or at a socket."""
    return [
        sys.executable, "-m", "gunicorn", "config.wsgi:application",
        "--bind", at, "--workers", str(workers), "--threads", str(threads),
        "--worker-tmp-dir", "/dev/shm", "--log-level", "warning", "--preload", "--no-control-socket",
    ]  # fmt: skip


def beside_words(events_port: int) -> dict[str, list[str]]:
    """What runs beside the API, by its name: it tells screens what changed, and does what nobody waits
    for."""
    events = [
        "-m", "uvicorn", "config.events:application", "--host", "127.0.0.1",
        "--port", str(events_port), "--log-level", "warning", "--timeout-graceful-shutdown", "1",
    ]  # fmt: skip
    return {
        "events": [sys.executable, *events],
        "background": [sys.executable, "manage.py", "work"],
    }


def spawn(env: dict[str, str], port: int) -> subprocess.Popen[bytes]:
    return child(app_words(f"127.0.0.1:{port}"), cwd=SERVER, env={**os.environ, **env})


def spawn_beside(env: dict[str, str]) -> list[subprocess.Popen[bytes]]:
    words = beside_words(int(env["OILWARD_EVENTS_PORT"]))
    return [child(one, cwd=SERVER, env={**os.environ, **env}) for one in words.values()]


def by_url(url: str) -> Callable[[], bool]:
    """Whether a server answers at this address, asked as a browser asks."""

    def answers() -> bool:
        with urllib.request.urlopen(url, timeout=2):
            return True

    return answers


def by_socket(path: Path, host: str) -> Callable[[], bool]:
    """Whether one answers at this socket that it is well, asked under the name ``host``."""

    def answers() -> bool:
        with closing(_Behind(path)) as asked:
            told = {"Host": host, "X-Forwarded-Proto": "https"}
            asked.request("GET", "/api/health/", headers=told)
            return asked.getresponse().status == HTTPStatus.OK

    return answers


class _Behind(HTTPConnection):
    """To a socket of this machine's."""

    def __init__(self, path: Path) -> None:
        super().__init__("localhost", timeout=2)
        self.path = path

    def connect(self) -> None:
        self.sock = socket(AF_UNIX)
        self.sock.settimeout(self.timeout)
        self.sock.connect(str(self.path))


def wait_until_up(answers: Callable[[], bool], process: "subprocess.Popen[bytes] | None") -> None:
    """Wait until the server answers, for as long as it does something."""
    for _ in while_it_moves(process, "The server"):
        if process is None or process.poll() is not None:
            raise SystemExit("The server stopped while starting. Its messages are above.")
        with suppress(OSError, HTTPException):
            if answers():
                return
        time.sleep(0.1)
    raise SystemExit("The server did nothing for half a minute, and does not answer.")


SIGN_INS = """
  name   password       may
  mira   harbour-mira   service bikes (technician)
  oda    harbour-oda    service bikes, approve sheets (lead)
  runa   harbour-runa   service bikes, sign with a lead beside (apprentice)
  piet   harbour-piet   look, not touch (reader)
"""


def migrate(postgres: Postgres, database: str = "oilward", **more: str) -> None:
    """Bring a database up to date, as its owner; say what the server may do in it."""
    postgres.ensure_database(database)
    env = {**postgres.environment(database, OWNER), **more}
    manage(env, "migrate", "--verbosity", "0")


def prepare(postgres: Postgres, practice: float) -> dict[str, str]:
    """A running, migrated database with the demo in it; its environment."""
    postgres.start()
    env = {"OILWARD_SECONDS_PER_MINUTE": str(practice)}
    print("· 6 of 6: bringing the database up to date", flush=True)
    migrate(postgres, **env)
    env |= postgres.environment()
    manage(env, "load_demo")
    manage(env, "roll_forward")
    return env


def stop_on_signals() -> None:
    def stop(number: int, frame: object) -> None:
        raise KeyboardInterrupt

    signal.signal(signal.SIGTERM, stop)


def demo(words: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./ward demo")
    parser.add_argument("--fresh", action="store_true", help="throw the demo's data away first")
    parser.add_argument("--port", type=int, default=8000)
    parser.add_argument(
        "--practice", type=float, metavar="SECONDS", default=60.0,
        help="let a bench minute last SECONDS, for practising; the screens say so",
    )  # fmt: skip
    options = parser.parse_args(words)
    begun = float(os.environ.get("OILWARD_BEGUN", time.time()))
    stop_on_signals()
    postgres = Postgres("demo")
    if options.fresh:
        postgres.remove()
    process, beside = None, list[subprocess.Popen[bytes]]()
    try:
        build_web()
        env = prepare(postgres, options.practice)
        port = free_port(options.port)
        if port != options.port:
            print(f"· Port {options.port} is taken: using {port}", flush=True)
        env["OILWARD_EVENTS_PORT"] = str(free_port(port + 1))
        process = spawn(env, port)
        beside = spawn_beside(env)
        url = f"http://127.0.0.1:{port}/"
        wait_until_up(by_url(url), process)
        print(f"\nOil Ward is up after {time.time() - begun:.0f} s: {url}\n{SIGN_INS}")
        print("Ctrl-C stops it; the data stays. ./ward demo --fresh starts over.", flush=True)
        process.wait()
        return process.returncode
    except KeyboardInterrupt:
        print("\n· Stopping", flush=True)
        return 0
    finally:
        for one in (*beside, process):
            end(one)
        postgres.stop()


def ready(words: list[str]) -> int:
    """./ward ready: everything installed and built, nothing started."""
    build_web()
    return 0

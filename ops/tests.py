"""./ward test: checks, core, server, and journeys in a real browser; one closing line."""

import json
import os
import re
import subprocess
import sys
import tempfile
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from .checks import run_checks
from .children import child, end, run
from .paths import E2E, SERVER, free_ports
from .postgres import USER, Postgres
from .serve import build_web, manage, migrate

RAN = re.compile(r"^Ran (\d+) tests?", re.MULTILINE)
PARTS = ("check", "core", "server", "browser")
FAR = "Pacific/Kiritimati"
WIDE = "OILWARD_PROPERTIES"
# how much goes on side by side; more than this the tests' own waits do not gain from
PROCESSES = min(os.cpu_count() or 1, 4)
LOST = re.compile(r"(failures|errors|skipped|unexpected successes)=(\d+)")


@dataclass(frozen=True)
class Count:
    passed: int = 0
    failed: int = 0
    skipped: int = 0

    def __add__(self, other: "Count") -> "Count":
        return Count(
            self.passed + other.passed, self.failed + other.failed, self.skipped + other.skipped
        )


def count_django(output: str, returncode: int) -> Count:
    """Counts from the closing lines of Django's test runner; a crash is one failure."""
    ran = RAN.findall(output)
    if not ran:
        return Count(failed=1)
    last = output[output.rindex("Ran ") :]
    lost = {word: int(number) for word, number in LOST.findall(last)}
    skipped = lost.pop("skipped", 0)
    failed = sum(lost.values())
    if returncode and not failed:
        failed = 1
    return Count(max(0, int(ran[-1]) - failed - skipped), failed, skipped)


def _django(labels: Sequence[str], env: dict[str, str], processes: int = PROCESSES) -> Count:
    side_by_side = f"--parallel={processes}"
    words = [sys.executable, "manage.py", "test", *labels, "--noinput", side_by_side]
    env = {**os.environ, "DJANGO_SETTINGS_MODULE": "config.settings_test", **env}
    process = child(words, cwd=SERVER, env=env, stdout=subprocess.PIPE, stderr=subprocess.STDOUT)
    lines = []
    assert process.stdout is not None
    try:
        for raw in process.stdout:
            lines.append(raw.decode(errors="replace"))
            sys.stdout.write(lines[-1])
            sys.stdout.flush()
        return count_django("".join(lines), process.wait())
    finally:
        end(process)


def core_tests() -> Count:
    print("· Core, without a database", flush=True)
    return _django(["../core"], {"OILWARD_DB_HOST": "127.0.0.1", "OILWARD_DB_PORT": "1"})


def server_tests(postgres: Postgres, names: Sequence[str] = ()) -> Count:
    print("· Server", flush=True)
    postgres.ensure_roles()
    # two of them wait for most of their day, for minutes to be kept and for what was killed
    return _django(names or ["."], postgres.environment(role=USER), PROCESSES + 1)


def _copies(postgres: Postgres, database: str, number: int) -> None:
    with postgres.connect() as connection:
        for copy in range(number):
            connection.execute(f"DROP DATABASE IF EXISTS {database}_{copy} WITH (FORCE)")
            connection.execute(f"CREATE DATABASE {database}_{copy} TEMPLATE {database}")


def e2e_environment(postgres: Postgres, project: str) -> dict[str, str]:
    """Fresh demo databases for the browser, with a quick practice clock: the bikes with a story, for
    pictures the whole fleet. Journeys go side by side, each with a server and a database of its own."""
    side_by_side = PROCESSES if project == "journeys" else 1
    with postgres.connect() as connection:
        connection.execute("DROP DATABASE IF EXISTS e2e WITH (FORCE)")
    migrate(postgres, "e2e")
    env = {**postgres.environment("e2e"), "OILWARD_TIME_ZONE": FAR}
    manage(env, "load_demo", *([] if project == "shots" else ["--stories"]))
    _copies(postgres, "e2e", side_by_side)
    return {
        **env,
        "OILWARD_SECONDS_PER_MINUTE": "0.5",
        # a tablet and a workshop far from UTC
        "TZ": FAR,
        "OILWARD_E2E_PORTS": ",".join(str(port) for port in free_ports(8700, 2 * side_by_side)),
        "OILWARD_PYTHON": sys.executable,
        "OILWARD_SERVER": str(SERVER),
    }


def browser_tests(
    postgres: Postgres, project: str = "journeys", names: Sequence[str] = ()
) -> Count:
    print(f"· Browser: {project}", flush=True)
    build_web()
    env = {**os.environ, **e2e_environment(postgres, project)}
    with tempfile.TemporaryDirectory() as folder:
        report = Path(folder) / "report.json"
        env["PLAYWRIGHT_JSON_OUTPUT_FILE"] = str(report)
        words = [
            "npx",
            "playwright",
            "test",
            f"--project={project}",
            "--reporter=list,json",
            *([] if WIDE in os.environ else ["--grep-invert=@wide"]),
            *names,
        ]
        run(words, cwd=E2E, env=env)
        if not report.exists():
            return Count(failed=1)
        stats = json.loads(report.read_text())["stats"]
    return Count(stats["expected"], stats["unexpected"] + stats["flaky"], stats["skipped"])


def test(words: list[str]) -> int:
    """All of it, or the parts named: check, core, server, browser; behind them what to run of the
    server's tests (labels) and of the browser's journeys (file or title). ``wide`` tries new and
    many more inputs where they are drawn at random, and the journeys that do once more what another
    one does on another bike: before a release, not at every change."""
    if "wide" in words:
        os.environ[WIDE] = "wide"
    wanted = [word for word in words if word in PARTS] or list(PARTS)
    named = [word for word in words if word not in (*PARTS, "wide")]
    total = Count()
    if "check" in wanted:
        print("· Checks", flush=True)
        total += Count(*run_checks())
    if "core" in wanted:
        total += core_tests()
    postgres = Postgres("test", fast=True)
    try:
        if {"server", "browser"} & set(wanted):
            postgres.start()
        if "server" in wanted:
            total += server_tests(postgres, named)
        if "browser" in wanted:
            total += browser_tests(postgres, names=named)
    finally:
        postgres.stop()
    print(f"\n{total.passed} passed, {total.failed} failed, {total.skipped} skipped", flush=True)
    return 1 if total.failed or not total.passed else 0


def shots(words: list[str]) -> int:
    """./ward shots: take the pictures in docs/screenshots anew."""
    postgres = Postgres("test", fast=True)
    try:
        postgres.start()
        return 1 if browser_tests(postgres, "shots").failed else 0
    finally:
        postgres.stop()

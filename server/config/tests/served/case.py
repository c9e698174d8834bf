"""A workshop's server as a workshop has it, and another host one cable away."""

import os
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from unittest import SkipTest, TestCase

from psutil import Error, Process

from config.settings import ROOT

LOADED_IN = 2.0  # seconds, on two quiet cores
HEALTH = """
import ssl, sys, urllib.request
trusting = ssl.create_default_context()
trusting.check_hostname, trusting.verify_mode = False, ssl.CERT_NONE
print(urllib.request.urlopen(sys.argv[1], timeout=5, context=trusting).read().decode())
"""


def _free(wanted: int) -> int:
    from ops.paths import free_port

    return int(free_port(wanted))


def _ip(*words: str) -> None:
    subprocess.run(["ip", *words], check=True, capture_output=True)


class ServedCase(TestCase):
    """Each class has a network and ports of its own."""

    here, there, net = "10.71.3.1", "10.71.3.2", "owtablet"
    first_port = 8480
    takes_long = True
    since = 0.0

    def setUp(self) -> None:
        self.since = time.monotonic()
        self.lines = list[str]()

    @property
    def said(self) -> str:
        """What the server wrote, up to now."""
        return "".join(self.lines)

    def took(self, what: str) -> None:
        """Say how long a part of a long day took."""
        now = time.monotonic()
        print(f"{what}: {now - self.since:.0f} s", flush=True)
        self.since = now

    @classmethod
    def setUpClass(cls) -> None:
        if os.geteuid() or not shutil.which("ip"):
            raise SkipTest("another host is a network namespace, which root makes")
        sys.path.insert(0, str(ROOT))
        cls.folder = Path(tempfile.mkdtemp(prefix="oilward-served-", dir="/var/tmp"))
        cls.folder.chmod(0o755)
        cls.addClassCleanup(shutil.rmtree, cls.folder, ignore_errors=True)
        cls.http, cls.https = _free(cls.first_port), _free(cls.first_port + 10)
        settings = cls.folder / "oilward.toml"
        settings.write_text(
            f'hosts = ["{cls.here}"]\nhttp_port = {cls.http}\nhttps_port = {cls.https}\n'
            f"[limits]\nconnections_per_address = 300\n"
            f'[backup]\nfolder = "{cls.folder}/backups"\nevery_hours = 24\nkeep = 3\n'
        )
        cls.env = {
            **os.environ,
            "OILWARD_STATE": str(cls.folder),
            "OILWARD_SETTINGS": str(settings),
            "OILWARD_SECONDS_PER_MINUTE": "0.05",
            "PYTHONPATH": f"{ROOT}/core:{ROOT}/server",
        }
        cls.env.pop("DJANGO_SETTINGS_MODULE", None)
        cls.network()

    @classmethod
    def network(cls) -> None:
        """Another host, one cable away."""
        net, ours, theirs = cls.net, f"{cls.net}-a", f"{cls.net}-b"
        subprocess.run(["ip", "netns", "del", net], capture_output=True, check=False)
        try:
            _ip("netns", "add", net)
        except subprocess.CalledProcessError as error:
            raise SkipTest("no network namespaces on this machine") from error
        cls.addClassCleanup(subprocess.run, ["ip", "netns", "del", net], capture_output=True)
        _ip("link", "add", ours, "type", "veth", "peer", "name", theirs, "netns", net)
        _ip("addr", "add", f"{cls.here}/24", "dev", ours)
        _ip("link", "set", ours, "up")
        _ip("-n", net, "addr", "add", f"{cls.there}/24", "dev", theirs)
        _ip("-n", net, "link", "set", theirs, "up")
        _ip("-n", net, "link", "set", "lo", "up")

    def ops(self, *words: str, root: Path = ROOT, typed: str = "") -> tuple[int, str]:
        """One of ./ward's commands, with what somebody types into it."""
        env = {**self.env, "PYTHONPATH": f"{root}/core:{root}/server"}
        done = subprocess.run(
            [sys.executable, "-m", "ops", *words], cwd=root, env=env, check=False, input=typed,
            stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, timeout=300,
        )  # fmt: skip
        return done.returncode, done.stdout

    def serve(self) -> "subprocess.Popen[str]":
        """./ward serve, up and answering."""
        process = subprocess.Popen(
            [sys.executable, "-m", "ops", "serve"], cwd=ROOT, env=self.env, text=True,
            stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
        )  # fmt: skip
        self.addCleanup(self.end, process)
        lines = self.lines = list[str]()
        up = threading.Event()

        def read() -> None:
            assert process.stdout is not None
            for line in process.stdout:
                lines.append(line)
                if line.startswith("Settings:"):
                    up.set()

        threading.Thread(target=read, daemon=True).start()
        self.assertTrue(up.wait(240), self.said)
        return process

    def end(self, process: "subprocess.Popen[str]") -> None:
        if process.poll() is None:
            process.send_signal(signal.SIGTERM)
            process.wait(60)

    def until(self, done: Callable[[], object], seconds: float = 120) -> None:
        """Wait until something is so."""
        end = time.monotonic() + seconds
        while not done():
            self.assertLess(time.monotonic(), end, self.said)
            time.sleep(0.3)

    def tablet(self, *words: str) -> "subprocess.CompletedProcess[str]":
        """Something done on the other host, which has neither our code nor our database."""
        return subprocess.run(
            ["ip", "netns", "exec", self.net, sys.executable, "-I", *words],
            capture_output=True, text=True, check=False, timeout=200,
        )  # fmt: skip

    def backed_up(self) -> Path:
        """The backup that is made soon after the start."""
        until = time.monotonic() + 60
        while time.monotonic() < until:
            if found := sorted((self.folder / "backups").glob("oilward-*.backup.gpg")):
                return found[-1]
            time.sleep(0.3)
        raise AssertionError("no backup was made")

    def slower(self) -> float:
        """How many times as long as on a quiet machine it takes just now to load something large."""
        begun = time.monotonic()
        subprocess.run([sys.executable, "-c", "import ortools.sat.python.cp_model"], check=True)
        return max(1.0, (time.monotonic() - begun) / LOADED_IN)

    def until_up(self, process: "subprocess.Popen[str]", as_many: int = 0) -> float:
        """How long until an answer comes and as many processes run as before, seconds."""
        begun = time.monotonic()
        while time.monotonic() - begun < 120:
            done = self.tablet("-c", HEALTH, f"https://{self.here}:{self.https}/api/health/")
            if done.returncode == 0 and len(self.python_of(process)) >= as_many:
                return time.monotonic() - begun
            time.sleep(0.3)
        raise AssertionError(f"never up again: {done.stdout} {done.stderr}")

    def python_of(self, process: "subprocess.Popen[str]") -> list[int]:
        return [pid for pid, words in self.below(process) if "family" in words]

    def below(self, process: "subprocess.Popen[str]") -> list[tuple[int, str]]:
        """All that runs for it, by number and command."""
        found = []
        for one in Process(process.pid).children(True):
            with suppress(Error):  # it went while this looked
                found.append((one.pid, " ".join(one.cmdline())))
        return found

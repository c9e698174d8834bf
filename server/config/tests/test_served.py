"""./ward serve as a workshop has it: another host does the first visit over HTTPS; an upgrade that fails
goes back; a drill finds a damaged backup."""

import json
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
from contextlib import suppress
from pathlib import Path
from unittest import SkipTest, TestCase
from zipfile import ZipFile

from psutil import Error, Process

from config.settings import ROOT

TABLET = Path(__file__).parent / "served" / "tablet.py"
SHEET = ROOT / "server" / "demo" / "sheets" / "colossine-1640.json"
HERE, THERE, NET = "10.71.3.1", "10.71.3.2", "owtablet"
HEALTH = """
import ssl, sys, urllib.request
trusting = ssl.create_default_context()
trusting.check_hostname, trusting.verify_mode = False, ssl.CERT_NONE
print(urllib.request.urlopen(sys.argv[1], timeout=5, context=trusting).read().decode())
"""
SLOW = """
import socket, ssl, sys, time
trusting = ssl.create_default_context()
trusting.check_hostname, trusting.verify_mode = False, ssl.CERT_NONE
held = []
for _ in range(300):
    try:
        line = socket.create_connection((sys.argv[1], int(sys.argv[2])), timeout=5)
        line = trusting.wrap_socket(line)
        line.sendall(b"GET / HTTP/1.1\\r\\nHost: x")
        held.append(line)
    except OSError:
        pass
print(len(held), flush=True)
time.sleep(60)
"""
BAD = """
from django.db import migrations


def fall(apps, schema_editor):
    apps.get_model("workshop", "Person").objects.update(name="gone")
    raise RuntimeError("this migration fails")


class Migration(migrations.Migration):
    atomic = False
    dependencies = [("workshop", "{last}")]
    operations = [migrations.RunPython(fall)]
"""


def _free(wanted: int) -> int:
    from ops.paths import free_port

    return int(free_port(wanted))


def _ip(*words: str) -> None:
    subprocess.run(["ip", *words], check=True, capture_output=True)


class ServedTests(TestCase):
    takes_long = True
    said = ""

    @classmethod
    def setUpClass(cls) -> None:
        if os.geteuid() or not shutil.which("ip"):
            raise SkipTest("another host is a network namespace, which root makes")
        sys.path.insert(0, str(ROOT))
        cls.folder = Path(tempfile.mkdtemp(prefix="oilward-served-", dir="/var/tmp"))
        cls.folder.chmod(0o755)
        cls.addClassCleanup(shutil.rmtree, cls.folder, ignore_errors=True)
        cls.http, cls.https = _free(8480), _free(8490)
        settings = cls.folder / "oilward.toml"
        settings.write_text(
            f'hosts = ["{HERE}"]\nhttp_port = {cls.http}\nhttps_port = {cls.https}\n'
            f"[limits]\nconnections_per_address = 60\n"
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
        subprocess.run(["ip", "netns", "del", NET], capture_output=True, check=False)
        try:
            _ip("netns", "add", NET)
        except subprocess.CalledProcessError as error:
            raise SkipTest("no network namespaces on this machine") from error
        cls.addClassCleanup(subprocess.run, ["ip", "netns", "del", NET], capture_output=True)
        _ip("link", "add", "owhere", "type", "veth", "peer", "name", "owthere", "netns", NET)
        _ip("addr", "add", f"{HERE}/24", "dev", "owhere")
        _ip("link", "set", "owhere", "up")
        _ip("-n", NET, "addr", "add", f"{THERE}/24", "dev", "owthere")
        _ip("-n", NET, "link", "set", "owthere", "up")
        _ip("-n", NET, "link", "set", "lo", "up")

    def ops(self, *words: str, root: Path = ROOT) -> tuple[int, str]:
        env = {**self.env, "PYTHONPATH": f"{root}/core:{root}/server"}
        done = subprocess.run(
            [sys.executable, "-m", "ops", *words], cwd=root, env=env, check=False,
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
        lines, up = list[str](), threading.Event()

        def read() -> None:
            assert process.stdout is not None
            for line in process.stdout:
                lines.append(line)
                if line.startswith("Settings:"):
                    up.set()

        threading.Thread(target=read, daemon=True).start()
        self.assertTrue(up.wait(240), "".join(lines))
        self.said = "".join(lines)
        return process

    def end(self, process: "subprocess.Popen[str]") -> None:
        if process.poll() is None:
            process.send_signal(signal.SIGTERM)
            process.wait(60)

    def tablet(self, *words: str) -> "subprocess.CompletedProcess[str]":
        """Something done on the other host, which has neither our code nor our database."""
        return subprocess.run(
            ["ip", "netns", "exec", NET, sys.executable, "-I", *words],
            capture_output=True, text=True, check=False, timeout=200,
        )  # fmt: skip

    def backed_up(self) -> Path:
        """The backup that is made soon after the start."""
        until = time.monotonic() + 60
        while time.monotonic() < until:
            if found := sorted((self.folder / "backups").glob("*.backup")):
                return found[-1]
            time.sleep(0.3)
        raise AssertionError("no backup was made")

    def test_a_workshops_first_day(self) -> None:
        process = self.serve()
        code, said = self.ops("first-lead", "Oda Klein")
        self.assertEqual(code, 0, said)
        link = re.search(r"https://\S+", said)
        fingerprint = re.search(r"([0-9A-F]{2}:){31}[0-9A-F]{2}", self.said)
        assert link and fingerprint, (said, self.said)

        plain = f"http://{HERE}:{self.http}"
        done = self.tablet(str(TABLET), plain, fingerprint[0], link[0], str(SHEET))
        self.assertEqual((done.returncode, done.stdout), (0, "signed: signed\n"), done.stderr)
        # there is a lead now: nobody makes another one by the way
        code, said = self.ops("first-lead", "Somebody Else")
        self.assertEqual(code, 1)
        self.assertIn("There is a lead already: Oda Klein", said)
        self.backed_up()
        self.what_is_killed_comes_back(process)
        self.an_address_holds_so_much_and_no_more()
        self.processes_at_rest_fit(process)
        self.a_run_that_was_killed_leaves_nothing_in_the_way(process)

        self.a_drill_finds_what_is_damaged()
        self.an_upgrade_that_fails_goes_back()

    def until_up(self, process: "subprocess.Popen[str]", as_many: int = 0) -> float:
        """How long until an answer comes and as many processes run as before, seconds."""
        begun = time.monotonic()
        while time.monotonic() - begun < 60:
            done = self.tablet("-c", HEALTH, f"https://{HERE}:{self.https}/api/health/")
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

    def what_is_killed_comes_back(self, process: "subprocess.Popen[str]") -> None:
        as_many = len(self.python_of(process))
        for name, part, at in (
            ("database", "postgres -D", 0),
            ("nginx", "nginx: master", 0),
            ("all that is Python", "family", 0),
            ("app", "family", 1),
            ("doors", "family", 2),
            ("events", "family", 3),
            ("solving", "family", 4),
        ):
            found = [pid for pid, words in self.below(process) if part in words]
            os.kill(found[at], signal.SIGKILL)
            last = self.until_up(process, as_many)
            print(f"{name} killed: up again after {last:.1f} s", flush=True)
            self.assertLess(last, 20, name)
            self.assertIsNone(process.poll())

    def an_address_holds_so_much_and_no_more(self) -> None:
        """Half requests over TLS from one address keep no other one out."""
        slow = subprocess.Popen(
            ["ip", "netns", "exec", NET, sys.executable, "-I", "-c", SLOW, HERE, str(self.https)],
            stdout=subprocess.PIPE, text=True,
        )  # fmt: skip
        self.addCleanup(slow.kill)
        assert slow.stdout is not None
        held = int(slow.stdout.readline())
        self.assertLessEqual(held, 60)
        url = f"https://{HERE}:{self.https}/api/health/"
        words = [sys.executable, "-I", "-c", HEALTH, url]
        done = subprocess.run(words, capture_output=True, text=True, timeout=10, check=False)
        self.assertEqual(done.returncode, 0, done.stderr)
        slow.kill()
        slow.wait()

    def processes_at_rest_fit(self, process: "subprocess.Popen[str]") -> None:
        time.sleep(3)
        # a backup or a drill that is just at work is not at rest
        stay = [pid for pid, words in self.below(process) if "manage.py" not in words]
        pss = sum(Process(pid).memory_full_info().pss for pid in (process.pid, *stay)) / 1e6
        print(f"processes at rest: {pss:.0f} MB", flush=True)
        self.assertLess(pss, 400)

    def a_run_that_was_killed_leaves_nothing_in_the_way(
        self, process: "subprocess.Popen[str]"
    ) -> None:
        (front,) = (pid for pid, words in self.below(process) if "nginx: master" in words)
        for pid in (process.pid, front):
            os.kill(pid, signal.SIGKILL)
        process.wait()
        again = self.serve()
        self.until_up(again)
        # and a second one says what is in its way
        code, said = self.ops("serve")
        self.assertEqual(code, 1)
        self.assertIn("Already running from this clone", said)
        self.assertIsNone(again.poll())
        self.until_up(again, len(self.python_of(again)))
        self.end(again)

    def a_drill_finds_what_is_damaged(self) -> None:
        code, said = self.ops("drill")
        self.assertEqual(code, 0, said)
        self.assertRegex(said, r"is good: \d+ rows in \d+ tables")
        good = self.backed_up()
        torn, less = self.folder / "torn.backup", self.folder / "less.backup"
        torn.write_bytes(good.read_bytes()[:-200])
        with ZipFile(good) as whole, ZipFile(less, "w") as part:
            for name in whole.namelist():
                told = whole.read(name)
                if name == "manifest.json":
                    manifest = json.loads(told)
                    manifest["tables"]["workshop_person"]["rows"] = 99
                    told = json.dumps(manifest).encode()
                part.writestr(name, told)
        for file, words in ((torn, "stopped"), (less, "is not whole: workshop_person has")):
            code, said = self.ops("drill", str(file))
            self.assertEqual(code, 1, said)
            self.assertIn(words, said)

    def an_upgrade_that_fails_goes_back(self) -> None:
        copy = self.folder / "release"
        for name in ("server", "core", "ops"):
            left = shutil.ignore_patterns("__pycache__", ".hypothesis")
            shutil.copytree(ROOT / name, copy / name, ignore=left)
        for name in ("web", "node_modules", "package-lock.json"):
            (copy / name).symlink_to(ROOT / name)
        folder = copy / "server" / "workshop" / "migrations"
        last = max(file.stem for file in folder.glob("0*.py"))
        (folder / "9999_bad.py").write_text(BAD.format(last=last))
        code, said = self.ops("upgrade", root=copy)
        self.assertEqual(code, 1, said)
        self.assertIn("They are as they were before", said)
        # one that migrates and then does not answer
        (folder / "9999_bad.py").unlink()
        (copy / "server" / "config" / "wsgi.py").write_text("raise RuntimeError('no answer')\n")
        code, said = self.ops("upgrade", root=copy)
        self.assertEqual(code, 1, said)
        self.assertIn("This release does not work here", said)
        self.assertIn("They are as they were before", said)
        # what the half-done migration had written is gone, and the release of before goes on
        code, said = self.ops("upgrade")
        self.assertEqual(code, 0, said)
        code, said = self.ops("first-lead", "Somebody Else")
        self.assertIn("There is a lead already: Oda Klein", said)

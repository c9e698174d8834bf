"""./ward serve as a workshop has it: another host does the first visit over HTTPS; what is killed comes
back; nobody keeps anybody out."""

import os
import re
import signal
import subprocess
import sys
import time
from contextlib import suppress
from pathlib import Path

from psutil import CONN_LISTEN, NoSuchProcess, Process

from config.settings import ROOT

from .served.case import HEALTH, ServedCase

TABLET = Path(__file__).parent / "served" / "tablet.py"
SHEET = ROOT / "server" / "demo" / "sheets" / "colossine-1640.json"
# sixty tablets at once, each with a stream and a line, and everybody is answered
SIGNED_AND_SIXTY = "signed: signed\nsixty: 200 120 times\n"
# a try to sign in from no page of ours
DOOR = """
import ssl, sys, urllib.error, urllib.request
trusting = ssl.create_default_context()
trusting.check_hostname, trusting.verify_mode = False, ssl.CERT_NONE
try:
    urllib.request.urlopen(sys.argv[1], data=b"{}", timeout=20, context=trusting)
except urllib.error.HTTPError as refused:
    print(refused.code)
"""
SLOW = """
import socket, ssl, sys, time
trusting = ssl.create_default_context()
trusting.check_hostname, trusting.verify_mode = False, ssl.CERT_NONE
held = []
for _ in range(360):
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


class FirstDayTests(ServedCase):
    def test_a_workshops_first_day(self) -> None:
        process = self.serve()
        asked = self.tablet("-c", DOOR, f"https://{self.here}:{self.https}/api/session/")
        self.assertEqual(asked.stdout, "403\n", asked.stderr)  # once it is up its doors are open
        code, said = self.ops("first-lead", "Oda Klein")
        self.assertEqual(code, 0, said)
        self.nobody_listens_but_who_should(process)
        link = re.search(r"https://\S+", said)
        fingerprint = re.search(r"([0-9A-F]{2}:){31}[0-9A-F]{2}", self.said)
        assert link and fingerprint, (said, self.said)

        plain = f"http://{self.here}:{self.http}"
        done = self.tablet(str(TABLET), plain, fingerprint[0], link[0], str(SHEET))
        found = (done.returncode, done.stdout)
        self.assertEqual(found, (0, SIGNED_AND_SIXTY), done.stderr + self.said)
        # there is a lead now: nobody makes another one by the way
        code, said = self.ops("first-lead", "Somebody Else")
        self.assertEqual(code, 1)
        self.assertIn("There is a lead already: Oda Klein", said)
        self.backed_up()
        self.what_is_killed_comes_back(process)
        self.an_address_holds_so_much_and_no_more()
        self.processes_at_rest_fit(process)
        self.a_run_that_was_killed_leaves_nothing_in_the_way(process)

    def nobody_listens_but_who_should(self, process: "subprocess.Popen[str]") -> None:
        """On ports: any program of this machine may take one that is free for a moment."""
        listening = set()
        for pid, words in self.below(process):
            with suppress(NoSuchProcess):  # one of the database's, which come and go
                if any(one.status == CONN_LISTEN for one in Process(pid).net_connections("inet")):
                    listening.add(words.split()[0].rstrip(":"))
        self.assertEqual({Path(name).name for name in listening}, {"nginx", "postgres"})

    def what_is_killed_comes_back(self, process: "subprocess.Popen[str]") -> None:
        as_many = len(self.python_of(process))
        for name, part, called in (
            ("database", "postgres -D", ""),
            ("nginx", "nginx: master", ""),
            ("all that is Python", "family", "python"),
            ("app", "family", "oilward-app"),
            ("doors", "family", "oilward-doors"),
            ("events", "family", "oilward-events"),
            ("plans", "family", "oilward-plans"),
            ("background", "family", "oilward-backgr"),
        ):
            slower = self.slower()
            found = [pid for pid, words in self.below(process) if part in words]
            os.kill(next(pid for pid in found if called in Process(pid).name()), signal.SIGKILL)
            last = self.until_up(process, as_many)
            print(f"{name} killed: up again after {last:.1f} s", flush=True)
            if last >= 20:
                slower = max(slower, self.slower())
            self.assertLess(last, 20 * slower, name)
            self.assertIsNone(process.poll())

    def an_address_holds_so_much_and_no_more(self) -> None:
        """Half requests over TLS from one address keep no other one out."""
        there = ["ip", "netns", "exec", self.net, sys.executable, "-I", "-c"]
        slow = subprocess.Popen(
            [*there, SLOW, self.here, str(self.https)], stdout=subprocess.PIPE, text=True
        )
        self.addCleanup(slow.kill)
        assert slow.stdout is not None
        held = int(slow.stdout.readline())
        self.assertLessEqual(held, 300)
        url = f"https://{self.here}:{self.https}/api/health/"
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
        self.assertLess(pss, 350)

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

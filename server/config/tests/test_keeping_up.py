"""What a workshop's server does about a network that gives it another address, ports that others have,
and a machine that is busy."""

import os
import signal
import socket
import subprocess
import sys
import threading
import time
from http.server import BaseHTTPRequestHandler
from pathlib import Path
from socketserver import UnixStreamServer
from tempfile import TemporaryDirectory
from typing import Any
from unittest import TestCase, mock

from config.settings import ROOT

sys.path.insert(0, str(ROOT))

from ops import archive, children, nginx, workshop
from ops.house import House
from ops.paths import free_port
from ops.postgres import Postgres


class KeptCase(TestCase):
    def house(self, **more: Any) -> House:
        home = Path(self.enterContext(TemporaryDirectory()))
        told = {"home": home, "hosts": ("10.0.0.9", "bench"), "https_port": 443, "http_port": 80}
        return House(**{**told, **more})


class UpTests(KeptCase):
    def test_it_is_up_once_its_doors_are_open_as_well(self) -> None:
        begun, house = list[str](), self.house()

        class Answers(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                self.send_response(200 if self.headers["Host"] == house.hosts[0] else 400)
                self.end_headers()

            def log_message(self, *said: Any) -> None:
                """Nothing."""

        def begin(name: str) -> None:
            begun.append(name)
            server = UnixStreamServer(str(nginx.behind(house) / name), Answers)
            self.addCleanup(server.server_close)
            self.addCleanup(server.shutdown)
            threading.Thread(target=server.serve_forever, daemon=True).start()

        begin("app")
        late = threading.Timer(1.0, begin, ["doors"])
        late.start()
        self.addCleanup(late.join)
        # a process that is there while this waits
        family = mock.Mock(process=mock.Mock(pid=os.getpid(), poll=lambda: None))
        workshop.until_up(house, family)
        self.assertEqual(begun, ["app", "doors"])

    def test_nobody_else_gets_at_what_listens_behind_nginx(self) -> None:
        """Nor takes the place of what fell: a port on loopback is anybody's."""
        folder = nginx.behind(self.house())
        self.assertEqual(folder.stat().st_mode & 0o777, 0o710)
        if os.geteuid() == 0:
            self.assertEqual(folder.group(), nginx.USER)
        self.assertNotIn("127.0.0.1", nginx.CONFIG.template)


class MinutesTests(KeptCase):
    def test_where_they_cannot_be_kept_the_workshop_is_served_and_that_is_told(self) -> None:
        house = self.house(backup={"folder": "/dev/null/backups"})
        postgres = mock.Mock(data=house.home / "pg", home=house.home)
        with self.assertLogs("oilward.house", "ERROR") as logged:
            archive.started(house, postgres)
        postgres.start.assert_called_once_with()
        self.assertIn("cannot be kept in /dev/null/backups/minutes", logged.output[0])

    def test_nobody_begins_anew_where_only_the_data_are_gone(self) -> None:
        house = self.house()
        (house.home / "backups" / "minutes").mkdir(parents=True)
        with self.assertRaises(SystemExit) as stopped:
            archive.started(house, mock.Mock(data=house.home / "pg", home=house.home))
        self.assertIn("restore --to latest", str(stopped.exception))

    def test_a_moment_that_is_none_or_has_not_been_is_said(self) -> None:
        for moment in ("yesterday", "2999-01-01 09:30", ""):
            with self.assertRaises(SystemExit):
                archive._target(moment)
        self.assertEqual(archive._target("latest"), ["--type=default"])
        (kind, target, _) = archive._target("2026-03-14 09:30+01:00")
        self.assertEqual((kind, target), ("--type=time", "--target=2026-03-14 08:30:00+00"))


class AddressTests(KeptCase):
    def looked(self, house: House, now: tuple[str, ...]) -> tuple[House, list[Any], Any]:
        """Another look at the network; the house, who was begun anew with what, and nginx."""
        family, front = mock.Mock(env={"OILWARD_HOSTS": "x"}), mock.Mock()
        with (
            mock.patch.object(workshop, "own_hosts", lambda: now),
            mock.patch.object(workshop.authority, "renewed", return_value=False) as renew,
            mock.patch.object(nginx, "configure") as configure,
        ):
            found = workshop._found_elsewhere(house, [family, front])
            self.assertEqual(renew.call_args.args[0].hosts, found.hosts)
        self.assertEqual(configure.called, front.process.send_signal.called)
        return found, family.anew.call_args_list, front

    def test_another_address_is_noticed_and_everything_told(self) -> None:
        found, begun, front = self.looked(self.house(named=False), ("10.0.0.77", "bench"))
        self.assertEqual(found.hosts, ("10.0.0.77", "bench"))
        self.assertIn("10.0.0.77", begun[0].args[0]["OILWARD_HOSTS"])
        self.assertTrue(front.process.send_signal.called)

    def test_the_same_addresses_in_another_order_are_the_same(self) -> None:
        found, begun, front = self.looked(self.house(named=False), ("bench", "10.0.0.9"))
        self.assertEqual((found.hosts, begun), (("10.0.0.9", "bench"), []))
        self.assertFalse(front.process.send_signal.called)

    def test_a_network_that_is_gone_for_a_minute_changes_nothing(self) -> None:
        found, begun, _ = self.looked(self.house(named=False), ("bench",))
        self.assertEqual((found.hosts, begun), (("10.0.0.9", "bench"), []))

    def test_what_the_settings_name_stays(self) -> None:
        found, begun, _ = self.looked(self.house(), ("10.0.0.77",))
        self.assertEqual((found.hosts, begun), (("10.0.0.9", "bench"), []))


class PortTests(KeptCase):
    def test_a_port_somebody_else_has_is_said_by_its_number(self) -> None:
        with socket.socket() as other, socket.socket() as free:
            other.bind(("", 0))
            other.listen()
            free.bind(("127.0.0.1", 0))
            taken, left = other.getsockname()[1], free.getsockname()[1]
            free.close()
            with self.assertRaises(SystemExit) as stopped:
                workshop._doors_free(self.house(https_port=left, http_port=taken))
        self.assertIn(f"http_port {taken} is taken by another program", str(stopped.exception))
        workshop._doors_free(self.house(https_port=left, http_port=taken))


class BusyTests(TestCase):
    def waited(self, words: str) -> float:
        process = subprocess.Popen([sys.executable, "-c", words], start_new_session=True)
        self.addCleanup(process.wait)
        self.addCleanup(children.end_group, process)
        begun = time.monotonic()
        with (
            mock.patch.object(children, "STILL", 1.0),
            mock.patch.object(children, "LONGEST", 4.0),
            mock.patch.object(children, "SAY_AGAIN", 1.0),
            mock.patch("builtins.print") as said,
        ):
            for _ in children.while_it_moves(process, "The server"):
                time.sleep(0.05)
        self.said = said.call_count
        return time.monotonic() - begun

    def test_what_works_is_waited_for_and_what_stands_still_is_not(self) -> None:
        self.assertGreaterEqual(self.waited("while True: pass"), 4)
        self.assertGreaterEqual(self.said, 2)
        self.assertLess(self.waited("import time; time.sleep(60)"), 3)

    def test_work_of_those_it_started_counts(self) -> None:
        child = "import subprocess, sys; subprocess.run([sys.executable, '-c', 'while True: pass'])"
        self.assertGreaterEqual(self.waited(child), 4)


class DatabaseTests(TestCase):
    def test_one_that_is_just_stopping_is_waited_for_and_begun_anew(self) -> None:
        home = Path(self.enterContext(TemporaryDirectory(dir="/var/tmp")))
        home.chmod(0o755)
        self.enterContext(mock.patch.dict(os.environ, OILWARD_STATE=str(home)))
        server = Postgres("left", fast=True)
        self.addCleanup(server.stop)
        server.start()
        assert server.process
        process = server.process
        with server.connect():  # somebody still in keeps it from going at once
            process.send_signal(signal.SIGTERM)
            while "stopping" not in (server.data / "postmaster.pid").read_text():
                time.sleep(0.05)
            leaves = threading.Timer(1, process.send_signal, [signal.SIGINT])
            leaves.start()
            server.process = None
            server.start()
        process.wait()
        with server.connect() as connection:
            self.assertEqual(connection.execute("SELECT 1").fetchone(), (1,))

    def test_a_port_another_database_took_meanwhile_is_not_taken_for_ones_own(self) -> None:
        home = Path(self.enterContext(TemporaryDirectory(dir="/var/tmp")))
        home.chmod(0o755)
        other, own = int(os.environ["OILWARD_DB_PORT"]), free_port(54390)
        ports = iter([other, other, own])
        self.enterContext(mock.patch.dict(os.environ, OILWARD_STATE=str(home)))
        self.enterContext(mock.patch("ops.postgres.free_port", lambda _: next(ports)))
        server = Postgres("taken", fast=True)
        self.addCleanup(server.stop)
        server.start()
        self.assertEqual(server.port, str(own))
        with server.connect() as connection:
            told = connection.execute("SHOW data_directory").fetchone()
        self.assertEqual(told, (str(server.data),))


class FamilyTests(TestCase):
    def test_who_gives_way_does_so_beyond_its_own_session_and_so_do_those_it_begins(self) -> None:
        words = (
            "import os, sys; sys.path.insert(0, sys.argv[1]); import family as f\n"
            "def told(name):\n"
            "    group = open('/proc/self/autogroup').read().split()[-1]\n"
            "    os.write(1, f'{name} {os.nice(0)} {group}\\n'.encode())\n"
            "def begins():\n"
            "    told('solving'); one = f.Member(name='plans', does=lambda: told('plans'))\n"
            "    one.begin(); os.waitpid(one.pid, 0)\n"
            "one = f.Member(name='solving', does=begins, nice=f.LAST)\n"
            "one.begin(); os.waitpid(one.pid, 0)\n"
        )
        if not Path("/proc/self/autogroup").exists():
            self.skipTest("this kernel shares itself out by processes, not by sessions")
        done = subprocess.run(
            [sys.executable, "-c", words, str(ROOT / "server")], capture_output=True, text=True
        )
        self.assertEqual(done.stdout, "solving 19 19\nplans 19 19\n", done.stderr)

"""What a workshop's server keeps for itself: settings, certificates, backups, the unit systemd runs."""

import json
import os
import shutil
import subprocess
import sys
import tomllib
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest import TestCase, mock
from zipfile import ZipFile

from config.settings import ROOT

sys.path.insert(0, str(ROOT))

from ops import certificates, elsewhere, keep, nginx, sealing
from ops import house as ops_house
from ops.house import FIRST, House, read_house
from ops.install import earlier
from ops.pictures import unpacked
from ops.settings import SCHEMA, faults
from ops.units import units, verified

DOORS = "https_port = 443\nhttp_port = 80\n"


class HouseCase(TestCase):
    def setUp(self) -> None:
        self.home = Path(self.enterContext(TemporaryDirectory()))

    def house(self, *hosts: str, **backup: Any) -> House:
        return House(
            home=self.home,
            hosts=hosts or ("10.0.0.9", "bench.lan"),
            https_port=443,
            http_port=80,
            backup=backup,
        )

    def read(self, text: str) -> House:
        file = self.home / "oilward.toml"
        file.write_text(text, "latin-1")
        told = {"OILWARD_STATE": str(self.home), "OILWARD_SETTINGS": str(file)}
        with mock.patch.dict(os.environ, told):
            return read_house()


class SettingsTests(HouseCase):
    def test_made_at_the_first_start_and_read_as_made(self) -> None:
        file = self.home / "oilward.toml"
        told = {"OILWARD_STATE": str(self.home), "OILWARD_SETTINGS": str(file)}
        with mock.patch.dict(os.environ, told):
            first = read_house()
            self.assertEqual(read_house(), first)
        self.assertIn("localhost", first.hosts)
        self.assertEqual(first.backup["keep"], 14)

    def test_what_cannot_be_read_is_said(self) -> None:
        for text, words in (
            ("hosts = [", "cannot be read"),
            ('https_port = "door"\nhttp_port = 80', "https_port: it has to be a port from 1"),
            ("https_port = 443\nhttp_port = 99999", "http_port: it has to be a port"),
            ("https_port = 443", "http_port: it has to be there"),
            (DOORS + 'hosts = "vm.local"', "hosts: it has to be a list of names"),
            (DOORS + 'hosts = ["a b"]', "hosts.0: it has to be a name or an address"),
            (DOORS + 'key = "/x"', "certificate, key: they go together"),
            (DOORS + "[backup]\nevery_hours = -1", "backup.every_hours: it has to be hours"),
            (DOORS + '[backup]\nevery_hours = "daily"', "not 'daily'"),
            (DOORS + "[backup]\nkeep = 0", "backup.keep: it has to be a whole number"),
            (DOORS + '[backup]\npassfrase_file = "/x"', "Is passphrase_file meant?"),
            (DOORS + "[limits]\nconnections_per_address = 1", "from 10 to 10000"),
            ("https_port = 443\nhttp_port = 443", "two doors cannot be one port"),
            ("\xff", "cannot be read"),
        ):
            with self.assertRaises(SystemExit) as stopped:
                self.read(text)
            self.assertIn(words, str(stopped.exception))

    def test_every_setting_of_the_first_file_is_in_the_schema_and_every_fault_is_told_at_once(
        self,
    ) -> None:
        first = tomllib.loads(FIRST.format(https=443, http=80, folder="/x"))
        self.assertEqual(faults(first), [])
        self.assertEqual(set(first), set(SCHEMA["properties"]))
        for name in ("backup", "limits"):
            self.assertEqual(set(first[name]), set(SCHEMA["properties"][name]["properties"]))
        self.assertEqual(len(faults({"hosts": "x", "http_port": 0, "https_port": 0, "x": 1})), 5)

    def test_links_lead_to_the_first_name(self) -> None:
        house = self.read('hosts = ["oil.lan"]\nhttps_port = 8443\nhttp_port = 8080')
        self.assertEqual((house.address, house.by_number), ("https://oil.lan:8443", ""))
        house = self.read('hosts = ["10.0.0.9", "oil.lan"]\nhttps_port = 443\nhttp_port = 80')
        self.assertEqual((house.address, house.by_number), ("https://oil.lan", "https://10.0.0.9"))

    def test_this_machines_own_name_leads_where_it_is_made_known(self) -> None:
        name, numbers = mock.patch("socket.gethostname", lambda: "bench"), ["10.0.0.9"]
        with name, mock.patch.object(ops_house, "_addresses", lambda: numbers):
            with mock.patch.object(ops_house, "ANNOUNCED", self.home):
                self.assertEqual(ops_house.own_hosts()[:2], ("bench.local", "10.0.0.9"))
            with mock.patch.object(ops_house, "ANNOUNCED", self.home / "none"):
                self.assertEqual(ops_house.own_hosts()[:2], ("10.0.0.9", "bench"))

    def test_a_new_tablet_is_led_by_name_and_told_the_number(self) -> None:
        page = (nginx._public(self.house("oil.lan", "10.0.0.9")) / "trust.html").read_text()
        self.assertIn('href="https://oil.lan"', page)
        self.assertIn('href="https://10.0.0.9"', page)


class CertificateTests(HouseCase):
    def shown(self, house: House) -> str:
        words = [
            "openssl",
            "x509",
            "-in",
            str(certificates.own(house).certificate),
            "-noout",
            "-text",
        ]
        return subprocess.run(words, capture_output=True, text=True, check=True).stdout

    def test_made_once_and_anew_for_other_names_by_the_same_authority(self) -> None:
        house = self.house()
        self.assertEqual((certificates.renew(house), certificates.renew(house)), (True, False))
        said, ca = self.shown(house), (self.home / "tls" / "ca.crt").read_bytes()
        self.assertIn("IP Address:10.0.0.9, DNS:bench.lan", said)
        self.assertIn("CA:FALSE", said)
        self.assertTrue(certificates.renew(self.house("10.0.0.10")))
        self.assertIn("IP Address:10.0.0.10", self.shown(house))
        self.assertEqual((self.home / "tls" / "ca.crt").read_bytes(), ca)
        done = subprocess.run(
            ["openssl", "verify", "-CAfile", "ca.crt", "server.crt"],
            cwd=self.home / "tls", capture_output=True, text=True, check=False,
        )  # fmt: skip
        self.assertEqual(done.returncode, 0, done.stderr)
        for key in ("ca.key", "server.key"):
            self.assertEqual((self.home / "tls" / key).stat().st_mode & 0o077, 0, key)

    def test_the_authority_vouches_for_nothing_far_away(self) -> None:
        certificates.renew(self.house("oil.lan", "203.0.113.7"))
        tls = self.home / "tls"
        # on the local network it goes on with whatever address comes
        self.assertTrue(certificates.renew(self.house("oil.lan", "192.168.4.5", "bench.local")))
        kept = (tls / "server.crt").read_bytes()
        for far in ("shop.example.org", "203.0.113.8"):
            with self.subTest(far), self.assertRaises(SystemExit) as stopped:
                certificates.renew(self.house("oil.lan", far))
            self.assertIn(far, str(stopped.exception))
        self.assertEqual((tls / "server.crt").read_bytes(), kept)
        # a name the machine has come to have by itself stops nothing
        house = replace(self.house("oil.lan", "newname", "10.0.0.4"), named=False)
        self.assertTrue(certificates.renew(house))
        self.assertNotIn("newname", self.shown(house))
        self.assertFalse(certificates.renew(house))
        done = subprocess.run(
            ["openssl", "verify", "-CAfile", "ca.crt", "server.crt"], cwd=tls, check=False,
            capture_output=True, text=True,
        )  # fmt: skip
        self.assertEqual(done.returncode, 0, done.stderr)

    def test_the_authority_itself_is_limited_whoever_has_its_key(self) -> None:
        house = self.house("oil.lan")
        certificates.renew(house)
        (self.home / "tls" / "ca.limits").unlink()
        far = self.house("oil.lan", "shop.example.org")
        certificates.renew(far)
        done = subprocess.run(
            ["openssl", "verify", "-CAfile", "ca.crt", "server.crt"],
            cwd=self.home / "tls", check=False, capture_output=True, text=True,
        )  # fmt: skip
        self.assertIn("permitted subtree violation", done.stderr + done.stdout)

    def test_renewed_before_it_ends(self) -> None:
        house = self.house()
        certificates.renew(house)
        with mock.patch.object(certificates, "RENEW_DAYS", certificates.DAYS + 1):
            self.assertTrue(certificates.renew(house))

    def test_the_owners_own_is_left_alone_and_has_to_be_there(self) -> None:
        house = House(
            home=self.home,
            hosts=("x",),
            https_port=443,
            http_port=80,
            certificate="/nowhere/x.crt",
            key="/nowhere/x.key",
        )
        self.assertFalse(certificates.renew(house))
        with self.assertRaises(SystemExit) as stopped:
            certificates.own(house)
        self.assertIn("/nowhere/x.crt", str(stopped.exception))


def whole(file: Path) -> None:
    """A backup, as far as the keeper looks at one."""
    with ZipFile(file, "w") as made:
        made.writestr("manifest.json", json.dumps({"format": "oilward-backup/2"}))


class KeepTests(HouseCase):
    def keeping(self, **more: Any) -> keep.Keeping:
        told = {"folder": str(self.home / "kept"), "encrypted": "passphrase_file" in more, **more}
        return keep.Keeping(self.house(**told))

    def make(self, keeping: keep.Keeping, fails: int = 0) -> Path | None:
        def write(postgres: Any, role: str, command: str, file: str, *more: str) -> int:
            whole(Path(file))
            return fails

        with mock.patch.object(keep, "on_data", write):
            return keeping.made(mock.Mock())

    def told(self) -> dict[str, Any]:
        return dict(json.loads((self.home / "kept.json").read_text()))

    def test_sealed_with_the_passphrase_and_opened_with_it_alone(self) -> None:
        for name, words in (("right", "four wet ropes"), ("wrong", "five wet ropes")):
            (self.home / name).write_text(words)
        made = self.make(self.keeping(passphrase_file=str(self.home / "right")))
        assert made is not None
        self.assertEqual([file.name for file in made.parent.glob("*.backup*")], [made.name])
        self.assertNotIn(b"manifest", made.read_bytes())
        with sealing.opened(made, [self.home / "right"]) as found:
            self.assertTrue(keep.is_whole(found.plain))
        for keys in ([self.home / "wrong"], []):
            with self.assertRaises(SystemExit), sealing.opened(made, keys):
                self.fail("opened")
        self.assertTrue(self.told()["encrypted"])

    def test_pictures_are_kept_beside_them_each_once_and_gone_with_the_last(self) -> None:
        (self.home / "key").write_text("four wet ropes")
        keeping = self.keeping(keep=2, passphrase_file=str(self.home / "key"))
        names = [one * 64 for one in "abc"]

        def write(pictures: list[str]) -> Any:
            def on_data(postgres: Any, role: str, command: str, file: str, *more: str) -> int:
                fresh = Path(more[1].removeprefix("--fresh="))
                fresh.mkdir(exist_ok=True)
                for name in pictures:
                    (fresh / name).write_text(f"picture {name}")
                told = {"format": "oilward-backup/3", "pictures": pictures}
                with ZipFile(file, "w") as whole:
                    whole.writestr("manifest.json", json.dumps(told))
                return 0

            return mock.patch.object(keep, "on_data", on_data)

        def kept() -> list[str]:
            found = (self.home / "kept" / "pictures").glob("??/*")
            return sorted(one.name.removesuffix(".gpg")[:1] for one in found)

        days = iter(range(1, 9))
        for pictures, stay in (("ab", "ab"), ("bc", "abc"), ("c", "bc"), ("c", "c")):
            with (
                write([one * 64 for one in pictures]),
                mock.patch.object(keep, "datetime") as clock,
            ):
                clock.now.return_value = datetime(2026, 1, next(days), tzinfo=UTC)
                made = keeping.made(mock.Mock())
            assert made is not None
            self.assertEqual(kept(), list(stay))
        self.assertEqual(made.stat().st_mode & 0o077, 0)
        raw = (self.home / "kept" / "pictures" / "cc" / f"{names[2]}.gpg").read_bytes()
        self.assertNotIn(b"picture", raw)
        with unpacked(made, keeping.keys) as words:
            self.assertEqual(Path(words[2], names[2]).read_text(), f"picture {names[2]}")

    def test_only_so_many_stay(self) -> None:
        keeping = self.keeping(keep=2)
        (self.home / "kept").mkdir()
        for day in ("01", "02", "03"):
            whole(self.home / "kept" / f"oilward-2020-01-{day}-000000.backup")
        made = self.make(keeping)
        assert made is not None
        left = sorted(file.name for file in (self.home / "kept").glob("*.backup"))
        self.assertEqual(left, ["oilward-2020-01-03-000000.backup", made.name])

    def test_what_is_not_its_own_is_neither_counted_nor_taken_away(self) -> None:
        keeping, kept = self.keeping(keep=1), self.home / "kept"
        kept.mkdir()
        for name in ("zz-foreign.backup", "by-hand.backup", "oilward-by-hand.backup.gpg"):
            whole(kept / name)
        # stopped midway, or of something else under our name
        (kept / f"{keep.HALF}oilward-2020-01-01-000000.backup.part").write_bytes(b"half")
        (kept / "oilward-2099-01-01-000000.backup").write_bytes(b"half of one")
        self.assertIsNone(keeping.newest())
        made = self.make(keeping)
        self.assertEqual(keeping.newest(), made)
        self.make(keeping)
        left = {file.name for file in kept.iterdir()}
        self.assertLessEqual(
            {"zz-foreign.backup", "by-hand.backup", "oilward-by-hand.backup.gpg"}, left
        )
        self.assertFalse([name for name in left if name.startswith(keep.HALF)])

    def test_another_machine_that_accepts_and_says_nothing_is_given_up(self) -> None:
        for name in ("scp", "rsync"):
            (self.home / name).write_text("#!/bin/sh\nexec sleep 60\n")
            (self.home / name).chmod(0o755)
        path = {"PATH": f"{self.home}:{os.environ['PATH']}"}
        with mock.patch.dict(os.environ, path), mock.patch.object(elsewhere, "SILENT", 0.5):
            made = self.make(self.keeping(also_to="nobody@127.0.0.1:x"))
        assert made is not None
        self.assertIn("nobody@127.0.0.1:x said nothing", self.told()["failed"])
        self.assertEqual(self.told()["file"], made.name)

    def test_another_machine_gets_the_pictures_first_and_what_is_new_alone(self) -> None:
        there = self.home / "there"
        there.mkdir()
        # stands where ssh leads to another machine: what is after host: is a folder of this one
        (self.home / "ssh").write_text(
            '#!/bin/sh\nwhile [ "$1" != rsync ]; do shift; done\nexec "$@"\n'
        )
        (self.home / "scp").write_text(
            '#!/bin/sh\nfor last; do :; done\nwhile [ "$#" -gt 2 ]; do shift; done\n'
            'cp "$1" "${last#*:}"\n'
        )
        for name in ("ssh", "scp"):
            (self.home / name).chmod(0o755)
        path = {"PATH": f"{self.home}:{os.environ['PATH']}"}
        with mock.patch.dict(os.environ, path):
            made = self.make(self.keeping(also_to=f"somebody@elsewhere:{there}"))
        assert made is not None
        self.assertEqual(self.told()["failed"], "")
        self.assertEqual({one.name for one in there.iterdir()}, {made.name, "pictures"})

    def test_what_failed_is_told_and_the_one_before_stands(self) -> None:
        self.make(self.keeping())
        self.assertIsNone(self.make(self.keeping(), fails=1))
        self.assertIn("could not be written", self.told()["failed"])
        self.assertTrue(self.told()["made_at"])

    def test_what_another_machine_does_not_take_is_kept_here_and_told(self) -> None:
        also = self.keeping(also_to="nobody@127.0.0.1:x", keep=1)
        (self.home / "kept").mkdir()
        whole(self.home / "kept" / "oilward-2020-01-01-000000.backup")
        with mock.patch.dict(os.environ, {"PATH": "/nowhere"}):
            made = self.make(also)
        assert made is not None
        self.assertEqual(list(made.parent.glob("*.backup")), [made])
        self.assertIn("nobody@127.0.0.1:x did not take it", self.told()["failed"])
        self.assertEqual(self.told()["file"], made.name)


class UnitTests(TestCase):
    def test_systemd_takes_the_units(self) -> None:
        if not shutil.which("systemd-analyze"):
            self.skipTest("no systemd on this machine")
        there, settings = Path("/var/lib/oilward"), Path("/etc/oilward/oilward.toml")
        texts = units(ROOT / "ward", there, settings, "/srv/kept")
        self.assertEqual(verified(texts), "")
        writes = [line for line in texts["oilward.service"].splitlines() if "ReadWrite" in line]
        self.assertEqual(writes, ["ReadWritePaths=/var/lib/oilward -/srv/kept"])
        self.assertIn("not executable", verified(units(Path("/nowhere/ward"), there, settings)))

    def test_releases_are_told_from_what_else_lies_there_the_newest_first(self) -> None:
        with TemporaryDirectory() as folder:
            for name in ("2026-01-02-090000", "2025-12-31-090000", "2026-01-02-100000", "current"):
                Path(folder, name).mkdir()
            left = [release.name for release in earlier(Path(folder))]
        self.assertEqual(left, ["2026-01-02-100000", "2026-01-02-090000", "2025-12-31-090000"])

"""The workshop's authority and the keys of its backups: who may read them, and how they come along to
another machine."""

import json
import os
import pwd
import subprocess
import sys
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest import TestCase, mock, skipIf
from zipfile import ZipFile

from config.settings import ROOT

sys.path.insert(0, str(ROOT))

from workshop.keeping.passphrase import AUTHORITY, BACKUP, key_for, new, tidy

from ops import authority, certificates, keep, passphrase, sealing
from ops.house import House

HOSTS = ("oil.lan", "10.0.0.9")


def openssl(*words: str | Path) -> "subprocess.CompletedProcess[str]":
    return subprocess.run(
        ["openssl", *map(str, words)], capture_output=True, text=True, check=False
    )


class MachineCase(TestCase):
    """Machines of a workshop, each in a folder of its own that everybody may look into."""

    def machine(self, *hosts: str, **more: Any) -> House:
        home = Path(self.enterContext(TemporaryDirectory(dir="/var/tmp")))
        home.chmod(0o755)
        told = {"hosts": hosts or HOSTS, "https_port": 443, "http_port": 80, "named": True}
        return House(**{"home": home, **told, **more})

    def made(self, house: House) -> tuple[str, Path]:
        """A passphrase, and a backup with everything that belongs into it."""
        shown = passphrase.make(house)
        authority.see_to(house)
        keeping = keep.Keeping(house)

        def write(postgres: Any, role: str, command: str, file: str, *more: str) -> int:
            with ZipFile(file, "w") as whole:
                whole.writestr("manifest.json", json.dumps({"format": "oilward-backup/2"}))
            return 0

        with mock.patch.object(keep, "on_data", write):
            file = keeping.made(mock.Mock())
        assert file is not None
        return shown, file


class PassphraseTests(MachineCase):
    def test_made_once_and_only_what_comes_of_it_is_written_down(self) -> None:
        house = self.machine()
        shown = passphrase.make(house)
        self.assertRegex(shown, r"^([A-Z2-9]{5}-){4}[A-Z2-9]{5}$")
        self.assertEqual(passphrase.make(house), "")
        written = "".join(f.read_text() for f in house.home.rglob("*") if f.is_file())
        self.assertNotIn(shown, written)
        self.assertIn(key_for(BACKUP, shown), written)

    def test_another_one_opens_what_is_made_from_then_on(self) -> None:
        house = self.machine()
        first, second = passphrase.make(house), passphrase.make(house, anew=True)
        self.assertNotEqual(first, second)
        key = passphrase.backup_key(house).read_text()
        self.assertEqual(key, key_for(BACKUP, second))
        # what was made before is opened here all the same
        self.assertIn(
            key_for(BACKUP, first),
            [one.read_text() for one in keep.keys_at_hand(house) if one.exists()],
        )

    def test_typed_as_a_hand_types_it(self) -> None:
        shown = new()
        for typed in (shown, shown.lower(), shown.replace("-", " "), f"  {shown[:9]}{shown[9:]}\n"):
            self.assertEqual(tidy(typed), shown)
        self.assertNotEqual(key_for(BACKUP, shown), key_for(AUTHORITY, shown))

    def test_a_backup_is_sealed_by_itself_and_opened_by_hand_with_the_passphrase(self) -> None:
        house = self.machine()
        shown, file = self.made(house)
        self.assertTrue(file.name.endswith(".backup.gpg"))
        self.assertEqual(file.stat().st_mode & 0o077, 0)
        # as docs/operations.md says for a machine without Oil Ward
        by_hand = subprocess.run(
            f"key=$(printf 'oilward backup:{shown}' | sha256sum | cut -c1-64);"
            f'gpg --batch --quiet --pinentry-mode loopback --passphrase "$key" -d {file}',
            shell=True, capture_output=True, check=False, env={**os.environ, "HOME": "/var/tmp"},
        )  # fmt: skip
        self.assertIn(b"oilward-backup/2", by_hand.stdout, by_hand.stderr)

    def test_without_its_key_no_backup_is_made_and_that_is_told(self) -> None:
        house = self.machine()
        with mock.patch.object(keep, "on_data", lambda *_: Path(_[3]).touch() or 0):
            self.assertIsNone(keep.Keeping(house).made(mock.Mock()))
        told = json.loads((house.home / "kept.json").read_text())
        self.assertIn("to seal it with", told["failed"])
        self.assertEqual(list((house.home / "backups").iterdir()), [])

    def test_who_does_not_want_it_sealed_says_so(self) -> None:
        house = self.machine(backup={"encrypted": False})
        _, file = self.made(house)
        self.assertTrue(keep.is_whole(file))
        with ZipFile(file) as whole:
            self.assertNotIn(b"PRIVATE KEY", whole.read(authority.SEALED))


class ComesAlongTests(MachineCase):
    def test_tablets_that_trusted_the_old_machine_trust_the_new_one_of_its_name(self) -> None:
        old, house = self.machine(), self.machine()
        shown, file = self.made(old)
        passphrase.make(house)
        authority.see_to(house)
        trusted = old.home / "on-a-tablet.crt"
        trusted.write_bytes((old.tls / "ca.crt").read_bytes())
        server = house.tls / "server.crt"
        self.assertNotEqual(openssl("verify", "-CAfile", trusted, server).returncode, 0)
        authority.take_over(house, file, shown.lower().replace("-", " "))
        done = openssl("verify", "-CAfile", trusted, "-verify_hostname", "oil.lan", server)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertTrue((house.tls / "ca.key.before").exists())
        # and from there it comes along once more, with the new machine's passphrase
        self.assertGreaterEqual(
            authority.sealed(house).stat().st_mtime, (house.tls / "ca.key").stat().st_mtime
        )

    def test_nothing_changes_where_it_cannot_be_taken_over(self) -> None:
        old, other = self.machine(), self.machine("other.example", "203.0.113.7")
        shown, file = self.made(old)
        passphrase.make(other)
        authority.see_to(other)
        before = {path.name: path.read_bytes() for path in other.tls.iterdir()}
        empty = other.home / "empty.backup"
        with ZipFile(empty, "w") as whole:
            whole.writestr("manifest.json", "{}")
        for source, typed, words in (
            (file, new(), "No passphrase given opens"),
            (file, shown, "does not vouch for other.example, 203.0.113.7"),
            (empty, shown, "has no authority in it"),
        ):
            with self.assertRaises(SystemExit) as stopped:
                authority.take_over(other, source, typed)
            self.assertIn(words, str(stopped.exception))
        after = {path.name: path.read_bytes() for path in other.tls.iterdir()}
        self.assertEqual(after, before)

    def crafted(self, house: House, shown: str, told: dict[str, Any]) -> Path:
        """A backup with another authority in it, sealed as ours would be."""
        plain = house.home / "authority.json"
        plain.write_text(json.dumps(told))
        key = house.home / "key"
        key.write_text(key_for(AUTHORITY, shown))
        sealed, file = sealing.sealed(plain, key), house.home / "crafted.backup"
        with ZipFile(file, "w") as whole:
            whole.write(sealed, authority.SEALED)
        return file

    def test_a_certificate_that_is_no_authority_or_anothers_is_refused(self) -> None:
        old, house = self.machine(), self.machine()
        shown, _ = self.made(old)
        passphrase.make(house)
        authority.see_to(house)
        key, leaf = (old.tls / "ca.key").read_text(), (old.tls / "server.crt").read_text()
        ca = (old.tls / "ca.crt").read_text()
        leafs = (old.tls / "server.key").read_text()
        for told, words in (
            ({"format": authority.FORMAT, "certificate": ca, "key": leafs}, "belong together"),
            ({"format": authority.FORMAT, "certificate": leaf, "key": leafs}, "no authority"),
            ({"format": authority.FORMAT, "certificate": "x", "key": key}, "openssl"),
            ({"format": "something/1"}, "no authority of Oil Ward's"),
            ([], "no authority of Oil Ward's"),
        ):
            file = self.crafted(house, shown, told)  # type: ignore[arg-type]
            with self.assertRaises(SystemExit) as stopped:
                authority.take_over(house, file, shown)
            self.assertIn(words, str(stopped.exception))


@skipIf(os.geteuid(), "root's helper is root's")
class HelperTests(MachineCase):
    def test_who_serves_reads_the_certificate_in_use_and_not_the_authority(self) -> None:
        house = self.machine()
        serving = pwd.getpwnam("nobody")
        os.chown(house.home, serving.pw_uid, serving.pw_gid)
        passphrase.make(house)
        authority.see_to(house)
        reads = {
            path.name: subprocess.run(
                ["cat", path], user=serving.pw_uid, group=serving.pw_gid, extra_groups=[],
                capture_output=True, check=False,
            ).returncode == 0
            for path in house.tls.iterdir()
        }  # fmt: skip
        for name in ("server.key", "server.crt", "ca.crt", authority.SEALED):
            self.assertTrue(reads.pop(name), name)
        self.assertFalse(reads.pop("ca.key"))
        self.assertFalse(reads.pop("seal.key"))
        # nor can it put anything in their place
        told = ["touch", house.tls / "ca.key"]
        done = subprocess.run(
            told, user=serving.pw_uid, group=serving.pw_gid, check=False, capture_output=True
        )
        self.assertNotEqual(done.returncode, 0)

    def test_a_link_put_in_its_way_leads_it_nowhere(self) -> None:
        house = self.machine()
        prey = house.home / "prey"
        prey.write_text("untouched")
        house.tls.mkdir()
        for name in ("backup.key.new", "backup.key", "passphrase.check.new"):
            (house.home / name).symlink_to(prey)
        with mock.patch.object(House, "settings", house.home / "oilward.toml"):
            passphrase.make(house)
        self.assertEqual(prey.read_text(), "untouched")

    def test_it_is_asked_to_look_and_what_it_made_is_noticed(self) -> None:
        house = self.machine()
        authority.see_to(house)
        shown = house.home / "shown"
        shown.write_text(certificates.stamp(house))
        with mock.patch.object(authority, "is_helpers", return_value=True):
            self.assertFalse(authority.renewed(house, shown, ask=True))
            self.assertIn("oil.lan", (house.home / authority.ASKED).read_text())
            certificates._issue(
                house.tls, certificates.authority(house.tls, HOSTS), HOSTS, certificates.own(house)
            )
            self.assertTrue(authority.renewed(house, shown, ask=False))

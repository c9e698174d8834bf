"""A workshop put back: after its data are gone, after an upgrade that fails, on another machine; and a
drill that finds what is damaged."""

import json
import os
import re
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any
from zipfile import ZipFile

from config.settings import ROOT

from .served.case import ServedCase

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


# another host trusts what it was once given, and nothing else
TRUSTS = """
import ssl, sys, urllib.request
trusting = ssl.create_default_context(cafile=sys.argv[1])
print(urllib.request.urlopen(sys.argv[2], timeout=5, context=trusting).read().decode())
"""


class PutBackTests(ServedCase):
    here, there, net, first_port = "10.71.4.1", "10.71.4.2", "owback", 8520

    def test_everything_is_put_back(self) -> None:
        process = self.serve()
        passphrase = re.search(r"([A-Z2-9]{5}-){4}[A-Z2-9]{5}", self.said)
        assert passphrase, self.said
        trusted = self.folder / "on-a-tablet.crt"
        shutil.copy(self.folder / "serve" / "tls" / "ca.crt", trusted)
        code, said = self.ops("first-lead", "Oda Klein", "--sign-in", "oda")
        self.assertEqual(code, 0, said)
        self.until(lambda: self.minutes().get("reaches"))
        self.took("a workshop with its minutes kept")
        self.data_that_are_gone_come_back_up_to_a_minute_ago(process)
        self.took("data that are gone come back up to a minute ago")
        self.a_drill_finds_what_is_damaged()
        self.took("a drill finds what is damaged")
        self.an_upgrade_that_fails_goes_back()
        self.took("an upgrade that fails goes back")
        self.another_machine_of_the_same_name_is_trusted(passphrase[0], trusted)
        self.took("another machine of the same name is trusted")

    def minutes(self) -> dict[str, Any]:
        """What the keeper tells of them."""
        try:
            told = json.loads((self.folder / "serve" / "kept.json").read_text())
        except (OSError, ValueError):
            return {}
        return dict(told.get("minutes") or {})

    def known(self, name: str) -> bool:
        """Whether somebody of that name is in the workshop."""
        code, said = self.ops("first-lead", name, "--again")
        return code == 0 and "This link opens once" in said

    def data_that_are_gone_come_back_up_to_a_minute_ago(
        self, process: "subprocess.Popen[str]"
    ) -> None:
        reaches = self.minutes()["reaches"]
        code, said = self.ops("first-lead", "Runa Lind", "--sign-in", "runa")
        self.assertEqual(code, 0, said)
        begun = time.monotonic()
        # what was just done is kept within a minute, and told in the next look
        self.until(lambda: self.minutes().get("reaches", "") > reaches, 150)
        print(f"kept apart after {time.monotonic() - begun:.0f} s", flush=True)
        data = self.folder / "serve" / "pg"
        os.kill(int((data / "postmaster.pid").read_text().split()[0]), signal.SIGKILL)
        shutil.rmtree(data, ignore_errors=True)
        self.end(process)
        shutil.rmtree(data, ignore_errors=True)
        # nobody begins a new workshop in their place by the way
        code, said = self.ops("serve")
        self.assertEqual(code, 1)
        self.assertIn("The workshop's data are gone", said)
        for moment, words in (("yesterday", "is no moment"), ("2999-01-01", "has not been yet")):
            code, said = self.ops("restore", "--to", moment)
            self.assertEqual((code, words in said), (1, True), said)
        code, said = self.ops("restore", "--to", "latest")
        self.assertEqual(code, 0, said)
        self.assertIn("The workshop is as it was at", said)
        self.assertTrue(self.known("Oda Klein"))
        self.assertTrue(self.known("Runa Lind"))

    def another_machine_of_the_same_name_is_trusted(self, passphrase: str, trusted: Path) -> None:
        file = self.backed_up()
        moved = self.folder / "moved"
        moved.mkdir()
        self.addCleanup(self.env.update, OILWARD_STATE=self.env["OILWARD_STATE"])
        self.env |= {"OILWARD_STATE": str(moved), "OILWARD_SETTINGS": str(moved / "oilward.toml")}
        told = (self.folder / "oilward.toml").read_text()
        (moved / "oilward.toml").write_text(told.replace(f"{self.folder}/", f"{moved}/"))
        process = self.serve()
        url = f"https://{self.here}:{self.https}/api/health/"
        done = self.tablet("-c", TRUSTS, str(trusted), url)
        self.assertIn("certificate verify failed", done.stderr)
        self.end(process)
        for command in ("authority", "restore"):
            words = [command, *(["--from"] if command == "authority" else []), str(file)]
            code, said = self.ops(*words, typed="AAAAA-AAAAA-AAAAA-AAAAA-AAAAA\n")
            self.assertEqual(code, 1, said)
            code, said = self.ops(*words, typed=f"{passphrase}\n")
            self.assertEqual(code, 0, said)
        self.serve()
        done = self.tablet("-c", TRUSTS, str(trusted), url)
        self.assertIn('"late"', done.stdout, done.stderr)
        self.assertTrue(self.known("Oda Klein"))

    def a_drill_finds_what_is_damaged(self) -> None:
        code, said = self.ops("drill")
        self.assertEqual(code, 0, said)
        self.assertRegex(said, r"is good: \d+ rows in \d+ tables")
        sealed = self.backed_up()
        sys.path.insert(0, str(ROOT))
        from ops.sealing import open_to

        good = self.folder / "good.backup"
        open_to(sealed, good, self.folder / "backup.key")
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
        self.assertTrue(self.known("Oda Klein"))

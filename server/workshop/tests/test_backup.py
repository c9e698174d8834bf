"""A workshop goes into one file and comes back as it was."""

import os
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any
from unittest import mock

from config.settings import ROOT
from django.contrib.sessions.models import Session
from django.core.management import call_command
from django.core.management.base import CommandError
from django.db import connection
from django.test import TransactionTestCase
from django.utils import timezone
from psycopg import connect

from workshop import backup
from workshop.backup import dump, prove, put_back
from workshop.models import Person

COPY = "backup_copy"
# the demo workshop of that release, with an open visit written down in its words
LAST_RELEASE = Path(__file__).parent / "files" / "release-0.10.0.backup"
GOES_ON = """
from uuid import uuid4
from django.utils import timezone
from rest_framework.test import APIClient
from visits.models import Visit
from workshop.models import Person

api, now = APIClient(HTTP_HOST="127.0.0.1"), timezone.now()
api.force_login(Person.objects.get(username="mira"))
url = f"/api/visits/{Visit.objects.get(state='open').pk}/"
sheet = api.get(url).json()
print("before", sheet["focus"], sum(step["status"] == "done" for step in sheet["steps"]))
entry = {"id": str(uuid4()), "step": sheet["focus"], "kind": "torque", "description": 3}
entry |= {"at": now.isoformat(), "data": {"reading": "29 N·m"}}
sheet = api.post(f"{url}entries/", entry, format="json").json()
print("after", sheet["focus"], len(api.get("/api/ward/").json()["bikes"]))
"""


class BackupTests(TransactionTestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.file = self.folder / "all.backup"
        self.here: dict[str, Any] = dict(connection.settings_dict)
        self.copy = {**self.here, "NAME": COPY}
        self.addCleanup(self.clear)
        Person.objects.create(username="mira", name="Mira", role="lead")

    def clear(self) -> None:
        for name in (COPY, f"{COPY}_before", f"{COPY}_restoring"):
            self.execute("postgres", f"DROP DATABASE IF EXISTS {name}")

    def execute(self, database: str, words: str) -> list[tuple[Any, ...]]:
        with connect(
            host=self.here["HOST"],
            port=self.here["PORT"],
            user=self.here["USER"],
            password=self.here["PASSWORD"],
            dbname=database,
            autocommit=True,
        ) as found:
            cursor = found.execute(words)
            return cursor.fetchall() if cursor.description else []

    def names(self, database: str) -> list[tuple[Any, ...]]:
        return self.execute(database, "SELECT name FROM workshop_person ORDER BY name")

    def standing(self) -> set[str]:
        return {name for (name,) in self.execute("postgres", "SELECT datname FROM pg_database")}

    def test_everything_comes_back_and_what_was_there_is_kept(self) -> None:
        dump(self.here, self.file)
        self.assertEqual(self.file.stat().st_mode & 0o077, 0)
        put_back(self.copy, self.file)
        self.assertEqual(self.names(COPY), [("Mira",)])
        Person.objects.create(username="oda", name="Oda", role="lead")
        later = self.folder / "later.backup"
        dump(self.here, later)
        self.assertEqual(put_back(self.copy, later), f"{COPY}_before")
        self.assertEqual(self.names(COPY), [("Mira",), ("Oda",)])
        self.assertEqual(self.names(f"{COPY}_before"), [("Mira",)])
        self.assertNotIn(f"{COPY}_restoring", self.standing())

    def test_a_backup_is_one_moment_of_a_workshop_at_work(self) -> None:
        """What goes and comes while it is made is in it as it was counted."""
        run = backup._tool

        def meanwhile(command: str, *words: Any, **more: Any) -> str:
            if command == "pg_dump":
                self.execute(self.here["NAME"], "DELETE FROM workshop_person")
                self.execute(self.here["NAME"], "INSERT INTO planning_roller VALUES (1, now())")
            return run(command, *words, **more)

        with mock.patch("workshop.backup._tool", meanwhile):
            dump(self.here, self.file)
        self.assertEqual(self.names(self.here["NAME"]), [])
        found = prove(self.here, self.file)
        self.assertEqual((found["workshop_person"], found["planning_roller"]), (1, 0))

    def test_a_restored_workshop_refuses_what_the_first_one_refused(self) -> None:
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        triggers = "SELECT tgname FROM pg_trigger WHERE NOT tgisinternal ORDER BY tgname"
        self.assertEqual(self.execute(COPY, triggers), self.execute(self.here["NAME"], triggers))
        self.assertTrue(self.execute(COPY, triggers))

    def test_a_backup_overwrites_nothing(self) -> None:
        self.file.write_text("something else")
        with self.assertRaisesMessage(CommandError, "there already"):
            call_command("backup", str(self.file))
        self.assertEqual(self.file.read_text(), "something else")
        with self.assertRaisesMessage(CommandError, "cannot be written"):
            call_command("backup", str(self.folder / "nowhere" / "all.backup"))

    def test_what_is_no_backup_changes_nothing(self) -> None:
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        whole = self.file.read_bytes()
        for name, content, said in (
            ("letter", b"Dear workshop,", "pg_restore stopped"),
            ("half", whole[: len(whole) // 2], "pg_restore stopped"),
            ("nothing", b"", "pg_restore stopped"),
        ):
            file = self.folder / name
            file.write_bytes(content)
            with self.subTest(name), self.assertRaisesMessage(CommandError, said):
                put_back(self.copy, file)
            self.assertEqual(self.names(COPY), [("Mira",)])
        with self.assertRaisesMessage(CommandError, "There is no file"):
            put_back(self.copy, self.folder / "gone")
        self.assertFalse({f"{COPY}_before", f"{COPY}_restoring"} & self.standing())

    def test_one_changed_byte_is_seen(self) -> None:
        dump(self.here, self.file)
        whole = bytearray(self.file.read_bytes())
        whole[len(whole) // 2] ^= 1
        self.file.write_bytes(whole)
        with self.assertRaisesMessage(CommandError, "damaged"):
            put_back(self.copy, self.file)
        self.assertFalse({COPY, f"{COPY}_restoring"} & self.standing())

    def test_who_is_signed_in_is_not_in_it(self) -> None:
        Session.objects.create(session_key="k", session_data="d", expire_date=timezone.now())
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        self.assertEqual(self.execute(COPY, "SELECT * FROM django_session"), [])

    def test_what_would_do_more_than_put_a_workshop_back_does_nothing(self) -> None:
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        for make, unmake in (
            ("CREATE VIEW spy AS SELECT 1", "DROP VIEW spy"),
            ("CREATE SCHEMA mine", "DROP SCHEMA mine"),
            ("CREATE EXTENSION file_fdw", "DROP EXTENSION file_fdw"),
        ):
            self.execute(COPY, make)
            file = self.folder / make.replace(" ", "-")
            dump(self.copy, file)
            self.execute(COPY, unmake)
            with self.subTest(make), self.assertRaisesMessage(CommandError, "would do more"):
                put_back(self.copy, file)

    def test_what_runs_from_the_file_runs_without_rights(self) -> None:
        """A check that would read the server's own files, hidden in a table, is refused."""
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        self.execute(
            COPY,
            "CREATE TABLE bait (id int CHECK (pg_read_file('/etc/hostname') <> ''));"
            "INSERT INTO bait VALUES (1)",
        )
        file = self.folder / "bait"
        dump(self.copy, file)
        with self.assertRaisesMessage(CommandError, "permission denied"):
            put_back(self.copy, file)
        roles = {name for (name,) in self.execute("postgres", "SELECT rolname FROM pg_roles")}
        self.assertNotIn("oilward_restoring", roles)

    def test_everything_put_back_is_the_owners(self) -> None:
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        owners = "SELECT DISTINCT tableowner FROM pg_tables WHERE schemaname = 'public'"
        self.assertEqual(self.execute(COPY, owners), [("oilward_owner",)])

    def test_a_newer_or_a_foreign_backup_is_refused(self) -> None:
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        self.execute(
            COPY, "INSERT INTO django_migrations (app, name, applied) VALUES ('garage', '9', now())"
        )
        newer, foreign = self.folder / "newer", self.folder / "foreign"
        dump(self.copy, newer)
        with self.assertRaisesMessage(CommandError, "newer Oil Ward"):
            put_back(self.copy, newer)
        self.execute(COPY, "DROP TABLE django_migrations")
        dump(self.copy, foreign)
        with self.assertRaisesMessage(CommandError, "no workshop in that file"):
            put_back(self.copy, foreign)

    def test_a_database_at_work_is_left_alone(self) -> None:
        dump(self.here, self.file)
        with self.assertRaisesMessage(CommandError, "Stop it, then restore"):
            call_command("restore", str(self.file))
        self.assertEqual(Person.objects.get().name, "Mira")

    def manage(self, *words: str) -> str:
        """A command of this release on the copy."""
        found = {
            f"OILWARD_DB_{name}": str(self.copy[name]) for name in ("HOST", "PORT", "NAME", "USER")
        }
        env = {**os.environ, **found, "OILWARD_DB_PASSWORD": str(self.copy["PASSWORD"])}
        done = subprocess.run(
            [sys.executable, "manage.py", *words], cwd=ROOT / "server", env=env, check=False,
            capture_output=True, text=True,
        )  # fmt: skip
        self.assertEqual(done.returncode, 0, done.stderr)
        return done.stdout

    def test_a_backup_of_the_last_release_comes_back_and_goes_on(self) -> None:
        put_back(self.copy, LAST_RELEASE)
        self.manage("migrate", "--verbosity", "0")
        said = self.manage("shell", "-v", "0", "-c", GOES_ON).splitlines()
        self.assertEqual(said, ["before engine/torque 10", "after engine/filter 24"])

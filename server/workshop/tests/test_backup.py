"""A workshop goes into one file and comes back as it was."""

import tempfile
from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import CommandError
from django.db import connection
from django.test import TransactionTestCase
from psycopg import connect

from workshop.backup import dump, put_back
from workshop.models import Person

COPY = "backup_copy"


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

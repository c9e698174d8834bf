"""A workshop goes into one file and comes back as it was."""

import json
import os
import subprocess
import sys
import tempfile
from collections.abc import Callable
from hashlib import sha256
from pathlib import Path
from typing import Any
from unittest import mock
from zipfile import ZipFile

from config.settings import ROOT
from django.contrib.sessions.models import Session
from django.core.management import call_command
from django.core.management.base import CommandError
from django.db import connection
from django.test import TransactionTestCase
from django.utils import timezone
from psycopg import connect

from workshop.backup import dump, prove, put_back, restore, write
from workshop.backup.read import read
from workshop.models import Person

COPY, EMPTY = "backup_copy", "backup_tables"
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


class BackupCase(TransactionTestCase):
    """Tables made by migrations take seconds: once for all, then copied. One test makes its own."""

    made = False

    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.folder.chmod(0o777)
        self.file = self.folder / "all.backup"
        self.here: dict[str, Any] = dict(connection.settings_dict)
        self.copy = {**self.here, "NAME": f"{COPY}_{os.getpid()}"}
        self.addCleanup(self.clear)
        Person.objects.create(username="mira", name="Mira", role="lead")

    def quickly(self) -> None:
        """Tables are copied from those made once."""
        empty = f"{EMPTY}_{os.getpid()}"
        if not BackupCase.made:
            self.execute("postgres", f"DROP DATABASE IF EXISTS {empty}")
            self.execute("postgres", f"CREATE DATABASE {empty} OWNER oilward_owner")
            restore.tables_as_of({**self.here, "NAME": empty}, self.applied())
            BackupCase.made = True
            BackupCase.addClassCleanup(setattr, BackupCase, "made", False)

        def copied(database: Any, migrations: Any) -> None:
            name = database["NAME"]
            self.execute("postgres", f"DROP DATABASE {name}")
            self.execute("postgres", f"CREATE DATABASE {name} TEMPLATE {empty} OWNER oilward_owner")

        self.enterContext(mock.patch.object(restore, "tables_as_of", copied))
        self.enterContext(mock.patch.object(restore, "_bring_up_to_date"))

    def applied(self) -> set[tuple[str, str]]:
        return set(self.execute(self.here["NAME"], "SELECT app, name FROM django_migrations"))

    def clear(self) -> None:
        name = self.copy["NAME"]
        for one in (name, f"{name}_before", f"{name}_restoring", f"{name}_drill"):
            self.execute("postgres", f"DROP DATABASE IF EXISTS {one}")

    def execute(self, database: str, words: str) -> list[Any]:
        with connect(
            host=self.here["HOST"],
            port=self.here["PORT"],
            user=self.here["USER"],
            password=self.here["PASSWORD"],
            dbname=database,
            autocommit=True,
        ) as found:
            cursor = found.execute(words)  # type: ignore[call-overload]
            return cursor.fetchall() if cursor.description else []

    def names(self, database: str) -> list[Any]:
        return self.execute(database, "SELECT name FROM workshop_person ORDER BY name")

    def standing(self) -> set[str]:
        return {name for (name,) in self.execute("postgres", "SELECT datname FROM pg_database")}

    def nothing_came(self) -> None:
        name = self.copy["NAME"]
        self.assertFalse({f"{name}_before", f"{name}_restoring"} & self.standing())

    def refused(self, file: Path, said: str) -> None:
        for do in (prove, put_back):
            with self.assertRaisesMessage(CommandError, said):
                do(self.copy, file)


class BackupTests(BackupCase):
    def setUp(self) -> None:
        super().setUp()
        self.quickly()

    def test_everything_comes_back_and_what_was_there_is_kept(self) -> None:
        dump(self.here, self.file)
        self.assertEqual(self.file.stat().st_mode & 0o077, 0)
        copy = self.copy["NAME"]
        put_back(self.copy, self.file)
        self.assertEqual(self.names(copy), [("Mira",)])
        Person.objects.create(username="oda", name="Oda", role="lead")
        later = self.folder / "later.backup"
        dump(self.here, later)
        self.assertEqual(put_back(self.copy, later), f"{copy}_before")
        self.assertEqual(self.names(copy), [("Mira",), ("Oda",)])
        self.assertEqual(self.names(f"{copy}_before"), [("Mira",)])
        self.assertNotIn(f"{copy}_restoring", self.standing())
        # numbers go on behind those that are there
        self.execute(
            copy,
            "INSERT INTO workshop_welcome (person_id, digest, until) SELECT id, 'd', now() "
            "FROM workshop_person LIMIT 1",
        )

    def test_a_backup_is_one_moment_of_a_workshop_at_work(self) -> None:
        """What goes and comes while it is made is in it as it was counted."""
        real, done = write._rows, list[str]()

        def meanwhile(*given: Any) -> Any:
            if not done:
                done.append("once")
                self.execute(self.here["NAME"], "DELETE FROM workshop_person")
                self.execute(self.here["NAME"], "INSERT INTO planning_roller VALUES (1, now())")
            return real(*given)

        with mock.patch.object(write, "_rows", meanwhile):
            dump(self.here, self.file)
        self.assertEqual(self.names(self.here["NAME"]), [])
        found = prove(self.copy, self.file)
        self.assertEqual((found["workshop_person"], found["planning_roller"]), (1, 0))

    def test_a_restored_workshop_refuses_what_the_first_one_refused(self) -> None:
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        triggers = "SELECT tgname, tgenabled FROM pg_trigger WHERE NOT tgisinternal ORDER BY tgname"
        there = self.execute(self.here["NAME"], triggers)
        self.assertEqual(self.execute(self.copy["NAME"], triggers), there)
        self.assertTrue(there)

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
            with self.subTest(name):
                self.refused(file, said)
            self.assertEqual(self.names(self.copy["NAME"]), [("Mira",)])
        self.refused(self.folder / "gone", "There is no file")
        self.nothing_came()

    def held(self) -> Any:
        """All that a file says."""
        with read(self.file) as backup:
            rows = {name: (of.columns, of.at.read_bytes()) for name, of in backup.tables.items()}
            return backup.migrations, rows

    def test_one_changed_byte_is_seen_or_changes_nothing(self) -> None:
        dump(self.here, self.file)
        whole, stands, seen = self.file.read_bytes(), self.held(), 0
        for at in range(7, len(whole), len(whole) // 150):
            changed = bytearray(whole)
            changed[at] ^= 1
            self.file.write_bytes(changed)
            try:
                self.assertEqual(self.held(), stands, at)
            except CommandError:
                seen += 1
        self.assertGreater(seen, 100)
        self.nothing_came()

    def test_who_is_signed_in_and_what_is_on_the_queue_is_not_in_it(self) -> None:
        Session.objects.create(session_key="k", session_data="d", expire_date=timezone.now())
        dump(self.here, self.file)
        with ZipFile(self.file) as whole:
            names = whole.namelist()
        self.assertNotIn("rows/django_session", names)
        self.assertFalse([name for name in names if "procrastinate" in name])
        put_back(self.copy, self.file)
        self.assertEqual(self.execute(self.copy["NAME"], "SELECT * FROM django_session"), [])

    def test_everything_put_back_is_the_owners(self) -> None:
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        owners = "SELECT DISTINCT tableowner FROM pg_tables WHERE schemaname = 'public'"
        self.assertEqual(self.execute(self.copy["NAME"], owners), [("oilward_owner",)])

    def test_a_database_at_work_is_left_alone(self) -> None:
        dump(self.here, self.file)
        with self.assertRaisesMessage(CommandError, "Stop it, then restore"):
            call_command("restore", str(self.file))
        self.assertEqual(Person.objects.get().name, "Mira")


PERSON = "workshop_person"
Manifest, RowsOf = dict[str, Any], dict[str, bytes]


def renamed(manifest: Manifest, rows: RowsOf) -> None:
    evil = "x (a) FROM STDIN; COMMIT; ALTER DATABASE postgres RENAME TO y; --"
    manifest["tables"][evil] = manifest["tables"].pop(PERSON)
    rows[f"rows/{evil}"] = rows[f"rows/{PERSON}"]


def elsewhere(manifest: Manifest, rows: RowsOf) -> None:
    manifest["tables"]["pg_authid"] = manifest["tables"][PERSON]
    rows["rows/pg_authid"] = rows[f"rows/{PERSON}"]


def column(manifest: Manifest, rows: RowsOf) -> None:
    manifest["tables"][PERSON]["columns"][0] = "id\") FROM PROGRAM 'touch x'; --"


def fewer(manifest: Manifest, rows: RowsOf) -> None:
    manifest["tables"][PERSON]["rows"] = 99


def other(manifest: Manifest, rows: RowsOf) -> None:
    rows[f"rows/{PERSON}"] += b"1\n"


def newer(manifest: Manifest, rows: RowsOf) -> None:
    manifest["migrations"].append(["garage", "9999_x"])


def foreign(manifest: Manifest, rows: RowsOf) -> None:
    manifest["migrations"] = [["auth", "0001_initial"]]


def odd(manifest: Manifest, rows: RowsOf) -> None:
    manifest["migrations"] = [[["workshop"], {"a": 1}], None]


def format_(manifest: Manifest, rows: RowsOf) -> None:
    manifest["format"] = "oilward-backup/4"


def no_row(manifest: Manifest, rows: RowsOf) -> None:
    rows[f"rows/{PERSON}"] = b"what is this\n"
    at = manifest["tables"][PERSON]
    at["sha256"] = sha256(rows[f"rows/{PERSON}"]).hexdigest()


def orphan(manifest: Manifest, rows: RowsOf) -> None:
    """A row that belongs to nobody."""
    of, line = manifest["tables"]["workshop_welcome"], []
    for name in of["columns"]:
        known = {"person_id": "777", "until": "2026-01-01", "used_at": "\\N", "id": "5"}
        line.append(known.get(name, "d"))
    rows["rows/workshop_welcome"] = ("\t".join(line) + "\n").encode()
    of["rows"], of["sha256"] = 1, sha256(rows["rows/workshop_welcome"]).hexdigest()


class CraftedTests(BackupCase):
    """Files made to do more than put rows back: nothing of them runs, whatever came back with them."""

    def setUp(self) -> None:
        super().setUp()
        self.quickly()
        self.mark = self.folder / "it-ran"

    def edited(self, edit: Callable[[Manifest, RowsOf], None]) -> Path:
        """A backup of this format with something in it changed."""
        whole = self.folder / "whole.backup"
        whole.unlink(missing_ok=True)
        dump(self.here, whole)
        with ZipFile(whole) as source:
            rows = {name: source.read(name) for name in source.namelist()}
        manifest = json.loads(rows.pop("manifest.json"))
        edit(manifest, rows)
        file = self.folder / "edited.backup"
        with ZipFile(file, "w") as out:
            for name, content in rows.items():
                out.writestr(name, content)
            out.writestr("manifest.json", json.dumps(manifest))
        return file

    def test_what_the_manifest_says_is_held_against_what_is_there(self) -> None:
        for edit, said in (
            (renamed, "would do more"),
            (elsewhere, "would do more"),
            (column, "other columns"),
            (fewer, "is not whole: workshop_person has 1 rows, and had 99"),
            (other, "damaged"),
            (newer, "newer Oil Ward"),
            (foreign, "no workshop in that file"),
            (odd, "no workshop in that file"),
            (format_, "of a newer one"),
            (no_row, "cannot be put back"),
            (orphan, "cannot be put back"),
        ):
            with self.subTest(edit.__name__):
                self.refused(self.edited(edit), said)
        self.nothing_came()

    def of_before(self, database: str, change: Callable[[bytes], bytes] = bytes) -> Path:
        """A backup as earlier releases made it: the whole database, what runs in it too."""
        words = ["pg_dump", "--format=custom", "--compress=0", "--no-owner", "--no-acl"]
        words += ["--exclude-table-data=django_session", f"--dbname={database}"]
        where = {f"PG{key}": str(self.here[key]) for key in ("HOST", "PORT", "USER", "PASSWORD")}
        done = subprocess.run(words, env={**os.environ, **where}, capture_output=True, check=True)
        raw = change(done.stdout)
        file = self.folder / "before.backup"
        manifest = {"format": "oilward-backup/1", "sha256": sha256(raw).hexdigest(), "rows": {}}
        with ZipFile(file, "w") as out:
            out.writestr("manifest.json", json.dumps(manifest))
            out.writestr("workshop.dump", raw)
        return file

    def test_nothing_that_came_with_a_backup_of_before_runs(self) -> None:
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        copy = self.copy["NAME"]
        ran = f"COPY (SELECT 1) TO PROGRAM 'touch {self.mark}'"
        body = f"$$ BEGIN EXECUTE $x${ran}$x$; RETURN {{}}; END $$ LANGUAGE plpgsql"
        event = body.format("").replace("RETURN ;", "")
        row = "FOR EACH ROW EXECUTE FUNCTION evil_row()"
        evil = (
            f"CREATE FUNCTION evil(text, text) RETURNS bool AS {body.format('true')};"
            f"CREATE FUNCTION evil(text, name) RETURNS bool AS {body.format('true')};"
            f"CREATE FUNCTION evil_row() RETURNS trigger AS {body.format('NEW')};"
            f"CREATE FUNCTION evil_event() RETURNS event_trigger AS {event};"
            f"CREATE FUNCTION evil_int(int) RETURNS int IMMUTABLE AS {body.format('$1')};"
        )
        self.execute(copy, evil)
        # one that raises when it is made would say so here; the file holds them all
        for make in (
            f"CREATE TRIGGER evil BEFORE INSERT ON workshop_person {row}",
            "CREATE TRIGGER evil_t AFTER TRUNCATE ON workshop_person EXECUTE FUNCTION evil_row()",
            "CREATE RULE evil AS ON INSERT TO workshop_person DO ALSO SELECT evil_int(1)",
            "ALTER TABLE workshop_person ALTER version SET DEFAULT evil_int(1)",
            "CREATE INDEX evil_index ON planning_tally (evil_int(count::int))",
            "CREATE VIEW evil_view AS SELECT evil_int(1)",
            "CREATE DOMAIN evil_domain AS int CHECK (evil_int(VALUE) > 0)",
            "CREATE POLICY evil ON workshop_person USING (evil_int(1) > 0)",
            "CREATE AGGREGATE evil_count(int) (SFUNC=int4pl, STYPE=int)",
            "CREATE CAST (workshop_person AS text) WITH INOUT AS ASSIGNMENT",
            "CREATE OPERATOR public.= (LEFTARG=text, RIGHTARG=text, FUNCTION=evil)",
            "CREATE OPERATOR public.<> (LEFTARG=text, RIGHTARG=name, FUNCTION=evil)",
            "CREATE EVENT TRIGGER evil ON ddl_command_start EXECUTE FUNCTION evil_event(); "
            "ALTER EVENT TRIGGER evil DISABLE",
        ):
            self.execute(copy, make)
        file = self.of_before(copy)
        self.mark.unlink(missing_ok=True)
        prove(self.copy, file)
        put_back(self.copy, file)
        # and what goes on with it afterwards
        self.execute(copy, "SELECT name FROM workshop_person WHERE username = 'mira'")
        dump(self.copy, self.folder / "again.backup")
        self.assertFalse(self.mark.exists(), "it ran")
        for found in (
            "SELECT proname FROM pg_proc WHERE proname LIKE 'evil%'",
            "SELECT evtname FROM pg_event_trigger",
            "SELECT oprname FROM pg_operator WHERE oprnamespace = 'public'::regnamespace",
            "SELECT polname FROM pg_policy",
        ):
            self.assertEqual(self.execute(copy, found), [], found)

    def test_tables_and_columns_of_its_own_are_refused(self) -> None:
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        copy = self.copy["NAME"]
        for make, unmake, said in (
            ("CREATE TABLE bait (id int CHECK (pg_read_file('/etc/hostname') <> ''));"
             "INSERT INTO bait VALUES (1)", "DROP TABLE bait", "would do more"),
            ("ALTER TABLE workshop_person ADD more text", "ALTER TABLE workshop_person DROP more",
             "other columns"),
            ("CREATE SCHEMA mine; CREATE TABLE mine.bait AS SELECT 1 AS id",
             "DROP SCHEMA mine CASCADE", "would do more"),
            ("SELECT lo_from_bytea(4711, 'x')", "SELECT lo_unlink(4711)", "would do more"),
        ):  # fmt: skip
            self.execute(copy, make)
            file = self.of_before(copy)
            self.execute(copy, unmake)
            with self.subTest(make[:40]):
                self.refused(file, said)

    def test_statements_between_the_rows_are_refused(self) -> None:
        """What stands for the rows of a table is a statement in the file: another one in its place."""
        dump(self.here, self.file)
        put_back(self.copy, self.file)
        copy = self.copy["NAME"]
        columns = self.execute(
            copy,
            "SELECT string_agg(attname, ', ' ORDER BY attnum) FROM pg_attribute "
            "WHERE attrelid = 'workshop_person'::regclass AND attnum > 0 AND NOT attisdropped",
        )[0][0]
        stands = f"COPY public.workshop_person ({columns}) FROM stdin;\n".encode()
        for evil in (
            f"COMMIT; ALTER DATABASE {copy} SET search_path = evil;",
            f"COPY public.workshop_person FROM PROGRAM 'touch {self.mark}';",
            f"\\! touch {self.mark}",
            "SELECT pg_catalog.set_config('search_path', 'evil', false);",
            "DO $$ BEGIN RAISE 'evil'; END $$;",
        ):
            filled = evil.encode().ljust(len(stands) - 1) + b"\n"

            def change(raw: bytes, filled: bytes = filled) -> bytes:
                self.assertIn(stands, raw)
                return raw.replace(stands, filled)

            with self.subTest(evil):
                self.refused(self.of_before(copy, change), "would do more")
                self.assertFalse(self.mark.exists())


class EarlierTests(BackupCase):
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
        said = self.manage("shell", "-v", "0", "-c", GOES_ON).splitlines()
        self.assertEqual(said, ["before engine/torque 10", "after engine/filter 24"])
        copy = self.copy["NAME"]
        owners = "SELECT DISTINCT tableowner FROM pg_tables WHERE schemaname = 'public'"
        self.assertEqual(self.execute(copy, owners), [("oilward_owner",)])

"""Every minute of a workshop's work, kept apart from its data: PostgreSQL's log, and once a week a copy
of the whole to begin from. All of it is pgBackRest's work."""

import os
import shutil
import subprocess
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from hashlib import sha256
from pathlib import Path
from string import Template
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING

from .house import House
from .journal import log
from .passphrase import backup_key
from .paths import write_own
from .postgres import ARCHIVING, USER, Postgres

_READ = "SELECT pg_catalog.pg_is_in_recovery(), pg_catalog.pg_last_xact_replay_timestamp()::text"
if TYPE_CHECKING:
    from psycopg import Connection

STANZA, FOLDER, BEFORE = "oilward", "minutes", ".before"
EACH = 60  # seconds after which what was done is kept, however little
WEEKS = 2
CONFIG = Template("""\
[global]
repo1-path=$repo
repo1-retention-full=$weeks
repo1-cipher-type=$cipher
$key
repo1-bundle=y
compress-type=gz
compress-level=3
start-fast=y
archive-push-queue-max=1GiB
log-level-file=off
log-level-console=warn
log-level-stderr=off
lock-path=$run
spool-path=$run

[$stanza]
pg1-path=$data
pg1-port=$port
pg1-user=$user
""")
# what the database is told; a log that cannot be kept for long is let go before it fills the disk
SETTINGS = Template("""\
archive_mode = on
archive_timeout = $each
archive_command = '/usr/bin/pgbackrest --config=$config --stanza=$stanza archive-push "%p"'
""")


_OTHERS = (
    "Where they are another machine's, or older than this passphrase: --passphrase asks for theirs."
)


@dataclass(frozen=True, kw_only=True)
class Archive:
    """Where the minutes of a workshop are kept: beside its backups."""

    house: House
    folder: Path

    @property
    def repo(self) -> Path:
        return self.folder / FOLDER

    @property
    def config(self) -> Path:
        """What keeping them goes by."""
        return self.house.home / "pgbackrest.conf"

    @property
    def restoring(self) -> Path:
        """What putting them back goes by: into another folder, while the work goes on."""
        return self.house.home / "pgbackrest-restore.conf"

    @property
    def run(self) -> Path:
        return self.house.home / "pgbackrest"

    def same_disk(self) -> bool:
        """Whether a disk that is lost takes the data and the minutes at once."""
        there = self.repo if self.repo.exists() else self.folder
        return not there.exists() or there.stat().st_dev == self.house.home.stat().st_dev


def archive_of(house: House) -> Archive:
    return Archive(house=house, folder=house.backups)


def _key(house: House) -> str:
    key = backup_key(house)
    return key.read_text() if house.seals and key.is_file() else ""


def _configure(archive: Archive, postgres: Postgres, key: str, port: str = "1") -> None:
    """Let pgBackRest keep the workshop's minutes. Only a copy of the whole needs the port."""
    _write(archive, postgres, archive.config, data=postgres.data, port=port, key=key)


def _write(
    archive: Archive, postgres: Postgres, config: Path, *, data: Path, port: str, key: str
) -> None:
    told = CONFIG.substitute(
        repo=archive.repo, weeks=WEEKS, cipher="aes-256-cbc" if key else "none",
        key=f"repo1-cipher-pass={key}" if key else "", run=archive.run, stanza=STANZA,
        data=data, port=port, user=USER,
    )  # fmt: skip
    for folder in (archive.repo, archive.run):
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        postgres.own(folder)
    write_own(config, told)
    postgres.own(config)


def _run(
    config: Path, postgres: Postgres, command: str, *words: str, password: str = ""
) -> "subprocess.CompletedProcess[str]":
    """One of pgBackRest's commands, as whoever the data belong to."""
    told = ["nice", "/usr/bin/pgbackrest", f"--config={config}", f"--stanza={STANZA}"]
    where = {"PGHOST": "127.0.0.1", "PGPASSWORD": password} if password else {}
    return postgres.run(*told, command, *words, check=False, more=where)


def _asked_in_vain(done: "subprocess.CompletedProcess[str]") -> str:
    return (done.stderr or done.stdout).strip()[-500:]


def _begin_anew_with_another_key(archive: Archive, key: str) -> None:
    """Minutes that were kept with another key are set aside: these go into a folder of their own."""
    mark, now = archive.house.home / "minutes-key", sha256(key.encode()).hexdigest()
    if archive.repo.exists() and not (mark.exists() and mark.read_text() == now):
        before = archive.repo.with_name(FOLDER + BEFORE)
        shutil.rmtree(before, ignore_errors=True)
        archive.repo.rename(before)
    write_own(mark, now)


def not_gone(archive: Archive, postgres: Postgres) -> None:
    """Stop where the data are gone and their minutes are not: nobody means to begin anew then."""
    if archive.repo.exists() and not (postgres.data / "PG_VERSION").exists():
        raise SystemExit(
            f"The workshop's data are gone from {postgres.data}, and its minutes are kept in "
            f"{archive.repo}. ./ward restore --to latest puts them back. To begin a new workshop all the "
            "same, move that folder away."
        )


def configured(archive: Archive, postgres: Postgres) -> None:
    """Before the database starts: let it keep its minutes."""
    key = _key(archive.house)
    if os.geteuid() == 0:  # the database is another's then, and has to get through
        archive.folder.mkdir(mode=0o711, parents=True, exist_ok=True)
        archive.folder.chmod(0o711)
    _begin_anew_with_another_key(archive, key)
    _configure(archive, postgres, key)
    told = SETTINGS.substitute(each=EACH, config=archive.config, stanza=STANZA)
    write_own(postgres.home / ARCHIVING, told)


def started(house: House, postgres: Postgres) -> None:
    """Start a workshop's database, and let it keep its minutes. Where they cannot be kept it works all
    the same, and that is told."""
    archive = archive_of(house)
    not_gone(archive, postgres)
    kept = _told_if_not(archive, lambda: configured(archive, postgres))
    postgres.start()
    if kept:
        _told_if_not(archive, lambda: _place(archive, postgres))


def _told_if_not(archive: Archive, work: Callable[[], None]) -> bool:
    try:
        work()
    except OSError as error:
        log.error("the minutes cannot be kept in %s: %s", archive.repo, error.strerror)
        return False
    return True


def _place(archive: Archive, postgres: Postgres) -> None:
    """Make the place the minutes go to."""
    _configure(archive, postgres, _key(archive.house), postgres.port)
    done = _run(archive.config, postgres, "stanza-create", password=postgres.password(USER))
    if done.returncode:
        log.error("the minutes cannot be kept: %s", _asked_in_vain(done))


def copied(archive: Archive, postgres: Postgres, whole: bool) -> str:
    """A copy to begin from, or what changed since the last one; why there is none, if there is none."""
    _configure(archive, postgres, _key(archive.house), postgres.port)
    kind = "full" if whole else "diff"
    done = _run(
        archive.config, postgres, "backup", f"--type={kind}", password=postgres.password(USER)
    )
    return _asked_in_vain(done) if done.returncode else ""


def _target(moment: str) -> list[str]:
    """Up to when: a moment on this machine's clock, or the last there is."""
    if moment == "latest":
        return ["--type=default"]
    try:
        at = datetime.fromisoformat(moment).astimezone()
    except ValueError:
        raise SystemExit(f'"{moment}" is no moment: write it like "2026-03-14 09:30".') from None
    if at > datetime.now(UTC):
        raise SystemExit(f"{moment} has not been yet.")
    told = at.astimezone(UTC).strftime("%Y-%m-%d %H:%M:%S+00")
    return ["--type=time", f"--target={told}", "--target-action=promote"]


def _put_back(archive: Archive, postgres: Postgres, data: Path, moment: str, key: str) -> None:
    """The data of then into an empty folder."""
    data.mkdir(mode=0o700)
    postgres.own(data)
    _write(archive, postgres, archive.restoring, data=data, port="1", key=key)
    done = _run(archive.restoring, postgres, "restore", *_target(moment))
    if done.returncode:
        shutil.rmtree(data, ignore_errors=True)
        raise SystemExit(f"pgBackRest stopped: {_asked_in_vain(done)}\n{_OTHERS}")


@contextmanager
def _awake(postgres: Postgres, data: Path, *more: str) -> Iterator["Connection"]:
    """The data of then, run where nobody else gets to."""
    import psycopg

    with TemporaryDirectory() as name:
        door = Path(name)
        trusted = door / "hba.conf"
        write_own(trusted, "local all all trust\n")
        for path in (door, trusted):
            postgres.own(path)
        with (
            postgres.beside(data, door, f"hba_file={trusted}", *more),
            psycopg.connect(
                host=str(door), port=5432, user=USER, dbname="postgres", autocommit=True,
                options="-c search_path=",
            ) as connection,
        ):  # fmt: skip
            yield connection


def _caught_up(connection: "Connection") -> str:
    """Wait until all that was kept is read; up to when that is."""
    last = ""
    while True:
        row = connection.execute(_READ).fetchone()
        reading, at = row or (False, "")
        last = at or last
        if not reading:
            return last
        time.sleep(0.2)


def restored(house: House, moment: str, key: str = "") -> str:
    """The workshop as it was at a moment; up to when that is. What was there is kept beside it. Stops,
    with nothing changed, where there is no such moment."""
    from psycopg import sql

    archive, postgres = archive_of(house), Postgres("serve")
    postgres.claim()
    if not archive.repo.exists():
        raise SystemExit(f"No minutes are kept in {archive.repo}.")
    fresh = postgres.home / "pg.restoring"
    shutil.rmtree(fresh, ignore_errors=True)
    _put_back(archive, postgres, fresh, moment, key or _key(house))
    with _awake(postgres, fresh) as connection:
        reached = _caught_up(connection)
        # the passwords of this machine, wherever the data were
        words = sql.SQL("ALTER ROLE {} PASSWORD {}")
        told = words.format(sql.Identifier(USER), sql.Literal(postgres.password(USER)))
        connection.execute(told)
    if postgres.data.exists():
        before = postgres.home / f"pg{BEFORE}"
        shutil.rmtree(before, ignore_errors=True)
        postgres.data.rename(before)
    fresh.rename(postgres.data)
    return reached


def tried(house: House) -> str:
    """Put the minutes back into a folder that is thrown away; up to when they reach. Stops where they
    cannot be put back, or hold no workshop."""
    archive, postgres = archive_of(house), Postgres("serve")
    fresh = postgres.home / "pg.trying"
    shutil.rmtree(fresh, ignore_errors=True)
    try:
        _put_back(archive, postgres, fresh, "latest", _key(house))
        # what is only tried adds no minutes
        with _awake(postgres, fresh, "archive_mode=off") as connection:
            reached = _caught_up(connection)
            found = connection.execute(
                "SELECT 1 FROM pg_catalog.pg_database WHERE datname = 'oilward'"
            )
            if found.fetchone() is None:
                raise SystemExit("there is no workshop in what was kept")
        return reached
    finally:
        shutil.rmtree(fresh, ignore_errors=True)

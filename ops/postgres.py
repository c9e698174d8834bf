"""A PostgreSQL server of our own: loopback, free port, generated password, never root."""

import contextlib
import fcntl
import os
import pwd
import secrets
import shutil
import signal
import subprocess
import time
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import IO, TYPE_CHECKING

from .children import child, end, while_it_moves
from .paths import begin_state, free_port, state_dir, taken

if TYPE_CHECKING:
    from psycopg import Connection

BIN = Path("/usr/lib/postgresql/15/bin")
USER = "oilward"  # superuser of this cluster: makes roles and databases, and runs nothing in them
OWNER = "oilward_owner"  # owns the tables: migrations, restore
READER = "oilward_reader"  # reads everything, owns nothing: backups
APP = "oilward_app"  # what the server runs as
ENVIRONMENT = {"PATH": "/usr/bin:/bin", "LC_ALL": "C.UTF-8"}
LOG = "server.log"
STOPPING = 120.0  # seconds, longer than any takes to stop
TRIES = 5  # at a port, where others look for one at the same moment
ARCHIVING = (
    "pg-archiving.conf"  # what the database is told of keeping its minutes, where it keeps them
)
CREATE = "CREATE DATABASE {} OWNER {}"
# what a release with one role only has made: statements, found by the system's own names alone. They
# change who owns a thing and run nothing of it.
HAND_OVER = """
SELECT pg_catalog.format('ALTER %s %s OWNER TO {owner}', kind, name) FROM (
    SELECT CASE relkind WHEN 'S' THEN 'SEQUENCE' ELSE 'TABLE' END AS kind,
        oid::pg_catalog.regclass::pg_catalog.text AS name, relowner AS by
    FROM pg_catalog.pg_class WHERE relnamespace OPERATOR(pg_catalog.=) 'public'::pg_catalog.regnamespace
    AND relkind OPERATOR(pg_catalog.=) ANY (ARRAY['r', 'v', 'S']::pg_catalog."char"[])
    UNION ALL
    SELECT 'FUNCTION', oid::pg_catalog.regprocedure::pg_catalog.text, proowner
    FROM pg_catalog.pg_proc WHERE pronamespace OPERATOR(pg_catalog.=) 'public'::pg_catalog.regnamespace
) AS found WHERE pg_catalog.pg_get_userbyid(by) OPERATOR(pg_catalog.<>) '{owner}'::pg_catalog.name
"""


def _told(data: Path) -> list[str]:
    """What the server of these data says of itself: its number first, and among the rest how it is."""
    try:
        return [line.strip() for line in (data / "postmaster.pid").read_text().split("\n")]
    except OSError:
        return [""]


def _is_ready(data: Path, process: "subprocess.Popen[bytes]") -> bool:
    """Whether the server of these data says so itself: at its port another one may answer."""
    told = _told(data)
    return told[0] == str(process.pid) and "ready" in told


class Postgres:
    """One cluster in its own directory. As root it runs as Debian's ``postgres`` user."""

    def __init__(self, name: str = "", fast: bool = False) -> None:
        self.home = state_dir(name)
        self.data = self.home / "pg"
        self.fast = fast
        self.started = self.launched = False
        self.process: subprocess.Popen[bytes] | None = None
        self.lock: IO[str] | None = None

    @property
    def _owner(self) -> pwd.struct_passwd | None:
        return pwd.getpwnam("postgres") if os.geteuid() == 0 else None

    def run(
        self, *command: str | Path, check: bool = True, more: "dict[str, str] | None" = None
    ) -> subprocess.CompletedProcess[str]:
        """Run a command as whoever the server runs as."""
        owner = self._owner
        words: Sequence[str] = [str(word) for word in command]
        return subprocess.run(
            words,
            user=owner.pw_uid if owner else None,
            group=owner.pw_gid if owner else None,
            extra_groups=[] if owner else None,
            cwd="/",
            env={**ENVIRONMENT, "HOME": str(self.home), **(more or {})},
            capture_output=True,
            text=True,
            errors="replace",
            check=check,
        )

    def own(self, path: Path) -> None:
        """Give a file to whoever the server runs as."""
        if self._owner:
            os.chown(path, self._owner.pw_uid, self._owner.pw_gid)

    def _secret(self, name: str) -> str:
        """A generated secret, kept readable for the starting user alone."""
        path = self.home / name
        if not path.exists():
            path.touch(mode=0o600)
            path.write_text(secrets.token_urlsafe(48))
        return path.read_text()

    def _create(self) -> None:
        begin_state(self.home)
        if (self.data / "PG_VERSION").exists():
            return
        print("· 5 of 6: creating the database (a few seconds)", flush=True)
        shutil.rmtree(self.data, ignore_errors=True)
        self.data.mkdir(mode=0o700)
        self.own(self.data)
        given = self.home / "pg-password-once"
        given.touch(mode=0o600)
        given.write_text(self._secret("db-password"))
        self.own(given)
        try:
            self.run(
                BIN / "initdb", "-D", self.data, "-U", USER, "-A", "scram-sha-256",
                f"--pwfile={given}", "-E", "UTF8", "--locale=C.UTF-8",
            )  # fmt: skip
        finally:
            given.unlink()

    def claim(self) -> None:
        """One run at a time: a second one would stop the first one's processes."""
        if self.lock:
            return
        begin_state(self.home)
        self.lock = (self.home / "lock").open("w")
        try:
            fcntl.flock(self.lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError as error:
            raise SystemExit("Already running from this clone. Stop that one first.") from error

    def running(self) -> bool:
        return self.run(BIN / "pg_ctl", "status", "-D", self.data, check=False).returncode == 0

    def start(self) -> None:
        self._create()
        self.claim()
        if self._left_over():
            self.started = True
            return
        for left in reversed(range(TRIES)):
            port = free_port(54330)
            self._configure(port)
            try:
                return self._launch(port)
            except SystemExit:
                # somebody was quicker to the port; another one is looked for
                if not left or not taken(port):
                    raise

    def _left_over(self) -> bool:
        """Whether the server of a run that was killed goes on: ours to stop again. One that is just
        stopping is waited for."""
        until = time.monotonic() + STOPPING
        while self.running():
            if "ready" in _told(self.data) or time.monotonic() > until:
                return True
            time.sleep(0.1)
        return False

    def _configure(self, port: int) -> None:
        settings = [
            "listen_addresses = '127.0.0.1'",
            f"port = {port}",
            "unix_socket_directories = ''",
            "max_connections = 60",
        ]
        if self.fast:  # tests and benchmarks: nothing to lose
            settings += ["fsync = off", "synchronous_commit = off", "full_page_writes = off"]
        if (told := self.home / ARCHIVING).is_file():
            settings.append(told.read_text())
        config = self.data / "postgresql.auto.conf"
        config.write_text("\n".join(settings) + "\n")
        self.own(config)

    def _begun(self, data: Path, *more: str) -> "subprocess.Popen[bytes]":
        owner = self._owner
        with (data / LOG).open("ab") as out:
            # SIGINT is PostgreSQL's quick and clean way to stop; a session of its own keeps Ctrl-C away
            return child(
                [BIN / "postgres", "-D", data, *more],
                signal.SIGINT,
                stdout=out,
                stderr=out,
                user=owner.pw_uid if owner else None,
                group=owner.pw_gid if owner else None,
                extra_groups=[] if owner else None,
                cwd="/",
                env=ENVIRONMENT,
                start_new_session=True,
            )

    def _launch(self, port: int) -> None:
        self.process = self._begun(self.data)
        self.started = self.launched = True
        try:
            self._wait_until_up(self.process, self.data, "127.0.0.1", port)
        except SystemExit:
            end(self.process, signal.SIGINT)
            raise

    def _wait_until_up(
        self, process: "subprocess.Popen[bytes]", data: Path, host: str, port: int
    ) -> None:
        ready = (BIN / "pg_isready", "-q", "-h", host, "-p", str(port))
        for _ in while_it_moves(process, "The database"):
            if process.poll() is not None:
                break
            if _is_ready(data, process) and self.run(*ready, check=False).returncode == 0:
                return
            time.sleep(0.1)
        raise SystemExit(f"The database did not start:\n{(data / LOG).read_text()[-2000:]}")

    @contextlib.contextmanager
    def beside(self, data: Path, door: Path, *more: str) -> Iterator[None]:
        """Another server for a moment, on other data, which only who may use the folder ``door``
        reaches."""
        told = ("listen_addresses=", f"unix_socket_directories={door}", "port=5432", *more)
        process = self._begun(data, *(f"-c{word}" for word in told))
        try:
            self._wait_until_up(process, data, str(door), 5432)
            yield
        finally:
            end(process, signal.SIGINT)

    def fallen(self) -> bool:
        """Whether the server that was started here is gone, or never came back."""
        gone = self.process is None or self.process.poll() is not None
        return self.launched and gone

    def revive(self, seconds: float = 15) -> None:
        """Start it again after it fell. What is left of it may need a moment to be gone. Stops where it
        does not come back."""
        until = time.monotonic() + seconds
        while True:
            try:
                self._launch(int(self.port))
            except (SystemExit, OSError):
                if time.monotonic() > until:
                    raise
                time.sleep(0.3)
            else:
                return

    def stop(self) -> None:
        """Stop the server, if it was this process that started it."""
        if self.process is not None:
            end(self.process, signal.SIGINT)
        elif self.started:
            self.run(BIN / "pg_ctl", "stop", "-m", "fast", "-D", self.data, check=False)
        self.started, self.launched, self.process = False, False, None

    def remove(self) -> None:
        """Throw the whole state away, stopping a left-over server first."""
        if self.home.exists():
            self.claim()
        if (self.data / "PG_VERSION").exists() and self.running():
            self.run(BIN / "pg_ctl", "stop", "-m", "fast", "-D", self.data, check=False)
        shutil.rmtree(self.home, ignore_errors=True)
        self.lock = None

    @property
    def port(self) -> str:
        return next(
            line.split("=")[1].strip()
            for line in (self.data / "postgresql.auto.conf").read_text().splitlines()
            if line.startswith("port")
        )

    def password(self, role: str) -> str:
        return self._secret("db-password" if role == USER else f"{role}-password")

    def environment(self, database: str = "oilward", role: str = APP) -> dict[str, str]:
        """The OILWARD_* variables that lead Django here, as one of the roles."""
        return {
            "OILWARD_DB_HOST": "127.0.0.1",
            "OILWARD_DB_PORT": self.port,
            "OILWARD_DB_NAME": database,
            "OILWARD_DB_USER": role,
            "OILWARD_DB_PASSWORD": self.password(role),
            "OILWARD_SECRET_KEY": self._secret("secret-key"),
        }

    @contextlib.contextmanager
    def connect(self, database: str = "postgres", role: str = USER) -> Iterator["Connection"]:
        """A connection, as the cluster's superuser if no other role is named, with nothing but the
        system's own names in reach."""
        import psycopg

        with psycopg.connect(
            host="127.0.0.1",
            port=self.port,
            user=role,
            password=self.password(role),
            dbname=database,
            options="-c search_path=",
            autocommit=True,
        ) as connection:
            yield connection

    def ensure_roles(self) -> None:
        """The owner of the tables, the role the server runs as and the one that backs up, each with its
        password. The owner makes the database a backup goes into."""
        from psycopg import sql

        with self.connect() as connection:
            for role, more in ((OWNER, "CREATEDB"), (APP, "NOCREATEDB"), (READER, "NOCREATEDB")):
                found = connection.execute("SELECT 1 FROM pg_roles WHERE rolname = %s", [role])
                words = "ALTER ROLE {} LOGIN" if found.fetchone() else "CREATE ROLE {} LOGIN"
                words += f" NOSUPERUSER {more} NOCREATEROLE PASSWORD {{}}"
                password = sql.Literal(self.password(role))
                connection.execute(sql.SQL(words).format(sql.Identifier(role), password))
            connection.execute(f"GRANT pg_read_all_data TO {READER}")
            # whether somebody works on a database that is to be put back
            connection.execute(f"GRANT pg_read_all_stats TO {OWNER}")

    def ensure_database(self, database: str = "oilward") -> None:
        """The database, with everything in it the owner's; one made when there was only one role is
        handed over."""
        from psycopg import sql

        name, owner = sql.Identifier(database), sql.Identifier(OWNER)
        self.ensure_roles()
        with self.connect() as connection:
            found = connection.execute("SELECT 1 FROM pg_database WHERE datname = %s", [database])
            words = "ALTER DATABASE {} OWNER TO {}" if found.fetchone() else CREATE
            connection.execute(sql.SQL(words).format(name, owner))
        with self.connect(database) as connection:
            others = connection.execute(HAND_OVER.format(owner=OWNER)).fetchall()
            for (words,) in others:
                connection.execute(words)

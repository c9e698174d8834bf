"""A PostgreSQL server of our own: loopback, free port, generated password, never root."""

import contextlib
import fcntl
import os
import pwd
import secrets
import shutil
import subprocess
from collections.abc import Sequence
from pathlib import Path

from .paths import free_port, state_dir

BIN = Path("/usr/lib/postgresql/15/bin")
USER = "oilward"


class Postgres:
    """One cluster in its own directory. As root it runs as Debian's ``postgres`` user."""

    def __init__(self, name: str = "", fast: bool = False) -> None:
        self.home = state_dir(name)
        self.data = self.home / "pg"
        self.fast = fast
        self.started = False

    @property
    def _owner(self) -> pwd.struct_passwd | None:
        return pwd.getpwnam("postgres") if os.geteuid() == 0 else None

    def _run(self, *command: str | Path, check: bool = True) -> subprocess.CompletedProcess[str]:
        owner = self._owner
        words: Sequence[str] = [str(word) for word in command]
        return subprocess.run(
            words,
            user=owner.pw_uid if owner else None,
            group=owner.pw_gid if owner else None,
            extra_groups=[] if owner else None,
            cwd="/",
            env={"PATH": "/usr/bin:/bin", "LC_ALL": "C.UTF-8", "HOME": str(self.home)},
            capture_output=True,
            text=True,
            check=check,
        )

    def _own(self, path: Path) -> None:
        if self._owner:
            os.chown(path, self._owner.pw_uid, self._owner.pw_gid)

    def _secret(self, name: str) -> str:
        """A generated secret, kept readable for the starting user alone."""
        path = self.home / name
        if not path.exists():
            path.touch(mode=0o600)
            path.write_text(secrets.token_urlsafe(32))
        return path.read_text()

    def _create(self) -> None:
        self.home.mkdir(parents=True, exist_ok=True)
        self.home.chmod(0o755)
        if (self.data / "PG_VERSION").exists():
            return
        print("· 5 of 6: creating the database (a few seconds)", flush=True)
        shutil.rmtree(self.data, ignore_errors=True)
        self.data.mkdir(mode=0o700)
        self._own(self.data)
        given = self.home / "pg-password-once"
        given.touch(mode=0o600)
        given.write_text(self._secret("db-password"))
        self._own(given)
        try:
            self._run(
                BIN / "initdb", "-D", self.data, "-U", USER, "-A", "scram-sha-256",
                f"--pwfile={given}", "-E", "UTF8", "--locale=C.UTF-8",
            )  # fmt: skip
        finally:
            given.unlink()

    def _claim(self) -> None:
        """One run at a time: a second one would stop the first one's database."""
        self.lock = (self.home / "lock").open("w")
        try:
            fcntl.flock(self.lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError as error:
            raise SystemExit("Already running from this clone. Stop that one first.") from error

    def running(self) -> bool:
        return self._run(BIN / "pg_ctl", "status", "-D", self.data, check=False).returncode == 0

    def start(self) -> None:
        self._create()
        self._claim()
        if self.running():  # left over from a run that was killed: ours to stop again
            self.started = True
            return
        port = free_port(54330)
        settings = [
            "listen_addresses = '127.0.0.1'",
            f"port = {port}",
            "unix_socket_directories = ''",
            "max_connections = 60",
        ]
        if self.fast:  # tests and benchmarks: nothing to lose
            settings += ["fsync = off", "synchronous_commit = off", "full_page_writes = off"]
        config = self.data / "postgresql.auto.conf"
        config.write_text("\n".join(settings) + "\n")
        self._own(config)
        log = self.data / "server.log"
        done = self._run(
            BIN / "pg_ctl", "start", "-w", "-t", "60", "-D", self.data, "-l", log, check=False
        )
        if done.returncode:
            tail = log.read_text()[-2000:] if log.exists() else done.stderr
            raise SystemExit(f"The database did not start:\n{tail}")
        self.started = True

    def stop(self) -> None:
        """Stop the server, if it was this process that started it."""
        if self.started:
            self._run(BIN / "pg_ctl", "stop", "-m", "fast", "-D", self.data, check=False)
            self.started = False

    def remove(self) -> None:
        """Throw the whole state away, stopping a left-over server first."""
        if self.home.exists():
            self._claim()
        if (self.data / "PG_VERSION").exists() and self.running():
            self._run(BIN / "pg_ctl", "stop", "-m", "fast", "-D", self.data, check=False)
        shutil.rmtree(self.home, ignore_errors=True)

    def environment(self, database: str = "oilward") -> dict[str, str]:
        """The OILWARD_* variables that lead Django here."""
        port = next(
            line.split("=")[1].strip()
            for line in (self.data / "postgresql.auto.conf").read_text().splitlines()
            if line.startswith("port")
        )
        return {
            "OILWARD_DB_HOST": "127.0.0.1",
            "OILWARD_DB_PORT": port,
            "OILWARD_DB_NAME": database,
            "OILWARD_DB_USER": USER,
            "OILWARD_DB_PASSWORD": self._secret("db-password"),
            "OILWARD_SECRET_KEY": self._secret("secret-key"),
        }

    def ensure_database(self, database: str = "oilward") -> None:
        import psycopg

        env = self.environment()
        with (
            contextlib.closing(
                psycopg.connect(
                    host="127.0.0.1",
                    port=env["OILWARD_DB_PORT"],
                    user=USER,
                    password=env["OILWARD_DB_PASSWORD"],
                    dbname="postgres",
                    autocommit=True,
                )
            ) as connection,
            contextlib.suppress(psycopg.errors.DuplicateDatabase),
        ):
            connection.execute(f'CREATE DATABASE "{database}"')

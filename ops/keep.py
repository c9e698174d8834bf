"""Everything in one file, and back: by hand, on a schedule, and tried for real."""

import argparse
import json
import os
import re
import shutil
import subprocess
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from zipfile import BadZipFile, ZipFile

from .house import House, read_house
from .journal import log
from .postgres import OWNER, READER, Postgres
from .serve import manage

LOOK = 60.0
DRILL_DAYS = 7
ENDING, SEALED = ".backup", ".backup.gpg"
# what the keeper makes by itself; whatever else lies in the folder is somebody's own
OWN = re.compile(r"oilward-\d{4}-\d\d-\d\d-\d{6}\.backup(\.gpg)?")
HALF = ".making-"
MANIFEST, FORMATS = "manifest.json", ("oilward-backup/1", "oilward-backup/2")
# another machine that says nothing is waited for so long, and so long for each byte, seconds
SILENT, SLOW = 120.0, 1 / 200_000


def _file(word: str) -> Path:
    """A path as it was meant where ./ward was called from."""
    return Path(os.environ.get("OILWARD_FROM", "."), word)


def _whose(demo: bool) -> str:
    """The workshop's own data, where there are any; else the demo's."""
    for name in ("demo",) if demo else ("serve", "demo"):
        if (Postgres(name).data / "PG_VERSION").exists():
            print(f"· On the data of ./ward {name}", flush=True)
            return name
    raise SystemExit("There is no data here yet: ./ward serve begins it, ./ward demo shows it.")


def on_data(postgres: Postgres, role: str, command: str, *words: str, alone: bool = False) -> int:
    """Run a command on data as this role; ``alone``: only while nothing else runs there."""
    try:
        if alone or not postgres.running():
            postgres.start()
        postgres.ensure_roles()
        manage({**os.environ, **postgres.environment(role=role)}, command, *words)
    except subprocess.CalledProcessError as stopped:
        return int(stopped.returncode)
    finally:
        postgres.stop()
    return 0


def _parsed(name: str, words: list[str]) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog=f"./ward {name}")
    parser.add_argument("file", nargs="?" if name != "restore" else None, default="")
    parser.add_argument("--demo", action="store_true", help="the demo's data, not the workshop's")
    return parser.parse_args(words)


def backup(words: list[str]) -> int:
    """./ward backup [FILE]: everything into one file, while the work goes on."""
    given = _parsed("backup", words)
    word = given.file or time.strftime(f"oilward-%Y-%m-%d-%H%M%S{ENDING}")
    return on_data(Postgres(_whose(given.demo)), READER, "backup", str(_file(word)))


def restore(words: list[str]) -> int:
    """./ward restore FILE: a backup in the place of what is there, which is kept beside it."""
    given = _parsed("restore", words)
    postgres, file = Postgres(_whose(given.demo)), _file(given.file)
    with opened(file) as plain:
        return on_data(postgres, OWNER, "restore", str(plain), alone=True)


def drill(words: list[str]) -> int:
    """./ward drill [FILE]: put the newest backup, or this one, back into a database that is thrown away,
    and see whether everything is there."""
    given = _parsed("drill", words)
    name = _whose(given.demo)
    if name == "demo":
        if not given.file:
            raise SystemExit("The demo makes no backups by itself: name the file to try.")
        with opened(_file(given.file)) as plain:
            return on_data(Postgres(name), OWNER, "drill", str(plain))
    postgres, keeping = Postgres(name), Keeping(read_house())
    file = _file(given.file) if given.file else keeping.newest()
    if file is None:
        raise SystemExit(f"There is no backup in {keeping.folder} yet.")
    return 0 if keeping.drilled(postgres, file) else 1


def _passphrase() -> str:
    return str(read_house().backup.get("passphrase_file", ""))


def _gpg(*words: str | Path, passphrase: str) -> None:
    """Run gpg with the passphrase in a file, in a home of its own; its words come with a refusal."""
    with tempfile.TemporaryDirectory() as home:
        own = ["gpg", "--homedir", home, "--batch", "--yes", "--quiet", "--no-tty"]
        own += ["--pinentry-mode", "loopback", "--passphrase-file", passphrase]
        done = subprocess.run([*own, *map(str, words)], capture_output=True, text=True, check=False)
    if done.returncode:
        raise SystemExit(f"gpg stopped: {done.stderr.strip()}")


@contextmanager
def opened(file: Path, passphrase: str | None = None) -> Iterator[Path]:
    """A backup as it was before it was encrypted; with the settings' passphrase unless one is given."""
    if not file.name.endswith(SEALED):
        yield file
        return
    passphrase = _passphrase() if passphrase is None else passphrase
    if not passphrase:
        raise SystemExit(f"{file} is encrypted: name its passphrase_file in the settings.")
    with tempfile.TemporaryDirectory() as folder:
        plain = Path(folder, file.name.removesuffix(".gpg"))
        _gpg("--output", plain, "--decrypt", file, passphrase=passphrase)
        yield plain


_SSH = [f"-o{one}" for one in ("ConnectTimeout=20", "ServerAliveInterval=15")]


def is_whole(file: Path) -> bool:
    """Whether a file is a backup of Oil Ward's, as far as one sees without its passphrase."""
    if file.name.endswith(SEALED):
        return file.stat().st_size > 0
    try:
        with ZipFile(file) as whole:
            told = json.loads(whole.read(MANIFEST))
    except (OSError, BadZipFile, LookupError, ValueError):
        return False
    return isinstance(told, dict) and told.get("format") in FORMATS


class Keeping:
    """A workshop's backups: made, encrypted, handed on, thinned out, drilled, and told about in a file
    that the lead's page reads."""

    def __init__(self, house: House) -> None:
        self.told = house.home / "kept.json"
        self.folder = Path(house.backup.get("folder") or house.home / "backups")
        self.every = timedelta(hours=float(house.backup.get("every_hours", 24)))
        self.keep = max(1, int(house.backup.get("keep", 14)))
        self.passphrase = str(house.backup.get("passphrase_file", ""))
        self.also_to = str(house.backup.get("also_to", ""))

    def known(self) -> dict[str, Any]:
        """What was told last."""
        try:
            found = json.loads(self.told.read_text())
        except (OSError, ValueError):
            return {}
        return found if isinstance(found, dict) else {}

    def tell(self, **more: Any) -> None:
        """Tell more, beside what was told; a reader never sees half of it."""
        free = shutil.disk_usage(self.folder).free if self.folder.exists() else None
        every = self.every / timedelta(hours=1)
        now = {
            **self.known(),
            "folder": str(self.folder),
            "free": free,
            "every_hours": every,
            **more,
        }
        part = self.told.with_suffix(".part")
        part.write_text(json.dumps(now, indent=1))
        part.chmod(0o644)
        part.replace(self.told)

    def backups(self) -> list[Path]:
        """Those made here, the newest first."""
        found = self.folder.iterdir() if self.folder.exists() else ()
        files = [file for file in found if OWN.fullmatch(file.name) and is_whole(file)]
        return sorted(files, key=lambda file: file.name, reverse=True)

    def _clear_halves(self) -> None:
        """What a run that was broken off has left."""
        for half in self.folder.glob(f"{HALF}*"):
            half.unlink()

    def newest(self) -> Path | None:
        return next(iter(self.backups()), None)

    def made(self, postgres: Postgres) -> Path | None:
        """Make one, and do with it all the settings say. What goes wrong is told, not raised."""
        name = datetime.now(UTC).strftime(f"oilward-%Y-%m-%d-%H%M%S{ENDING}")
        try:
            self.folder.mkdir(mode=0o700, parents=True, exist_ok=True)
            self._clear_halves()
            half = self.folder / f"{HALF}{name}"
            if on_data(postgres, READER, "backup", str(half)):
                raise SystemExit("it could not be written; the log says why")
            half = self._sealed(half)
            file = half.rename(half.with_name(half.name.removeprefix(HALF)))
        except (SystemExit, OSError) as error:
            log.error("no backup was made: %s", error)
            self.tell(failed=str(error), failed_at=datetime.now(UTC).isoformat())
            return None
        for old in self.backups()[self.keep :]:
            old.unlink()
        size, now = file.stat().st_size, datetime.now(UTC).isoformat()
        log.info("backup: %s, %s bytes", file, size)
        self.tell(
            made_at=now,
            file=file.name,
            bytes=size,
            encrypted=file.name.endswith(SEALED),
            also_to=self.also_to,
            failed="",
        )
        if refused := self._handed_on(file):
            log.error("%s", refused)
            self.tell(failed=refused)
        return file

    def _sealed(self, file: Path) -> Path:
        if not self.passphrase:
            return file
        sealed = file.with_name(file.name + ".gpg")
        words = ("--symmetric", "--cipher-algo", "AES256", "--output", sealed, file)
        try:
            _gpg(*words, passphrase=self.passphrase)
        finally:
            file.unlink()
        return sealed

    def _handed_on(self, file: Path) -> str:
        """Give it to the other machine as well, if one is named; why that did not take it, if it did not.
        The one here stands either way."""
        if not self.also_to:
            return ""
        words = ["scp", "-q", "-B", *_SSH, str(file), self.also_to.rstrip("/") + "/"]
        longest = SILENT + SLOW * file.stat().st_size
        try:
            done = subprocess.run(
                words, capture_output=True, text=True, check=False, timeout=longest
            )
        except subprocess.TimeoutExpired:
            return f"{self.also_to} said nothing for {longest:.0f} s: it has not got it."
        except OSError as error:
            return f"{self.also_to} did not take it: {error.strerror}."
        return f"{self.also_to} did not take it: {done.stderr.strip()}" if done.returncode else ""

    def drilled(self, postgres: Postgres, file: Path) -> bool:
        """Put one back for a try; whether everything is there. Told either way."""
        try:
            with opened(file, self.passphrase) as plain:
                good = on_data(postgres, OWNER, "drill", str(plain)) == 0
        except SystemExit as error:
            log.error("the drill stopped: %s", error)
            print(error, flush=True)
            good = False
        self.tell(drill={"at": datetime.now(UTC).isoformat(), "file": file.name, "good": good})
        return good


def _since(told: Any) -> timedelta:
    try:
        return datetime.now(UTC) - datetime.fromisoformat(str(told))
    except (ValueError, TypeError):
        return timedelta(days=9999)


class Keeper:
    """Makes backups and drills when it is time, beside everything else."""

    def __init__(self, name: str, house: House) -> None:
        self.name, self.keeping = name, Keeping(house)
        self.looked = float("-inf")
        self.work: threading.Thread | None = None

    def look(self) -> None:
        """See whether it is time; never waits for the work itself."""
        busy = self.work is not None and self.work.is_alive()
        if busy or time.monotonic() - self.looked < LOOK:
            return
        self.looked = time.monotonic()
        told = self.keeping.known()
        lately = min(_since(told.get("made_at")), _since(told.get("failed_at")) * 24)
        if self.keeping.every and lately >= self.keeping.every:
            self._do(lambda: self.keeping.made(Postgres(self.name)))
        elif (file := self.keeping.newest()) and _since(
            (told.get("drill") or {}).get("at")
        ) >= timedelta(days=DRILL_DAYS):
            self._do(lambda: self.keeping.drilled(Postgres(self.name), file))
        else:
            self.keeping.tell()

    def _do(self, work: Any) -> None:
        self.work = threading.Thread(target=work, daemon=True, name="keeping")
        self.work.start()

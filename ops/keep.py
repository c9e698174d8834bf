"""Everything in one file, and back: by hand, on a schedule, and tried for real."""

import json
import os
import re
import shutil
import subprocess
import threading
import time
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from zipfile import BadZipFile, ZipFile

from . import elsewhere
from .authority import sealed as sealed_authority
from .house import House
from .journal import log
from .minutes import Minutes, since
from .passphrase import backup_key, check, key_before
from .pictures import FOLDER, let_go, taken_in, unpacked
from .postgres import OWNER, READER, Postgres
from .sealing import ENDING as GPG
from .sealing import sealed
from .serve import manage

LOOK = 60.0
DRILLED = timedelta(days=7)
ENDING, SEALED = ".backup", f".backup{GPG}"
# what the keeper makes by itself; whatever else lies in the folder is somebody's own
OWN = re.compile(r"oilward-\d{4}-\d\d-\d\d-\d{6}\.backup(\.gpg)?")
HALF = ".making-"
MANIFEST, FORMATS = "manifest.json", [f"oilward-backup/{number}" for number in (1, 2, 3)]


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


def keys_at_hand(house: House) -> list[Path]:
    """What opens this workshop's backups, first what seals them."""
    told = str(house.backup.get("passphrase_file", ""))
    return [*([Path(told)] if told else []), backup_key(house), key_before(house)]


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
        self.house, self.told = house, house.home / "kept.json"
        self.folder = house.backups
        self.every = timedelta(hours=float(house.backup.get("every_hours", 24)))
        self.keep = max(1, int(house.backup.get("keep", 14)))
        self.keys, self.sealed = keys_at_hand(house), house.seals
        self.random = not house.backup.get("passphrase_file")
        self.check, self.authority = check(house), sealed_authority(house)
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
            shutil.rmtree(half) if half.is_dir() else half.unlink()

    def newest(self) -> Path | None:
        return next(iter(self.backups()), None)

    def made(self, postgres: Postgres) -> Path | None:
        """Make one, and do with it all the settings say. What goes wrong is told, not raised."""
        name = datetime.now(UTC).strftime(f"oilward-%Y-%m-%d-%H%M%S{ENDING}")
        try:
            self.folder.mkdir(mode=0o700, parents=True, exist_ok=True)
            self._clear_halves()
            file = self._written(postgres, self.folder / f"{HALF}{name}")
        except (SystemExit, OSError) as error:
            log.error("no backup was made: %s", error)
            self._clear_halves()
            self.tell(failed=str(error), failed_at=datetime.now(UTC).isoformat())
            return None
        for old in self.backups()[self.keep :]:
            old.unlink()
        let_go(self.folder, [one.name for one in self.backups()])
        size, now = file.stat().st_size, datetime.now(UTC).isoformat()
        log.info("backup: %s, %s bytes", file, size)
        self.tell(
            made_at=now,
            file=file.name,
            bytes=size,
            encrypted=file.name.endswith(SEALED),
            check=self._check(),
            also_to=self.also_to,
            failed="",
        )
        # the one here stands either way
        if self.also_to and (refused := self._handed_on(file)):
            log.error("%s", refused)
            self.tell(failed=refused)
        return file

    def _written(self, postgres: Postgres, half: Path) -> Path:
        """A new one in its place, and the pictures it is the first to need."""
        kept, fresh = self.folder / FOLDER, self.folder / f"{HALF}{FOLDER}"
        words = [str(half), f"--kept={kept}", f"--fresh={fresh}"]
        if on_data(postgres, READER, "backup", *words):
            raise SystemExit("it could not be written; the log says why")
        file = half.with_name(half.name.removeprefix(HALF))
        file = file.with_name(file.name + GPG) if self.sealed else file
        taken_in(self.folder, fresh, half, backup=file.name, key=self._key(), random=self.random)
        return self.closed(half).rename(file)

    def _handed_on(self, file: Path) -> str:
        """Why another machine has not got it, if it has not; its pictures first."""
        return elsewhere.mirrored(self.folder / FOLDER, self.also_to) or elsewhere.given(
            file, self.also_to
        )

    def _key(self) -> Path | None:
        """What seals them, if they are sealed. Stops where it is not there."""
        if not self.sealed:
            return None
        if not self.keys[0].is_file():
            raise SystemExit(f"there is no {self.keys[0]} to seal it with")
        return self.keys[0]

    def _check(self) -> str:
        """What a passphrase typed back is held against, where ours is what opens them."""
        ours = self.sealed and self.random and self.check.is_file()
        return self.check.read_text() if ours else ""

    def closed(self, file: Path) -> Path:
        """With the workshop's authority in it, which is sealed already, and as a whole."""
        if self.authority.exists():
            with ZipFile(file, "a") as whole:
                whole.write(self.authority, self.authority.name)
        key = self._key()
        return sealed(file, key, self.random) if key else file

    def drilled(self, postgres: Postgres, file: Path, ask: bool = False) -> bool:
        """Put one back for a try; whether everything is there. Told either way."""
        try:
            with unpacked(file, self.keys, ask) as words:
                good = on_data(postgres, OWNER, "drill", *words) == 0
        except SystemExit as error:
            log.error("the drill stopped: %s", error)
            print(error, flush=True)
            good = False
        self.tell(drill={"at": datetime.now(UTC).isoformat(), "file": file.name, "good": good})
        return good


class Keeper:
    """Makes backups and drills when it is time, beside everything else."""

    def __init__(self, name: str, house: House) -> None:
        self.name, self.keeping, self.minutes = name, Keeping(house), Minutes(name, house)
        self.looked = float("-inf")
        self.work: threading.Thread | None = None

    def look(self) -> None:
        """See whether it is time; never waits for the work itself."""
        busy = self.work is not None and self.work.is_alive()
        if busy or time.monotonic() - self.looked < LOOK:
            return
        self.looked = time.monotonic()
        self.work = threading.Thread(target=self._what_is_due, daemon=True, name="keeping")
        self.work.start()

    def _what_is_due(self) -> None:
        """One thing at a time, the most needed first."""
        told = self.keeping.known()
        lately = min(since(told.get("made_at")), since(told.get("failed_at")) * 24)
        if self.keeping.every and lately >= self.keeping.every:
            self.keeping.made(Postgres(self.name))
        if self.minutes.due(told.get("minutes") or {}):
            self._tell(self.minutes.copied)
        elif since((told.get("drill") or {}).get("at")) >= DRILLED and (
            file := self.keeping.newest()
        ):
            self.keeping.drilled(Postgres(self.name), file)
            self._tell(lambda _: self.minutes.tried())
        self._tell(lambda _: self.minutes.look())

    def _tell(self, work: Callable[[dict[str, Any]], dict[str, Any]]) -> None:
        """Tell what was done with the minutes, beside what was told of them."""
        told = self.keeping.known().get("minutes") or {}
        try:
            self.keeping.tell(minutes={**told, **work(told)})
        except Exception:
            log.exception("the minutes could not be looked after")

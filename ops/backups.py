"""./ward backup, restore, drill: by hand."""

import argparse
import os
import time
from pathlib import Path

from workshop.keeping.passphrase import BACKUP, key_for, tidy

from . import archive
from .house import read_house
from .keep import ENDING, Keeping, keys_at_hand, on_data
from .minutes import Minutes
from .pictures import unpacked
from .postgres import OWNER, READER, Postgres
from .sealing import asked_for


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


def _parsed(name: str, words: list[str]) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog=f"./ward {name}")
    parser.add_argument("file", nargs="?", default="")
    parser.add_argument("--demo", action="store_true", help="the demo's data, not the workshop's")
    if name == "restore":
        parser.add_argument("--to", default="", metavar="MOMENT", help='a moment, or "latest"')
        parser.add_argument(
            "--passphrase",
            action="store_true",
            help="ask for it: the minutes are another machine's",
        )
    return parser.parse_args(words)


def backup(words: list[str]) -> int:
    """./ward backup [FILE]: everything into one file, while the work goes on; a workshop's is sealed as
    those that are made by themselves."""
    given = _parsed("backup", words)
    name = _whose(given.demo)
    file = _file(given.file or time.strftime(f"oilward-%Y-%m-%d-%H%M%S{ENDING}"))
    code = on_data(Postgres(name), READER, "backup", str(file))
    if name != "demo" and not code:
        print(f"Kept as {Keeping(read_house()).closed(file)}.")
    return code


def restore(words: list[str]) -> int:
    """./ward restore FILE: a backup in the place of what is there, which is kept beside it. --to MOMENT:
    the workshop as it was then, from the minutes that are kept."""
    given = _parsed("restore", words)
    if given.to:
        return _restore_to(given.to, given.passphrase)
    if not given.file:
        raise SystemExit('Name the file to put back, or a moment: --to "2026-03-14 09:30"')
    name, file = _whose(given.demo), _file(given.file)
    keys = [] if name == "demo" else keys_at_hand(read_house())
    with unpacked(file, keys, ask=True) as words:
        return on_data(Postgres(name), OWNER, "restore", *words, alone=True)


def _restore_to(moment: str, ask: bool) -> int:
    house = read_house()
    typed = asked_for(archive.archive_of(house).repo) if ask else ""
    reached = archive.restored(house, moment, key_for(BACKUP, tidy(typed)) if typed else "")
    Keeping(house).tell(minutes={})  # they go on from here with a copy of the whole
    print(f"The workshop is as it was at {reached or moment}. ./ward serve goes on with it.")
    return 0


def drill(words: list[str]) -> int:
    """./ward drill [FILE]: put the newest backup, or this one, back into a database that is thrown away,
    and see whether everything is there."""
    given = _parsed("drill", words)
    name = _whose(given.demo)
    if name == "demo":
        if not given.file:
            raise SystemExit("The demo makes no backups by itself: name the file to try.")
        with unpacked(_file(given.file), [], ask=True) as words:
            return on_data(Postgres(name), OWNER, "drill", *words)
    postgres, keeping = Postgres(name), Keeping(read_house())
    file = _file(given.file) if given.file else keeping.newest()
    if file is None:
        raise SystemExit(f"There is no backup in {keeping.folder} yet.")
    good = keeping.drilled(postgres, file, ask=bool(given.file))
    if not given.file and archive.archive_of(keeping.house).repo.exists():
        told = Minutes(name, keeping.house).tried()
        keeping.tell(minutes={**(keeping.known().get("minutes") or {}), **told})
        if told["drill"]["good"]:
            print(f"The minutes are good, up to {told['drill']['reached'] or 'their last copy'}.")
        good = good and told["drill"]["good"]
    return 0 if good else 1

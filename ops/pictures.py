"""Pictures beside the backups: each once for all of them, sealed as they are, gone with the last one."""

import json
import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory
from zipfile import BadZipFile, ZipFile

from .sealing import ENDING, Refused, open_to, opened, sealed

FOLDER, OF = (
    "pictures",
    "belongs",
)  # beside the backups; in it, which pictures belong to which backup


def _names(plain: Path) -> list[str]:
    """Those that belong to a backup."""
    try:
        with ZipFile(plain) as whole:
            found = json.loads(whole.read("manifest.json")).get("pictures", [])
    except (OSError, BadZipFile, LookupError, ValueError, AttributeError):
        return []
    return [name for name in found if isinstance(name, str) and name.isalnum()]


def taken_in(
    folder: Path, fresh: Path, plain: Path, *, backup: str, key: Path | None, random: bool
) -> None:
    """Put the pictures of a backup that are new to those that are kept, and write down which are its;
    sealed with ``key``, if there is one, ``random`` or somebody's own words."""
    kept = folder / FOLDER
    for picture in sorted(fresh.iterdir()) if fresh.is_dir() else ():
        there = kept / picture.name[:2]
        there.mkdir(mode=0o700, parents=True, exist_ok=True)
        whole = sealed(picture, key, random) if key else picture
        whole.replace(there / whole.name)
    shutil.rmtree(fresh, ignore_errors=True)
    listed = kept / OF / backup
    listed.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
    listed.write_text("\n".join(_names(plain)))


def let_go(folder: Path, backups: list[str]) -> None:
    """Take away what belongs to none of these backups any more."""
    kept, wanted = folder / FOLDER, set[str]()
    for listed in (kept / OF).glob("*"):
        if listed.name in backups:
            wanted |= set(listed.read_text().split())
        else:
            listed.unlink()
    if any(not (kept / OF / name).exists() for name in backups):
        return  # whose pictures nobody knows: all stay
    for picture in kept.glob("??/*"):
        if picture.name.removesuffix(ENDING) not in wanted:
            picture.unlink()


@contextmanager
def unpacked(file: Path, keys: list[Path], ask: bool = False) -> Iterator[list[str]]:
    """A backup and the pictures beside it, opened, as words for the command that puts it back. Pictures
    that are missing are missed there."""
    kept = file.parent / FOLDER
    with opened(file, keys, ask) as found:
        names = _names(found.plain)
        if not names or not kept.is_dir():
            yield [str(found.plain)]
            return
        with TemporaryDirectory(dir=kept) as name:
            for picture in names:
                _lay_out(kept / picture[:2] / picture, Path(name, picture), found.keys)
            yield [str(found.plain), "--pictures", name]


def _lay_out(there: Path, plain: Path, keys: list[Path]) -> None:
    if there.is_file():
        shutil.copyfile(there, plain)
    whole = there.with_name(there.name + ENDING)
    for key in keys if whole.is_file() else ():
        try:
            open_to(whole, plain, key)
        except Refused:
            continue
        return

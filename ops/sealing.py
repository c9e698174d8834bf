"""Files sealed and opened again; all of it is GnuPG's work."""

import getpass
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from workshop.keeping.passphrase import BACKUP, key_for, tidy

from .paths import write_own

ENDING = ".gpg"
# a key that is random already is not stretched: thousands of pictures would take an hour
_AS_IT_IS = ("--s2k-mode", "1", "--s2k-digest-algo", "SHA256")


class Refused(SystemExit):
    """GnuPG did not do it."""


def _gpg(*words: str | Path, key: Path) -> None:
    """Run gpg with the key in a file, in a home of its own; its words come with a refusal."""
    with tempfile.TemporaryDirectory() as home:
        own = ["gpg", "--homedir", home, "--batch", "--yes", "--quiet", "--no-tty"]
        own += ["--pinentry-mode", "loopback", "--passphrase-file", str(key)]
        done = subprocess.run([*own, *map(str, words)], capture_output=True, text=True, check=False)
    if done.returncode:
        raise Refused(f"gpg stopped: {done.stderr.strip()}")


def sealed(file: Path, key: Path, random: bool = False) -> Path:
    """The file sealed, in its place; ``random``: the key is one nobody has thought of."""
    made = file.with_name(file.name + ENDING)
    words = ("--symmetric", "--cipher-algo", "AES256", *(_AS_IT_IS if random else ()))
    try:
        _gpg(*words, "--output", made, file, key=key)
    finally:
        file.unlink()
    made.chmod(0o600)
    return made


def open_to(file: Path, plain: Path, key: Path) -> None:
    """Open a sealed file into another one. Raises Refused where the key is not the one."""
    _gpg("--output", plain, "--decrypt", file, key=key)


def asked_for(file: Path) -> str:
    """The passphrase of a file, from whoever stands before it."""
    words = f"The passphrase of {file.name}: "
    typed = getpass.getpass(words) if sys.stdin.isatty() else sys.stdin.readline()
    if not typed.strip():
        raise SystemExit(f"{file} is sealed, and opened with a passphrase.")
    return typed.strip()


@contextmanager
def keys_of(typed: str, purpose: str) -> Iterator[list[Path]]:
    """The keys a typed passphrase may stand for: the one made of it, or itself."""
    with tempfile.TemporaryDirectory() as folder:
        made, itself = Path(folder, "made"), Path(folder, "itself")
        write_own(made, key_for(purpose, tidy(typed)))
        write_own(itself, typed)
        yield [made, itself]


def _opened_by(file: Path, plain: Path, keys: list[Path]) -> bool:
    for key in keys:
        try:
            open_to(file, plain, key)
        except Refused:
            continue
        return True
    return False


@dataclass(frozen=True)
class Opened:
    """A file as it was before it was sealed, and what opened it."""

    plain: Path
    keys: list[Path]


@contextmanager
def opened(file: Path, keys: list[Path], ask: bool = False) -> Iterator[Opened]:
    """A file as it was before it was sealed. ``ask`` whoever stands before it, where none of the keys at
    hand opens it."""
    at_hand = [key for key in keys if key.is_file()]
    if not file.name.endswith(ENDING):
        yield Opened(file, at_hand)
        return
    with tempfile.TemporaryDirectory() as folder:
        plain = Path(folder, file.name.removesuffix(ENDING))
        if _opened_by(file, plain, at_hand):
            yield Opened(plain, at_hand)
            return
        if not ask:
            raise SystemExit(f"No passphrase given opens {file}.")
        with keys_of(asked_for(file), BACKUP) as typed:
            if not _opened_by(file, plain, typed):
                raise SystemExit(f"That passphrase does not open {file}.")
            yield Opened(plain, typed)

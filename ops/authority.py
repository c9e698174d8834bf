"""The workshop's own authority: who has its key, and how it goes along to another machine.

As a service its key is root's. A helper that root runs, at the start, each day and when this machine's
addresses change, vouches for the names in the settings, and seals the key for the backups."""

import argparse
import json
import os
import tempfile
from pathlib import Path
from typing import Any
from zipfile import BadZipFile, ZipFile

from workshop.keeping.passphrase import AUTHORITY, BACKUP

from . import certificates, passphrase, sealing
from .house import House, read_house
from .paths import write_own

SEALED = "authority.json.gpg"  # beside the certificate, and in a backup
FORMAT = "oilward-authority/1"
ASKED = "authority-asked"  # touched by who serves, when there are other names
MOST = 100_000  # bytes
_TOLD = {"ca.crt": "certificate", "ca.key": "key", certificates.LIMITS: "limits"}


def sealed(house: House) -> Path:
    """The authority as a backup carries it."""
    return house.tls / SEALED


def is_helpers(house: House) -> bool:
    """Whether root's helper sees to the certificate, and this process may not."""
    return house.tls.is_dir() and not os.access(house.tls, os.W_OK)


def _seal(house: House) -> None:
    """Seal it for the backups, unless that was done with this key and this authority."""
    key, there = passphrase.authority_key(house), sealed(house)
    parts = {word: house.tls / name for name, word in _TOLD.items()}
    if not key.exists() or not parts["key"].exists():
        return
    newest = max(one.stat().st_mtime for one in (key, *parts.values()) if one.exists())
    if there.exists() and there.stat().st_mtime >= newest:
        return
    told = {word: file.read_text() for word, file in parts.items() if file.exists()}
    plain = house.tls / SEALED.removesuffix(sealing.ENDING)
    write_own(plain, json.dumps({"format": FORMAT, **told}))
    sealing.sealed(plain, key, random=True)


def _shown_to_who_serves(house: House) -> None:
    """The group their data belong to reads what is in use; nobody but root the rest."""
    if os.geteuid():
        return
    group = house.home.stat().st_gid
    for name in ("server.crt", "server.key", "server.hosts", "ca.crt", certificates.LIMITS, SEALED):
        file = house.tls / name
        if file.exists():
            os.chown(file, 0, group)
            file.chmod(0o640 if name in ("server.key", SEALED) else 0o644)


def see_to(house: House) -> None:
    """A certificate for the names as they are now, and the authority sealed for the backups."""
    house.tls.mkdir(mode=0o755, parents=True, exist_ok=True)
    if not house.certificate:
        certificates.renew(house)
        _seal(house)
    _shown_to_who_serves(house)


def begin(house: House) -> str:
    """What a start needs of certificates and keys; the passphrase, if it was made now. As a service
    root's helper has seen to them."""
    if not is_helpers(house):
        made = passphrase.make(house)
        see_to(house)
        return made
    if not house.certificate and not certificates.own(house).certificate.exists():
        raise SystemExit("There is no certificate yet. Root makes it: sudo oilward authority")
    return ""


def renewed(house: House, shown: Path, ask: bool) -> bool:
    """See to the certificate beside the work, or let root's helper do it; whether there is another one
    than ``shown``."""
    if house.certificate:
        return False
    if not is_helpers(house):
        see_to(house)
    elif ask:
        (house.home / ASKED).write_text("\n".join(house.hosts))
    return certificates.stamp(house) != (shown.read_text() if shown.exists() else "")


def _carried(file: Path) -> bytes:
    """The sealed authority in a backup."""
    try:
        with ZipFile(file) as whole:
            if whole.getinfo(SEALED).file_size > MOST:
                raise KeyError
            return whole.read(SEALED)
    except (BadZipFile, KeyError, OSError):
        raise SystemExit(f"{file.name} has no authority in it.") from None


def _told(plain: Path) -> dict[str, Any]:
    try:
        told = json.loads(plain.read_text())
    except ValueError:
        told = None
    if not isinstance(told, dict) or told.get("format") != FORMAT:
        raise SystemExit("What is sealed there is no authority of Oil Ward's.")
    return told


def take_over(house: House, file: Path, typed: str) -> None:
    """The authority in a backup becomes this machine's: tablets that trusted it trust this machine. The
    one of before is kept beside it. Stops, with nothing changed, at a wrong passphrase."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        outer, inner = folder / "backup", folder / SEALED
        with sealing.keys_of(typed, BACKUP) as keys, sealing.opened(file, keys) as found:
            inner.write_bytes(_carried(found.plain))
        outer = folder / "authority.json"
        with sealing.keys_of(typed, AUTHORITY) as keys:
            sealing.open_to(inner, outer, keys[0])
        told = _told(outer)
        new = folder / "tls"
        new.mkdir()
        for name, word in _TOLD.items():
            if word in told:
                write_own(new / name, str(told[word]))
        certificates.proven(new)
        if left := certificates.unvouched(new, house):
            raise SystemExit(
                f"That authority does not vouch for {left}: it was made for other names."
            )
        for name in (*_TOLD, "server.crt", "server.hosts"):
            there = house.tls / name
            if there.exists():
                there.replace(house.tls / f"{name}.before")
            if (new / name).exists():
                write_own(there, (new / name).read_text())
    see_to(house)


def authority(words: list[str]) -> int:
    """./ward authority: see to the certificate; --from FILE: take over the authority in a backup."""
    parser = argparse.ArgumentParser(prog="./ward authority")
    parser.add_argument("--from", dest="file", default="", help="a backup of another machine's")
    given, house = parser.parse_args(words), read_house(begin=False)
    if is_helpers(house):
        raise SystemExit("This is root's to do: sudo oilward authority")
    if not given.file:
        see_to(house)
        return 0
    if house.certificate:
        raise SystemExit("The workshop has a certificate of the owner's own.")
    file = Path(os.environ.get("OILWARD_FROM", "."), given.file)
    if not file.is_file():
        raise SystemExit(f"There is no file {file}.")
    take_over(house, file, sealing.asked_for(file))
    print("The tablets that trusted that machine trust this one, under the same name.")
    print("Start the server anew: it shows the new certificate from then on.")
    return 0

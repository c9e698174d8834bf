"""The workshop's passphrase: made once, shown once, kept by people alone. Only keys that come of it are
written down here."""

import argparse
import os
from pathlib import Path

from workshop.keeping.passphrase import AUTHORITY, BACKUP, TYPED, key_for, new

from .house import House, read_house
from .paths import write_own

SHOWN = """
The passphrase of this workshop's backups. It is shown this once. Write it down and keep it where a fire
or a thief does not get the machine as well; then a lead types it in under Workshop, Backups.

  {passphrase}

Without it a backup cannot be put back.
"""


def backup_key(house: House) -> Path:
    """What the backups are sealed with, for whoever makes them."""
    return house.settings.parent / "backup.key"


def key_before(house: House) -> Path:
    """What sealed the backups of before."""
    return house.settings.parent / "backup.key.before"


def check(house: House) -> Path:
    """What tells whether a passphrase typed back is the right one."""
    return house.settings.parent / "passphrase.check"


def authority_key(house: House) -> Path:
    """What the authority is sealed with; as a service, for root alone."""
    return house.tls / "seal.key"


def make(house: House, anew: bool = False) -> str:
    """See to it that there is one; it, if it was made now, else nothing."""
    if check(house).exists() and not anew:
        return ""
    made = new()
    house.tls.mkdir(mode=0o755, parents=True, exist_ok=True)
    if backup_key(house).exists():
        backup_key(house).rename(key_before(house))
    # the processes of the service read the first two, and belong to the group their data belong to
    group = house.home.stat().st_gid if os.geteuid() == 0 else None
    write_own(backup_key(house), key_for(BACKUP, made), group)
    write_own(authority_key(house), key_for(AUTHORITY, made))
    write_own(check(house), key_for(TYPED, made), group)
    return made


def passphrase(words: list[str]) -> int:
    """./ward passphrase --new: another one, for the backups from now on."""
    from . import authority

    parser = argparse.ArgumentParser(prog="./ward passphrase")
    parser.add_argument("--new", action="store_true", help="make another one, and show it once")
    given, house = parser.parse_args(words), read_house(begin=False)
    if made := make(house, anew=given.new):
        authority.see_to(house)
        print(SHOWN.format(passphrase=made))
        if given.new:
            print(
                "Elsewhere, backups of before are opened with the one of before: keep it as long."
            )
            print("Start the server anew: its minutes begin anew with it.")
        return 0
    print("There is one, and it was shown when it was made. Lost: ./ward passphrase --new")
    return 0

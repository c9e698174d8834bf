"""A workshop's own settings: one file that a person reads and edits, made at the first start."""

import argparse
import os
import socket
import subprocess
import tomllib
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from workshop.keeping.hosts import is_number

from .paths import begin_state, state_dir
from .settings import read

NAME = "oilward.toml"
FIRST = """\
# Oil Ward, this workshop's settings. Edit, then start anew.

# The names and addresses the tablets find this machine under; the first name stands in links.
# Empty: this machine's name and its addresses in the network, as they are at the start.
hosts = []

# The doors of this machine. A user who is not root takes ports above 1024.
https_port = {https}
http_port = {http}

# The workshop's own certificate, if you have one (paths of PEM files, the chain in the first).
# Empty: an authority of the workshop's own makes one and renews it.
certificate = ""
key = ""

[backup]
# Where backups are kept, how often one is made, and how many stay. 0 hours: none by itself.
folder = "{folder}"
every_hours = 24
keep = 14
# They are encrypted (gpg, AES-256), with the passphrase that was shown when this machine was set up.
encrypted = true
# Another passphrase instead, in a file that only this server may read. Keep it elsewhere too.
passphrase_file = ""
# Another machine that gets each one as well, by ssh: user@host:folder
also_to = ""

[limits]
# What one address may hold open at once (sixty tablets behind one address fit), and one person.
connections_per_address = 600
streams_per_address = 200
streams_per_person = 20
# Requests a second, on average.
requests_per_person = 20
requests_per_address = 400
"""
LIMITS = tomllib.loads(FIRST.format(https=443, http=80, folder=""))["limits"]

# where a machine tells the network its name, NAME.local (RFC 6762), it has this
ANNOUNCED = Path("/run/avahi-daemon/socket")


@dataclass(frozen=True, kw_only=True)
class House:
    """What the file says. ``home`` is where the workshop's data are."""

    home: Path
    hosts: tuple[str, ...]
    https_port: int
    http_port: int
    certificate: str = ""
    key: str = ""
    backup: dict[str, Any] = field(default_factory=dict)
    limits: dict[str, int] = field(default_factory=lambda: dict(LIMITS))
    # whether the file names the hosts; else they are this machine's, as they are now
    named: bool = True

    @property
    def settings(self) -> Path:
        return settings_file(self.home)

    @property
    def backups(self) -> Path:
        """Where all that is kept lies."""
        return Path(self.backup.get("folder") or self.home / "backups")

    @property
    def seals(self) -> bool:
        return bool(self.backup.get("encrypted", True))

    @property
    def tls(self) -> Path:
        """Where the workshop's authority is, and what it has vouched for. As a service it is root's: who
        serves reads the certificate in use and no more."""
        return Path(os.environ.get("OILWARD_TLS") or self.home / "tls")

    @property
    def address(self) -> str:
        """Where links lead to: by name where there is one, for a passkey is good under a name alone."""
        return self._at(self.hosts[0])

    @property
    def by_number(self) -> str:
        """Where they lead in a network that does not know the name; "" where nothing else is known."""
        numbers = [host for host in self.hosts[1:] if is_number(host)]
        return self._at(numbers[0]) if numbers and not is_number(self.hosts[0]) else ""

    def _at(self, host: str) -> str:
        return f"https://{host}" + ("" if self.https_port == 443 else f":{self.https_port}")


def settings_file(home: Path) -> Path:
    """Where the settings stand: as OILWARD_SETTINGS says, else with the data."""
    told = os.environ.get("OILWARD_SETTINGS", "")
    return Path(told) if told else home / NAME


def _addresses() -> list[str]:
    shown = subprocess.run(["hostname", "-I"], capture_output=True, text=True, check=False).stdout
    return [one for one in shown.split() if "." in one]


def own_hosts() -> tuple[str, ...]:
    """This machine's names and addresses in the network, as they are now; the name first where something
    makes it known there."""
    name = socket.gethostname()
    local = f"{name.split('.')[0]}.local"
    first = [local] if ANNOUNCED.exists() else []
    return tuple(dict.fromkeys([*first, *_addresses(), name, local, "localhost"]))


def read_house(begin: bool = True) -> House:
    """The settings, made first where there are none; unless ``begin``, nothing is made where the data
    are. Stops with a sentence at what cannot be."""
    home = state_dir("serve")
    if begin:
        begin_state(home)
    file = settings_file(home)
    if not file.exists():
        low = os.geteuid() == 0 or "OILWARD_LOW_PORTS" in os.environ
        text = FIRST.format(
            https=443 if low else 8443, http=80 if low else 8080, folder=home / "backups"
        )
        file.parent.mkdir(parents=True, exist_ok=True)
        file.write_text(text)
        print(f"· The workshop's settings are in {file}", flush=True)
    told = read(file)
    return House(
        home=home,
        hosts=tuple(sorted(told.get("hosts") or (), key=is_number)) or own_hosts(),
        https_port=told["https_port"],
        http_port=told["http_port"],
        certificate=told.get("certificate", ""),
        key=told.get("key", ""),
        backup=told.get("backup", {}),
        limits={**LIMITS, **told.get("limits", {})},
        named=bool(told.get("hosts")),
    )


def settings(words: list[str]) -> int:
    """./ward settings --check: whether the settings can be used, and where they stand."""
    parser = argparse.ArgumentParser(prog="./ward settings")
    parser.add_argument("--check", action="store_true", help="say what is wrong with them")
    parser.parse_args(words)
    house = read_house()
    print(f"{settings_file(house.home)} is good. The tablets come to {house.address}.")
    return 0

"""A workshop's own settings: one file that a person reads and edits, made at the first start."""

import os
import socket
import subprocess
import tomllib
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from .paths import begin_state, state_dir

NAME = "oilward.toml"
FIRST = """\
# Oil Ward, this workshop's settings. Edit, then start anew.

# The names and addresses the tablets find this machine under; the first one stands in links.
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
# A file with a passphrase: backups are encrypted with it (gpg, AES-256). Keep it elsewhere too.
passphrase_file = ""
# Another machine that gets each one as well, by ssh: user@host:folder
also_to = ""
"""


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

    @property
    def address(self) -> str:
        """Where links lead to."""
        port = "" if self.https_port == 443 else f":{self.https_port}"
        return f"https://{self.hosts[0]}{port}"


def settings_file(home: Path) -> Path:
    """Where the settings stand: as OILWARD_SETTINGS says, else with the data."""
    told = os.environ.get("OILWARD_SETTINGS", "")
    return Path(told) if told else home / NAME


def _addresses() -> list[str]:
    shown = subprocess.run(["hostname", "-I"], capture_output=True, text=True, check=False).stdout
    return [one for one in shown.split() if "." in one]


def own_hosts() -> tuple[str, ...]:
    """This machine's names and addresses in the network, as they are now."""
    name = socket.gethostname()
    return tuple(dict.fromkeys([*_addresses(), name, f"{name.split('.')[0]}.local", "localhost"]))


def _port(told: dict[str, Any], name: str) -> int:
    port = told.get(name)
    if not isinstance(port, int) or not 1 <= port <= 65535:
        raise SystemExit(f"{name} has to be a port from 1 to 65535, not {port!r}.")
    return port


def read_house() -> House:
    """The settings, made first where there are none. Stops with a sentence at what cannot be."""
    home = state_dir("serve")
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
    try:
        told = tomllib.loads(file.read_text())
    except tomllib.TOMLDecodeError as error:
        raise SystemExit(f"{file} cannot be read: {error}.") from error
    hosts = tuple(map(str, told.get("hosts") or own_hosts()))
    return House(
        home=home,
        hosts=hosts,
        https_port=_port(told, "https_port"),
        http_port=_port(told, "http_port"),
        certificate=str(told.get("certificate", "")),
        key=str(told.get("key", "")),
        backup=dict(told.get("backup", {})),
    )

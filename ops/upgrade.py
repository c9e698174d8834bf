"""./ward upgrade: a workshop's data brought up to this release, or left exactly as they were."""

import os
import subprocess
from pathlib import Path

from . import archive, authority, nginx, passphrase
from .children import child, end
from .house import House, read_house
from .keep import Keeping, on_data
from .paths import SERVER
from .pictures import unpacked
from .postgres import OWNER, Postgres
from .serve import app_words, build_web, by_socket, manage, migrate, wait_until_up
from .workshop import environment

STOPPED = (
    "This release could not bring the data up to date. They are as they were before; go on with the "
    "release you had."
)


def _answers(env: dict[str, str], house: House) -> None:
    """Begin this release beside everything and ask how it is. Stops where it does not say."""
    socket = nginx.behind(house) / "upgrade"
    app = child(app_words(f"unix:{socket}", 1, 2), cwd=SERVER, env=env)
    try:
        wait_until_up(by_socket(socket, house.hosts[0]), app)
    finally:
        end(app)


def _go_back(keeping: Keeping, file: Path) -> None:
    print("· Going back", flush=True)
    with unpacked(file, keeping.keys) as words:
        if on_data(Postgres("serve"), OWNER, "restore", *words, "--as-it-was"):
            raise SystemExit(f"Going back failed too. ./ward restore {file} does it.")


def upgrade(words: list[str]) -> int:
    """Back up, then migrate; go back to the backup if a migration fails, or if this release does not
    answer with it. Stop ./ward serve before."""
    house, postgres = read_house(), Postgres("serve")
    if not (postgres.data / "PG_VERSION").exists():
        raise SystemExit("There is no workshop here yet: ./ward serve begins it.")
    build_web()
    made = authority.begin(house)
    try:
        archive.started(house, postgres)
        postgres.ensure_roles()
        print("· Backing up first", flush=True)
        keeping = Keeping(house)
        file = keeping.made(Postgres("serve"))
        if file is None:
            raise SystemExit("Without a backup nothing is changed. Look at the folder for backups.")
        print(f"· {file}", flush=True)
        env = {**os.environ, **environment(postgres, house)}
        try:
            migrate(postgres)
            manage(env, "roll_forward")
            _answers(env, house)
        except (subprocess.CalledProcessError, SystemExit) as stopped:
            print(f"· This release does not work here: {stopped}", flush=True)
            _go_back(keeping, file)
            raise SystemExit(STOPPED) from None
        print("· The data are up to date. ./ward serve goes on.", flush=True)
    finally:
        postgres.stop()
        if made:  # it is in use, whatever came of the upgrade
            print(passphrase.SHOWN.format(passphrase=made), flush=True)
    return 0

"""./ward upgrade: a workshop's data brought up to this release, or left exactly as they were."""

import os
import subprocess

from .house import read_house
from .keep import Keeping, on_data, opened
from .postgres import OWNER, Postgres
from .serve import build_web, manage, migrate

STOPPED = (
    "This release could not bring the data up to date. They are as they were before; go on with the "
    "release you had."
)


def upgrade(words: list[str]) -> int:
    """Back up, then migrate; go back to the backup if a migration fails. Stop ./ward serve before."""
    house, postgres = read_house(), Postgres("serve")
    if not (postgres.data / "PG_VERSION").exists():
        raise SystemExit("There is no workshop here yet: ./ward serve begins it.")
    build_web()
    try:
        postgres.start()
        postgres.ensure_roles()
        print("· Backing up first", flush=True)
        keeping = Keeping(house)
        file = keeping.made(Postgres("serve"))
        if file is None:
            raise SystemExit("Without a backup nothing is changed. Look at the folder for backups.")
        print(f"· {file}", flush=True)
        try:
            migrate(postgres)
        except subprocess.CalledProcessError:
            print("· A migration failed: going back", flush=True)
            with opened(file, keeping.passphrase) as plain:
                failed = on_data(Postgres("serve"), OWNER, "restore", str(plain))
            if failed:
                raise SystemExit(f"Going back failed too. ./ward restore {file} does it.") from None
            raise SystemExit(STOPPED) from None
        env = {**os.environ, **postgres.environment()}
        manage(env, "roll_forward")
        print("· The data are up to date. ./ward serve goes on.", flush=True)
    finally:
        postgres.stop()
    return 0

"""./ward backup and ./ward restore: everything in one file, and back."""

import os
import subprocess
import time
from pathlib import Path

from .postgres import USER, Postgres
from .serve import manage


def _file(word: str) -> Path:
    """A path as it was meant where ./ward was called from."""
    return Path(os.environ.get("OILWARD_FROM", "."), word)


def _on_demo(command: str, file: Path, alone: bool) -> int:
    """Run a command on the data of ./ward demo; ``alone``: only while nothing else runs there."""
    postgres = Postgres("demo")
    if not (postgres.data / "PG_VERSION").exists():
        raise SystemExit("There is no data here yet: ./ward demo begins it.")
    try:
        if alone or not postgres.running():
            postgres.start()
        postgres.ensure_roles()
        manage(postgres.environment(role=USER), command, str(file))
    except subprocess.CalledProcessError as stopped:
        return int(stopped.returncode)
    finally:
        postgres.stop()
    return 0


def backup(words: list[str]) -> int:
    """./ward backup [FILE]: everything into one file, while the work goes on."""
    word = words[0] if words else time.strftime("oilward-%Y-%m-%d-%H%M%S.backup")
    return _on_demo("backup", _file(word), alone=False)


def restore(words: list[str]) -> int:
    """./ward restore FILE: a backup in the place of what is there, which is kept beside it."""
    if not words:
        raise SystemExit("usage: ./ward restore FILE")
    return _on_demo("restore", _file(words[0]), alone=True)

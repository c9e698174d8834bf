"""What the workshop's processes say, in files that do not grow for ever; under systemd, its journal."""

import logging
import os
import subprocess
import sys
import threading
from logging.handlers import RotatingFileHandler
from pathlib import Path

SIZE, KEPT = 5_000_000, 6
log = logging.getLogger("oilward.house")


def begin(folder: Path) -> None:
    """Say everything to rotating files in this folder, or to systemd, whose journal rotates by itself."""
    handler: logging.Handler
    if "INVOCATION_ID" in os.environ:
        handler = logging.StreamHandler(sys.stdout)
        handler.setFormatter(logging.Formatter("%(message)s"))
    else:
        folder.mkdir(mode=0o750, exist_ok=True)
        handler = RotatingFileHandler(folder / "oilward.log", maxBytes=SIZE, backupCount=KEPT)
        handler.setFormatter(logging.Formatter("%(asctime)s %(message)s"))
    log.addHandler(handler)
    log.setLevel(logging.INFO)
    log.propagate = False


def follow(name: str, process: "subprocess.Popen[bytes]") -> None:
    """Write down what a process says, line by line, under its name."""
    out = process.stdout
    assert out is not None

    def read() -> None:
        for raw in out:
            log.info("%s: %s", name, raw.decode(errors="replace").rstrip())

    threading.Thread(target=read, daemon=True, name=f"journal of {name}").start()

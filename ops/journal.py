"""What the workshop's processes say, in files that do not grow for ever; under systemd, its journal."""

import json
import logging
import os
import subprocess
import sys
import threading
from datetime import UTC, datetime
from logging.handlers import RotatingFileHandler
from pathlib import Path

SIZE, KEPT = 5_000_000, 6
log = logging.getLogger("oilward.house")


def begin(folder: Path) -> None:
    """Say everything to rotating files in this folder, or to systemd, whose journal rotates by itself."""
    handler: logging.Handler
    if "INVOCATION_ID" in os.environ:
        handler = logging.StreamHandler(sys.stdout)
    else:
        folder.mkdir(mode=0o750, exist_ok=True)
        handler = RotatingFileHandler(folder / "oilward.log", maxBytes=SIZE, backupCount=KEPT)
    handler.setFormatter(Lines())
    log.addHandler(handler)
    log.setLevel(logging.INFO)
    log.propagate = False


def _line(name: str, said: str) -> str:
    """One line of the log: a JSON object, whoever spoke and whatever was said."""
    try:
        told = json.loads(said)
    except ValueError:
        told = None
    if not isinstance(told, dict):
        told = {"at": datetime.now(UTC).isoformat(), "level": "INFO", "message": said}
    return json.dumps({**told, "process": name})


class Lines(logging.Formatter):
    """The keeper's own words in the same form."""

    def format(self, record: logging.LogRecord) -> str:
        said = record.getMessage()
        if getattr(record, "is_line", False):
            return said
        when = datetime.fromtimestamp(record.created, UTC).isoformat()
        told = {"process": "keeper", "at": when, "level": record.levelname, "message": said}
        return json.dumps(told)


def follow(name: str, process: "subprocess.Popen[bytes]") -> None:
    """Write down what a process says, line by line, under its name."""
    out = process.stdout
    assert out is not None

    def read() -> None:
        for raw in out:
            said = raw.decode(errors="replace").rstrip()
            log.info("%s", _line(name, said), extra={"is_line": True})

    threading.Thread(target=read, daemon=True, name=f"journal of {name}").start()

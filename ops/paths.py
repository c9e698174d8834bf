"""Where things are. State lives outside the clone, where a non-root database server may read."""

import hashlib
import os
import socket
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
SERVER = ROOT / "server"
WEB = ROOT / "web"
DIST = WEB / "dist"
E2E = ROOT / "e2e"


def state_dir(name: str = "") -> Path:
    """The directory of this clone's data; ``name`` keeps tests apart from the demo."""
    key = hashlib.sha256(f"{ROOT}{name}".encode()).hexdigest()[:12]
    if os.geteuid() == 0:
        return Path("/var/lib/oilward") / key
    return Path.home() / ".local" / "share" / "oilward" / key


def free_port(wanted: int) -> int:
    """``wanted`` or the next free port on loopback."""
    for port in range(wanted, wanted + 200):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return port
    raise SystemExit(f"No free port from {wanted} up. Stop something and try again.")

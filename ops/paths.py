"""Where things are. State lives outside the clone, where a non-root database server may read."""

import contextlib
import hashlib
import os
import socket
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
SERVER = ROOT / "server"
WEB = ROOT / "web"
DIST = WEB / "dist"
E2E = ROOT / "e2e"
RELEASE = ROOT / ".release"  # stands in a release that was put in, and in no clone


def _states() -> Path:
    if os.geteuid() == 0:
        return Path("/var/lib/oilward")
    return Path.home() / ".local" / "share" / "oilward"


def _is_ours(home: Path, mark: str) -> bool:
    """Whether data that a mark names are this clone's: they were made here, or where they were made
    the mark is no more, since the clone was moved. A copy of a clone begins its own."""
    made = home / "clone"
    if not made.exists():
        return False
    there = Path(made.read_text())
    return there == ROOT or not (there / mark).exists()


def state_dir(name: str = "") -> Path:
    """The directory of this clone's data; ``name`` keeps tests apart from the demo. A mark in the clone
    names it, so that it is found again when the clone was moved. OILWARD_STATE names another place."""
    if told := os.environ.get("OILWARD_STATE"):
        return Path(told) / (name or "data")
    mark = ROOT / f".oilward-{name or 'data'}"
    if mark.exists():
        marked = _states() / mark.read_text().strip()
        if _is_ours(marked, mark.name):
            return marked
        if marked.exists():
            print(f"· A copy: the data of the clone it was made from stay in {marked}.", flush=True)
    home = _states() / hashlib.sha256(f"{ROOT}{name}".encode()).hexdigest()[:12]
    with contextlib.suppress(OSError):  # a clone that cannot be written to is found by its place
        mark.write_text(home.name)
    return home


def begin_state(home: Path) -> None:
    """The directory, with a word in it whose data they are."""
    home.mkdir(parents=True, exist_ok=True)
    home.chmod(0o755)
    made = home / "clone"
    if not made.is_file() or made.read_text() != str(ROOT):
        made.unlink(missing_ok=True)
        made.write_text(str(ROOT))


def write_own(file: Path, text: str, group: int | None = None) -> None:
    """A file for whoever writes it, and a group that may read it. What stood there is replaced as a
    whole, and nobody has led it elsewhere: a link is not followed."""
    new = file.with_name(f"{file.name}.new")
    new.unlink(missing_ok=True)
    handle = os.open(new, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(handle, "w") as out:
        out.write(text)
        if group is not None:
            os.fchown(handle, -1, group)
            os.fchmod(handle, 0o640)
    new.replace(file)


def taken(port: int) -> bool:
    """Whether something listens on this port of loopback."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return True
    return False


def free_ports(wanted: int, number: int) -> list[int]:
    """So many free ports on loopback, from ``wanted`` up."""
    found = [free_port(wanted)]
    while len(found) < number:
        found.append(free_port(found[-1] + 1))
    return found


def free_port(wanted: int) -> int:
    """``wanted`` or the next free port on loopback."""
    found = next((port for port in range(wanted, wanted + 200) if not taken(port)), None)
    if found is None:
        raise SystemExit(f"No free port from {wanted} up. Stop something and try again.")
    return found

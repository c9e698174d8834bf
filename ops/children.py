"""Processes that end with the one that started them, however that one ends."""

import ctypes
import os
import signal
import subprocess
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import suppress
from pathlib import Path
from typing import Any

_PR_SET_PDEATHSIG = 1
STILL, LONGEST, SAY_AGAIN, GONE = 30.0, 600.0, 15.0, 10.0  # seconds
_libc = ctypes.CDLL(None)


def tied(last: signal.Signals = signal.SIGTERM) -> Callable[[], None]:
    """What a child does first, so that it gets the signal ``last`` when this process is gone."""
    parent = os.getpid()

    def tie() -> None:
        _libc.prctl(_PR_SET_PDEATHSIG, last)
        if os.getppid() != parent:  # it went while this one came
            os.kill(os.getpid(), signal.SIGKILL)

    return tie


def child(
    words: Sequence[str | Path], last: signal.Signals = signal.SIGTERM, **more: Any
) -> "subprocess.Popen[bytes]":
    """Start a process that gets the signal ``last`` when this one is gone, killed or not."""
    return subprocess.Popen([str(word) for word in words], preexec_fn=tied(last), **more)


def end_group(process: "subprocess.Popen[bytes] | None") -> None:
    """End what a fallen process has left behind in its group."""
    if process:
        with suppress(ProcessLookupError, PermissionError):
            os.killpg(process.pid, signal.SIGKILL)


def note_groups(home: Path, groups: Sequence[int]) -> None:
    """Write down which groups run for the data in ``home``, for a start after a run that was killed."""
    (home / "groups").write_text("\n".join(f"{pid} {_since(pid) or 0}" for pid in groups))


def _since(pid: int) -> str:
    """When a process began, as the machine counts; that tells it from a later one of its number."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[19]
    except OSError:
        return ""


def end_orphans(home: Path) -> None:
    """End what a run that was killed has left behind: members of its groups, older than their number."""
    noted, killed = home / "groups", list[Path]()
    known = dict(line.split() for line in noted.read_text().splitlines()) if noted.exists() else {}
    for stat in Path("/proc").glob("[0-9]*/stat"):
        try:
            told = stat.read_text().rpartition(")")[2].split()
        except OSError:
            continue
        group, born = told[2], told[19]
        # its first member is gone, so no other group can have that number while this one lives
        if (
            group in known
            and int(born) >= int(known[group])
            and _since(int(group)) in ("", known[group])
        ):
            with suppress(ProcessLookupError, PermissionError):
                os.kill(int(stat.parent.name), signal.SIGKILL)
                killed.append(stat)
    until = time.monotonic() + GONE
    while any(map(_lives, killed)) and time.monotonic() < until:
        time.sleep(0.05)
    noted.unlink(missing_ok=True)


def _lives(stat: Path) -> bool:
    """Whether a process still holds anything: one that waits to be counted does not."""
    try:
        return stat.read_text().rpartition(")")[2].split()[0] not in "ZX"
    except OSError:
        return False


def _ticks(root: int) -> int:
    """How much processor time a process and those it started have used, in the machine's ticks."""
    parents, used = dict[int, int](), dict[int, int]()
    for stat in Path("/proc").glob("[0-9]*/stat"):
        try:
            told = stat.read_text().rpartition(")")[2].split()
        except OSError:  # it went while this looked
            continue
        pid = int(stat.parent.name)
        parents[pid], used[pid] = int(told[1]), sum(map(int, told[11:15]))
    family, grown = {root}, True
    while grown:
        more = {pid for pid, parent in parents.items() if parent in family} - family
        family, grown = family | more, bool(more)
    return sum(used.get(pid, 0) for pid in family)


def while_it_moves(process: "subprocess.Popen[bytes] | None", name: str) -> Iterator[None]:
    """Goes on for as long as a process uses the processor, up to ten minutes: a busy machine takes long.
    Says every so often that it still waits."""
    begun = moved = said = time.monotonic()
    before = -1
    while (now := time.monotonic()) - begun < LONGEST and now - moved < STILL:
        yield
        used = _ticks(process.pid) if process else 0
        if used > before:
            before, moved = used, now
        if now - said > SAY_AGAIN:
            said, seconds = now, used / os.sysconf("SC_CLK_TCK")
            print(f"· {name} is still starting: {seconds:.0f} s of work so far", flush=True)


def run(words: Sequence[str | Path], **more: Any) -> int:
    """Run a process to its end; the code it ends with. One that is broken off is ended too."""
    process = child(words, **more)
    try:
        return process.wait()
    finally:
        end(process)


def end(process: "subprocess.Popen[bytes] | None", by: signal.Signals = signal.SIGTERM) -> None:
    """End a process we started, and wait until it is gone."""
    if process and process.poll() is None:
        process.send_signal(by)
        try:
            process.wait(20)
        except subprocess.TimeoutExpired:
            process.kill()
            process.wait()

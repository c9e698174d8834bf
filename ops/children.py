"""Processes that end with the one that started them, however that one ends."""

import ctypes
import os
import signal
import subprocess
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

_PR_SET_PDEATHSIG = 1
_libc = ctypes.CDLL(None)


def _ends_with(parent: int, last: int) -> Callable[[], None]:
    def tie() -> None:
        _libc.prctl(_PR_SET_PDEATHSIG, last)
        if os.getppid() != parent:  # it went while this one came
            os.kill(os.getpid(), signal.SIGKILL)

    return tie


def child(
    words: Sequence[str | Path], last: signal.Signals = signal.SIGTERM, **more: Any
) -> "subprocess.Popen[bytes]":
    """Start a process that gets the signal ``last`` when this one is gone, killed or not."""
    tied = _ends_with(os.getpid(), last)
    return subprocess.Popen([str(word) for word in words], preexec_fn=tied, **more)


def end(process: "subprocess.Popen[bytes] | None", by: signal.Signals = signal.SIGTERM) -> None:
    """End a process we started, and wait until it is gone."""
    if process and process.poll() is None:
        process.send_signal(by)
        try:
            process.wait(20)
        except subprocess.TimeoutExpired:
            process.kill()
            process.wait()

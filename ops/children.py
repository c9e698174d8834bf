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

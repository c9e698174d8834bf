"""Another machine that gets what is kept as well, by ssh."""

import subprocess
from collections.abc import Sequence
from pathlib import Path

# one that says nothing is waited for so long, and so long for each byte, seconds
SILENT, SLOW = 120.0, 1 / 200_000
_SSH = [f"-o{one}" for one in ("BatchMode=yes", "ConnectTimeout=20", "ServerAliveInterval=15")]


def _refusal(words: Sequence[str], also_to: str, longest: float) -> str:
    """Why it has not got it; empty where it has."""
    try:
        done = subprocess.run(words, capture_output=True, text=True, check=False, timeout=longest)
    except subprocess.TimeoutExpired:
        return f"{also_to} said nothing for {longest:.0f} s: it has not got it."
    except OSError as error:
        return f"{also_to} did not take it: {error.strerror}."
    return f"{also_to} did not take it: {done.stderr.strip()}" if done.returncode else ""


def given(file: Path, also_to: str) -> str:
    """Give it a file; why it did not take it, if it did not."""
    words = ["scp", "-q", *_SSH, str(file), also_to.rstrip("/") + "/"]
    return _refusal(words, also_to, SILENT + SLOW * file.stat().st_size)


def mirrored(folder: Path, also_to: str, gone_too: bool = False) -> str:
    """Give it what is new in a folder, and take away there what is gone here if ``gone_too``."""
    ssh = " ".join(["ssh", *_SSH])
    words = ["rsync", "-a", f"--rsh={ssh}", f"--timeout={SILENT:.0f}"]
    words += ["--delete-after"] if gone_too else []
    size = sum(one.stat().st_size for one in folder.rglob("*") if one.is_file())
    longest = SILENT + SLOW * size
    return _refusal([*words, str(folder), also_to.rstrip("/") + "/"], also_to, longest)

"""./ward bench: figures for docs/measurements.md. Never part of a test."""

import statistics
import time

from oilward_core.sheet import fold
from tests.test_sheet import BENCH, TASK, whole_visit  # core/tests


def fold_figure(rounds: int = 200) -> str:
    """How long folding a finished visit takes: it happens on every entry and every look."""
    entries = whole_visit().entries
    times = []
    for _ in range(rounds):
        begun = time.perf_counter()
        fold(TASK, entries, BENCH)
        times.append((time.perf_counter() - begun) * 1000)
    times.sort()
    return (
        f"fold of a finished engine visit, {len(entries)} entries: "
        f"median {statistics.median(times):.2f} ms, "
        f"95th percentile {times[int(rounds * 0.95)]:.2f} ms"
    )


def bench(words: list[str]) -> int:
    print(fold_figure())
    return 0

"""./ward bench: figures for docs/measurements.md. Never part of a test."""

import contextlib
import statistics
import time
from collections.abc import Callable
from datetime import date, timedelta
from decimal import Decimal

from oilward_core.bench import fold
from oilward_core.errors import CoreError
from oilward_core.quantity import parse
from oilward_core.quantity.accepted import TABLE
from oilward_core.spec import propose, read_table
from tests.clerk import BENCH, full_visit  # core/tests

from .bench_attack import attack_figures
from .bench_chaos import EACH, chaos_figures
from .bench_fill import fill_figures
from .bench_order import many, proofs
from .bench_tablets import tablets_figures
from .bench_wear import wear_figures
from .postgres import OWNER, Postgres
from .serve import manage, migrate
from .tests import browser_tests


def fold_figure(rounds: int = 200) -> str:
    """How long folding a whole visit takes: it happens on every entry and every look."""
    clerk = full_visit()
    times = []
    for _ in range(rounds):
        begun = time.perf_counter()
        fold(clerk.plan, clerk.entries, BENCH)
        times.append((time.perf_counter() - begun) * 1000)
    times.sort()
    return (
        f"fold of a visit of {len(clerk.plan.tasks)} reservoirs, {len(clerk.entries)} entries: "
        f"median {statistics.median(times):.2f} ms, "
        f"95th percentile {times[int(rounds * 0.95)]:.2f} ms"
    )


def taps_figure() -> None:
    """What a visit with three drains costs in presses and fields, from the ward to the signature."""
    postgres = Postgres("test", fast=True)
    try:
        postgres.start()
        browser_tests(postgres, "taps")
    finally:
        postgres.stop()


def parse_figures(times: int = 20) -> str:
    """What reading one field costs, and a pasted table of 200 values."""
    rows = [(text, kind) for row in TABLE for text, kind, _ in row.examples]
    spent = []
    for text, kind in rows * times:
        begun = time.perf_counter()
        with contextlib.suppress(CoreError):
            parse(text, kind)
        spent.append((time.perf_counter() - begun) * 1000)
    spent.sort()
    lines = [f"engine\tcapacity, dry\t{n / 100} l (2.85 qt)" for n in range(250, 450)]
    begun = time.perf_counter()
    propose(read_table("\n".join(lines)), ["reservoir", "field", "written"], ["engine"], "", False)
    table = (time.perf_counter() - begun) * 1000
    return (
        f"reading a field, {len(rows)} notations: median {statistics.median(spent):.2f} ms, "
        f"95th percentile {spent[int(len(spent) * 0.95)]:.2f} ms, most {spent[-1]:.2f} ms; "
        f"a pasted table of {len(lines)} values {table:.0f} ms"
    )


def roll_figure(reservoirs: int = 12_000) -> str:
    """What the core's rolling forward costs beside the same limits in one numpy sweep."""
    import numpy as np
    from oilward_core.due import DueLimits, Meter, due

    rng, today = np.random.default_rng(3), date(2026, 6, 1)
    used_km, days = rng.uniform(0, 12_000, reservoirs), rng.integers(0, 700, reservoirs)
    limits = DueLimits(repeat_km=Decimal(9000), repeat_months=12)
    pairs = [
        (Meter(today - timedelta(days=int(d)), Decimal(0)), Meter(today, Decimal(int(km))))
        for km, d in zip(used_km, days, strict=True)
    ]
    begun = time.perf_counter()
    for last, now in pairs:
        due(limits, last, now)
    core = time.perf_counter() - begun
    begun = time.perf_counter()
    np.minimum((9000 - used_km) / 9000, (365 - days) / 365)
    swept = time.perf_counter() - begun
    return (
        f"roll-forward of {reservoirs} reservoirs: core with reasons {core * 1000:.0f} ms, the bare "
        f"limits in numpy {swept * 1000:.2f} ms"
    )


def ward_figures() -> None:
    """The ward at 2,000 and 20,000 bikes, on a database that is thrown away."""
    postgres = Postgres("bench", fast=True)
    try:
        postgres.start()
        migrate(postgres)
        # as the owner: it measures what the tables cost, statistics included
        env = postgres.environment(role=OWNER)
        manage(env, "load_demo", "--stories")
        manage(env, "bench_ward", "2000", "20000")
    finally:
        postgres.stop()
        postgres.remove()


def findings_figures() -> None:
    """The ledger and a history at 2,000 bikes with ten years, on a database that is thrown away."""
    postgres = Postgres("bench", fast=True)
    try:
        postgres.start()
        migrate(postgres)
        env = postgres.environment(role=OWNER)
        manage(env, "load_demo", "--stories")
        manage(env, "bench_findings", "2000")
    finally:
        postgres.stop()
        postgres.remove()


def load_figure() -> None:
    """What the first look at the ward costs in a real browser."""
    postgres = Postgres("test", fast=True)
    try:
        postgres.start()
        browser_tests(postgres, "load")
    finally:
        postgres.stop()


FIGURES: dict[str, Callable[[], object]] = {
    "parse": lambda: print(parse_figures(), flush=True),
    "fold": lambda: print(fold_figure(), flush=True),
    "roll": lambda: print(roll_figure(), flush=True),
    "order": lambda: print(*proofs(), many(), sep="\n", flush=True),
    "load": load_figure,
    "taps": taps_figure,
    "ward": ward_figures,
    "fill": fill_figures,
    "wear": wear_figures,
    "findings": findings_figures,
}
# these take long, or hurt: by name alone
NAMED = {"attack": attack_figures}


def bench(words: list[str]) -> int:
    """All figures, or those named (`FIGURES`, `NAMED`), ``tablets`` (with how many seconds each way, else
    five minutes) and ``chaos server`` (with how many tries of each kind)."""
    wanted = set(words) or {*FIGURES, "tablets"}
    for name, figure in {**FIGURES, **NAMED}.items():
        if name in wanted:
            figure()
    number = next((float(word) for word in words if word.isdigit()), 0.0)
    if {"chaos", "server"} <= wanted:
        chaos_figures(int(number) or EACH)
    if "tablets" in wanted:
        tablets_figures(number or 300.0)
    return 0

"""What is said of a reservoir between services."""

from decimal import Decimal

BY_WORD = "Counted from what the owner says was done. Nobody has a record of it."
EXACT = "Exact quantity, no level to read."


def along(what: str) -> str:
    """What is renewed together with the oil."""
    return f"{what.capitalize()}."


def minutes(count: Decimal) -> str:
    """``3 min``, ``10 s``, ``1 min 30 s``: to the second."""
    whole, seconds = divmod(round(count * 60), 60)
    parts = [f"{whole} min"] if whole or not seconds else []
    return " ".join([*parts, *([f"{seconds} s"] if seconds else [])])


def level(
    gauge: str, dipstick: str, attitude: str, run_minutes: Decimal, settle_minutes: Decimal
) -> str:
    """How the level is read."""
    run = f"run {minutes(run_minutes)}, " if run_minutes else ""
    held = f"{dipstick}, " if dipstick else ""
    settle = f"settle {minutes(settle_minutes)}"
    return f"{gauge.capitalize()}, {held}{attitude}: {run}{settle}, read at eye level."


def take(mean: str, sd: str, capacity: str) -> str:
    """What a reservoir really takes."""
    return f"{mean} ± {sd}, against {capacity} in the book"


def on_corrected(since: str, level: str, action: str) -> str:
    """What a plug comes to on a reading that was corrected since."""
    return f"On the corrected reading, {since} since it was wiped: {level}. {action}"

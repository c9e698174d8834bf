"""Entries in a workshop's words."""

from decimal import Decimal

from ..quantity import show
from .entries import Entry, Speaker, part_from


def _finding(entry: Entry) -> str:
    parts = [part_from(part) for part in entry.data["parts"]]
    seen = [f"{part.form} of {part.matter}, {part.share:.0%}" for part in parts]
    return "; ".join([*(seen or ["clean magnet"]), *(f"oil {look}" for look in entry.data["oil"])])


def _volume(entry: Entry, speaker: Speaker) -> str:
    ml = Decimal(entry.data["ml"])
    return show(ml, "ml") if speaker.volume == "ml" else f"{show(ml, 'ml')} ({show(ml, speaker.volume)})"


def _level(entry: Entry) -> str:
    sight = entry.data["sight"]
    where = f"{Decimal(entry.data['position']):.0%} of the glass" if sight == "seen" else f"{sight} the glass"
    return f"{where}, {entry.data['attitude']}"


def result(entry: Entry, speaker: Speaker) -> str:
    """What an entry says, short: ``2500 ml``, ``22.0 N·m``, ``45 % of the glass, upright``."""
    if entry.kind in ("amount", "pour"):
        return _volume(entry, speaker)
    if entry.kind == "filter":
        return f"pre-filled {_volume(entry, speaker)}"
    if entry.kind == "torque":
        return show(Decimal(entry.data["nm"]), speaker.torque)
    if entry.kind == "finding":
        return _finding(entry)
    if entry.kind == "level":
        return _level(entry)
    words = {
        "answer": entry.data.get("value"),
        "leaks": entry.data.get("result"),
        "cause": entry.data.get("cause"),
        "skip": "skipped",
    }
    return str(words.get(entry.kind) or "done")

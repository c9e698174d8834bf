"""Entries in a workshop's words."""

from dataclasses import dataclass
from decimal import Decimal

from ..quantity import show
from .entries import Entry, Speaker, part_from
from .fold import Sheet, Status
from .steps import StepKind


def _finding(entry: Entry) -> str:
    parts = [part_from(part) for part in entry.data["parts"]]
    seen = [f"{part.form} of {part.matter}, {part.share:.0%}" for part in parts]
    return "; ".join([*(seen or ["clean magnet"]), *(f"oil {look}" for look in entry.data["oil"])])


def _volume(entry: Entry, speaker: Speaker) -> str:
    ml = Decimal(entry.data["ml"])
    return (
        show(ml, "ml")
        if speaker.volume == "ml"
        else f"{show(ml, 'ml')} ({show(ml, speaker.volume)})"
    )


_UNSEEN = {"below": "below the low mark", "above": "above the high mark"}


def _level(entry: Entry) -> str:
    between = f"{Decimal(entry.data['position']):.0%} between the marks"
    return f"{_UNSEEN.get(entry.data['sight'], between)}, {entry.data['attitude']}"


def result(entry: Entry, speaker: Speaker) -> str:
    """What an entry says, short: ``2500 ml``, ``22.0 N·m``, ``45% between the marks, upright``; of
    one that was asked about and stands, what was expected."""
    asked = entry.data.get("asked")
    said = _said(entry, speaker)
    return f"{said}; it stands, though {asked['expected']}" if asked else said


def _said(entry: Entry, speaker: Speaker) -> str:
    if entry.kind in ("amount", "pour"):
        return _volume(entry, speaker)
    if entry.kind == "filter":
        dry = not Decimal(entry.data["ml"])
        return "not pre-filled" if dry else f"pre-filled {_volume(entry, speaker)}"
    if entry.kind == "torque":
        return show(Decimal(entry.data["nm"]), speaker.torque)
    if entry.kind == "finding":
        return _finding(entry)
    if entry.kind == "level":
        return _level(entry)
    words = {
        "look up": entry.data.get("written"),
        "answer": entry.data.get("value"),
        "leaks": entry.data.get("result"),
        "cause": entry.data.get("cause"),
        "skip": "skipped",
    }
    return str(words.get(entry.kind) or "done")


@dataclass(frozen=True)
class Standing:
    """How one part of the bike stands right now; ``open`` marks what must not be forgotten."""

    part: str
    word: str
    open: bool


def _done(sheet: Sheet, name: str) -> bool:
    return any(
        state.step.id.rpartition("/")[2] == name and state.status == Status.DONE
        for state in sheet.steps
    )


def _plug(sheet: Sheet) -> Standing:
    if _done(sheet, "torque"):
        return Standing("Drain plug", "torqued", False)
    if _done(sheet, "refit"):
        return Standing("Drain plug", "finger-tight only", True)
    return (
        Standing("Drain plug", "out", True)
        if sheet.opened_drain
        else Standing("Drain plug", "in", False)
    )


def _filler(sheet: Sheet) -> Standing:
    if sheet.stopped:
        return Standing("Filler", "seized", True)
    running = any(
        s.step.kind == StepKind.TIMER and s.step.round and s.started_at for s in sheet.steps
    )
    if running or _done(sheet, "finish"):
        return Standing("Filler", "closed", False)
    if _done(sheet, "filler"):
        return Standing("Filler", "opened, loose", True)
    return Standing("Filler", "not proven", False)


def _oil(sheet: Sheet, speaker: Speaker) -> Standing:
    if sheet.filled:
        return Standing("Oil", f"level right, {show(sheet.added, speaker.volume)} in", False)
    if sheet.added:
        return Standing("Oil", f"{show(sheet.added, speaker.volume)} in, level not right yet", True)
    if _done(sheet, "drain"):
        return Standing("Oil", "drained, empty", True)
    return (
        Standing("Oil", "draining", True)
        if sheet.opened_drain
        else Standing("Oil", "old oil in", False)
    )


def standing(sheet: Sheet, speaker: Speaker) -> tuple[Standing, ...]:
    """The state of the bike for whoever comes back to it: plug, filter, filler, oil."""
    filters = [s for s in sheet.steps if s.step.kind == StepKind.FILTER]
    changed = [
        Standing("Filter", "new one on" if s.status == Status.DONE else "old one", False)
        for s in filters
    ]
    return (_filler(sheet), _plug(sheet), *changed, _oil(sheet, speaker))

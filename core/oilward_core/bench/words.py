"""Entries and standings in a workshop's words."""

from dataclasses import dataclass
from decimal import Decimal

from ..debris import Part, Place
from ..guard import guarded
from ..quantity import show
from ..runsheet import WaitsFor
from .entries import GRADINGS, Entry, Speaker, part_from
from .state import Sheet, TaskState, Waits


@guarded
def part_words(part: Part) -> str:
    """``fuzz of steel, 10%, 2 mm high``; elsewhere ``flakes of steel, about 3 (filter)``."""
    much = f"{part.share:.0%}"
    if part.place != Place.PLUG and part.count:
        much = f"about {part.count}"
    pile = f", {part.pile_mm.normalize():f} mm high" if part.pile_mm else ""
    where = "" if part.place == Place.PLUG else f" ({part.place})"
    return f"{part.form} of {part.matter}, {much}{pile}{where}"


def _finding(entry: Entry) -> str:
    seen = [part_words(part_from(part)) for part in entry.data["parts"]]
    pan = ["pan not clean before"] if entry.data.get("pan_clean") is False else []
    dipstick = ["dipstick flakes"] if entry.data.get("dipstick_flakes") else []
    seal = ["a piece of the seal missing"] if entry.data.get("seal_missing") else []
    kept = [f"kept: {entry.data['kept']}"] if entry.data.get("kept") else []
    oil = [f"oil {look}" for look in entry.data["oil"]]
    return "; ".join([*(seen or ["clean magnet"]), *oil, *pan, *dipstick, *seal, *kept])


def _volume(entry: Entry, speaker: Speaker) -> str:
    ml, data = Decimal(entry.data["ml"]), entry.data
    base = f" at 20 °C ({data['said']})" if "celsius" in data or "by" in data else ""
    if speaker.volume == "ml":
        return show(ml, "ml") + base
    return f"{show(ml, 'ml')} ({show(ml, speaker.volume)}){base}"


_UNSEEN = {"below": "below the low mark", "above": "above the high mark"}


def _level(entry: Entry) -> str:
    between = f"{Decimal(entry.data['position']):.0%} between the marks"
    return f"{_UNSEEN.get(entry.data['sight'], between)}, {entry.data['attitude']}"


def _torque(entry: Entry, speaker: Speaker) -> str:
    turned = entry.data.get("turned")
    then = f", then {Decimal(turned).normalize():f}°" if turned else ""
    return show(Decimal(entry.data["nm"]), speaker.torque) + then


def _measured(entry: Entry) -> str:
    """``inlet 0.08 mm, as left 0.10 mm``."""
    found, left = entry.data["found"], entry.data["left"]
    words = []
    for name in dict.fromkeys((*found, *left)):
        both = [found[name]["said"]] if name in found else []
        both += [f"left {left[name]['said']}"] if name in left else []
        words.append(f"{name} {', '.join(both)}")
    return "; ".join(words)


@guarded
def result(entry: Entry, speaker: Speaker) -> str:
    """What an entry says, short: ``2500 ml``, ``22.0 N·m``, ``45% between the marks, upright``; of
    one that was asked about and stands, what was expected."""
    asked = entry.data.get("asked")
    said = _said(entry, speaker)
    return f"{said}; it stands, though {asked['expected']}" if asked else said


def _answer(entry: Entry) -> str:
    """``open; as it came: lower half``."""
    stood = entry.data.get("stood")
    value = str(entry.data.get("value") or "")
    return f"{value}; level as it came: {stood}" if stood else value


def _said(entry: Entry, speaker: Speaker) -> str:
    if entry.kind in ("amount", "pour", "draw"):
        return _volume(entry, speaker) + (" out" if entry.kind == "draw" else "")
    if entry.kind == "filter":
        dry = not Decimal(entry.data["ml"])
        return "not pre-filled" if dry else f"pre-filled {_volume(entry, speaker)}"
    if entry.kind == "torque":
        return _torque(entry, speaker)
    if entry.kind in GRADINGS:
        return _finding(entry)
    if entry.kind == "level":
        return _level(entry)
    if entry.kind == "measure":
        return _measured(entry)
    words = {
        "look up": entry.data.get("written"),
        "answer": _answer(entry),
        "leaks": entry.data.get("result"),
        "cause": entry.data.get("cause"),
        "answered": entry.data.get("reason"),
        "skip": "skipped",
    }
    return str(words.get(entry.kind) or "done")


def waits_for(waits: Waits) -> str:
    """``a part: crush washer 12 mm``."""
    if waits.what == WaitsFor.ELSE:
        return waits.words
    return ": ".join(text for text in (waits.what, waits.words) if text)


@guarded
def next_words(sheet: Sheet) -> str:
    """What is to be done next in a visit: a step, the signature, or nothing until it is answered."""
    focus = sheet.step(sheet.focus or "")
    if sheet.waits:
        return f"Waits for {waits_for(sheet.waits)}"
    if sheet.hands and not sheet.hands.lent_by:
        return f"{sheet.hands.by} needs a second pair of hands"
    if focus is not None:
        return focus.step.title
    return "Sign" if sheet.ready_to_sign else "Stopped"


@dataclass(frozen=True, kw_only=True)
class Standing:
    """How one part of the bike stands right now; ``open`` marks what must not be forgotten."""

    part: str
    word: str
    open: bool
    by: str = ""
    at: str = ""


def _oil(task: TaskState, speaker: Speaker) -> Standing:
    if task.filled:
        return Standing(
            part="Oil", word=f"level right, {show(task.added, speaker.volume)} in", open=False
        )
    if task.added > 0:
        return Standing(
            part="Oil",
            word=f"{show(task.added, speaker.volume)} in, level not right yet",
            open=True,
        )
    if not task.oil_out:
        return Standing(part="Oil", word="old oil in", open=False)
    return Standing(part="Oil", word="draining" if task.draining else "drained, empty", open=True)


@guarded
def standing(sheet: Sheet, key: str, speaker: Speaker) -> tuple[Standing, ...]:
    """How a reservoir stands, for whoever comes back to it: its fasteners, its oil."""
    task = sheet.task(key)
    if task is None:
        return ()
    if not task.fasteners:
        words = task.found or (
            "done" if task.filled else "opened" if task.opened else "not looked at"
        )
        return (
            Standing(
                part="Found" if task.found else "Work",
                word=words,
                open=task.opened and not task.filled,
            ),
        )
    parts = [
        Standing(
            part=f.part, word=f.words, open=f.open, by=f.by, at=f.at.isoformat() if f.at else ""
        )
        for f in task.fasteners
    ]
    return (*parts, _oil(task, speaker))

"""Entries and standings in a workshop's words."""

from dataclasses import dataclass
from decimal import Decimal

from ..codes.suspension import LegPart
from ..debris import Part
from ..guard import guarded
from ..quantity import show
from ..said import bench as said
from .asks import ACTS
from .entries import Entry, Speaker
from .fold.facts import Stance
from .fold.state import LegOil, Sheet, TaskState, Waits


@guarded
def part_words(part: Part) -> str:
    """``fuzz of steel, 10%, 2 mm high``; elsewhere ``flakes of steel, about 3 (filter)``."""
    return said.part(part)


@guarded
def result(entry: Entry, speaker: Speaker) -> str:
    """What an entry says, short: ``2500 ml``, ``22.0 N·m``, ``45% between the marks, upright``; of
    one that was asked about and stands, what was expected."""
    told = ACTS[entry.kind].says(entry.data, speaker)
    asked = getattr(entry.data, "asked", None)
    return said.stands_though(told, asked.words) if asked else told


def stance_words(stance: Stance) -> str:
    """``upright, strapped down``."""
    return said.strapped(stance.pose, stance.strapped)


def waits_for(waits: Waits) -> str:
    """``a part: crush washer 12 mm``."""
    return said.waits_for(waits.what, waits.words)


@guarded
def next_words(sheet: Sheet) -> str:
    """What is to be done next in a visit: a step, the signature, or nothing until it is answered."""
    focus = sheet.step(sheet.focus or "")
    if sheet.waits:
        return said.waiting(waits_for(sheet.waits))
    if sheet.hands and not sheet.hands.lent_by:
        return said.needs_hands(sheet.hands.by)
    if focus is not None:
        return focus.step.title
    return said.SIGN if sheet.ready_to_sign else said.STOPPED


@dataclass(frozen=True, kw_only=True)
class Standing:
    """How one part of the bike stands right now; ``open`` marks what must not be forgotten, ``leg`` what
    of a fork leg it is, to stand beside the same of the other one."""

    part: str
    word: str
    open: bool
    by: str = ""
    at: str = ""
    leg: LegPart | None = None


def _oil(task: TaskState, speaker: Speaker) -> Standing:
    amount = show(task.added, speaker.volume)
    if task.filled:
        words, is_open = said.oil_right(amount), False
    elif task.added > 0:
        words, is_open = said.oil_in(amount), True
    elif not task.oil_out:
        words, is_open = said.OLD_OIL, False
    else:
        words, is_open = said.DRAINING if task.draining else said.EMPTY, True
        if task.closed_early:
            words = said.short_by(show(task.drained or Decimal(0), speaker.volume))
    return Standing(part=said.OIL, word=words, open=is_open)


def _work(task: TaskState) -> Standing:
    """What is not drained through a plug."""
    words = task.found or (
        said.DONE if task.filled else said.OPENED if task.opened else said.NOT_LOOKED_AT
    )
    return Standing(
        part=said.FOUND if task.found else said.WORK,
        word=words,
        open=task.opened and not task.filled,
    )


def _leg_oil(leg: LegOil, speaker: Speaker) -> Standing | None:
    if leg.poured is None:
        return None
    poured, inside = show(leg.poured, speaker.volume), show(leg.inside, speaker.volume)
    oil = said.leg_oil(poured, inside if leg.inside != leg.poured else "")
    is_open = leg.by_gap and leg.left is None
    return Standing(part=said.OIL, word=oil, open=is_open, leg=LegPart.OIL)


def _gap(leg: LegOil) -> Standing | None:
    if leg.left is None:
        return None
    found = show(leg.found, "mm") if leg.found not in (None, leg.left) else ""
    gap = said.left_at(found, show(leg.left, "mm"))
    return Standing(part=said.AIR_GAP, word=gap, open=False, leg=LegPart.GAP)


def _spring(leg: LegOil) -> Standing | None:
    if leg.spring is None:
        return None
    least = show(leg.least, "mm") if leg.least is not None else ""
    short = leg.least is not None and leg.spring < leg.least
    length = said.at_least(show(leg.spring, "mm"), least)
    return Standing(part=said.LEG_SPRING, word=length, open=short, leg=LegPart.SPRING)


def _air(leg: LegOil) -> Standing | None:
    if leg.air is None:
        return None
    air = show(leg.air, "bar")
    return Standing(part=said.LEG_AIR, word=air, open=False, leg=LegPart.AIR)


def _leg(leg: LegOil, speaker: Speaker) -> list[Standing]:
    """A leg's spring, its oil and its gap, its air: the same of both legs, one beside the other."""
    rows = (_spring(leg), _leg_oil(leg, speaker), _gap(leg), _air(leg))
    return [row for row in rows if row]


@guarded
def standing(sheet: Sheet, key: str, speaker: Speaker) -> tuple[Standing, ...]:
    """How a reservoir stands, for whoever comes back to it: its fasteners, its oil."""
    task = sheet.task(key)
    if task is None:
        return ()
    parts = [
        Standing(
            part=f.part,
            word=said.at_torque(f.words, show(f.reading, speaker.torque) if f.reading else ""),
            open=f.open,
            by=f.by,
            at=f.at.isoformat() if f.at else "",
        )
        for f in task.fasteners
    ]
    parts += _leg(task.leg, speaker) if task.leg else []
    return (*parts, _work(task) if task.apart else _oil(task, speaker))

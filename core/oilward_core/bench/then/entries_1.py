"""Entries of the first description, as the second wrote them.

It served one reservoir a visit: its runs, its leak look and its end were the reservoir's own, and a
pour's direction was what the coach had said when it was written down.
"""

from collections.abc import Iterable
from dataclasses import replace
from decimal import Decimal, DecimalException
from typing import Any

from ...codes.fill import Cause
from ...codes.roles import Role
from ...codes.steps import Name
from ...errors import CoreError
from ...fill import CauseFound, FillEvent, LevelReading, Poured
from ...runsheet import StepId, TaskPlan
from ..entries import ordered
from ..fold.facts import Facts
from ..fold.filling import fill_case
from .coach_1 import asked_to_take_out
from .written import Written

_OF_BIKE = (Name.RUN, Name.LEAKS, Name.FINISH)
_PARTS: dict[str, str] = {
    "Plug": Role.DRAIN_PLUG,
    "Filter": Role.FILTER,
    "Filler": Role.FILL_PLUG,
    "Cover": "cover",
}


def renamed(step: str) -> str:
    """A step of then, as it is called now: some became the whole bike's."""
    found = StepId.of(step)
    return str(found._replace(reservoir="")) if found.name in _OF_BIKE else step


def _leak(entry: Written) -> Written:
    """Where it leaks now; leaks that were put right before were put right by the rules of then."""
    part = _PARTS.get(str(entry.data.get("result")))
    if part is None:
        return entry
    where = {"reservoir": StepId.of(entry.step).reservoir, "part": part}
    return replace(entry, data={**entry.data, **where})


def _event(task: TaskPlan, entry: Written) -> FillEvent | None:
    """What the coach heard of it then."""
    data: Any = entry.data
    if entry.kind in ("filter", "pour"):
        return Poured(Decimal(data["ml"]), prefill=entry.kind == "filter")
    if entry.kind == "draw":
        return Poured(-Decimal(data["ml"]))
    if entry.kind == "level":
        level = task.reservoir.level
        right = level is not None and data["attitude"] == level.attitude
        return LevelReading(data["sight"], Decimal(data["position"]), right)
    return CauseFound(Cause.ELSE, str(data["cause"])) if entry.kind == "cause" else None


def _removed(task: TaskPlan, written: Iterable[Written]) -> bool:
    """Whether the coach asked for oil to be taken out, by the entries written down so far."""
    heard = (_event(task, entry) for entry in ordered(written))
    events = [event for event in heard if event is not None]
    return asked_to_take_out(fill_case(task, Facts()), events)


def _kind_of(task: TaskPlan, written: list[Written]) -> str:
    try:
        return "draw" if _removed(task, written) else "pour"
    except (CoreError, DecimalException, LookupError):
        return "pour"


def _closed(finish: Written) -> Written:
    """The filler was ticked shut at the end; here that is a step of its own."""
    close = str(StepId(StepId.of(finish.step).reservoir, Name.CLOSE))
    corrects = f"{finish.supersedes} close" if finish.supersedes else None
    return replace(
        finish,
        id=f"{finish.id} close",
        step=close,
        data={"items": ["Filler closed"]},
        supersedes=corrects,
    )


def as_second(task: TaskPlan, entries: Iterable[Written]) -> list[Written]:
    """Entries of the first description, as the second wrote them. ``task``: the one reservoir such a
    visit had."""
    listed = list(entries)
    last = next((e for e in reversed(ordered(listed)) if e.kind == "leaks"), None)
    carried: list[Written] = []
    kinds: dict[str, str] = {}
    for entry in sorted(listed, key=lambda one: (one.at, one.id)):
        told = _leak(entry) if last is not None and entry.id == last.id else entry
        now = replace(told, step=renamed(entry.step), description=2)
        if now.kind == "pour":
            kind = kinds.get(now.supersedes or "") or _kind_of(task, carried)
            now = replace(now, kind=kind)
        kinds[now.id] = now.kind
        carried.append(now)
        if entry.kind == "confirm" and StepId.of(entry.step).name == Name.FINISH:
            carried.append(replace(_closed(entry), description=2))
    return carried

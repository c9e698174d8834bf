"""Carrying open visits over to this description of the work, and reading closings of the last one.

The last description served one reservoir a visit: its runs, its leak look and its end were the
reservoir's own, and a pour's direction was what the coach had said when it was written down.
"""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from decimal import Decimal, DecimalException
from typing import Any

from ..errors import CoreError
from ..fill import CauseFound, FillEvent, LevelReading, Poured, coach
from ..guard import guarded
from ..runsheet import Name, StepId, TaskPlan
from .entries import Entry, in_order
from .filling import fill_case

_OF_BIKE = (Name.RUN, Name.LEAKS, Name.FINISH)
_PARTS = {"Plug": "drain plug", "Filter": "filter", "Filler": "fill plug", "Cover": "cover"}


def _renamed(step: str) -> str:
    found = StepId.of(step)
    return str(found._replace(reservoir="")) if found.name in _OF_BIKE else step


def _leak(entry: Entry) -> Entry:
    """Where it leaks now; leaks that were put right before were put right by the rules of then."""
    part = _PARTS.get(str(entry.data.get("result")))
    if part is None:
        return entry
    where = {"reservoir": StepId.of(entry.step).reservoir, "part": part}
    return replace(entry, data={**entry.data, **where})


def _removed(task: TaskPlan, written: Iterable[Entry]) -> bool:
    """Whether the coach asked for oil to be taken out, by the entries written down so far."""
    events: list[FillEvent] = []
    for entry in in_order(written):
        if entry.kind == "filter":
            events.append(Poured(Decimal(entry.data["ml"]), prefill=True))
        elif entry.kind == "pour":
            events.append(Poured(Decimal(entry.data["ml"])))
        elif entry.kind == "draw":
            events.append(Poured(-Decimal(entry.data["ml"])))
        elif entry.kind == "level":
            position = Decimal(entry.data["position"])
            events.append(LevelReading(entry.data["sight"], position, _was_right(task, entry)))
        elif entry.kind == "cause":
            events.append(CauseFound(entry.data["cause"]))
    return coach(fill_case(task), events).action == "remove"


def _was_right(task: TaskPlan, entry: Entry) -> bool:
    level = task.reservoir.level
    return level is not None and entry.data["attitude"] == level.attitude


@guarded
def upgrade(task: TaskPlan, entries: Iterable[Entry]) -> list[Entry]:
    """Entries written down by the last description, as this one writes them. ``task``: the one
    reservoir such a visit had."""
    listed = list(entries)
    last = next((e for e in reversed(in_order(listed)) if e.kind == "leaks"), None)
    carried: list[Entry] = []
    kinds: dict[str, str] = {}
    for entry in sorted(listed, key=lambda one: (one.at, one.id)):
        told = _leak(entry) if last is not None and entry.id == last.id else entry
        now = replace(told, step=_renamed(entry.step))
        if now.kind == "pour":
            kind = kinds.get(now.supersedes or "") or _kind_of(task, carried)
            now = replace(now, kind=kind)
        kinds[now.id] = now.kind
        carried.append(now)
        if entry.kind == "confirm" and StepId.of(entry.step).name == Name.FINISH:
            carried.append(_closed(entry))
    return carried


def _closed(finish: Entry) -> Entry:
    """The filler was ticked shut at the end; here that is a step of its own."""
    close = str(StepId(StepId.of(finish.step).reservoir, Name.CLOSE))
    corrects = f"{finish.supersedes} close" if finish.supersedes else None
    data = {"items": ["Filler closed"]}
    return Entry(
        id=f"{finish.id} close",
        step=close,
        kind="confirm",
        data=data,
        at=finish.at,
        by=finish.by,
        supersedes=corrects,
    )


def _kind_of(task: TaskPlan, written: list[Entry]) -> str:
    try:
        return "draw" if _removed(task, written) else "pour"
    except (CoreError, DecimalException, LookupError):
        return "pour"


_STATUS = {"focus": "ready", "waiting": "blocked"}


def _step_1(step: Mapping[str, Any]) -> dict[str, Any]:
    found = StepId.of(_renamed(str(step["id"])))
    kept = {key: value for key, value in step.items() if key not in ("id", "kind", "round")}
    return {**kept, "id": str(found), "ask": step["kind"], "job": str(found)}


def _entry_1(entry: Mapping[str, Any] | None) -> dict[str, Any] | None:
    return None if entry is None else {**entry, "step": _renamed(str(entry["step"]))}


def _fasteners_1(sheet: Mapping[str, Any], opened: bool) -> list[dict[str, Any]]:
    """How the last description said filler, plug and filter stood."""
    status = {StepId.of(s["step"]["id"]).name: s["status"] for s in sheet["steps"]}

    def done(name: Name) -> bool:
        return status.get(name) == "done"

    plug = ("out", True) if opened else ("in", False)
    if done(Name.TORQUE):
        plug = ("torqued", False)
    elif done(Name.REFIT):
        plug = ("finger-tight only", True)
    filler = ("opened, loose", True) if done(Name.FILLER) else ("not proven", False)
    if sheet["stopped"]:
        filler = ("seized", True)
    elif done(Name.FINISH):
        filler = ("closed", False)
    found = [("Filler", *filler), ("Drain plug", *plug)]
    if Name.FILTER in status:
        found.append(("Filter", "new one on" if done(Name.FILTER) else "old one", False))
    return [{"part": part, "words": words, "open": is_open} for part, words, is_open in found]


@guarded
def closing_1(document: Mapping[str, Any]) -> dict[str, Any]:
    """A closing of the last description as this one writes it: the same answer, word for word."""
    plan, sheet = document["plan"], document["sheet"]
    key = plan["reservoir"]["key"]
    states = [
        {
            **state,
            "status": _STATUS.get(state["status"], state["status"]),
            "step": _step_1(state["step"]),
            "entry": _entry_1(state["entry"]),
        }
        for state in sheet["steps"]
    ]
    opened = any(
        state["started_at"] for state in sheet["steps"] if state["step"]["kind"] == "drain"
    )
    names = ("advice", "torque", "finding", "drained", "added", "filled")
    task = {name: sheet[name] for name in names}
    task |= {"key": key, "opened": opened, "oil_out": opened, "stopped": sheet["stopped"]}
    kept = ("fluid", "bottle_ml", "not_learned")
    task["fasteners"] = _fasteners_1(sheet, opened)
    return {
        "tasks": [{"plan": plan, **{name: document.get(name) for name in kept}}],
        "sheet": {
            "tasks": [task],
            "steps": states,
            "focus": sheet["focus"],
            "stops": [],
            "ready_to_sign": sheet["ready_to_sign"],
            "set_aside": [_entry_1(entry) for entry in sheet["set_aside"]],
        },
        "km": document["km"],
    }

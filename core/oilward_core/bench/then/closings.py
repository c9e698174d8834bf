"""Closings of both formats before this one, as it writes them: the same answer, word for word."""

from collections.abc import Mapping
from typing import Any

from ...codes.entries import EntryKind
from ...codes.steps import Name
from ...guard import guarded
from ...runsheet import StepId
from . import words_2
from .data_2 import DATA
from .entries_1 import renamed

FORMAT_1, FORMAT_2 = "oilward-closing/1", "oilward-closing/2"
Document = Mapping[str, Any]
_STATUS = {"focus": "ready", "waiting": "blocked"}


def _step_1(step: Document) -> dict[str, Any]:
    found = StepId.of(renamed(str(step["id"])))
    kept = {key: value for key, value in step.items() if key not in ("id", "kind", "round")}
    return {**kept, "id": str(found), "ask": step["kind"], "job": str(found)}


def _entry_1(entry: Document | None) -> dict[str, Any] | None:
    return None if entry is None else {**entry, "step": renamed(str(entry["step"]))}


def _fasteners_1(sheet: Document, opened: bool) -> list[dict[str, Any]]:
    """How the first description said filler, plug and filter stood."""
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
def closing_1(document: Document) -> dict[str, Any]:
    """A closing of the first format as the second wrote it."""
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


def _entry_2(entry: Document | None) -> dict[str, Any] | None:
    """An entry as the second description stored it, in this one's shape: read by `stored.entry_from`."""
    from ..stored import (
        data_document,  # what is stored knows every kind of entry; they know nothing of it
    )

    if entry is None:
        return None
    data = entry["data"]
    told = data_document(DATA[EntryKind(entry["kind"])](data))
    if data.get("remembered") is True:
        told["remembered"] = True
    return {**entry, "data": told, "who": ""}


def _options(words: list[str]) -> list[dict[str, str]]:
    """What was offered or ticked then: its words, under a code that says where they come from."""
    return [{"code": f"then:{text}", "words": text} for text in words]


def _step_2(step: Document) -> dict[str, Any]:
    lists = ("items", "options", "stood")
    return {**step, "caution": "", **{name: _options(step.get(name) or []) for name in lists}}


def _state_2(state: Document) -> dict[str, Any]:
    return {
        **state,
        "step": _step_2(state["step"]),
        "caution": state["step"].get("caution") or "",
        "entry": _entry_2(state["entry"]),
        "unmet": _options(state.get("unmet") or []),
    }


def _fastener_2(one: Document) -> dict[str, Any]:
    role = words_2.PARTS.get(one["part"], one["part"])
    return {**one, "role": role, "stands": words_2.STANDS[one["words"]]}


def _task_2(task: Document) -> dict[str, Any]:
    told = {**task, "fasteners": [_fastener_2(one) for one in task.get("fasteners") or []]}
    advice = task.get("advice")
    if advice:
        causes = [words_2.CAUSES[words] for words in advice["causes"]]
        told["advice"] = {**advice, "causes": causes}
    return told


@guarded
def as_third(document: Document) -> dict[str, Any]:
    """A closing of the second format as this one writes it."""
    sheet = document["sheet"]
    hands = sheet.get("hands")
    return {
        **document,
        "sheet": {
            **sheet,
            "tasks": [_task_2(task) for task in sheet["tasks"]],
            "steps": [_state_2(state) for state in sheet["steps"]],
            "set_aside": [_entry_2(entry) for entry in sheet["set_aside"]],
            "hands": {**hands, "who": ""} if hands else None,
        },
    }

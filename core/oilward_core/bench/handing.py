"""Handing a visit over: what is open on the bike, and what whoever takes over puts a hand on."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from ..errors import CoreError
from ..guard import guarded
from ..runsheet import Name, Pose, TaskPlan
from .entries import Data
from .facts import Stands
from .state import Sheet, Status, TaskState


@dataclass(frozen=True)
class OpenPoint:
    """Something that must not be forgotten, in words; ``touch``: finger-tight, so whoever takes over
    puts a hand on it."""

    text: str
    touch: bool = False


def _oil(label: str, task: TaskState) -> Iterator[str]:
    if task.draining:
        yield f"{label}: draining; the pan stays under it"
    elif task.oil_out and task.added <= 0:
        yield f"{label}: no oil in; nobody starts the engine"
    elif task.added > 0 and not task.filled:
        yield f"{label}: level not right yet"


def _points(label: str, task: TaskState) -> Iterator[OpenPoint]:
    for fastener in task.fasteners:
        if fastener.open:
            touch = fastener.words == Stands.FINGER_TIGHT
            yield OpenPoint(f"{label}: {fastener.part.lower()} {fastener.words}", touch)
    if not task.fasteners and task.opened and not task.filled:
        yield OpenPoint(f"{label}: apart; nobody sits on the bike")
    elif task.fasteners:
        yield from (OpenPoint(text) for text in _oil(label, task))


@guarded
def open_points(tasks: Iterable[TaskPlan], sheet: Sheet) -> tuple[OpenPoint, ...]:
    """Everything of a visit of these ``tasks`` that is open: none means that the bike can be left as
    it stands. Common practice, no source."""
    labels = {task.reservoir.key: task.reservoir.label for task in tasks}
    runs = any(s.step.name == Name.RUN and s.status == Status.RUNNING for s in sheet.steps)
    found = [OpenPoint("the engine runs; stop it before you go")] if runs else []
    if sheet.stance and sheet.stance.pose == Pose.TILTED:
        found.append(OpenPoint("the bike is tilted, not strapped; nobody goes under it"))
    for task in sheet.tasks:
        found += _points(labels.get(task.key, task.key), task)
    return tuple(found)


@guarded
def check_hands(tasks: Iterable[TaskPlan], sheet: Sheet, data: Data) -> None:
    """Raises CoreError ``sheet.hands`` when whoever takes over has not put a hand on something that is
    only finger-tight."""
    touched = data.get("hands") or []
    missing = [p.text for p in open_points(tasks, sheet) if p.touch and p.text not in touched]
    if missing:
        raise CoreError("sheet.hands", field="hands", text="; ".join(missing))

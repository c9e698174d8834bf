"""Handing a visit over: what is open on the bike, and what whoever takes over puts a hand on."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from ..codes.bench import Stands, Status
from ..codes.poses import Pose
from ..codes.steps import Name
from ..errors import CoreError
from ..guard import guarded
from ..runsheet import TaskPlan
from ..said import bench as said
from .asides.takes import TakesOver
from .fold.state import Sheet, TaskState


@dataclass(frozen=True)
class OpenPoint:
    """Something that must not be forgotten, by its code and in words; ``touch``: finger-tight, so whoever
    takes over puts a hand on it."""

    code: str
    text: str
    touch: bool = False


def _oil(label: str, task: TaskState) -> Iterator[OpenPoint]:
    code = f"{task.key}/oil"
    if task.draining:
        yield OpenPoint(code, said.draining(label))
    elif task.oil_out and task.added <= 0:
        yield OpenPoint(code, said.empty(label))
    elif task.added > 0 and not task.filled:
        yield OpenPoint(code, said.not_right_yet(label))


def _points(label: str, task: TaskState) -> Iterator[OpenPoint]:
    for one in task.fasteners:
        if one.open:
            text = said.open_fastener(label, one.part, one.words)
            touch = one.stands == Stands.FINGER_TIGHT
            yield OpenPoint(f"{task.key}/{one.role}", text, touch)
    if not task.apart:
        yield from _oil(label, task)
    elif task.opened and not task.filled:
        yield OpenPoint(f"{task.key}/apart", said.apart(label))


@guarded
def open_points(tasks: Iterable[TaskPlan], sheet: Sheet) -> tuple[OpenPoint, ...]:
    """Everything of a visit of these ``tasks`` that is open: none means that the bike can be left as
    it stands. Common practice, no source."""
    labels = {task.reservoir.key: task.reservoir.label for task in tasks}
    runs = any(s.step.name == Name.RUN and s.status == Status.RUNNING for s in sheet.steps)
    found = [OpenPoint("engine", said.ENGINE_RUNS)] if runs else []
    if sheet.stance and sheet.stance.pose == Pose.TILTED:
        found.append(OpenPoint("tilted", said.TILTED))
    for task in sheet.tasks:
        found += _points(labels.get(task.key, task.key), task)
    return tuple(found)


@guarded
def check_hands(tasks: Iterable[TaskPlan], sheet: Sheet, taken: TakesOver) -> None:
    """Raises CoreError ``sheet.hands`` when whoever takes over has not put a hand on something that is
    only finger-tight."""
    points = open_points(tasks, sheet)
    missing = [one.text for one in points if one.touch and one.code not in taken.hands]
    if missing:
        raise CoreError("sheet.hands", field="hands", text="; ".join(missing))

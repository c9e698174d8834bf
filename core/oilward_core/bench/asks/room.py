"""What a kind of step has to say for itself."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from ...codes.entries import Ask
from ...debris import Verdict
from ...expected import Expected
from ...runsheet import Step, TaskPlan
from ..acts import Act
from ..entries import Entry
from ..fold.known import Known
from ..fold.state import TaskState
from ..typed import Typed


def always(step: Step, entry: Entry, known: Known) -> bool:
    """Whatever was recorded last completes it."""
    return True


def nothing_expected(
    task: TaskPlan, state: TaskState, step: Step, typed: Typed, corrected: bool
) -> Expected | None:
    """Nothing is known of what is to come."""
    return None


def no_remark(step: Step, entry: Entry, known: Known, finding: Verdict | None) -> str:
    """Nothing more to say."""
    return ""


Completes = Callable[[Step, Entry, Known], bool]
Expects = Callable[[TaskPlan, TaskState, Step, Any, bool], Expected | None]
Remarks = Callable[[Step, Entry, Known, Verdict | None], str]


@dataclass(frozen=True, kw_only=True)
class Room:
    """A kind of step: the entries it takes (``acts``, the first of which is what it asks for),
    whether the last of them ``completes`` it, what is expected of one before it is read
    (``expects``) and what it means afterwards (``remarks``)."""

    ask: Ask
    acts: tuple[Act[Any, Any], ...]
    completes: Completes = always
    expects: Expects = nothing_expected
    remarks: Remarks = no_remark

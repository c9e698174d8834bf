"""The run sheet: its steps, the entries people make, and the fold from one to the other."""

from .closing import Closing, keep, kept, why_not_learned
from .entries import DRY, Entry, Speaker, part_data, part_from, read_entry
from .expect import expected_at
from .fold import Bench, Sheet, Status, StepState, TorqueCard, check_entry, fold, judge_finding
from .steps import Step, StepKind, TaskPlan
from .words import Standing, result, standing

__all__ = [
    "DRY",
    "Bench",
    "Closing",
    "Entry",
    "Sheet",
    "Speaker",
    "Standing",
    "Status",
    "Step",
    "StepKind",
    "StepState",
    "TaskPlan",
    "TorqueCard",
    "check_entry",
    "expected_at",
    "fold",
    "judge_finding",
    "keep",
    "kept",
    "part_data",
    "part_from",
    "read_entry",
    "result",
    "standing",
    "why_not_learned",
]

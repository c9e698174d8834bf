"""The bench: the entries people make, the facts they come to, and where each step stands."""

from .ahead import ahead, pans_held
from .closing import Closing, TaskClosing, keep, kept, why_not_learned
from .correct import as_before, reopens
from .entries import (
    ANSWERED,
    DRY,
    GRADINGS,
    REGRADE,
    Entry,
    Speaker,
    in_order,
    part_data,
    part_from,
)
from .expect import expected_at, held_by
from .facts import Facts, Flow, Stands, Way, facts_of
from .fasteners import FastenerState
from .filling import Bench
from .handing import OpenPoint, check_hands, open_points
from .judged import TorqueCard, judge_finding, observed, pan_said
from .known import VisitPlan
from .reading import read_entry
from .regrade import check_regrade, gradings, may_regrade
from .stance import Hands, Stance, caution_of
from .state import Sheet, Status, StepState, Stop, TaskState, Waits, check_entry, fold
from .upgrade import upgrade
from .words import Standing, next_words, part_words, result, standing, waits_for

__all__ = [
    "ANSWERED",
    "DRY",
    "GRADINGS",
    "REGRADE",
    "Bench",
    "Closing",
    "Entry",
    "Facts",
    "FastenerState",
    "Flow",
    "Hands",
    "OpenPoint",
    "Sheet",
    "Speaker",
    "Stance",
    "Standing",
    "Stands",
    "Status",
    "StepState",
    "Stop",
    "TaskClosing",
    "TaskState",
    "TorqueCard",
    "VisitPlan",
    "Waits",
    "Way",
    "ahead",
    "as_before",
    "caution_of",
    "check_entry",
    "check_hands",
    "check_regrade",
    "expected_at",
    "facts_of",
    "fold",
    "gradings",
    "held_by",
    "in_order",
    "judge_finding",
    "keep",
    "kept",
    "may_regrade",
    "next_words",
    "observed",
    "open_points",
    "pan_said",
    "pans_held",
    "part_data",
    "part_from",
    "part_words",
    "read_entry",
    "reopens",
    "result",
    "standing",
    "upgrade",
    "waits_for",
    "why_not_learned",
]

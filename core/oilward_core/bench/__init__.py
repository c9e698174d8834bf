"""The bench: the entries people make, the facts they come to, and where each step stands."""

from ..codes.bench import Stands, Status
from ..codes.entries import ASIDES, GRADINGS, EntryKind
from ..said.cautions import unstrapped
from .acts import Act, Hearing
from .ahead import ahead, in_hand, pans_held
from .asides.stands import StandsSo
from .asides.takes import TakesOver
from .asks import ACTS, ALWAYS, ASKS
from .asks.amount import Amount
from .asks.choice import Chosen
from .asks.common import Answered, Confirmed, Skipped, Started, Stopped
from .asks.fill import DrawnOff, PouredIn
from .asks.filter import FilterOn
from .asks.finding import Graded, Pictured, Regraded
from .asks.leaks import Looked
from .asks.level import CauseNamed, LevelRead
from .asks.look_up import LookedUp, own_words_again
from .asks.looked import SecondLooked
from .asks.torque import Pulled, TickedAtCard
from .asks.values import Taken
from .closing import (
    Closing,
    TaskClosing,
    as_kept,
    keep,
    kept,
    left_for,
    read_kept,
    why_not_learned,
)
from .correct import reopens
from .entries import Data, Entry, Speaker, in_order
from .fold.facts import Facts, Flow, Hands, Stance, Timer, Way
from .fold.gather import facts_of
from .fold.judged import growing, judge_finding, observed, pan_said
from .fold.known import Bench, OffBike, VisitPlan
from .fold.sheet import check_entry, fold, goes_against
from .fold.state import (
    FastenerState,
    Sheet,
    StepState,
    Stop,
    TaskState,
    TorqueCard,
    Waits,
)
from .handing import OpenPoint, check_hands, open_points
from .let_out import LetOut, let_out
from .measures import measures
from .read import as_before, expected_at, kind_of, read_entry
from .regrade import check_also, check_regrade, gradings, may_regrade
from .second import check_second
from .stored import DESCRIPTION, data_document, entry_document, entry_from
from .then import Written, carried_over, raw_carried_over
from .typed import Typed
from .used import Used, seals_on, used
from .words import Standing, next_words, part_words, result, stance_words, standing, waits_for

__all__ = [
    "ACTS",
    "ALWAYS",
    "ASIDES",
    "ASKS",
    "DESCRIPTION",
    "GRADINGS",
    "Act",
    "Amount",
    "Answered",
    "Bench",
    "CauseNamed",
    "Chosen",
    "Closing",
    "Confirmed",
    "Data",
    "DrawnOff",
    "Entry",
    "EntryKind",
    "Facts",
    "FastenerState",
    "FilterOn",
    "Flow",
    "Graded",
    "Hands",
    "Hearing",
    "LetOut",
    "LevelRead",
    "Looked",
    "LookedUp",
    "OffBike",
    "OpenPoint",
    "Pictured",
    "PouredIn",
    "Pulled",
    "Regraded",
    "SecondLooked",
    "Sheet",
    "Skipped",
    "Speaker",
    "Stance",
    "Standing",
    "Stands",
    "StandsSo",
    "Started",
    "Status",
    "StepState",
    "Stop",
    "Stopped",
    "Taken",
    "TakesOver",
    "TaskClosing",
    "TaskState",
    "TickedAtCard",
    "Timer",
    "TorqueCard",
    "Typed",
    "Used",
    "VisitPlan",
    "Waits",
    "Way",
    "Written",
    "ahead",
    "as_before",
    "as_kept",
    "carried_over",
    "check_also",
    "check_entry",
    "check_hands",
    "check_regrade",
    "check_second",
    "data_document",
    "entry_document",
    "entry_from",
    "expected_at",
    "facts_of",
    "fold",
    "goes_against",
    "gradings",
    "growing",
    "in_hand",
    "in_order",
    "judge_finding",
    "keep",
    "kept",
    "kind_of",
    "left_for",
    "let_out",
    "may_regrade",
    "measures",
    "next_words",
    "observed",
    "open_points",
    "own_words_again",
    "pan_said",
    "pans_held",
    "part_words",
    "raw_carried_over",
    "read_entry",
    "read_kept",
    "reopens",
    "result",
    "seals_on",
    "stance_words",
    "standing",
    "unstrapped",
    "used",
    "waits_for",
    "why_not_learned",
]

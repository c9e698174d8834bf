"""A level read on its gauge, and why gauge and book disagree."""

from dataclasses import dataclass
from decimal import Decimal
from typing import ClassVar

from ...codes.bench import EDGE_SIGHTS, Sight, Stands
from ...codes.debris import Warmth
from ...codes.entries import Ask, EntryKind
from ...codes.fill import Acts, Cause, LeftFor
from ...codes.poses import Pose
from ...codes.roles import Role
from ...codes.steps import Name
from ...debris import Verdict
from ...drained import DEGREES
from ...errors import CoreError
from ...fill import ACTS
from ...quantity import show
from ...runsheet import Step, StepId
from ...said import bench as said
from ...said import expected as said_expected
from ...said import fill as said_fill
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.facts import Way
from ..fold.known import Known
from ..fold.taking import Taking
from ..reading import number, one_of, volume, words
from ..typed import Typed
from .amount import JUG
from .room import Room

LOWEST, HIGHEST = Decimal("-0.5"), Decimal("1.5")


@dataclass(frozen=True, kw_only=True)
class LevelRead(Data):
    """What the gauge showed with the bike in an ``attitude``; ``position`` counts where it was seen: 0 at
    the low mark, 1 at the high. ``celsius``: how warm the oil was, where somebody said so; ``ml``: what
    ran out at an edge, where it was measured."""

    kind: ClassVar[EntryKind] = EntryKind.LEVEL
    sight: Sight
    position: Decimal
    attitude: str
    celsius: Decimal | None = None
    ml: Decimal | None = None


@dataclass(frozen=True, kw_only=True)
class LevelTyped(Typed):
    """What was dragged in the glass, how the bike stands, and how warm the oil is by the hand, where it
    is not as warm as its marks ask for; or the ``amount`` that ran out at an edge."""

    sight: str = Sight.SEEN
    position: str = "0"
    attitude: str = ""
    warmth: str = ""
    amount: str = ""
    sure: str = ""


@dataclass(frozen=True, kw_only=True)
class CauseNamed(Data):
    """Why gauge and book disagree, in ``words`` of somebody's own where no code says it. ``acts``: what
    it asks for is asked for at the bench, as earlier releases did not."""

    kind: ClassVar[EntryKind] = EntryKind.CAUSE
    cause: Cause
    words: str = ""
    acts: bool = False

    @property
    def said(self) -> str:
        """The cause, in words."""
        return said_fill.cause(self.cause, self.words)


@dataclass(frozen=True, kw_only=True)
class CauseTyped(Typed):
    """One of the causes by its code, or one's own words."""

    cause: str = ""
    words: str = ""


def _read(hearing: Hearing, typed: LevelTyped) -> LevelRead:
    options = hearing.step.options
    if all(typed.attitude != option.code for option in options):
        raise CoreError(
            "sheet.attitude", field="attitude", options=[option.words for option in options]
        )
    sight = one_of(typed.sight, Sight, "sight")
    if (sight in EDGE_SIGHTS) != hearing.step.edge:
        offered = EDGE_SIGHTS if hearing.step.edge else tuple(set(Sight) - set(EDGE_SIGHTS))
        raise CoreError("sheet.choose", field="sight", options=[str(one) for one in offered])
    if hearing.step.edge:
        return _at_edge(hearing, typed, sight)
    position = number(typed.position, "position", "sheet.position")
    if not LOWEST <= position <= HIGHEST:
        raise CoreError("sheet.position", field="position")
    warm = DEGREES[one_of(typed.warmth, Warmth, "warmth")] if typed.warmth else None
    return LevelRead(
        sight=sight,
        position=position,
        attitude=typed.attitude,
        celsius=None if warm is None else Decimal(warm),
    )


def _at_edge(hearing: Hearing, typed: LevelTyped, sight: Sight) -> LevelRead:
    """What runs out may be measured; it need not be."""
    ml = None
    if sight == Sight.RUNS_OUT and typed.amount.strip():
        try:
            ml = volume(typed.amount, typed.sure, hearing, (said_expected.JUG, JUG)).ml
        except CoreError as error:
            raise error.at("amount") from error
    return LevelRead(sight=sight, position=Decimal(0), attitude=typed.attitude, ml=ml)


def _named(hearing: Hearing, typed: CauseTyped) -> CauseNamed:
    cause = one_of(typed.cause or Cause.ELSE, Cause, "cause")
    own = words(typed.words, "cause") if cause in (Cause.ELSE, Cause.UNREADABLE) else ""
    return CauseNamed(cause=cause, words=own, acts=True)


def _take(taking: Taking, entry: Entry, data: LevelRead) -> None:
    """Read in another attitude, the bike was unstrapped for it."""
    taking.complete(entry)
    taking.events(entry).append(entry)
    if data.sight in EDGE_SIGHTS:  # its plug is out, where it is one
        taking.fastener(entry, Role.LEVEL_PLUG, Stands.OUT)
    if data.ml:
        inside = max(taking.facts.into(StepId.of(entry.step).reservoir), Decimal(0))
        taking.flow(entry, Way.LOST, min(data.ml, inside))
    read = next((pose for pose in Pose if pose == data.attitude), None)
    before = taking.facts.stance
    if read is not None and (before is None or before.pose != read):
        taking.stand(entry, read, strapped=False)


@dataclass(frozen=True, kw_only=True)
class LeftHere(Data):
    """It is left where it stands, and why; without a reason: it is not, after all."""

    kind: ClassVar[EntryKind] = EntryKind.LEFT
    reason: LeftFor | None


@dataclass(frozen=True, kw_only=True)
class LeftTyped(Typed):
    """Why, by its code; empty takes it back."""

    reason: str = ""


def _take_cause(taking: Taking, entry: Entry, data: CauseNamed) -> None:
    taking.events(entry).append(entry)
    if not data.acts:
        return
    if ACTS[data.cause] == Acts.BY_THE_BOOK and StepId.of(entry.step).name == Name.LEVEL:
        taking.complete(entry)
    key = StepId.of(entry.step).reservoir
    if ACTS[data.cause] == Acts.COUNT:
        taking.let_oil_out(entry, Role.DRAIN_PLUG, key)
    elif ACTS[data.cause] == Acts.LOOK_UP:
        taking.facts.looked_up_anew.add(key)


def _say(data: LevelRead, speaker: Speaker) -> str:
    amount = said.volume(data.ml, speaker.volume) if data.ml is not None else ""
    return said.level(data.sight, data.position, data.attitude, amount)


LEVEL = Act(
    typed=LevelTyped,
    data=LevelRead,
    field="position",
    read=_read,
    take=_take,
    says=_say,
)
CAUSE = Act(
    typed=CauseTyped,
    data=CauseNamed,
    field="cause",
    read=_named,
    take=_take_cause,
    says=lambda data, speaker: data.said,
)


def _take_left(taking: Taking, entry: Entry, data: LeftHere) -> None:
    taking.complete(entry)
    taking.events(entry).append(entry)


LEFT = Act(
    typed=LeftTyped,
    data=LeftHere,
    field="reason",
    read=lambda hearing, typed: LeftHere(
        reason=one_of(typed.reason, LeftFor, "reason") if typed.reason else None
    ),
    take=_take_left,
    says=lambda data, speaker: said_fill.left(data.reason),
)


def _completes(step: Step, entry: Entry, known: Known) -> bool:
    """A reading is done with once it is right, or another round follows it."""
    filling = known.fillings[step.id.reservoir]
    return filling.right or step.id.round < len(filling.rounds)


def remarks(step: Step, entry: Entry, known: Known, finding: Verdict | None) -> str:
    """Why a reading is kept and not used; or how much higher it will stand."""
    filling = known.fillings.get(step.id.reservoir)
    if filling is None:
        return ""
    rise = filling.rises.get(entry.id)
    risen = said.will_rise(show(rise, "ml")) if rise else ""
    return filling.unused.get(entry.id, "") or filling.tilted.get(entry.id, "") or risen


ROOM = Room(ask=Ask.LEVEL, acts=(LEVEL, CAUSE, LEFT), completes=_completes, remarks=remarks)

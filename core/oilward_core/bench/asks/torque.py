"""A plug tightened by wrench, and turned on where the manual says so."""

from dataclasses import dataclass
from decimal import Decimal
from typing import ClassVar

from ...codes.bench import Basis, Stands
from ...codes.entries import Ask, EntryKind
from ...codes.roles import Role
from ...codes.steps import Name
from ...debris import Verdict
from ...errors import CoreError
from ...expected import Expected
from ...quantity import Kind, parse_single, read_number, show
from ...runsheet import Step, StepId, TaskPlan
from ...said import bench as said
from ...said import expected as words
from ...torque import TorqueSpec
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.known import Known
from ..fold.state import TaskState
from ..fold.taking import Taking
from ..reading import Stood, held
from ..typed import Typed
from .room import Room

_MOST_DEGREES = Decimal(1800)
_FULL_TURN, _NEAR = Decimal(360), Decimal(5)


@dataclass(frozen=True, kw_only=True)
class Pulled(Data):
    """What the wrench showed, N·m, as it was ``said``; with which ``wrench``, and how many degrees were
    ``turned`` after it; ``over``: it was said to be pulled too far, whatever it showed."""

    kind: ClassVar[EntryKind] = EntryKind.TORQUE
    nm: Decimal
    said: str
    wrench: str = ""
    turned: Decimal | None = None
    asked: Stood | None = None
    over: bool = False


@dataclass(frozen=True, kw_only=True)
class PulledTyped(Typed):
    """A reading of a wrench in its own unit, and the angle after it; ``over``: it was pulled too far."""

    reading: str = ""
    over: bool = False
    unit: str = ""
    wrench: str = ""
    turned: str = ""
    sure: str = ""


def _turn(text: str) -> Decimal:
    """The angle turned after the wrench, in degrees: the second of its two readings."""
    told = text.strip().removesuffix("°").strip()
    try:
        return read_number(told, Decimal(1), _MOST_DEGREES)
    except CoreError as error:
        raise CoreError("sheet.turned", field="turned") from error


def _read(hearing: Hearing, typed: PulledTyped) -> Pulled:
    measure = parse_single(typed.reading, Kind.TORQUE, typed.unit or hearing.speaker.torque)
    return Pulled(
        asked=held(measure, typed.sure, hearing.expected, None),
        nm=measure.low,
        said=typed.reading,
        wrench=typed.wrench,
        turned=_turn(typed.turned) if hearing.step.turn and not typed.over else None,
        over=typed.over,
    )


def _take(taking: Taking, entry: Entry, data: Pulled) -> None:
    taking.complete(entry)
    taking.fastener(entry, _part(entry), Stands.PULLED)


def _part(entry: Entry) -> Role:
    return StepId.of(entry.step).fastener or Role.DRAIN_PLUG


def _say(data: Pulled, speaker: Speaker) -> str:
    pulled = said.pulled(show(data.nm, speaker.torque), data.turned)
    return f"{said.TOO_FAR}, {pulled}" if data.over else pulled


TORQUE = Act(
    typed=PulledTyped,
    data=Pulled,
    field="reading",
    read=_read,
    take=_take,
    says=_say,
    keeps=(("wrench",),),
)


def turned_wrong(spec: TorqueSpec | None, data: Data) -> str:
    """What the angle after the wrench still lacks; empty where it is right to five degrees [def]."""
    if spec is None or spec.then is None or not isinstance(data, Pulled) or data.turned is None:
        return ""
    low, high = (end * _FULL_TURN for end in spec.then)
    if low - _NEAR <= data.turned <= high + _NEAR:
        return ""
    return said.turned_wrong(data.turned, spec.then_words)


def _spec(step: Step) -> TorqueSpec | None:
    return step.fastener.torque if step.fastener else None


def _completes(step: Step, entry: Entry, known: Known) -> bool:
    card = known.cards.get(str(step.id))
    if card is None:
        return True
    if step.name != Name.TORQUE and not _stands(step, entry, known):
        return False
    if isinstance(entry.data, Pulled) and entry.data.over:
        return False
    right = card.verdict is not None and card.verdict.verdict == "in"
    return right and not turned_wrong(_spec(step), entry.data)


def _stands(step: Step, entry: Entry, known: Known) -> bool:
    """Whether nothing was done to it since: a filler is opened again to top up, a filter is renewed."""
    fact = known.facts.fastener(step.id.reservoir, _part(entry))
    return fact is None or fact.entry.id == entry.id


def _expects(
    task: TaskPlan, state: TaskState, step: Step, typed: PulledTyped, corrected: bool
) -> Expected | None:
    card = state.cards.get(str(step.id))
    if card is None or typed.over:
        return None
    used = next((w for w in card.wrenches if w.wrench.id == typed.wrench), None)
    value = card.aim.value * (used.factor if used else 1)
    return Expected(
        value=value,
        spread=Decimal(0),
        basis=Basis.AIM,
        amount=show(value, used.wrench.unit if used else "N·m"),
        less=words.NOT_TORQUED,
        more=words.FAR_OVER,
    )


def _remarks(step: Step, entry: Entry, known: Known, finding: Verdict | None) -> str:
    card = known.cards.get(str(step.id))
    if card is None or card.verdict is None:
        return ""
    if step.name != Name.TORQUE and not _stands(step, entry, known):
        return said.OPENED_SINCE
    wrong = turned_wrong(_spec(step), entry.data) if card.verdict.verdict == "in" else ""
    return wrong or card.verdict.action


ROOM = Room(
    ask=Ask.TORQUE, acts=(TORQUE,), completes=_completes, expects=_expects, remarks=_remarks
)

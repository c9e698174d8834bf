"""Something tightened by wrench, and turned on where the manual says so: one fastener, or a ring of
them."""

from dataclasses import dataclass
from decimal import Decimal
from typing import ClassVar

from ...codes.bench import Basis, Stands
from ...codes.entries import Ask, EntryKind
from ...codes.options import Seal, Stage
from ...codes.roles import Role
from ...codes.steps import Name
from ...debris import Verdict
from ...errors import CoreError
from ...expected import Expected
from ...quantity import Kind, parse_single, read_number, show
from ...runsheet import Step, StepId, TaskPlan
from ...said import bench as said
from ...said import expected as words
from ...torque import FIRST_PASS, TorqueSpec
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.known import Known
from ..fold.state import TaskState
from ..fold.taking import Taking
from ..reading import Stood, held, offered, one_of
from ..typed import Typed
from .looked import SECOND
from .room import Room
from .tore import TORE

_MOST_DEGREES = Decimal(1800)
_FAR = Decimal(10) ** 6
_FULL_TURN, _NEAR = Decimal(360), Decimal(5)


@dataclass(frozen=True, kw_only=True)
class Pulled(Data):
    """What the wrench showed, N·m, as it was ``said``; with which ``wrench``, what that is called and
    when it was calibrated (``by_what``), and how many degrees were ``turned`` after it; ``over``: it
    was said to be pulled too far, whatever it showed; ``feel``: without a wrench, by feel. ``items``
    that were ticked with it. Of a ring of screws at which ``stage`` of it, or which single ``screw``;
    which ``seal`` went on, where that was said."""

    kind: ClassVar[EntryKind] = EntryKind.TORQUE
    nm: Decimal
    said: str
    wrench: str = ""
    by_what: str = ""
    turned: Decimal | None = None
    asked: Stood | None = None
    over: bool = False
    feel: bool = False
    items: tuple[str, ...] = ()
    stage: Stage | None = None
    screw: int | None = None
    seal: Seal | None = None


@dataclass(frozen=True, kw_only=True)
class PulledTyped(Typed):
    """A reading of a wrench in its own unit, and the angle after it; ``over``: it was pulled too far;
    ``feel``: by feel, without a reading. Of a ring the ``stage``, or the number of a ``screw``."""

    reading: str = ""
    over: bool = False
    feel: bool = False
    unit: str = ""
    wrench: str = ""
    turned: str = ""
    sure: str = ""
    items: tuple[str, ...] = ()
    stage: str = ""
    screw: str = ""
    seal: str = ""


def _turn(text: str) -> Decimal:
    """The angle turned after the wrench, in degrees: the second of its two readings."""
    told = text.strip().removesuffix("°").strip()
    try:
        turned = read_number(told, -_FAR, _FAR)
    except CoreError as error:
        raise CoreError("sheet.turned", field="turned") from error
    if not 0 < turned <= _MOST_DEGREES:
        raise CoreError("sheet.turned_far", field="turned", most=_MOST_DEGREES)
    return turned


def _screw(text: str, step: Step) -> int | None:
    """Which screw of a ring is meant. Raises CoreError ``torque.screw``."""
    count = step.fastener.count if step.fastener else 1
    if not text.strip():
        return None
    told = text.strip()
    if not told.isdecimal() or not 1 <= int(told[:4]) <= count or len(told) > 3:
        raise CoreError("torque.screw", field="screw", most=count)
    return int(told)


def _stage(typed: PulledTyped, step: Step) -> Stage | None:
    """Which pass round a ring it was: the last, to the full torque, where nothing is said of it."""
    if step.fastener is None or not step.fastener.ring or typed.screw.strip():
        return None
    return one_of(typed.stage, Stage, "stage") if typed.stage else Stage.FULL


def _seal(typed: PulledTyped, step: Step) -> Seal | None:
    """What seal went on, where that is asked at the card and was said."""
    return Seal(offered(typed.seal, step.options, "seal")) if typed.seal else None


def _ticked(hearing: Hearing, given: tuple[str, ...]) -> tuple[str, ...]:
    return tuple(one.code for one in hearing.step.items if one.code in given)


def _read(hearing: Hearing, typed: PulledTyped) -> Pulled:
    step = hearing.step
    items, seal = _ticked(hearing, typed.items), _seal(typed, step)
    # too far is too far, whether anybody knows how far or not
    unread = typed.feel or (typed.over and not typed.reading.strip())
    if unread:
        return Pulled(
            nm=Decimal(0),
            said="",
            feel=not typed.over,
            over=typed.over,
            items=items,
            stage=_stage(typed, step),
            screw=_screw(typed.screw, step),
            seal=seal,
        )
    measure = parse_single(typed.reading, Kind.TORQUE, typed.unit or hearing.speaker.torque)
    stage = _stage(typed, step)
    turns = bool(step.turn) and not typed.over and stage != Stage.HALF
    return Pulled(
        asked=held(measure, typed.sure, hearing.expected, None),
        nm=measure.low,
        said=typed.reading,
        wrench=typed.wrench,
        turned=_turn(typed.turned) if turns else None,
        over=typed.over,
        items=items,
        stage=stage,
        screw=_screw(typed.screw, step),
        seal=seal,
    )


def _take(taking: Taking, entry: Entry, data: Pulled) -> None:
    taking.complete(entry)
    stands = Stands.TIGHT if data.feel else Stands.PULLED
    taking.fastener(entry, _part(entry), stands)


def _part(entry: Entry) -> str:
    return StepId.of(entry.step).fastener or Role.DRAIN_PLUG


def _say(data: Pulled, speaker: Speaker) -> str:
    if data.feel:
        return said.BY_FEEL
    if data.over and not data.said:
        return said.TOO_FAR
    pulled = said.pulled(show(data.nm, speaker.torque), data.turned)
    if data.by_what:
        pulled = f"{pulled}, {data.by_what}"
    if data.stage or data.screw:
        pulled = said.of_ring(pulled, half=data.stage == Stage.HALF, screw=data.screw)
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


@dataclass(frozen=True, kw_only=True)
class TickedAtCard(Data):
    """What is done at a fastener besides the pull: its wire is on, what goes on its threads."""

    kind: ClassVar[EntryKind] = EntryKind.TICKED
    items: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class TickedTyped(Typed):
    """What was ticked, by its codes."""

    items: tuple[str, ...] = ()


def _read_ticked(hearing: Hearing, typed: TickedTyped) -> TickedAtCard:
    items = _ticked(hearing, typed.items)
    if not items:
        raise CoreError("sheet.choose", options=[one.words for one in hearing.step.items])
    return TickedAtCard(items=items)


TICKED = Act(
    typed=TickedTyped,
    data=TickedAtCard,
    field="items",
    read=_read_ticked,
    take=lambda taking, entry, data: taking.complete(entry),
    says=lambda data, speaker: said.ticked(data.items),
)


def turned_wrong(spec: TorqueSpec | None, data: Data) -> str:
    """What the angle after the wrench still lacks; empty where it is right to five degrees [def]."""
    if spec is None or spec.then is None or not isinstance(data, Pulled) or data.turned is None:
        return ""
    low, high = (end * _FULL_TURN for end in spec.then)
    if low - _NEAR <= data.turned <= high + _NEAR:
        return ""
    return said.turned_wrong(data.turned, spec.then_words)


def _completes(step: Step, entry: Entry, known: Known) -> bool:
    card = known.cards.get(str(step.id))
    if card is None:
        return True
    if step.name != Name.TORQUE and not _stands(step, known):
        return False
    return not card.lacks


def _stands(step: Step, known: Known) -> bool:
    """Whether nothing was done to it since: a filler is opened again to top up, a filter is renewed, a
    case is filled again through its cover."""
    key = step.id.reservoir
    card = known.cards.get(str(step.id))
    pulled = card.entry if card else None
    if pulled is None:
        return False
    fact = known.facts.fastener(key, step.id.fastener)
    if step.name == Name.TORQUE_COVER:
        through = known.tasks[key].reservoir.fastener(Role.FILL_PLUG) is None
        poured = known.facts.poured(key)
        if through and poured and poured[-1].at > pulled.at:
            return False
    return fact is None or fact.entry.id == pulled.id


def _expects(
    task: TaskPlan, state: TaskState, step: Step, typed: PulledTyped, corrected: bool
) -> Expected | None:
    card = state.cards.get(str(step.id))
    if card is None or not isinstance(typed, PulledTyped) or typed.over or typed.feel:
        return None
    used = next((w for w in card.wrenches if w.wrench.id == typed.wrench), None)
    half = FIRST_PASS if typed.stage == Stage.HALF else Decimal(1)
    value = card.aim.value * (used.factor if used else 1) * half
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
    if card is None or card.entry is None:
        return ""
    if step.name != Name.TORQUE and not _stands(step, known):
        return said.OPENED_SINCE
    if card.lacks:
        return card.lacks
    return card.verdict.action if card.verdict else ""


ROOM = Room(
    ask=Ask.TORQUE,
    acts=(TORQUE, TICKED, SECOND, TORE),
    completes=_completes,
    expects=_expects,
    remarks=_remarks,
)

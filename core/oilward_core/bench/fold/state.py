"""Where a visit stands: the shapes of the answer."""

from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal

from ...codes.bench import Stands, Status
from ...codes.entries import Ask
from ...codes.options import Look, Stage
from ...codes.steps import WaitsFor
from ...debris import Verdict
from ...fill import Advice, Fell
from ...guard import Sound
from ...runsheet import Option, Step
from ...torque import Setting, TorqueVerdict, WrenchSetting
from ..entries import Entry
from .facts import Hands, Stance

CLOSED = (Status.DONE, Status.SKIPPED)


@dataclass(frozen=True, kw_only=True)
class TorqueCard(Sound):
    """What a torque step shows: the aim (N·m), the wrenches that fit with their marks, best first, the
    last reading (N·m), the ``entry`` that says so and what it means. ``lacks``: what is still to be
    done before it is closed, in words; ``stage``: how far round a ring it is; ``pulled``: what was
    pulled is right; ``ticked``: what was ticked at it; ``half``: the same wrenches with their marks for
    a first pass; ``second``: a second person has to look at it."""

    aim: Setting
    low: Decimal
    high: Decimal
    wrenches: tuple[WrenchSetting, ...]
    reading: Decimal | None
    verdict: TorqueVerdict | None
    entry: Entry | None = None
    lacks: str = ""
    stage: Stage | None = None
    ticked: tuple[str, ...] = ()
    half: tuple[WrenchSetting, ...] = ()
    second: bool = False
    pulled: bool = False


@dataclass(frozen=True, kw_only=True)
class FastenerState:
    """How a fastener stands now, what it and that are called; ``open``: it must not be forgotten;
    ``reading``: to what it was pulled, N·m."""

    role: str
    part: str
    stands: Stands
    words: str
    open: bool
    by: str = ""
    at: datetime | None = None
    reading: Decimal | None = None


@dataclass(frozen=True, kw_only=True)
class StepState:
    """A step with what was recorded on it. ``ends_at`` is when a started wait runs out and
    ``not_before`` when what it waits for does; ``unmet`` the needs it waits for, in words as well;
    ``remark`` what the last entry means; ``reopened``: it was done, and something undid it;
    ``taken_by`` who has it in hand, if somebody said so, and as which person (``taken_by_who``);
    ``caution`` what its job and it itself are to be careful of; ``entries`` all that was poured, drawn
    and read at a filling."""

    step: Step
    status: Status
    entry: Entry | None = None
    started_at: datetime | None = None
    ends_at: datetime | None = None
    not_before: datetime | None = None
    remark: str = ""
    unmet: tuple[Option, ...] = ()
    reopened: bool = False
    taken_by: str = ""
    taken_by_who: str = ""
    caution: str = ""
    entries: tuple[Entry, ...] = ()

    @property
    def closed(self) -> bool:
        """Whether it is done with."""
        return self.status in CLOSED


@dataclass(frozen=True)
class OtherLeg(Sound):
    """What the other leg got, where the sheet wants both alike: oil in ml, air gap in mm."""

    ml: Decimal | None
    gap: Decimal | None


@dataclass(frozen=True, kw_only=True)
class LegOil(Sound):
    """A leg's oil: ``poured`` before it was drawn down, ``inside`` now, ml; the air gap as ``found`` and
    as ``left``, mm; ``by_gap``: it is set by one; the free length of its ``spring`` and the ``least`` its
    sheet wants, mm; its ``air`` once it was pumped, kPa."""

    poured: Decimal | None
    inside: Decimal
    found: Decimal | None = None
    left: Decimal | None = None
    by_gap: bool = True
    spring: Decimal | None = None
    least: Decimal | None = None
    air: Decimal | None = None


@dataclass(frozen=True, kw_only=True)
class TaskState(Sound):
    """How a reservoir stands: what the coach says, what came out, what is in, its fasteners, and why
    nothing may go on with it (``stopped``). ``found`` what a look showed, in words; ``fell``: how far its
    level fell at the first start, ``tilt`` how much higher it read on a lift, ``takes`` what brings
    it to the target, ml, by all that was poured and read; ``closed_early``: its plug
    went back before all was out, its oil is not changed; ``marks``: ml between its marks, which the sheet
    does not say, as readings told; ``apart``: it is served out of the bike or only looked at, no case
    that an engine could run without its oil."""

    key: str
    advice: Advice | None = None
    torque: TorqueCard | None = None
    cards: dict[str, TorqueCard] = field(default_factory=dict)
    finding: Verdict | None = None
    drained: Decimal | None = None
    added: Decimal = Decimal(0)
    filled: bool = False
    opened: bool = False
    oil_out: bool = False
    draining: bool = False
    stopped: str = ""
    fasteners: tuple[FastenerState, ...] = ()
    apart: bool = False
    found: str = ""
    look: Look | None = None
    other_leg: OtherLeg | None = None
    leg: LegOil | None = None
    fluid: str = ""
    fell: Fell | None = None
    tilt: Decimal | None = None
    takes: Decimal | None = None
    closed_early: bool = False
    marks: Decimal | None = None


@dataclass(frozen=True, kw_only=True)
class Stop:
    """Something happened that should not have, and nobody has said yet what was found of it: ``against``
    which needs; or a finding says ``hold``, and no lead has lifted it. ``lasts``: nothing that is said of
    it lifts it, only its cause put right."""

    entry: str
    step: str
    text: str
    hold: bool = False
    lasts: bool = False
    against: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class StopAnswered:
    """A stop that stands no longer: what it was (``text``), what was said of it (``reason``), by whom and
    when."""

    step: str
    text: str
    reason: str
    by: str
    at: datetime


@dataclass(frozen=True, kw_only=True)
class Waits:
    """What a visit waits for, at which step, since when, and who said so."""

    step: str
    what: WaitsFor
    words: str
    by: str
    since: datetime


@dataclass(frozen=True, kw_only=True)
class Sheet(Sound):
    """The state of a visit. ``focus`` is the step to do now (None: all done, or nothing can be);
    ``set_aside`` are entries whose step is not part of the visit; ``in_hands_of`` who wrote something
    down last, and as which person (``in_hands_of_who``); ``handed_back`` why it goes back to its owner,
    not to be ridden; ``answered`` stops of which somebody has said what was found; what of the bike is
    ``away``, in words."""

    tasks: tuple[TaskState, ...]
    steps: tuple[StepState, ...]
    focus: str | None
    stops: tuple[Stop, ...]
    ready_to_sign: bool
    set_aside: tuple[Entry, ...]
    waits: Waits | None = None
    in_hands_of: str = ""
    in_hands_of_who: str = ""
    stance: Stance | None = None
    hands: Hands | None = None
    handed_back: str = ""
    answered: tuple[StopAnswered, ...] = ()
    away: tuple[str, ...] = ()

    @property
    def opened_drain(self) -> bool:
        """Whether oil has been let out in this visit, or a leg or the front wheel taken off."""
        return any(task.oil_out for task in self.tasks)

    @property
    def stopped(self) -> str:
        """Why nothing may go on, if so."""
        said = [stop.text for stop in self.stops] + [task.stopped for task in self.tasks]
        return " ".join(text for text in said if text)

    def step(self, step_id: str) -> StepState | None:
        """The state of one step, if the sheet has it."""
        return next((state for state in self.steps if str(state.step.id) == step_id), None)

    def task(self, key: str) -> TaskState | None:
        """The state of one reservoir, if it is part of the visit."""
        return next((task for task in self.tasks if task.key == key), None)

    def card(self, step_id: str) -> TorqueCard | None:
        """The wrench card of one step, if it has one."""
        return next((task.cards[step_id] for task in self.tasks if step_id in task.cards), None)

    @property
    def soonest(self) -> datetime | None:
        """When the wait ends that ends soonest: one that somebody started, or what the next step
        waits for."""
        ends = [
            state.ends_at
            for state in self.steps
            if state.status == Status.RUNNING and state.step.ask != Ask.WAIT
        ]
        focus = self.step(self.focus or "")
        ends.append(focus.not_before if focus else None)
        return min((end for end in ends if end), default=None)

    @property
    def unfinished(self) -> StepState | None:
        """The first step that is not done or skipped."""
        return next((state for state in self.steps if not state.closed), None)

"""What the bench's API says."""

from dataclasses import dataclass, field
from typing import Any, Literal, get_args

from findings.mapping import PlugPart
from oilward_core.debris import Form, LevelWord, Matter, OilLook
from oilward_core.fill import Action
from oilward_core.sheet import Status, StepKind
from workshop.shapes import Why, upto

VisitState = Literal["open", "signed", "left"]
VISIT_STATES, ACTIONS = get_args(VisitState), get_args(Action)


@dataclass(frozen=True)
class BikeName:
    id: str
    name: str
    model: str


@dataclass(frozen=True)
class EntryShape:
    id: str
    kind: str
    by: str
    at: str
    result: str


@dataclass(frozen=True)
class SpotShape:
    """A place on the bike map, shares of its width and height."""

    x: float
    y: float


@dataclass(frozen=True)
class MapPlug:
    """A plug, filter or screw on the bike map."""

    reservoir: str
    reservoir_label: str
    part: str
    role: str
    place: str
    torque: str
    x: float
    y: float


@dataclass(frozen=True)
class StepShape:
    """A step as the bench shows it. ``place`` is where the plug is in words, ``spot`` on the map;
    ``unchecked`` warns of values nobody has checked; ``path`` is what a look-up asks for; ``draws``:
    oil is taken out, not poured in."""

    id: str
    kind: StepKind
    title: str
    instruction: str
    caution: str
    place: str
    minutes: float | None
    items: list[str]
    options: list[str]
    skippable: bool
    full: bool
    round: int
    status: Status
    remark: str
    started_at: str | None
    ends_at: str | None
    entry: EntryShape | None
    spot: SpotShape | None
    unchecked: list[str]
    path: str
    draws: bool


@dataclass(frozen=True)
class CoachShape:
    """What the coach says: ``amount`` is ready for the input field, ``bottles`` is the same in
    bottles, for drawing them."""

    action: Action
    words: str
    belief: str
    amount: str
    bottles: float
    causes: list[str]
    reasons: list[Why]


@dataclass(frozen=True)
class WrenchShape:
    """A wrench that fits, with the mark to set. Scale numbers are in its own unit."""

    id: str
    name: str
    unit: str
    setting: str
    converted: str
    scale_low: float
    scale_high: float
    band_low: float
    band_high: float
    mark: float
    simulated: bool
    reasons: list[Why]


@dataclass(frozen=True)
class TorqueShape:
    """The wrench card: the aim in the manual's words, and the wrenches that fit, best first."""

    manual: str
    aim: str
    reading: str
    verdict: str
    action: str
    wrenches: list[WrenchShape]
    reasons: list[Why]


@dataclass(frozen=True)
class GaugeShape:
    name: str
    attitude: str
    between: str
    target: float


@dataclass(frozen=True)
class VerdictShape:
    level: LevelWord
    origin: str
    action: str
    parts: list[PlugPart]
    rules: list[Why]


@dataclass(frozen=True)
class FindingWords:
    """What a plug and its oil can show, in the order it is offered."""

    forms: list[Form]
    matters: list[Matter]
    looks: list[OilLook]


@dataclass(frozen=True)
class StandingShape:
    part: str
    word: str
    open: bool


@dataclass(frozen=True)
class RunSheet:
    """A visit's run sheet as it stands. ``now`` is the server's clock, for the timers; ``corrected``
    is what the odometer really showed, where a closed visit was signed on another reading."""

    id: str
    state: VisitState
    bike: BikeName
    reservoir: str
    kind: str
    variant: str
    fluid: str
    capacity: str
    sheet_version: int
    odometer: str
    now: str
    seconds_per_minute: float
    steps: list[StepShape]
    focus: str | None
    stopped: str
    ready_to_sign: bool
    may_leave: bool
    drained: str
    added: str
    prefill: str
    coach: CoachShape | None
    torque: TorqueShape | None
    gauge: GaugeShape | None
    verdict: VerdictShape | None
    words: FindingWords
    standing: list[StandingShape]
    closed_by: str
    set_aside: list[EntryShape]
    layout: str
    plugs: list[MapPlug]
    not_learned: str
    corrected: str


@dataclass(frozen=True)
class NewVisit:
    """A visit to open: ``id`` is the client's, ``reservoir`` a key of the spec sheet, ``sure`` the
    answers to earlier questions about the odometer."""

    id: str
    bike: str
    reservoir: str = upto(40)
    variant: str = upto(12)
    odometer: str = upto(200)
    fluid: str = upto(80, default="")
    hours: str = upto(100, default="")
    sure: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class NewEntry:
    """An entry to write down: ``id`` is the client's, ``data`` as typed. ``at`` is when it happened
    and ``sent_at`` when it was sent, both by the tablet's own clock."""

    id: str
    step: str = upto(60)
    kind: str = upto(12)
    at: str = upto(40)
    sent_at: str = upto(40, default="")
    data: dict[str, Any] = field(default_factory=dict)
    supersedes: str | None = None


@dataclass(frozen=True)
class Signature:
    """A lead's name and password, where one signs beside whoever is signed in."""

    username: str = upto(150, default="")
    password: str = upto(1000, default="")


@dataclass(frozen=True)
class Reason:
    reason: str = upto(500)

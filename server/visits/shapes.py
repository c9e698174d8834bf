"""What the bench's API says."""

from dataclasses import dataclass, field
from typing import Any, Literal, get_args

from findings.mapping import PlugPart
from oilward_core.bench import Status
from oilward_core.debris import Form, LevelWord, Matter, OilLook, Place
from oilward_core.drained import Warmth
from oilward_core.fill import Action
from oilward_core.runsheet import Aside, Ask, Pose, WaitsFor
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
    remembered: bool


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
class MeasuredShape:
    """A value taken as found and as left, and the kind of quantity it is."""

    name: str
    kind: str


@dataclass(frozen=True)
class TipShape:
    """What somebody wrote down for whoever does this step next."""

    text: str
    tools: str
    by: str
    at: str


@dataclass(frozen=True)
class StepShape:
    """A step as the bench shows it. ``whose``: what its ``reservoir`` is called, empty for the whole
    bike's; ``place`` is where the plug is in words, ``spot`` on the map; ``unchecked`` warns of values
    nobody has checked; ``path`` is what a look-up asks for; ``draws``: oil is taken out, not poured
    in; ``turn`` is the angle that follows the wrench; ``unmet`` says what a blocked step waits for;
    ``not_before`` when what it waits for is over; ``reopened``: it was done, and something undid it;
    ``taken_by`` who has it in hand, if somebody said so; ``tip`` what helped the last one
    at ``tip_at``; ``hands`` what a second person does, if one is needed; ``tilts``: the bike may be
    tilted here; ``stood``: how its level can have stood as it came; ``drained``: what came out is
    measured here; ``regrade``: a second reading of it may count instead."""

    id: str
    reservoir: str
    whose: str
    kind: Ask
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
    turn: str
    measured: list[MeasuredShape]
    unmet: list[str]
    not_before: str | None
    reopened: bool
    taken_by: str
    tip: TipShape | None
    tip_at: str
    hands: str
    tilts: bool
    stood: list[str]
    drained: bool
    regrade: bool


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
    """What the rules make of a finding: ``confirm`` tests that would make sure, ``changes`` what would
    have changed it."""

    level: LevelWord
    origin: str
    action: str
    parts: list[PlugPart]
    rules: list[Why]
    confirm: list[str]
    changes: list[str]


@dataclass(frozen=True)
class FindingWords:
    """What a plug and its oil can show, in the order it is offered, and how warm oil can be."""

    forms: list[Form]
    matters: list[Matter]
    looks: list[OilLook]
    smells: list[OilLook]
    places: list[Place]
    warmths: list[Warmth]


@dataclass(frozen=True)
class StandingShape:
    """How one part stands, since when (``at``) and by whom."""

    part: str
    word: str
    open: bool
    by: str
    at: str


@dataclass(frozen=True)
class FluidChoice:
    """A fluid that fits, with what stands of it on the shelf in words."""

    name: str
    stock: str


@dataclass(frozen=True)
class TaskShape:
    """One reservoir of a visit as it stands. ``may_leave``: nothing of it has been opened, so it can
    be taken out again; ``expected_out`` is what should come out of it."""

    key: str
    label: str
    kind: str
    variant: str
    fluid: str
    fluids: list[FluidChoice]
    capacity: str
    drained: str
    added: str
    expected_out: str
    prefill: str
    stopped: str
    coach: CoachShape | None
    torque: TorqueShape | None
    gauge: GaugeShape | None
    verdict: VerdictShape | None
    standing: list[StandingShape]
    not_learned: str
    may_leave: bool


@dataclass(frozen=True)
class StopShape:
    """Something that should not have happened, until somebody says what was found of it; ``hold``: a
    finding says so, and only a lead lifts it."""

    entry: str
    step: str
    text: str
    hold: bool


@dataclass(frozen=True)
class WaitsShape:
    """What a visit waits for, in words, since when, and who said so."""

    step: str
    words: str
    since: str
    by: str


@dataclass(frozen=True)
class PoseShape:
    """A way to stand, in words as well, whether it can be strapped down so (``straps``), and what to be
    careful of when it is not."""

    pose: Pose
    words: str
    straps: bool
    caution: str


@dataclass(frozen=True)
class StanceShape:
    """How the bike stands, in words as well, since when, and who said so; ``caution`` as long as it
    is not strapped down."""

    pose: Pose
    strapped: bool
    caution: str
    words: str
    by: str
    since: str


@dataclass(frozen=True)
class HandsShape:
    """A second pair of hands that is called for, or lent; ``what`` they do, if the step says it."""

    step: str
    title: str
    what: str
    by: str
    since: str
    lent_by: str


@dataclass(frozen=True)
class OpenPointShape:
    """Something that must not be forgotten; ``touch``: whoever takes over puts a hand on it."""

    text: str
    touch: bool


@dataclass(frozen=True)
class Offer:
    """A reservoir a visit can consist of: which capacities it has, the proposed one first, and which
    fluids fit, the best first."""

    key: str
    label: str
    variants: list[str]
    fluids: list[FluidChoice]


@dataclass(frozen=True)
class RunSheet:
    """A visit as it stands. ``now`` is the server's clock, for the timers; ``corrected`` is what the
    odometer really showed, where a closed visit was signed on another reading; ``open_points`` what is
    open on the bike (none: it can be left so), ``in_hands_of`` who wrote something down last,
    ``asides`` the kinds of entries that are no work at their step, ``handed_back`` why the bike goes
    back to its owner, not to be ridden."""

    id: str
    state: VisitState
    bike: BikeName
    title: str
    sheet_version: int
    odometer: str
    now: str
    seconds_per_minute: float
    tasks: list[TaskShape]
    steps: list[StepShape]
    focus: str | None
    stops: list[StopShape]
    ready_to_sign: bool
    may_leave: bool
    words: FindingWords
    closed_by: str
    set_aside: list[EntryShape]
    layout: str
    plugs: list[MapPlug]
    corrected: str
    waits: WaitsShape | None
    open_points: list[OpenPointShape]
    in_hands_of: str
    waits_for: list[WaitsFor]
    stance: StanceShape | None
    hands: HandsShape | None
    poses: list[PoseShape]
    asides: list[Aside]
    wants: str
    ride_in: str
    ride_out: str
    handed_back: str


@dataclass(frozen=True)
class NewTask:
    """A reservoir to service: a key of the spec sheet, which capacity, which fluid (empty: the best
    that fits)."""

    reservoir: str = upto(40)
    variant: str = upto(12, blank=True, default="")
    fluid: str = upto(80, blank=True, default="")


@dataclass(frozen=True)
class NewVisit:
    """A visit to open: ``id`` is the client's, ``cold`` the cold jobs in it, ``order`` its jobs as
    they were planned, ``sure`` the answers to earlier questions about the odometer, ``wants`` what it is
    for in the owner's words, ``ride_in`` how the bike felt on the way in."""

    id: str
    bike: str
    tasks: list[NewTask]
    odometer: str = upto(200, blank=True)
    hours: str = upto(100, blank=True, default="")
    cold: list[str] = field(default_factory=list)
    order: list[str] = field(default_factory=list)
    sure: list[str] = field(default_factory=list)
    wants: str = upto(500, blank=True, default="")
    ride_in: str = upto(500, blank=True, default="")


@dataclass(frozen=True)
class AddedTask:
    """A reservoir to add to an open visit. ``entry``: its plug was opened by mistake, and this is the
    client's id for saying so."""

    reservoir: str = upto(40)
    variant: str = upto(12, blank=True, default="")
    fluid: str = upto(80, blank=True, default="")
    entry: str = upto(40, blank=True, default="")


@dataclass(frozen=True)
class NewEntry:
    """An entry to write down: ``id`` is the client's, ``data`` as typed. ``at`` is when it happened
    and ``sent_at`` when it was sent, both by the tablet's own clock. ``accepts`` is what was asked
    about it before and answered yes: that it goes against a need, or what it reopens. ``remembered``:
    it was done before it was written down."""

    id: str
    step: str = upto(60)
    kind: str = upto(12)
    at: str = upto(40)
    sent_at: str = upto(40, blank=True, default="")
    data: dict[str, Any] = field(default_factory=dict)
    supersedes: str | None = None
    accepts: str = upto(1000, blank=True, default="")
    remembered: bool = False


@dataclass(frozen=True)
class Signature:
    """A lead's name and password, where one signs beside whoever is signed in; how the bike felt on the
    ride out."""

    username: str = upto(150, blank=True, default="")
    password: str = upto(1000, blank=True, default="")
    ride_out: str = upto(500, blank=True, default="")


@dataclass(frozen=True)
class Reason:
    reason: str = upto(500, blank=True)

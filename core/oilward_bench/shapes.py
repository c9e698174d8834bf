"""What the bench answers: plain words and numbers, as they go over the wire."""

from dataclasses import dataclass
from typing import Literal

from oilward_core.bench import EntryKind, Status
from oilward_core.codes.debris import Warmth
from oilward_core.codes.options import Stage
from oilward_core.codes.suspension import LegPart
from oilward_core.debris import Form, LevelWord, Matter, OilLook, Place
from oilward_core.fill import Action
from oilward_core.runsheet import Ask, Pose

FitWord = Literal["fits", "fits by school", "caution", "refused"]
VisitState = Literal["open", "signed", "left"]


@dataclass(frozen=True)
class Why:
    """One step of an answer's why."""

    rule: str
    text: str
    source: str


@dataclass(frozen=True, kw_only=True)
class PlugPart:
    """One kind of debris, for drawing on the plug tip."""

    form: Form
    matter: Matter
    share: float
    largest_mm: float | None
    pile_mm: float | None


@dataclass(frozen=True)
class OptionShape:
    """Something to choose or to tick: its code, which is sent, and what it is called."""

    code: str
    words: str


@dataclass(frozen=True, kw_only=True)
class OwnShape:
    """A bike's own value that no second person has compared: as it is ``written``, where it stands, and
    who wrote it down."""

    written: str
    source: str
    by: str


@dataclass(frozen=True)
class BikeName:
    """Whose visit it is."""

    id: str
    name: str
    model: str


@dataclass(frozen=True, kw_only=True)
class EntryShape:
    """Something that was recorded, its ``result`` in short; ``remembered``: later than it happened."""

    id: str
    kind: EntryKind
    by: str
    at: str
    result: str
    remembered: bool


@dataclass(frozen=True)
class SpotShape:
    """A place on the bike map, shares of its width and height."""

    x: float
    y: float


@dataclass(frozen=True, kw_only=True)
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
    """A value taken as found and as left, or ``once``, the kind of quantity it is, and how one might be
    typed."""

    name: str
    kind: str
    like: str
    once: bool


@dataclass(frozen=True, kw_only=True)
class TipShape:
    """What somebody wrote down for whoever does this step next."""

    text: str
    tools: str
    by: str
    at: str


@dataclass(frozen=True, kw_only=True)
class StepShape:
    """A step as the bench shows it. ``whose``: what its ``reservoir`` is called, empty for the whole
    bike's; ``place`` is where the plug is in words, ``spot`` on the map; ``unchecked`` warns of
    values nobody has checked; ``path`` is what a look-up asks for, ``own`` the
    bike's own value for it that nobody has compared; ``draws``: oil is taken out, not
    poured in; ``turn`` is the angle that follows the wrench; ``unmet`` says what a blocked step
    waits for; ``not_before`` when what it waits for is over; ``reopened``: it was done, and
    something undid it; ``taken_by`` who has it in hand, if somebody said so, and as which person;
    ``tip`` what helped the last one at ``tip_at``; ``hands`` what a second person does, if one is
    needed; ``tilts``: the bike may be tilted here; ``stood``: how its level can have stood as it
    came; ``drained``: what came out is measured here; ``regrade``: a second reading of it may count
    instead; ``entries`` all that was poured, drawn and read at a filling; ``card``: how
    its fastener is tightened by wrench; ``no_magnet``: there is none to be read; ``tears``: its ring can
    tear as it goes in; ``at_once``: all of its items may be said in one word; ``found_in``: where bits
    can be found, the usual place first; ``second``: a second person says it."""

    id: str
    reservoir: str
    whose: str
    kind: Ask
    title: str
    instruction: str
    caution: str
    place: str
    minutes: float | None
    items: list[OptionShape]
    options: list[OptionShape]
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
    own: OwnShape | None
    draws: bool
    turn: str
    measured: list[MeasuredShape]
    unmet: list[str]
    not_before: str | None
    reopened: bool
    opens_again: str
    taken_by: str
    taken_by_who: str
    tip: TipShape | None
    tip_at: str
    hands: str
    tilts: bool
    stood: list[OptionShape]
    drained: bool
    regrade: bool
    entries: list[EntryShape]
    card: "TorqueShape | None"
    no_magnet: bool
    tears: bool
    at_once: bool
    found_in: list[Place]
    second: bool


@dataclass(frozen=True, kw_only=True)
class CoachShape:
    """What the coach says: ``amount`` is ready for the input field, ``bottles`` is the same in
    bottles, for drawing them; ``taps`` what may go in at one tap, each with the amount it stands for;
    ``enough``: an engine may run on what is in; ``leaves`` the reasons it may be left where it stands
    for, where it may."""

    action: Action
    words: str
    belief: str
    amount: str
    bottles: float
    causes: list[OptionShape]
    reasons: list[Why]
    taps: list[OptionShape]
    enough: bool
    leaves: list[OptionShape]


@dataclass(frozen=True, kw_only=True)
class WrenchShape:
    """A wrench that fits, with the mark to set, and for a first pass round a ring (``half``); what is
    to be known of its calibration. Scale numbers are in its own unit."""

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
    half: str
    calibration: str


@dataclass(frozen=True, kw_only=True)
class RingShape:
    """Screws on a ring: how many, in what ``order``, and which pass comes next; empty once both are
    done."""

    count: int
    order: list[int]
    next: Stage | None


@dataclass(frozen=True, kw_only=True)
class TorqueShape:
    """The wrench card: the aim in the manual's words, and the wrenches that fit, best first; what was
    ``ticked`` at it so far; ``pulled``: what was pulled is right; ``second``: somebody else has to
    look."""

    manual: str
    aim: str
    reading: str
    verdict: str
    action: str
    wrenches: list[WrenchShape]
    reasons: list[Why]
    ring: RingShape | None
    ticked: list[str]
    pulled: bool
    second: bool


@dataclass(frozen=True, kw_only=True)
class MarksShape:
    """A pair of marks for one attitude: ``between`` them in words, ``target`` as a share of them."""

    attitude: str
    between: str
    target: float


@dataclass(frozen=True, kw_only=True)
class GaugeShape:
    """What a level is read on, with its marks, each for an ``attitude``: the usual one first;
    ``how`` the bike stands for it, in words; ``warm``: its marks are for warm oil;
    ``edge``: it has no marks, oil runs out of it."""

    name: str
    marks: list[MarksShape]
    how: str
    warm: bool = False
    edge: bool = False


@dataclass(frozen=True, kw_only=True)
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
    no_magnet: bool


@dataclass(frozen=True, kw_only=True)
class FindingWords:
    """What a plug and its oil can show, in the order it is offered, and how warm oil can be."""

    forms: list[Form]
    matters: list[Matter]
    looks: list[OilLook]
    smells: list[OilLook]
    warmths: list[Warmth]


@dataclass(frozen=True, kw_only=True)
class StandingShape:
    """How one part stands, since when (``at``) and by whom; ``leg``: what of
    a fork leg it is."""

    part: str
    word: str
    open: bool
    by: str
    at: str
    leg: LegPart | None


@dataclass(frozen=True, kw_only=True)
class FluidChoice:
    """A fluid, with what stands of it on the shelf in words, how well it fits and ``why`` not better."""

    name: str
    stock: str
    fit: FitWord = "fits"
    why: str = ""


@dataclass(frozen=True, kw_only=True)
class TaskShape:
    """One reservoir of a visit as it stands. ``may_leave``: nothing of it has been opened, so it can
    be taken out again; ``went_in``: the oil that did, by its name; ``oil_label``: what stands on the
    bottle of an oil that is none of the shelf's; ``expected_out`` is what should come out of it;
    ``old_oil``: how much of the old stays, and ``flush``: that it is too much of it, where the oil was
    spoilt."""

    key: str
    label: str
    kind: str
    variant: str
    fluid: str
    went_in: str
    oil_label: str
    batch: str
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
    old_oil: str
    flush: str


@dataclass(frozen=True, kw_only=True)
class StopShape:
    """Something that should not have happened, until somebody says what was found of it; ``hold``: only a
    lead lifts it; ``lasts``: nobody does, until its cause is put right."""

    entry: str
    step: str
    text: str
    hold: bool
    lasts: bool


@dataclass(frozen=True, kw_only=True)
class AnsweredShape:
    """A stop that stands no longer: what it was, what was said of it, by whom and when."""

    step: str
    text: str
    reason: str
    by: str
    at: str


@dataclass(frozen=True, kw_only=True)
class WaitsShape:
    """What a visit waits for, in words, since when, and who said so."""

    step: str
    words: str
    since: str
    by: str


@dataclass(frozen=True, kw_only=True)
class PoseShape:
    """A way to stand, in words as well, whether it can be strapped down so (``straps``), and what to be
    careful of when it is not."""

    pose: Pose
    words: str
    straps: bool
    caution: str


@dataclass(frozen=True, kw_only=True)
class StanceShape:
    """How the bike stands, in words as well, since when, and who said so; ``caution`` as long as it
    is not strapped down."""

    pose: Pose
    strapped: bool
    caution: str
    words: str
    by: str
    since: str


@dataclass(frozen=True, kw_only=True)
class HandsShape:
    """A second pair of hands that is called for, or lent; ``what`` they do, if the step says it."""

    step: str
    title: str
    what: str
    by: str
    who: str
    since: str
    lent_by: str
    lent_by_who: str


@dataclass(frozen=True)
class OpenPointShape:
    """Something that must not be forgotten, by its code and in words; ``touch``: whoever takes over
    puts a hand on it."""

    code: str
    text: str
    touch: bool


@dataclass(frozen=True, kw_only=True)
class RunSheet:
    """A visit as it stands. ``now`` is the server's clock, for the timers; ``corrected`` is what the
    odometer really showed, where a closed visit was signed on another reading; ``open_points`` what is
    open on the bike (none: it can be left so), ``in_hands_of`` who wrote something down last,
    ``opened`` how many fasteners were, and how many of those are ``closed`` again;
    ``asides`` the kinds of entries that are no work at their step, ``handed_back`` why the bike goes
    back to its owner, not to be ridden, ``away`` what of it is with a specialist."""

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
    answered: list[AnsweredShape]
    ready_to_sign: bool
    opened: int
    closed: int
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
    in_hands_of_who: str
    waits_for: list[OptionShape]
    stance: StanceShape | None
    hands: HandsShape | None
    poses: list[PoseShape]
    asides: list[EntryKind]
    wants: str
    ride_in: str
    ride_out: str
    handed_back: str
    away: list[str]

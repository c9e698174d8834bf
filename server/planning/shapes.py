"""What the ward and the bike page say."""

from dataclasses import dataclass
from typing import Literal

from findings.mapping import Plug
from garage.shapes import PhotoLine
from oilward_bench import Why
from oilward_bench.shapes import MapPlug
from oilward_core.codes.options import Did
from oilward_core.debris import LevelWord
from oilward_core.due import DueState


@dataclass(frozen=True, kw_only=True)
class Glass:
    """One reservoir as a sight glass. ``column`` is its fixed place in the row; ``level`` is the
    share of life left (0–1) and ``age`` how old the oil is (0 fresh, 1 spent); ``forecast`` says
    when it is expected, ``notch`` where the level will stand in a month."""

    key: str
    kind: str
    label: str
    column: str
    state: DueState
    level: float
    age: float
    when: str
    forecast: str
    notch: float | None
    reasons: list[Why]
    plug: Plug | None


@dataclass(frozen=True, kw_only=True)
class OpenVisit:
    id: str
    reservoir: str
    step: str
    ends_at: str | None
    since: str | None


@dataclass(frozen=True)
class NextPlanned:
    """The soonest planned visit of a bike; ``late`` if its day has gone by."""

    id: str
    day: str
    late: bool


@dataclass(frozen=True, kw_only=True)
class Ask:
    """What the newest finding of a reservoir asks for, from *watch* on; ``look``: no plug was read."""

    reservoir: str
    label: str
    level: LevelWord
    action: str
    look: bool = False


@dataclass(frozen=True, kw_only=True)
class WardAway:
    """A part of a bike that is with a specialist, in words, until when; or back and not fitted."""

    reservoir: str
    text: str
    overdue: bool


@dataclass(frozen=True, kw_only=True)
class WardBike:
    id: str
    name: str
    model: str
    odometer: str
    owner: str
    use_class: str
    hold: str
    glasses: list[Glass]
    asks: list[Ask]
    visit: OpenVisit | None
    planned: NextPlanned | None
    away: list[WardAway]


@dataclass(frozen=True)
class MonthLoad:
    """How many reservoirs are expected to be due in a month; the first one holds what is over."""

    month: str
    label: str
    count: int


@dataclass(frozen=True)
class Choice:
    """Something to filter by, and how many bikes or reservoirs there are of it."""

    name: str
    count: int


@dataclass(frozen=True)
class Rolling:
    """When what is due was last brought forward (empty: never yet), whether that is too long ago, and
    how many bikes are still to be worked out anew."""

    ran_at: str
    late: bool
    behind: int


@dataclass(frozen=True)
class Health(Rolling):
    """And how many jobs were tried three times and set aside."""

    set_aside: int


StepOfFirst = Literal["place", "people", "shelf", "model", "bike"]


@dataclass(frozen=True)
class FirstStep:
    """A thing to do before the first bike can be serviced, and whether it is done."""

    step: StepOfFirst
    done: bool


@dataclass(frozen=True, kw_only=True)
class Ward:
    """A page of bikes by urgency, those in the shop first. ``fleet`` and ``due`` count all bikes,
    ``count`` those that fit the filters; ``first_steps`` stand there until there is a bike."""

    count: int
    page: int
    pages: int
    fleet: int
    due: int
    now: str
    rolling: Rolling
    columns: list[str]
    bikes: list[WardBike]
    months: list[MonthLoad]
    uses: list[Choice]
    fluids: list[Choice]
    first_steps: list[FirstStep]


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """What of the ward is wanted. ``group`` is empty or ``use``."""

    page: int = 1
    search: str = ""
    within: int = 0
    shop: bool = False
    hold: bool = False
    use: str = ""
    fluid: str = ""
    group: str = ""


@dataclass(frozen=True, kw_only=True)
class SpecLine:
    """A value of the spec sheet: the manual's words, converted, and where it stands. ``short`` is its
    name within its group, ``number``
    wants a second check; ``own``: it differs on this bike from its model, with that value's
    ``revision``; ``waits`` is the bike's own value that waits for a second person, by whom."""

    path: str
    name: str
    short: str
    as_written: str
    converted: str
    source: str
    entered_by: str
    checked_by: str
    number: bool
    own: bool
    revision: int
    waits: str
    waits_by: str


@dataclass(frozen=True)
class SpecGroup:
    """Values that belong together: *Capacity*, *Level*, one plug; ``note`` says them in a sentence."""

    title: str
    note: str
    lines: list[SpecLine]


@dataclass(frozen=True, kw_only=True)
class ServiceLine:
    """What a reservoir got; ``did`` says what that was. ``by_word``: the owner says so, nobody has a
    record."""

    done_on: str
    odometer: str
    did: Did
    variant: str
    drained: str
    took: str
    fluid: str
    done_by: str
    visit: str
    not_learned: str
    by_word: bool
    proof: str
    found: str


@dataclass(frozen=True, kw_only=True)
class TopUpLine:
    """What was added to a reservoir between two services."""

    done_on: str
    odometer: str
    amount: str
    fluid: str
    done_by: str


@dataclass(frozen=True, kw_only=True)
class ReservoirPage:
    """A reservoir on the bike page; ``goes_out``: what of it only a specialist opens, empty: nothing;
    ``sags``: it is a spring a bike sinks on, and its sheet says how far it travels;
    ``gaps``: its sheet says enough of a leg to hold another air gap beside its own."""

    glass: Glass
    fluid: str
    rule: str
    spec: list[SpecGroup]
    services: list[ServiceLine]
    findings: list[Plug]
    variants: list[str]
    looked_at: bool
    serviceable: bool
    not_serviceable: str
    expected_take: str
    doubts: list[str]
    missing: list[str]
    serves: str
    caution: str
    reset: str
    goes_out: str
    sags: bool
    gaps: bool
    top_ups: list[TopUpLine]


@dataclass(frozen=True, kw_only=True)
class BikePage:
    id: str
    name: str
    model: str
    layout: str
    displacement: str
    plate: str
    frame_number: str
    year_built: int | None
    engine: str
    owner: str
    use_class: str
    odometer: str
    odometer_unit: str
    odometer_on: str
    records: str
    notes: str
    archived: bool
    counts_hours: bool
    model_id: int
    sheet_id: int
    sheet_version: int
    sheet_approved_by: str
    visit: OpenVisit | None
    planned: NextPlanned | None
    asks: list[Ask]
    reservoirs: list[ReservoirPage]
    plugs: list[MapPlug]
    photos: list[PhotoLine]

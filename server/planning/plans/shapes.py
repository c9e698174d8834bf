"""What the plan of a visit says and takes."""

from dataclasses import dataclass, field

from oilward_bench import Why
from shelf.stock.shapes import Bottles
from workshop.shapes import upto

from planning.shapes import Ask, OpenVisit


@dataclass(frozen=True)
class TaskChoice:
    reservoir: str
    variant: str


@dataclass(frozen=True)
class WishChoice:
    """One job before another."""

    first: str
    then: str


@dataclass(frozen=True, kw_only=True)
class PlanAsked:
    """What to plan. ``proposed``: take what the planner proposes instead of ``tasks``;
    ``planned`` is the visit in the calendar this is the plan of, if it stands there; ``on`` the day
    it is for, else the day something is due; ``hands`` the people named for it: no fewer technicians."""

    proposed: bool = True
    tasks: list[TaskChoice] = field(default_factory=list)
    cold: list[str] = field(default_factory=list)
    wishes: list[WishChoice] = field(default_factory=list)
    technicians: int = 1
    hands: list[str] = field(default_factory=list)
    pans: int = 2
    planned: str | None = None
    on: str | None = None


@dataclass(frozen=True, kw_only=True)
class TaskLine:
    """A reservoir that can be done: whether it is in the plan, and what the planner thinks.
    ``along`` is renewed with it, ``done`` the signed visit that has done it already,
    ``not_serviceable`` why the bench does not lead through it."""

    reservoir: str
    label: str
    variants: list[str]
    variant: str
    chosen: bool
    proposed: bool
    when: str
    reason: Why
    along: list[str]
    done: str
    not_serviceable: str


@dataclass(frozen=True, kw_only=True)
class ColdLine:
    key: str
    label: str
    minutes: int
    chosen: bool


@dataclass(frozen=True, kw_only=True)
class JobShape:
    """A job in its place, minutes from the start; ``free`` is when its wait is over, ``cautions``
    what to be careful of at it."""

    id: str
    label: str
    group: str
    attitude: str
    start: int
    end: int
    free: int
    technician: int
    cautions: list[str]


@dataclass(frozen=True, kw_only=True)
class OrderShape:
    jobs: list[JobShape]
    minutes: int
    in_turn: int
    hands_on: int
    proven: bool
    gap: str
    learned: list[str]


@dataclass(frozen=True, kw_only=True)
class FluidLine:
    """How much of which fluid, in bottle words; ``kept`` says what others keep of it."""

    fluid: str
    need: str
    what_for: str
    words: str
    buy: str
    cost: str
    kept: str


@dataclass(frozen=True)
class PartLine:
    """A seal or a filter, how many, and what the drawer has of it."""

    name: str
    count: int
    words: str


@dataclass(frozen=True)
class TorqueLine:
    """A fastener with the wrench to take and its setting."""

    what: str
    manual: str
    setting: str


@dataclass(frozen=True, kw_only=True)
class KitShape:
    """What to lay out; ``to_buy`` is what of it is not here."""

    fluids: list[FluidLine]
    parts: list[PartLine]
    tools: list[str]
    torques: list[TorqueLine]
    consumables: list[str]
    to_buy: list[str]
    parts_cost: str
    buying: str
    labour: str
    total: str
    flat: str
    simulated: bool


@dataclass(frozen=True)
class LoadShape:
    visits: int
    hours: float
    litres: float


@dataclass(frozen=True)
class PlannedPart:
    """A reservoir of a planned visit, and the signed visit that has done it."""

    label: str
    done: str


@dataclass(frozen=True, kw_only=True)
class PlannedLine:
    """A planned visit. ``day`` is ``on`` as the calendar says it; ``missing`` is what shelf and
    drawer lack for it once the visits before it are served; ``hands`` the names of those who do it."""

    id: str
    bike: str
    bike_id: str
    on: str
    day: str
    late: bool
    parts: list[PlannedPart]
    minutes: int
    hands: str
    planned_by: str
    version: int
    missing: list[str]


@dataclass(frozen=True)
class Hand:
    """Somebody who works here."""

    id: str
    name: str


@dataclass(frozen=True, kw_only=True)
class PlanPage:
    """The plan of a visit on ``day``: what, in what order, with what, and what to be careful of.
    ``people`` could do it, ``hands`` those who are named for it. ``refused`` is why ``order`` is without
    some of the wishes, or why there is none. ``visit`` is the open one of this bike, ``planned`` what
    else stands in the calendar for it, ``asks`` what findings ask for until they are answered."""

    bike: str
    bike_id: str
    day: str
    tasks: list[TaskLine]
    cold: list[ColdLine]
    technicians: int
    people: list[Hand]
    hands: list[str]
    pans: int
    order: OrderShape | None
    refused: str
    kit: KitShape
    cautions: list[str]
    together: LoadShape
    alone: LoadShape
    visit: OpenVisit | None
    planned: list[PlannedLine]
    asks: list[Ask]


@dataclass(frozen=True, kw_only=True)
class NewPlannedVisit:
    """A visit to put into the calendar. ``id`` is the client's; ``version`` 0 for a new one."""

    id: str
    bike: str
    on: str = upto(40, blank=True)
    asked: PlanAsked
    version: int = 0


@dataclass(frozen=True)
class Booked:
    """A visit that stands in the calendar, with what was asked for."""

    line: PlannedLine
    state: str
    asked: PlanAsked


@dataclass(frozen=True, kw_only=True)
class WeekDay:
    """A day of a week, as its column is headed."""

    on: str
    label: str
    today: bool


@dataclass(frozen=True, kw_only=True)
class LaneDay:
    """The visits of somebody's day, by their ids, and the minutes they come to; ``full``: more than goes
    into a day."""

    visits: list[str]
    minutes: int
    full: bool


@dataclass(frozen=True, kw_only=True)
class WeekLane:
    """Somebody's week; nobody's, where hands lack, is of no ``person`` and has no name."""

    person: str
    name: str
    minutes: int
    days: list[LaneDay]


@dataclass(frozen=True, kw_only=True)
class Week:
    """A week of planned visits, one after the other, and by people and hours."""

    label: str
    minutes: int
    visits: list[PlannedLine]
    days: list[WeekDay]
    lanes: list[WeekLane]


@dataclass(frozen=True, kw_only=True)
class Shopping:
    """What all planned visits together are short of, and when the (simulated) counter has it:
    ``bottles`` of a fluid, or ``count`` of a part; neither of what no fluid here fits."""

    what: str
    amount: str
    bottles: list[Bottles]
    count: int
    for_bikes: str
    available: str


@dataclass(frozen=True, kw_only=True)
class Calendar:
    """The visits to come, what to buy for them, and where other calendars find them."""

    count: int
    weeks: list[Week]
    shopping: list[Shopping]
    feed: str

"""What the plan of a visit says and takes."""

from dataclasses import dataclass, field

from workshop.shapes import Why


@dataclass(frozen=True)
class TaskChoice:
    reservoir: str
    variant: str


@dataclass(frozen=True)
class WishChoice:
    """One job before another."""

    first: str
    then: str


@dataclass(frozen=True)
class PlanAsked:
    """What to plan. ``proposed``: take what the planner proposes instead of ``tasks``."""

    proposed: bool = True
    tasks: list[TaskChoice] = field(default_factory=list)
    cold: list[str] = field(default_factory=list)
    wishes: list[WishChoice] = field(default_factory=list)
    technicians: int = 1
    pans: int = 2


@dataclass(frozen=True)
class TaskLine:
    """A reservoir that can be done: whether it is in the plan, and what the planner thinks."""

    reservoir: str
    label: str
    variants: list[str]
    variant: str
    chosen: bool
    proposed: bool
    when: str
    reason: Why


@dataclass(frozen=True)
class ColdLine:
    key: str
    label: str
    minutes: int
    chosen: bool


@dataclass(frozen=True)
class JobShape:
    """A job in its place, minutes from the start; ``free`` is when its wait is over."""

    id: str
    label: str
    group: str
    attitude: str
    start: int
    end: int
    free: int
    technician: int


@dataclass(frozen=True)
class OrderShape:
    jobs: list[JobShape]
    minutes: int
    in_turn: int
    hands_on: int
    proven: bool
    gap: str
    learned: list[str]


@dataclass(frozen=True)
class FluidLine:
    """How much of which fluid, in bottle words."""

    fluid: str
    need: str
    what_for: str
    words: str
    buy: str
    cost: str


@dataclass(frozen=True)
class SealLine:
    name: str
    count: int
    in_drawer: int


@dataclass(frozen=True)
class TorqueLine:
    """A fastener with the wrench to take and its setting."""

    what: str
    manual: str
    setting: str


@dataclass(frozen=True)
class KitShape:
    fluids: list[FluidLine]
    seals: list[SealLine]
    tools: list[str]
    torques: list[TorqueLine]
    consumables: list[str]
    parts_cost: str
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
class PlanPage:
    """The plan of a visit: what, in what order, with what, and what to be careful of."""

    bike: str
    bike_id: str
    tasks: list[TaskLine]
    cold: list[ColdLine]
    technicians: int
    pans: int
    order: OrderShape | None
    refused: str
    kit: KitShape
    cautions: list[str]
    together: LoadShape
    alone: LoadShape


@dataclass(frozen=True)
class NewPlannedVisit:
    """A visit to put into the calendar. ``id`` is the client's; ``version`` 0 for a new one."""

    id: str
    bike: str
    on: str
    asked: PlanAsked
    version: int = 0


@dataclass(frozen=True)
class PlannedLine:
    id: str
    bike: str
    bike_id: str
    on: str
    what: str
    minutes: int
    planned_by: str
    version: int


@dataclass(frozen=True)
class Shopping:
    """What all planned visits together are short of, and when the (simulated) counter has it."""

    what: str
    amount: str
    for_bikes: str
    available: str


@dataclass(frozen=True)
class Calendar:
    """The visits to come, what to buy for them, and where other calendars find them."""

    visits: list[PlannedLine]
    shopping: list[Shopping]
    feed: str

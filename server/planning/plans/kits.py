"""What visits take from shelf and drawer: one visit's kit, and what all of them have to buy."""

from collections import Counter
from collections.abc import Hashable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from uuid import UUID

from oilward_core.kit import (
    Served,
    Size,
    Stock,
    Things,
    Wanted,
    demands,
    kept,
    nothing_fits,
    price,
    serve,
    serve_in_turn,
    things,
    together,
)
from oilward_core.quantity import show
from oilward_core.runsheet import PlannedTask, StepId
from oilward_core.said import kit as said
from oilward_core.schools import Schools
from oilward_core.spec import ReservoirSpec
from shelf.devices import SimulatedCounter
from shelf.mapping import wrenches
from shelf.models import Fluid
from shelf.selectors import best_fluid, on_shelf
from shelf.stock.selectors import bottles, drawer
from visits.selectors import known_of_model, tips_of
from workshop.mapping import speaker
from workshop.models import Person, Workshop

from planning.models import PlannedVisit

from . import mapping
from .ground import Ground
from .shapes import KitShape, Shopping

COUNTER = SimulatedCounter()


@dataclass(frozen=True)
class Shelf:
    """The shelf as kits are picked from it: its fluids, and what stands there of them."""

    fluids: Mapping[str, Fluid]
    stock: Stock
    chosen: dict[Hashable, Fluid | None] = field(default_factory=dict)

    def best(self, spec: ReservoirSpec, schools: Schools) -> Fluid | None:
        """The fluid that fits a reservoir best; the same question is worked out once."""
        asked = (spec.requirement, spec.kind, schools)
        if asked not in self.chosen:
            rows = list(self.fluids.values())
            self.chosen[asked] = best_fluid(spec.requirement, spec.kind, schools, rows)
        return self.chosen[asked]

    def sold(self, fluid: str) -> Sequence[Size]:
        """In what sizes the counter sells a fluid."""
        return COUNTER.sizes(fluid, self.fluids[fluid].bottle_ml)


def shelf() -> Shelf:
    fluids = {row.name: row for row in on_shelf()}
    names = {row.pk: row.name for row in fluids.values()}
    return Shelf(fluids, Stock(mapping.bottles(bottles(), names), drawer()))


def _laid(ground: Ground, tasks: Sequence[PlannedTask]) -> Things:
    model = ground.bike.model
    return things(tasks, ground.schools, f"{model.make} {model.name}")


def wanted(ground: Ground, tasks: Sequence[PlannedTask], stands: Shelf) -> Wanted:
    """What these tasks take, each from the fluid that fits its reservoir best."""
    takes = []
    for task in tasks:
        spec = task.spec
        fluid = stands.best(spec, ground.schools)
        model = known_of_model(ground.bike, spec, task.variant, ground.filled)
        services = ground.services.get(spec.key, ())
        take = mapping.expected_take(spec, task.variant, services, model)
        takes.append((spec, fluid.name if fluid else "", take))
    parts = dict(_laid(ground, tasks).parts)
    return Wanted(demands(takes), parts, nothing_fits(takes))


def wanted_by(
    visits: Sequence[PlannedVisit], grounds: Mapping[UUID, Ground], stands: Shelf
) -> list[Wanted]:
    """What each planned visit still takes; nothing where the bike has lost its sheet."""
    found = []
    for visit in visits:
        ground = grounds.get(visit.bike_id)
        tasks = mapping.tasks_left(visit, ground.spec, ground.services) if ground else []
        found.append(wanted(ground, tasks, stands) if ground else Wanted((), {}))
    return found


def missing(served: Served) -> list[str]:
    """What has to be bought for a visit, in a few words each."""
    oil = [
        f"{mapping.sizes_words(found)} {demand.fluid}"
        for demand, found in served.picks
        if found.buy
    ]
    return [*oil, *(f"{count} × {name}" for name, count in served.missing_parts.items())]


def _tools(laid: Things, ground: Ground, tasks: Sequence[PlannedTask]) -> list[str]:
    """The tools the sheet names, and those that whoever did it before wished for."""
    keys = {"", *(task.spec.key for task in tasks)}
    wished = [
        tool
        for step, tip in sorted(tips_of(ground.bike.model_id).items())
        if StepId.of(step).reservoir in keys
        for tool in tip.tools.split(", ")
        if tool
    ]
    return list(dict.fromkeys([*laid.tools, *wished]))


def in_turn(stands: Shelf, visits: Sequence[Wanted], today: date) -> tuple[Served, ...]:
    return serve_in_turn(stands.stock, visits, stands.sold, today)


def kit(
    ground: Ground,
    tasks: Sequence[PlannedTask],
    minutes: int,
    earlier: Sequence[Wanted],
    stands: Shelf,
    person: Person,
    today: date,
) -> KitShape:
    """The kit of one visit, from what ``earlier`` visits leave on the shelf."""
    before = in_turn(stands, earlier, today)
    stock = before[-1].left if before else stands.stock
    wants = wanted(ground, tasks, stands)
    served = serve(stock, wants, stands.sold, today)
    laid, workshop = _laid(ground, tasks), Workshop.objects.first()
    hour = workshop.hour_price if workshop else Decimal(0)
    currency = workshop.currency if workshop else ""
    cost = price(served, laid, stands.sold, COUNTER.price, minutes, hour)
    return KitShape(
        fluids=[
            mapping.fluid_line(
                demand,
                found,
                kept(stands.stock, stock, demand.fluid),
                speaker(person),
                currency,
            )
            for demand, found in served.picks
        ]
        + [mapping.nothing_fits_line(demand, speaker(person)) for demand in wants.nothing_fits],
        parts=[
            mapping.part_line(name, count, stock.parts.get(name, 0), served.missing_parts)
            for name, count in laid.parts
        ],
        tools=_tools(laid, ground, tasks),
        torques=mapping.torque_lines(laid, tasks, wrenches(), ground.schools),
        consumables=list(laid.consumables),
        to_buy=[
            *missing(served),
            *(mapping.nothing_fits_words(one, speaker(person)) for one in wants.nothing_fits),
        ],
        parts_cost=mapping.money(cost.parts, currency),
        buying=mapping.money(cost.buying, currency),
        labour=mapping.money(cost.labour, currency),
        total=mapping.money(cost.total, currency),
        flat=mapping.money(workshop.flat_price, currency) if workshop else "",
        simulated=True,
    )


def from_elsewhere(wants: Wanted) -> list[str]:
    """What no fluid here fits, as a planned visit says that it lacks it."""
    return [said.to_buy(show(one.ml, "ml"), one.fluid) for one in wants.nothing_fits]


def _named(one: Wanted) -> Iterator[str]:
    yield from one.parts
    yield from (demand.fluid for demand in one.demands)
    yield from (demand.fluid or said.NOT_SAID for demand in one.nothing_fits)


def shopping(
    visits: Sequence[PlannedVisit], wants: Sequence[Wanted], stands: Shelf, today: date
) -> list[Shopping]:
    """What the planned visits together need and the shelf does not have."""
    bikes: dict[str, dict[str, None]] = {}
    parts: Counter[str] = Counter()
    for visit, one in zip(visits, wants, strict=True):
        parts.update(one.parts)
        for name in _named(one):
            bikes.setdefault(name, {})[visit.bike.name] = None
    summed = Wanted(together(demand for one in wants for demand in one.demands), parts)
    served = serve(stands.stock, summed, stands.sold, today)
    lacking = [
        (demand.fluid, mapping.sizes_words(found), mapping.sizes(found), 0)
        for demand, found in served.picks
        if found.buy
    ]
    elsewhere = together(demand for one in wants for demand in one.nothing_fits)
    lacking += [(one.fluid or said.NOT_SAID, show(one.ml, "ml"), [], 0) for one in elsewhere]
    lacking += [(name, f"{n}", [], n) for name, n in served.missing_parts.items()]
    return [
        Shopping(
            what=name,
            amount=amount,
            bottles=sizes,
            count=count,
            for_bikes=", ".join(sorted(bikes[name])),
            available=COUNTER.available(name) if sizes or count else "",
        )
        for name, amount, sizes, count in lacking
    ]

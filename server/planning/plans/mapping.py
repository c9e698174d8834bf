"""Between rows and the core for the plan of a visit."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from garage.mapping import BikeSpec
from oilward_core.bundle import Proposal, Upkeep
from oilward_core.errors import CoreError
from oilward_core.fill import FillCase, prior
from oilward_core.kit import Bottle, Picked, Things, expected_need, pick, say_picked
from oilward_core.order import ColdJob, Order, PlannedTask
from oilward_core.quantity import show
from oilward_core.schools import TORQUE, Schools
from oilward_core.sheet import Speaker
from oilward_core.spec import ReservoirKind, ReservoirSpec, Variant
from oilward_core.torque import Wrench, fitting_wrenches, setting
from shelf.devices import PartsCounter
from shelf.models import BottleRow, Fluid
from visits.mapping import valid_takes
from visits.models import Service
from workshop.mapping import whys

from planning.models import DueRow, PlannedVisit

from .shapes import (
    FluidLine,
    JobShape,
    OrderShape,
    PlanAsked,
    TaskChoice,
    TaskLine,
    TorqueLine,
    WishChoice,
)

COLD_JOBS = {
    "valves": ColdJob("valves", "Valve clearances, engine cold six hours", 45),
    "tyres": ColdJob("tyres", "Tyre pressures, cold", 6),
}
USUAL_LIFE = 365


def bottle(row: BottleRow) -> Bottle:
    return Bottle(str(row.pk), row.size_ml, row.left_ml, row.opened_on)


def expected_take(
    spec: ReservoirSpec, variant: Variant, services: Sequence[Service]
) -> Decimal | None:
    """What it is expected to take, ml: learned, else from the book; None where neither knows."""
    capacity = spec.capacities.get(variant) or next(iter(spec.capacities.values()), None)
    if capacity is None:
        return None
    belief, _ = prior(FillCase(capacity, None, None, valid_takes(services, variant)))
    return Decimal(round(belief.mean))


def upkeep(row: DueRow, spec: ReservoirSpec, today: date) -> Upkeep | None:
    """A reservoir as the planner sees it; None where nothing limits it and it is not due."""
    if row.forecast_on is None and row.state not in ("baseline", "due"):
        return None
    due = max(row.forecast_on or today, today)
    lasts = row.lasts_days or USUAL_LIFE
    take = next(iter(spec.capacities.values()), Decimal(0))
    return Upkeep(row.reservoir, row.label, spec.kind, due, lasts, float(take) / 1000)


def task_line(
    proposal: Proposal, when: str, variants: list[str], chosen: Mapping[str, str]
) -> TaskLine:
    key = proposal.upkeep.key
    return TaskLine(
        key,
        proposal.upkeep.label,
        variants,
        chosen.get(key, variants[0]),
        key in chosen,
        proposal.do,
        when,
        whys((proposal.reason,))[0],
    )


def order_shape(order: Order, learned: Mapping[str, tuple[int, int]]) -> OrderShape:
    jobs = [
        JobShape(
            one.job.id,
            one.job.label,
            one.job.group,
            one.job.attitude,
            one.start,
            one.end,
            one.free,
            one.technician,
        )
        for one in order.placed
    ]
    said = [f"{kind}: {minutes} min, from {n} visits" for kind, (minutes, n) in learned.items()]
    gap = "" if order.proven else f"at most {order.gap:.0%} longer than the best there is"
    return OrderShape(jobs, order.minutes, order.in_turn, order.hands_on, order.proven, gap, said)


@dataclass(frozen=True)
class Need:
    """How much of one fluid a visit needs, ml, and what for."""

    fluid: Fluid
    ml: Decimal
    what_for: tuple[str, ...]


def needs(
    tasks: Iterable[PlannedTask],
    fluids: Mapping[str, Fluid | None],
    services: Mapping[str, Sequence[Service]],
) -> list[Need]:
    """Fluids by what the reservoirs are expected to take, with the reserve."""
    found: dict[int, Need] = {}
    for task in tasks:
        fluid = fluids.get(task.spec.key)
        take = expected_take(task.spec, task.variant, services.get(task.spec.key, ()))
        if fluid is None or take is None or task.spec.kind in _NOT_POURED:
            continue
        ml = expected_need(take, task.spec.fill_rule)
        before = found.get(fluid.pk, Need(fluid, Decimal(0), ()))
        found[fluid.pk] = Need(fluid, before.ml + ml, (*before.what_for, task.spec.label))
    return list(found.values())


_NOT_POURED = (ReservoirKind.SHOCK, ReservoirKind.CLUTCH_CIRCUIT)


def picked(need: Need, bottles: Sequence[BottleRow], counter: PartsCounter, today: date) -> Picked:
    sizes = counter.sizes(need.fluid.name, need.fluid.bottle_ml)
    own = [bottle(row) for row in bottles if row.fluid_id == need.fluid.pk]
    return pick(need.ml, own, sizes, today)


def fluid_line(need: Need, found: Picked, speaks: Speaker) -> FluidLine:
    bought = ", ".join(f"{count} × {size.ml} ml" for size, count in found.buy)
    return FluidLine(
        need.fluid.name,
        show(need.ml, speaks.volume),
        ", ".join(need.what_for),
        say_picked(found, speaks.volume),
        bought,
        f"{found.cost:.2f}" if found.buy else "",
    )


def torque_lines(
    found: Things, tasks: Sequence[PlannedTask], wrenches: Sequence[Wrench], schools: Schools
) -> list[TorqueLine]:
    kinds = {task.spec.label: task.spec.kind for task in tasks}
    lines = []
    for label, fastener in found.torqued:
        spec = fastener.torque
        assert spec is not None
        school = schools.of(kinds[label], TORQUE).choice
        aim = setting(spec, "lower third" if school == "lower third" else "middle", fastener.soft)
        fitting = fitting_wrenches(spec, aim.value, wrenches)
        words = "fetch a wrench that reaches " + show(aim.value, "N·m")
        if fitting:
            best = fitting[0]
            words = f"{best.wrench.name}: {best.scale.normalize():f} {best.wrench.unit}"
        lines.append(TorqueLine(f"{label}, {fastener.key or fastener.role}", spec.text, words))
    return lines


def planned_tasks(
    spec: BikeSpec, chosen: Mapping[str, str], services: Mapping[str, Sequence[Service]]
) -> list[PlannedTask]:
    """The chosen reservoirs in the order a bike is drawn. Raises CoreError for one it lacks."""
    known = {reservoir.key for reservoir in spec.reservoirs}
    if any(key not in known for key in chosen):
        raise CoreError("visit.no_such_reservoir", field="tasks")
    try:
        return [
            PlannedTask(
                reservoir, Variant(chosen[reservoir.key]), len(services.get(reservoir.key, ()))
            )
            for reservoir in spec.reservoirs
            if reservoir.key in chosen
        ]
    except ValueError as error:
        options = [variant.value for variant in Variant]
        raise CoreError("sheet.choose", field="tasks", options=options) from error


def asked_of(visit: PlannedVisit) -> PlanAsked:
    """What was planned, as it would be asked for again."""
    return PlanAsked(
        False,
        [TaskChoice(**task) for task in visit.tasks],
        list(visit.cold),
        [WishChoice(**wish) for wish in visit.wishes],
        visit.technicians,
        visit.pans,
    )

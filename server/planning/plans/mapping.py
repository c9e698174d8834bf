"""Between rows and the core for the plan of a visit."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from datetime import date
from decimal import Decimal

from garage.mapping import BikeSpec
from oilward_bench import whys
from oilward_core.bench import Speaker
from oilward_core.bundle import USUAL_LIFE_DAYS, Proposal, Upkeep
from oilward_core.calendar import date_words
from oilward_core.due import NO_INTERVAL, DueState
from oilward_core.errors import CoreError
from oilward_core.fill import OfModel, case_of, expected
from oilward_core.kit import Bottle, Demand, Picked, Things, say_picked
from oilward_core.order import Order
from oilward_core.quantity import grouped, show
from oilward_core.runsheet import PlannedTask
from oilward_core.said import kit as said_kit
from oilward_core.schools import Schools, torque_aim
from oilward_core.spec import ReservoirSpec, Variant, why_not_serviceable
from oilward_core.torque import Wrench, fitting_wrenches
from shelf.stock.mapping import Standing
from shelf.stock.shapes import Bottles
from visits.models import Service
from visits.rows import before
from workshop.models import Person

from planning.mapping import done_so_far, seals_so_far
from planning.models import DueRow, PlannedVisit

from .shapes import (
    FluidLine,
    JobShape,
    OrderShape,
    PartLine,
    PlanAsked,
    TaskChoice,
    TaskLine,
    TorqueLine,
    WishChoice,
)

CENT = Decimal("0.01")


def bottles(
    standing: Iterable[Standing], names: Mapping[int, str]
) -> dict[str, tuple[Bottle, ...]]:
    """What stands there by the fluids' ``names``; of other fluids nothing."""
    found: dict[str, tuple[Bottle, ...]] = {}
    for one in standing:
        if name := names.get(one.fluid):
            found[name] = (*found.get(name, ()), one.bottle)
    return found


def expected_take(
    spec: ReservoirSpec, variant: Variant, services: Sequence[Service], model: OfModel
) -> Decimal | None:
    """What it is expected to take, ml: learned, else as its ``model`` does, else from the book; None
    where nobody knows."""
    capacity = spec.capacities.get(variant) or next(iter(spec.capacities.values()), None)
    if capacity is None:
        return None
    case = case_of(spec, variant, capacity, before(services, variant, model))
    return Decimal(round(expected(case).mean))


def upkeep(row: DueRow, spec: ReservoirSpec, today: date) -> Upkeep | None:
    """A reservoir as the planner sees it; None where nothing limits it and it is not due."""
    if row.forecast_on is None and row.state not in ("baseline", "due"):
        return None
    due = row.forecast_on or today
    lasts = row.lasts_days or USUAL_LIFE_DAYS
    take = next(iter(spec.capacities.values()), Decimal(0))
    return Upkeep(
        key=row.reservoir,
        label=row.label,
        kind=spec.kind,
        due=due,
        lasts_days=lasts,
        litres=float(take) / 1000,
    )


def when(row: DueRow | None) -> str:
    """When a reservoir is expected to be due, in a plan's words."""
    if row is None or (row.forecast_on is None and row.state == DueState.UNLIMITED):
        return "when you like"
    return date_words(row.forecast_on) if row.forecast_on else "no record: now"


def task_line(
    spec: ReservoirSpec,
    proposal: Proposal | None,
    when: str,
    offered: Sequence[Variant],
    variant: Variant,
    along: Sequence[str],
) -> TaskLine:
    """A reservoir that can be planned, not chosen yet; without a ``proposal`` nothing limits it."""
    return TaskLine(
        reservoir=spec.key,
        label=spec.label,
        variants=[one.value for one in offered],
        variant=variant.value,
        chosen=False,
        proposed=proposal is not None and proposal.do,
        when=when,
        reason=whys((proposal.reason if proposal else NO_INTERVAL,))[0],
        along=list(along),
        done="",
        not_serviceable=why_not_serviceable(spec),
    )


def order_shape(order: Order, learned: Mapping[str, tuple[int, int]]) -> OrderShape:
    jobs = [
        JobShape(
            id=one.job.id,
            label=one.job.label,
            group=one.job.group,
            attitude=one.job.attitude,
            start=one.start,
            end=one.end,
            free=one.free,
            technician=one.technician,
            cautions=list(one.job.cautions),
        )
        for one in order.placed
    ]
    said = [f"{kind}: {minutes} min, from {n} visits" for kind, (minutes, n) in learned.items()]
    gap = "" if order.proven else f"at most {order.gap:.0%} longer than the best there is"
    return OrderShape(
        jobs=jobs,
        minutes=order.minutes,
        in_turn=order.in_turn,
        hands_on=order.hands_on,
        proven=order.proven,
        gap=gap,
        learned=said,
    )


def money(amount: Decimal, currency: str) -> str:
    """A price as the workshop says it: ``12 480.00 €``."""
    return f"{grouped(amount.quantize(CENT))}\u00a0{currency}"


def sizes(found: Picked) -> list[Bottles]:
    return [Bottles(size.ml, count) for size, count in found.buy]


def sizes_words(found: Picked) -> str:
    """What has to be bought: ``2 × 946 ml``."""
    return ", ".join(f"{count} × {size.ml} ml" for size, count in found.buy)


def fluid_line(
    need: Demand, found: Picked, kept: Decimal, speaks: Speaker, currency: str
) -> FluidLine:
    return FluidLine(
        fluid=need.fluid,
        need=show(need.ml, speaks.volume),
        what_for=", ".join(need.what_for),
        words=say_picked(found, speaks.volume),
        buy=sizes_words(found),
        cost=money(found.cost, currency) if found.buy else "",
        kept=f"{show(kept, speaks.volume)} there are kept for visits planned before"
        if kept
        else "",
    )


def nothing_fits_line(need: Demand, speaks: Speaker) -> FluidLine:
    """Oil that has to come from elsewhere: what is asked of it, and how much."""
    amount = show(need.ml, speaks.volume)
    return FluidLine(
        fluid=need.fluid or said_kit.NOT_SAID,
        need=amount,
        what_for=", ".join(need.what_for),
        words=said_kit.nothing_fits(amount),
        buy="",
        cost="",
        kept="",
    )


def nothing_fits_words(need: Demand, speaks: Speaker) -> str:
    return said_kit.to_buy(show(need.ml, speaks.volume), need.fluid)


def part_line(name: str, count: int, in_drawer: int, missing: Mapping[str, int]) -> PartLine:
    lacking = f", buy {missing[name]}" if name in missing else ""
    return PartLine(name, count, f"{in_drawer} in the drawer{lacking}")


def torque_lines(
    found: Things, tasks: Sequence[PlannedTask], wrenches: Sequence[Wrench], schools: Schools
) -> list[TorqueLine]:
    kinds = {task.spec.label: task.spec.kind for task in tasks}
    lines = []
    for label, fastener in found.torqued:
        spec = fastener.torque
        assert spec is not None
        aim = torque_aim(spec, fastener.sealant, kinds[label], schools)
        fitting = fitting_wrenches(
            spec, aim.value, wrenches, fastener.adapter, fastener.adapter_angle
        )
        words = "fetch a wrench that reaches " + show(aim.value, "N·m")
        if fitting:
            best = fitting[0]
            words = f"{best.wrench.name}: {best.scale.normalize():f} {best.wrench.unit}"
        if fastener.adapter:
            words += f", with the {fastener.adapter.normalize():f} mm crow-foot in line"
        if spec.then:
            words += f", {spec.then_words}"
        lines.append(TorqueLine(f"{label}, {fastener.key or fastener.role}", spec.text, words))
    return lines


def planned_tasks(
    spec: BikeSpec, chosen: Mapping[str, str], services: Mapping[str, Sequence[Service]]
) -> list[PlannedTask]:
    """The chosen reservoirs in the order a bike is drawn. Raises CoreError for one it lacks."""
    if any(spec.reservoir(key) is None for key in chosen):
        raise CoreError("visit.no_such_reservoir", field="tasks")
    return [
        PlannedTask(
            spec=reservoir,
            variant=Variant.of(chosen[reservoir.key], "tasks"),
            done=done_so_far(services.get(reservoir.key, ())),
            seals=seals_so_far(services.get(reservoir.key, ())),
        )
        for reservoir in spec.reservoirs
        if reservoir.key in chosen
    ]


def tasks_left(
    visit: PlannedVisit, spec: BikeSpec, services: Mapping[str, Sequence[Service]]
) -> list[PlannedTask]:
    """What a planned visit has still to do; what has left the sheet since is left out."""
    left = {
        task["reservoir"]: task["variant"]
        for task in visit.tasks
        if task["reservoir"] not in visit.done and spec.reservoir(task["reservoir"])
    }
    return planned_tasks(spec, left, services)


def still_there(asked: PlanAsked, visit: PlannedVisit, spec: BikeSpec) -> PlanAsked:
    """What is asked of a planned visit, without what has left the sheet since it was planned, and
    without wishes about that or about what is done."""
    gone = {task.reservoir for task in asked.tasks if spec.reservoir(task.reservoir) is None}
    over = gone | set(visit.done)

    def stands(wish: WishChoice) -> bool:
        return not {wish.first.partition("/")[0], wish.then.partition("/")[0]} & over

    return replace(
        asked,
        tasks=[task for task in asked.tasks if task.reservoir not in gone],
        wishes=[wish for wish in asked.wishes if stands(wish)],
    )


MOST_HANDS = 4


def with_hands(asked: PlanAsked, workers: Sequence[Person], kept: Sequence[str]) -> PlanAsked:
    """What is asked with as many technicians as people are named for it. Somebody who left since it was
    planned (``kept``) is named no more. Raises CoreError ``planning.hands`` for anybody else who does not
    work here."""
    here = {str(one.pk) for one in workers}
    if any(one not in here and one not in kept for one in asked.hands):
        raise CoreError("planning.hands", field="asked.hands")
    hands = [one for one in dict.fromkeys(asked.hands) if one in here][:MOST_HANDS]
    return replace(asked, hands=hands, technicians=max(asked.technicians, len(hands)))


def asked_of(visit: PlannedVisit) -> PlanAsked:
    """What was planned, as it would be asked for again."""
    return PlanAsked(
        proposed=False,
        tasks=[TaskChoice(task["reservoir"], task["variant"]) for task in visit.tasks],
        cold=list(visit.cold),
        wishes=[WishChoice(**wish) for wish in visit.wishes],
        technicians=visit.technicians,
        hands=list(visit.hands),
        pans=visit.pans,
        planned=str(visit.pk),
        on=visit.on.isoformat(),
    )

"""Between a visit's rows and the core's run sheet, both ways."""

from collections.abc import Iterable
from datetime import datetime
from decimal import Decimal
from typing import cast

from findings.mapping import plug_part
from garage.mapping import BikeSpec, odometer_at, when_new
from garage.models import OdometerReading
from oilward_core.debris import Form, Matter, OilLook, running_in
from oilward_core.fill import say, say_belief
from oilward_core.odometer import shown
from oilward_core.order import Stamp
from oilward_core.quantity import convert, show, show_range
from oilward_core.schools import Choice, Schools
from oilward_core.sheet import (
    Bench,
    Closing,
    Entry,
    Sheet,
    Speaker,
    StepState,
    TaskPlan,
    TorqueCard,
    result,
    standing,
)
from oilward_core.spec import ReservoirSpec, Spot, Variant, reservoir_of, unpack
from oilward_core.torque import WrenchSetting
from shelf.mapping import wrenches
from workshop.mapping import seconds_per_minute, whys

from .models import EntryRow, Service, Task, Visit
from .shapes import (
    BikeName,
    CoachShape,
    EntryShape,
    FindingWords,
    GaugeShape,
    MapPlug,
    RunSheet,
    SpotShape,
    StandingShape,
    StepShape,
    TorqueShape,
    VerdictShape,
    VisitState,
    WrenchShape,
)

WORDS = FindingWords(list(Form), list(Matter), list(OilLook))


def bench() -> Bench:
    return Bench(wrenches(), seconds_per_minute())


def valid_takes(services: Iterable[Service], variant: Variant) -> tuple[Decimal, ...]:
    """What this job really took, where gauge and book agreed; the coach learns from these."""
    return tuple(
        s.took_ml
        for s in services
        if s.variant == variant and not s.not_learned and s.took_ml is not None
    )


def task_plan(task: Task, history: Iterable[Service]) -> TaskPlan:
    """A task with what was known of its reservoir then. ``history``: its services, oldest first;
    its own and later ones are left out, so that an old sheet reads as it did."""
    km = task.visit.odometer.km
    before = [s for s in history if s.visit_id != task.visit_id and s.km <= km]
    same = [s for s in before if s.variant == task.variant]
    cells = unpack(task.spec)
    return TaskPlan(
        reservoir_of(task.reservoir, cells),
        Variant(task.variant),
        valid_takes(before, Variant(task.variant)),
        same[-1].took_ml if same else None,
        km - before[-1].km if before else km,
        running_in(km, when_new(task.visit.bike) is not None, bool(before)),
        cells,
        schools=Schools(tuple(Choice(**choice) for choice in task.schools)),
    ).asking()


def entry(row: EntryRow) -> Entry:
    return Entry(
        str(row.id),
        row.step,
        row.kind,
        row.data,
        row.at,
        row.by.name,
        str(row.supersedes_id) if row.supersedes_id else None,
    )


def _entry_shape(core: Entry, speaks: Speaker) -> EntryShape:
    return EntryShape(core.id, core.kind, core.by, core.at.isoformat(), result(core, speaks))


def _step(state: StepState, speaks: Speaker) -> StepShape:
    step = state.step
    return StepShape(
        step.id,
        step.kind,
        step.title,
        step.instruction,
        step.caution,
        step.place,
        None if step.minutes is None else float(step.minutes),
        list(step.items),
        list(step.options),
        step.skippable,
        step.full,
        step.round,
        state.status,
        state.remark,
        state.started_at.isoformat() if state.started_at else None,
        state.ends_at.isoformat() if state.ends_at else None,
        _entry_shape(state.entry, speaks) if state.entry else None,
        spot(step.spot),
        list(step.unchecked),
        str(step.path) if step.path else "",
        step.draws,
    )


def spot(found: Spot | None) -> SpotShape | None:
    return SpotShape(float(found.x), float(found.y)) if found else None


def plugs(spec: BikeSpec) -> list[MapPlug]:
    """Everything of a sheet that is placed on the bike map."""
    return [
        MapPlug(
            reservoir.key,
            reservoir.label,
            fastener.key or fastener.role,
            fastener.role,
            fastener.place,
            fastener.torque.text if fastener.torque else "",
            float(fastener.spot.x),
            float(fastener.spot.y),
        )
        for reservoir in spec.reservoirs
        for fastener in reservoir.fasteners
        if fastener.spot
    ]


def closing(task: Task, plan: TaskPlan, sheet: Sheet, not_learned: str = "") -> Closing:
    """A visit as it stands now, with all it stands on."""
    fluid = task.fluid
    return Closing(
        plan,
        sheet,
        fluid.name if fluid else plan.reservoir.fluid,
        fluid.bottle_ml if fluid else None,
        task.visit.odometer.km,
        not_learned,
    )


def _coach(stands: Closing, speaks: Speaker) -> CoachShape | None:
    advice, bottle = stands.sheet.advice, stands.bottle_ml
    if advice is None:
        return None
    shown = speaks.volume if speaks.volume != "l" else "ml"
    return CoachShape(
        advice.action,
        say(advice, speaks.volume, bottle),
        say_belief(advice.belief, speaks.volume),
        show(advice.ml, shown) if advice.action in ("pour", "remove") else "",
        float(advice.ml / bottle) if bottle and advice.action == "pour" else 0.0,
        list(advice.causes),
        whys(advice.reasons),
    )


def _wrench(chosen: WrenchSetting, card: TorqueCard, manual: str) -> WrenchShape:
    wrench = chosen.wrench
    unit = wrench.unit
    low, high = card.low * chosen.factor, card.high * chosen.factor
    return WrenchShape(
        wrench.id,
        wrench.name,
        unit,
        f"{chosen.scale.normalize():f} {unit}",
        "" if unit == manual and chosen.factor == 1 else show_range(low, high, unit),
        float(wrench.low),
        float(wrench.high),
        float(convert(low, unit)),
        float(convert(high, unit)),
        float(chosen.scale),
        wrench.simulated,
        whys(chosen.reasons),
    )


def _torque(card: TorqueCard | None, spec: ReservoirSpec, speaks: Speaker) -> TorqueShape | None:
    plug = spec.fastener("drain plug")
    if card is None or plug is None or plug.torque is None:
        return None
    judged = card.verdict
    return TorqueShape(
        plug.torque.text,
        show(card.aim.value, speaks.torque),
        "" if card.reading is None else show(card.reading, speaks.torque),
        judged.verdict if judged else "",
        judged.action if judged else "",
        [_wrench(chosen, card, plug.torque.unit) for chosen in card.wrenches],
        whys(card.aim.reasons),
    )


def _verdict(sheet: Sheet) -> VerdictShape | None:
    found = sheet.finding
    state = next((s for s in sheet.steps if s.step.kind == "finding"), None)
    if found is None or state is None or state.entry is None:
        return None
    parts = [plug_part(part) for part in state.entry.data["parts"]]
    return VerdictShape(found.level.word, found.origin, found.action, parts, whys(found.reasons))


def _gauge(spec: ReservoirSpec, speaks: Speaker) -> GaugeShape | None:
    if spec.level is None:
        return None
    between = show(spec.level.between_marks, speaks.volume)
    return GaugeShape(spec.level.gauge, spec.level.attitude, between, float(spec.level.target))


def _volume(ml: Decimal | None, speaks: Speaker) -> str:
    return "" if ml is None else show(ml, speaks.volume)


def bike_name(visit: Visit) -> BikeName:
    bike = visit.bike
    return BikeName(str(bike.id), bike.name, f"{bike.model.make} {bike.model.name}")


def run_sheet(
    visit: Visit,
    stands: Closing,
    read: OdometerReading,
    speaks: Speaker,
    now: datetime,
    placed: list[MapPlug],
) -> RunSheet:
    """``read``: the visit's odometer reading as it stands now."""
    plan, sheet = stands.plan, stands.sheet
    spec = plan.reservoir
    return RunSheet(
        str(visit.id),
        cast(VisitState, visit.state),
        bike_name(visit),
        spec.label,
        spec.kind.value,
        plan.variant.value,
        stands.fluid,
        _volume(plan.capacity, speaks),
        visit.sheet.version,
        shown(stands.km, odometer_at(visit.bike, visit.odometer)),
        now.isoformat(),
        seconds_per_minute(),
        [_step(state, speaks) for state in sheet.steps],
        sheet.focus,
        sheet.stopped,
        sheet.ready_to_sign,
        not sheet.opened_drain,
        _volume(sheet.drained, speaks),
        _volume(sheet.added, speaks),
        _volume(spec.prefill or None, speaks),
        _coach(stands, speaks),
        _torque(sheet.torque, spec, speaks),
        _gauge(spec, speaks),
        _verdict(sheet),
        WORDS,
        [StandingShape(s.part, s.word, s.open) for s in standing(sheet, speaks)],
        visit.closed_by.name if visit.closed_by else "",
        [_entry_shape(e, speaks) for e in sheet.set_aside],
        visit.bike.model.layout,
        placed,
        stands.not_learned,
        "" if read.km == stands.km else shown(read.km, odometer_at(visit.bike, read)),
    )


def stamp(row: EntryRow) -> Stamp:
    return Stamp(row.step, row.kind, row.at)

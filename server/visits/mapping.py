"""Between a visit's rows and the core's run sheet, both ways."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from itertools import pairwise
from typing import Any, cast

from findings.mapping import on_plug
from garage.mapping import BikeSpec, odometer_at, when_new
from garage.models import OdometerReading
from oilward_core.bench import (
    Bench,
    Closing,
    Entry,
    Sheet,
    Speaker,
    Stance,
    StepState,
    TaskClosing,
    TaskState,
    TorqueCard,
    VisitPlan,
    Waits,
    caution_of,
    may_regrade,
    next_words,
    observed,
    open_points,
    part_from,
    result,
    standing,
    upgrade,
    waits_for,
)
from oilward_core.debris import (
    SMELLS,
    Form,
    Matter,
    OilLook,
    Otherwise,
    Place,
    Verdict,
    running_in,
    would_change,
)
from oilward_core.drained import Out, Warmth, expected_out
from oilward_core.fill import say, say_belief
from oilward_core.odometer import shown
from oilward_core.order import Stamp
from oilward_core.quantity import convert, show, show_range
from oilward_core.runsheet import COLD_JOBS, Aside, Name, Pose, StepId, TaskPlan, WaitsFor
from oilward_core.schools import Choice, Schools
from oilward_core.spec import ReservoirSpec, Spot, Variant, reservoir_of, unpack
from oilward_core.torque import WrenchSetting
from shelf.mapping import wrenches
from workshop.mapping import seconds_per_minute, whys

from .models import FIRST_DESCRIPTION, EntryRow, Service, Task, Tip, Visit
from .shapes import (
    BikeName,
    CoachShape,
    EntryShape,
    FindingWords,
    FluidChoice,
    GaugeShape,
    HandsShape,
    MapPlug,
    MeasuredShape,
    OpenPointShape,
    PoseShape,
    RunSheet,
    SpotShape,
    StanceShape,
    StandingShape,
    StepShape,
    StopShape,
    TaskShape,
    TipShape,
    TorqueShape,
    VerdictShape,
    VisitState,
    WaitsShape,
    WrenchShape,
)

WORDS = FindingWords(
    list(Form),
    list(Matter),
    [look for look in OilLook if look not in SMELLS],
    list(SMELLS),
    list(Place),
    list(Warmth),
)


def bench() -> Bench:
    return Bench(wrenches(), seconds_per_minute())


def valid_takes(services: Iterable[Service], variant: Variant) -> tuple[Decimal, ...]:
    """What this job really took, where gauge and book agreed; the coach learns from these."""
    return tuple(
        s.took_ml
        for s in services
        if s.variant == variant and not s.not_learned and s.took_ml is not None
    )


def outs(services: Sequence[Service], variant: Variant) -> tuple[Out, ...]:
    """What came out at each service of what the one before had put in, oldest first."""
    return tuple(
        Out(last.took_ml, one.drained_ml, one.km - last.km)
        for last, one in pairwise(services)
        if last.took_ml and one.drained_ml and last.variant == one.variant == variant
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
        # rows of the last release, on their way here, have none of these
        fine_last_time=getattr(task, "fine_last_time", False),
        dipstick_excused=getattr(task, "dipstick_excused", False),
        topped_up=getattr(task, "topped_up", Decimal(0)),
        outs=outs(before, Variant(task.variant)),
        density15=getattr(task, "density15", None),
        sample=getattr(task, "sample", False),
    ).asking()


def visit_plan(visit: Visit, tasks: Iterable[TaskPlan]) -> VisitPlan:
    """What a visit is worked out from."""
    cold = tuple(COLD_JOBS[key] for key in visit.cold if key in COLD_JOBS)
    return VisitPlan(tuple(tasks), cold, tuple(visit.order), visit.learned)


def entries(rows: Iterable[EntryRow], tasks: Sequence[TaskPlan]) -> list[Entry]:
    """A visit's entries; those the first description wrote down, as this one writes them."""
    old: list[Entry] = []
    new: list[Entry] = []
    for row in rows:
        (old if row.description == FIRST_DESCRIPTION else new).append(entry(row))
    return [*(upgrade(tasks[0], old) if old and tasks else old), *new]


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
    remembered = core.data.get("remembered") is True
    said = result(core, speaks)
    return EntryShape(core.id, core.kind, core.by, core.at.isoformat(), said, remembered)


def _tip(tip: Tip | None) -> TipShape | None:
    if tip is None:
        return None
    return TipShape(tip.text, tip.tools, tip.by.name, tip.at.isoformat())


def _step(
    state: StepState,
    labels: Mapping[str, str],
    tips: Mapping[str, Tip],
    speaks: Speaker,
    mentor: str | None,
) -> StepShape:
    step = state.step
    return StepShape(
        str(step.id),
        step.id.reservoir,
        labels.get(step.id.reservoir, ""),
        step.ask,
        step.title,
        step.instruction,
        step.caution,
        step.place,
        None if step.minutes is None else float(step.minutes),
        list(step.items) or [place.label for place in step.places],
        list(step.options),
        step.skippable,
        step.full,
        step.id.round,
        state.status,
        state.remark,
        state.started_at.isoformat() if state.started_at else None,
        state.ends_at.isoformat() if state.ends_at else None,
        _entry_shape(state.entry, speaks) if state.entry else None,
        spot(step.spot),
        list(step.unchecked),
        str(step.path) if step.path else "",
        step.draws,
        step.turn,
        [MeasuredShape(one.name, one.kind) for one in step.measured],
        list(state.unmet),
        state.not_before.isoformat() if state.not_before else None,
        state.reopened,
        state.taken_by,
        _tip(tips.get(step.id.place)),
        step.id.place_words or step.title,
        step.hands,
        step.tilts,
        list(step.stood),
        step.name == Name.MEASURE,
        mentor is not None and may_regrade(state, mentor),
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


def closing(
    visit: Visit,
    tasks: Iterable[Task],
    plan: VisitPlan,
    sheet: Sheet,
    not_learned: Mapping[str, str] | None = None,
) -> Closing:
    """A visit as it stands now, with all it stands on."""
    rows = {task.reservoir: task for task in tasks}
    why = not_learned or {}
    return Closing(
        tuple(
            _task_closing(rows[one.reservoir.key], one, sheet, why.get(one.reservoir.key, ""))
            for one in plan.tasks
        ),
        sheet,
        visit.odometer.km,
    )


def _task_closing(task: Task, plan: TaskPlan, sheet: Sheet, why: str) -> TaskClosing:
    fluid, stands = task.fluid, sheet.task(task.reservoir)
    chosen = fluid.name if fluid else plan.reservoir.fluid
    confirmed = (stands.fluid if stands else "") or chosen
    bottle = fluid.bottle_ml if fluid and confirmed == fluid.name else None
    return TaskClosing(plan, confirmed, bottle, why)


def _coach(one: TaskClosing, stands: TaskState, speaks: Speaker) -> CoachShape | None:
    advice, bottle = stands.advice, one.bottle_ml
    if advice is None:
        return None
    unit = speaks.volume if speaks.volume != "l" else "ml"
    return CoachShape(
        advice.action,
        say(advice, speaks.volume, bottle),
        say_belief(advice.belief, speaks.volume),
        show(advice.ml, unit) if advice.action in ("pour", "remove") else "",
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


def _verdict(plan: TaskPlan, stands: TaskState, sheet: Sheet) -> VerdictShape | None:
    found = stands.finding
    state = sheet.step(str(StepId(plan.reservoir.key, Name.INSPECT)))
    if found is None or state is None or state.entry is None:
        return None
    return verdict_shape(found, state.entry, would_change(observed(plan, state.entry)))


def verdict_shape(found: Verdict, entry: Entry, changes: Iterable[Otherwise]) -> VerdictShape:
    return VerdictShape(
        found.level.word,
        found.origin,
        found.action,
        on_plug(part_from(part) for part in entry.data["parts"]),
        whys(found.reasons),
        list(found.confirm),
        [one.words for one in changes],
    )


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


def _task(
    one: TaskClosing, closed: Closing, fluids: list[FluidChoice], speaks: Speaker
) -> TaskShape:
    spec, sheet = one.plan.reservoir, closed.sheet
    stands = sheet.task(spec.key) or TaskState(spec.key)
    return TaskShape(
        spec.key,
        spec.label,
        spec.kind.value,
        one.plan.variant.value if spec.facts.drained else "",
        one.fluid,
        fluids,
        _volume(one.plan.capacity, speaks),
        _volume(stands.drained, speaks),
        _volume(stands.added, speaks) if stands.added else "",
        _volume(_should_come_out(one.plan), speaks),
        _volume(spec.prefill or None, speaks),
        stands.stopped,
        _coach(one, stands, speaks),
        _torque(stands.torque, spec, speaks),
        _gauge(spec, speaks),
        _verdict(one.plan, stands, sheet),
        [
            StandingShape(s.part, s.word, s.open, s.by, s.at)
            for s in standing(sheet, spec.key, speaks)
        ],
        one.not_learned,
        not stands.opened,
    )


def _should_come_out(plan: TaskPlan) -> Decimal | None:
    """To the next 10 ml: nobody reads a jug finer."""
    if not plan.reservoir.facts.drained:
        return None
    if plan.put_in is None:
        return plan.capacity
    return round(expected_out(plan.put_in, plan.outs).value, -1)


def title(tasks: Iterable[TaskPlan]) -> str:
    """What a visit is about: its reservoirs by name, the first three of many."""
    labels = [task.reservoir.label for task in tasks]
    more = f" and {len(labels) - 3} more" if len(labels) > 3 else ""
    return ", ".join(labels[:3]) + more


@dataclass(frozen=True)
class Around:
    """What the bench shows besides the visit itself: the odometer ``read`` as it stands now, the
    plugs on the map, fluids that fit by reservoir, tips by step, and whoever looks, where they may read
    a plug anew (``mentor``)."""

    read: OdometerReading
    placed: list[MapPlug]
    fluids: Mapping[str, list[FluidChoice]]
    tips: Mapping[str, Tip]
    mentor: str | None = None


def run_sheet(
    visit: Visit, stands: Closing, around: Around, speaks: Speaker, now: datetime
) -> RunSheet:
    sheet, read = stands.sheet, around.read
    labels = {one.plan.reservoir.key: one.plan.reservoir.label for one in stands.tasks}
    return RunSheet(
        str(visit.id),
        cast(VisitState, visit.state),
        bike_name(visit),
        title(one.plan for one in stands.tasks),
        visit.sheet.version,
        shown(stands.km, odometer_at(visit.bike, visit.odometer)),
        now.isoformat(),
        seconds_per_minute(),
        [
            _task(one, stands, around.fluids.get(one.plan.reservoir.key, []), speaks)
            for one in stands.tasks
        ],
        [_step(state, labels, around.tips, speaks, around.mentor) for state in sheet.steps],
        sheet.focus,
        [StopShape(stop.entry, stop.step, stop.text, stop.hold) for stop in sheet.stops],
        sheet.ready_to_sign,
        not sheet.opened_drain or bool(sheet.handed_back),
        WORDS,
        visit.closed_by.name if visit.closed_by else "",
        [_entry_shape(e, speaks) for e in sheet.set_aside],
        visit.bike.model.layout,
        around.placed,
        "" if read.km == stands.km else shown(read.km, odometer_at(visit.bike, read)),
        _waits(sheet.waits),
        [
            OpenPointShape(point.text, point.touch)
            for point in open_points([one.plan for one in stands.tasks], sheet)
        ],
        sheet.in_hands_of,
        list(WaitsFor),
        _stance(sheet.stance),
        _hands(sheet),
        [PoseShape(pose, pose.words, pose.straps, caution_of(pose)) for pose in Pose],
        list(Aside),
        visit.wants,
        visit.ride_in,
        visit.ride_out,
        sheet.handed_back,
    )


def _waits(waits: Waits | None) -> WaitsShape | None:
    if waits is None:
        return None
    return WaitsShape(waits.step, waits_for(waits), waits.since.isoformat(), waits.by)


def _stance(stance: Stance | None) -> StanceShape | None:
    if stance is None:
        return None
    since = stance.at.isoformat()
    caution = "" if stance.strapped else caution_of(stance.pose)
    return StanceShape(stance.pose, stance.strapped, caution, stance.words, stance.by, since)


def _hands(sheet: Sheet) -> HandsShape | None:
    hands = sheet.hands
    if hands is None:
        return None
    state, since = sheet.step(hands.step), hands.since.isoformat()
    title, what = (state.step.title, state.step.hands) if state else ("", "")
    return HandsShape(hands.step, title, what, hands.by, since, hands.lent_by)


def stamp(row: EntryRow) -> Stamp:
    return Stamp(row.step, row.kind, row.at)


def in_short(sheet: Sheet, tasks: Iterable[TaskPlan]) -> dict[str, Any]:
    """Where a visit stands, as the ward says it, and who calls for a hand there."""
    ends, hands = sheet.soonest, sheet.hands
    return {
        "title": title(tasks),
        "step": next_words(sheet),
        "ends_at": ends.isoformat() if ends else None,
        "since": sheet.waits.since.isoformat() if sheet.waits else None,
        "hands": {"by": hands.by, "since": hands.since.isoformat()}
        if hands and not hands.lent_by
        else None,
    }

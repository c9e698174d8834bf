"""How each reservoir of a visit stands, as the bench shows it."""

from collections.abc import Iterable
from decimal import Decimal

from oilward_core.bench import (
    Closing,
    Graded,
    Sheet,
    Speaker,
    TaskClosing,
    TaskState,
    growing,
    observed,
    standing,
)
from oilward_core.codes.options import Look
from oilward_core.debris import Observation, Otherwise, Verdict, would_change
from oilward_core.drained import expected_out
from oilward_core.fill import MARKS_AT, say, say_belief, stays, taps, wants_a_flush
from oilward_core.quantity import show
from oilward_core.runsheet import Name, StepId, TaskPlan
from oilward_core.said import fill as said
from oilward_core.said import steps as say_steps
from oilward_core.spec import ReservoirSpec, Role, Variant

from .cards import torque_shape
from .plugs import on_plug
from .reasons import whys
from .shapes import (
    CoachShape,
    FluidChoice,
    GaugeShape,
    MarksShape,
    OptionShape,
    StandingShape,
    TaskShape,
    VerdictShape,
)


def _coach(one: TaskClosing, stands: TaskState, speaks: Speaker) -> CoachShape | None:
    advice, bottle = stands.advice, one.bottle_ml
    if advice is None:
        return None
    unit = speaks.volume if speaks.volume != "l" else "ml"
    return CoachShape(
        action=advice.action,
        words=say(advice, speaks.volume, bottle),
        belief=say_belief(advice.belief, speaks.volume),
        amount=show(advice.ml, unit) if advice.action in ("pour", "remove") else "",
        bottles=float(advice.ml / bottle) if bottle and advice.action == "pour" else 0.0,
        causes=[OptionShape(cause, said.cause(cause)) for cause in advice.causes],
        reasons=whys(advice.reasons),
        taps=[OptionShape(amount, words) for amount, words in taps(advice, speaks.volume, bottle)],
        enough=advice.enough,
        leaves=[OptionShape(code, words) for code, words in said.LEFT.items()]
        if advice.may_stay and advice.action != "done"
        else [],
    )


def _verdict(plan: TaskPlan, stands: TaskState, sheet: Sheet) -> VerdictShape | None:
    found = stands.finding
    state = sheet.step(str(StepId(plan.reservoir.key, Name.INSPECT)))
    entry = state.entry if state else None
    if found is None or entry is None or not isinstance(entry.data, Graded):
        return None
    seen = observed(plan, entry.data)
    grown = growing(plan, entry.data, entry.who, entry.at.date())
    return verdict_shape(found, seen, would_change(seen, grown))


def verdict_shape(found: Verdict, seen: Observation, changes: Iterable[Otherwise]) -> VerdictShape:
    """What the rules make of a finding, and what would have changed it."""
    return VerdictShape(
        level=found.level.word,
        origin=found.origin,
        action=found.action,
        parts=on_plug(seen.parts),
        rules=whys(found.reasons),
        confirm=list(found.confirm),
        changes=[one.words for one in changes],
        no_magnet=seen.no_magnet,
    )


def gauge(spec: ReservoirSpec, speaks: Speaker, seen: Decimal | None = None) -> GaugeShape | None:
    """What its level is read on; None where it has none. ``seen``: ml between marks that were only
    assumed, as readings told."""
    if spec.level is None:
        return None
    level = spec.level
    between = show(seen or level.between_marks, speaks.volume)
    if level.assumed:
        between = said.marks_seen(between) if seen else said.marks_assumed(between)
    pairs = [(level.attitude, between, level.target)]
    if level.second:
        second = show(level.second.between, speaks.volume)
        pairs.append((level.second.attitude, second, level.second.target))
    marks = [
        MarksShape(attitude=attitude, between=between, target=float(target))
        for attitude, between, target in pairs
    ]
    return GaugeShape(
        name=level.gauge,
        marks=[] if level.edge else marks,
        how=say_steps.reading(level.gauge, level.dipstick, level.attitude, drawn=level.drawn),
        warm=level.engine in MARKS_AT and not level.edge,
        edge=level.edge,
    )


def _volume(ml: Decimal | None, speaks: Speaker) -> str:
    return "" if ml is None else show(ml, speaks.volume)


def task_shape(
    one: TaskClosing, closed: Closing, fluids: list[FluidChoice], speaks: Speaker
) -> TaskShape:
    """One reservoir of a visit as it stands."""
    spec, sheet = one.plan.reservoir, closed.sheet
    stands = sheet.task(spec.key) or TaskState(key=spec.key)
    return TaskShape(
        key=spec.key,
        label=spec.label,
        kind=spec.kind.value,
        variant=one.plan.variant.value if spec.facts.drained else "",
        fluid=one.fluid,
        went_in=one.fluid if stands.added or stands.look == Look.TOPPED_UP else "",
        oil_label=one.label,
        batch=one.batch,
        fluids=fluids,
        capacity=_volume(one.plan.capacity, speaks),
        drained=_volume(stands.drained, speaks),
        added=_volume(stands.added, speaks) if stands.added else "",
        expected_out=_volume(_should_come_out(one.plan), speaks),
        prefill=_volume(spec.prefill or None, speaks),
        stopped=stands.stopped,
        coach=_coach(one, stands, speaks),
        torque=torque_shape(stands.torque, spec.fastener(Role.DRAIN_PLUG), speaks),
        gauge=gauge(spec, speaks, stands.marks),
        verdict=_verdict(one.plan, stands, sheet),
        standing=[
            StandingShape(part=s.part, word=s.word, open=s.open, by=s.by, at=s.at, leg=s.leg)
            for s in standing(sheet, spec.key, speaks)
        ],
        not_learned=one.not_learned,
        may_leave=not stands.opened,
        old_oil=_old_oil(one.plan, stands),
        flush=_flush(one.plan, stands, sheet),
    )


def _stays(plan: TaskPlan, stands: TaskState, changes: int = 1) -> Decimal | None:
    """The share of old oil that stays, by what came out, or by the book; None where the sheet does not
    say what it holds dry."""
    dry, out = plan.reservoir.capacities.get(Variant.DRY), stands.drained or plan.capacity
    if not plan.reservoir.facts.drained or plan.variant == Variant.DRY or not dry or out is None:
        return None
    return stays(dry, out, changes)


def _old_oil(plan: TaskPlan, stands: TaskState) -> str:
    once, twice = _stays(plan, stands), _stays(plan, stands, 2)
    return said.old_oil(once, twice) if once and twice else ""


def _flush(plan: TaskPlan, stands: TaskState, sheet: Sheet) -> str:
    """Said where the oil that was drained was spoilt."""
    state = sheet.step(str(StepId(plan.reservoir.key, Name.INSPECT)))
    seen = state.entry.data if state and state.entry else None
    once = _stays(plan, stands)
    if once is None or not isinstance(seen, Graded) or not wants_a_flush(once, seen.oil):
        return ""
    return said.flush(once)


def _should_come_out(plan: TaskPlan) -> Decimal | None:
    """To the next 10 ml: nobody reads a jug finer."""
    if not plan.reservoir.facts.drained:
        return None
    if plan.put_in is None:
        return plan.capacity
    return round(expected_out(plan.put_in, plan.outs).value, -1)

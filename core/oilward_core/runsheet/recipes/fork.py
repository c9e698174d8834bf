"""Fork legs, out and in again behind one front wheel. Axle, brake and bars: the manual comes first."""

from collections.abc import Iterable, Sequence
from decimal import Decimal
from typing import Any

from ...codes.entries import Ask
from ...codes.options import Tick
from ...codes.roles import PINCHED_LAST, Role
from ...codes.steps import JobKind, Name
from ...codes.suspension import LegKind
from ...quantity import show
from ...said import steps as words
from ...spec import ReservoirSpec
from ...suspension import over_filled, surface, volume_of
from ..ids import StepId, of_bike
from ..jobs import LIFTED, job_id, minutes_of
from ..needs import Need, done
from ..openings import Opening, openings
from ..steps import Measured, PlannedTask, Step, ticks
from ..work import Work
from .cards import STRAPPED, carded, look_at_threads, looked_at

GAPS = (
    Decimal(50),
    Decimal(280),
)  # mm, what an air gap is at all [trade: common practice, no source]
AIR = (Decimal(0), Decimal(2000))  # kPa, what a leg is pumped to [the same]


def write(work: Work, legs: Sequence[PlannedTask]) -> None:
    """The fork legs of a visit, one after another or two people at once."""
    if not legs:
        return
    until = job_id(JobKind.WHEEL_IN)
    job = work.job(JobKind.WHEEL_OUT, attitude=LIFTED, held_until=until)
    said = words.step(Name.WHEEL_OUT)
    out = work.step(
        Step(
            id=of_bike(Name.WHEEL_OUT),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            items=ticks(Tick.FRONT_HELD, Tick.WHEEL_OUT),
            hands=words.HOLDS_FRONT,
            needs=(done(of_bike(Name.SUPPORT)), STRAPPED),
        )
    )
    _wheel_in(work, legs, [_leg(work, leg, done(out)) for leg in legs])


def _held(work: Work, task: PlannedTask, name: Name) -> list[Opening]:
    """What a wrench card of that name closes, if the visit is not past it."""
    found = openings(task.spec, task.variant)
    return [one for one in found if one.card.name == name if one.card not in work.rounds.unasked]


def _carded(
    work: Work, held: Iterable[tuple[PlannedTask, Opening]], job: str, last: StepId
) -> StepId:
    """The cards of what is torqued one after another; the last of them."""
    for task, one in held:
        what = words.of_leg(one.part, task.spec.label)
        needs = (done(last), STRAPPED, *looked_at(work, task.spec))
        last = carded(work, one, job, what, needs)
    return last


def _wheel_in(work: Work, legs: Sequence[PlannedTask], legs_in: Sequence[StepId]) -> None:
    """Axle and brake, then the fork is stroked, then what pinches the axle: else the legs are held where
    they do not belong. Where the sheet names none of them, all of it is ticked."""
    held = [(leg, one) for leg in legs for one in _held(work, leg, Name.TORQUE_WHEEL)]
    job = work.job(JobKind.WHEEL_IN, attitude=LIFTED)
    said = words.step(Name.WHEEL_IN)
    ticked = (Tick.WHEEL_FREE,) if held else (Tick.AXLE, Tick.LEVER, Tick.SECOND_PERSON)
    last = work.step(
        Step(
            id=of_bike(Name.WHEEL_IN),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            items=ticks(*ticked),
            hands=words.HOLDS_WHEEL,
            needs=(*(done(step) for step in legs_in), STRAPPED),
        )
    )
    if not held or of_bike(Name.STROKE) in work.rounds.unasked:
        return
    last = _carded(work, (one for one in held if one[1].role not in PINCHED_LAST), job, last)
    said = words.step(Name.STROKE)
    last = work.step(
        Step(
            id=of_bike(Name.STROKE),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            items=ticks(Tick.LEVER, Tick.STROKED),
            needs=(done(last),),
        )
    )
    _carded(work, (one for one in held if one[1].role in PINCHED_LAST), job, last)


_LOOSENED = (
    (Tick.UPPER_LOOSE, (Role.UPPER_PINCH,)),
    (Tick.CAP_LOOSE, (Role.FORK_CAP, Role.CAP)),
    (Tick.LOWER_LOOSE, (Role.LOWER_PINCH, Role.PINCH_BOLT)),
)


def _loosened(spec: ReservoirSpec) -> tuple[Tick, ...]:
    """What is ticked as a leg comes out, in the order of the hands: the cap while the lower bridge holds
    it."""
    first = (Tick.PRELOAD_OFF,) if spec.leg.preload is not None else ()
    there = (tick for tick, roles in _LOOSENED if any(map(spec.fastener, roles)))
    return (*first, *there, Tick.LEG_OUT)


def has_air(spec: ReservoirSpec) -> bool:
    """Whether a leg is under pressure before it is opened."""
    return spec.leg.kind == LegKind.AIR or bool(spec.leg.pressure)


# whose oil is set by quantity, and not by a gap
_BY_QUANTITY = (LegKind.SEALED_CARTRIDGE, LegKind.AIR)


def _worth(spec: ReservoirSpec) -> Decimal | None:
    """How much oil a millimetre of level is, ml, if the sheet knows the bore."""
    bore = surface(spec.leg)
    return Decimal(volume_of(1.0, bore)) if bore else None


def _over(spec: ReservoirSpec) -> str:
    """What is poured first where the gap is set by drawing down, if the sheet knows the bore."""
    book, bore = next(iter(spec.capacities.values()), None), surface(spec.leg)
    if not book or bore is None or spec.air_gap is None or spec.leg.kind in _BY_QUANTITY:
        return ""
    return show(Decimal(round(over_filled(float(book), bore))), "ml")


def _leg(work: Work, task: PlannedTask, out: Need) -> StepId:
    """One fork leg; its waits are long. What it ends with."""
    spec = task.spec
    label, key = spec.label.capitalize(), spec.key
    book = next(iter(spec.capacities.values()), None)
    facts = {
        "label": label,
        "how": words.leg_fill(show(book, "ml") if book else "", _over(spec)),
        "wanted": words.gap_wanted(show(spec.air_gap, "mm") if spec.air_gap else ""),
    }

    def step(kind: JobKind, name: Name, before: Need, attitude: str = "", **more: Any) -> StepId:
        job = work.job(kind, spec, label=label, attitude=attitude)
        said = words.step(name, **facts)
        asked: dict[str, Any] = {"ask": Ask.CHECK, **more}
        return work.step(
            Step(
                id=StepId(key, name),
                job=job,
                title=said.title,
                instruction=said.text,
                needs=(before, STRAPPED) if attitude == LIFTED else (before,),
                **asked,
            )
        )

    if has_air(spec):
        measured = (Measured("air", "pressure", *AIR),)
        let_off = step(
            JobKind.LEG_OUT, Name.LEG_AIR, out, LIFTED, ask=Ask.MEASURE, measured=measured
        )
        out = done(let_off)
    loose = ticks(*_loosened(spec))
    taken = step(JobKind.LEG_OUT, Name.LEG_OUT, out, LIFTED, items=loose)
    drained = step(
        JobKind.LEG_DRAIN,
        Name.LEG_DRAIN,
        done(taken),
        ask=Ask.TIMER,
        minutes=Decimal(minutes_of(JobKind.LEG_DRAIN, work.learned)[1]),
    )
    filled = step(JobKind.LEG_FILL, Name.LEG_FILL, done(drained), ask=Ask.AMOUNT)
    gap = step(
        JobKind.LEG_GAP,
        Name.LEG_GAP,
        done(filled),
        ask=Ask.MEASURE,
        measured=(Measured("air gap", "length", *GAPS, _worth(spec)),),
    )
    held = [(task, one) for one in _held(work, task, Name.TORQUE_LEG)]
    ticked = (Tick.LEG_IN,) if held else (Tick.LEG_IN, Tick.LEG_TORQUED)
    last = step(JobKind.LEG_IN, Name.LEG_IN, done(gap), LIFTED, items=ticks(*ticked))
    job = job_id(JobKind.LEG_IN, key)
    look_at_threads(work, spec, job)
    return _carded(work, held, job, last)

"""Fork legs, out and in again behind one front wheel. Axle, brake and bars: the manual comes first."""

from collections.abc import Sequence
from decimal import Decimal
from typing import Any

from ...codes.entries import Ask
from ...codes.options import Tick
from ...codes.steps import JobKind, Name
from ...quantity import show
from ...said import steps as words
from ...spec import ReservoirSpec
from ..ids import StepId, of_bike
from ..jobs import LIFTED, job_id, minutes_of
from ..needs import Need, done
from ..steps import Measured, PlannedTask, Step, ticks
from ..work import Work
from .cards import STRAPPED

GAPS = (
    Decimal(50),
    Decimal(280),
)  # mm, what an air gap is at all [trade: common practice, no source]


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
    legs_in = [_leg(work, leg.spec, done(out)) for leg in legs]
    job = work.job(JobKind.WHEEL_IN, attitude=LIFTED)
    said = words.step(Name.WHEEL_IN)
    work.step(
        Step(
            id=of_bike(Name.WHEEL_IN),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            items=ticks(Tick.AXLE, Tick.LEVER, Tick.SECOND_PERSON),
            hands=words.HOLDS_WHEEL,
            needs=(*(done(step) for step in legs_in), STRAPPED),
        )
    )


def _leg(work: Work, spec: ReservoirSpec, out: Need) -> StepId:
    """One fork leg; its waits are long."""
    label, key = spec.label.capitalize(), spec.key
    book = next(iter(spec.capacities.values()), None)
    facts = {
        "label": label,
        "how": words.leg_fill(show(book, "ml") if book else ""),
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

    taken = step(JobKind.LEG_OUT, Name.LEG_OUT, out, LIFTED, items=ticks(Tick.LEG_OUT))
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
        measured=(Measured("air gap", "length", *GAPS),),
    )
    return step(
        JobKind.LEG_IN,
        Name.LEG_IN,
        done(gap),
        LIFTED,
        items=ticks(Tick.LEG_IN, Tick.LEG_TORQUED),
    )

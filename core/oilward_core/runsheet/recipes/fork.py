"""Fork legs, out and in again behind one front wheel. Axle, brake and bars: the manual comes first."""

from collections.abc import Sequence
from decimal import Decimal
from typing import Any

from ...quantity import show
from ...spec import ReservoirSpec
from ..ids import Name, StepId, of_bike
from ..jobs import LIFTED, JobKind, job_id, minutes_of
from ..needs import Need, done
from ..steps import Ask, Measured, PlannedTask, Step
from ..work import Work

SECOND_PERSON = "A second person has looked at axle and brake"


def write(work: Work, legs: Sequence[PlannedTask]) -> None:
    """The fork legs of a visit, one after another or two people at once."""
    if not legs:
        return
    words = "Lift the front, wheel and brake off"
    until = job_id(JobKind.WHEEL_IN)
    job = work.job(JobKind.WHEEL_OUT, words, attitude=LIFTED, held_until=until)
    out = work.step(
        Step(
            id=of_bike(Name.WHEEL_OUT),
            job=job,
            ask=Ask.CHECK,
            title=words,
            instruction="Front lifted and held, calliper hung up by a strap, never by its hose.",
            items=("Front is held and cannot tip", "Wheel out, calliper hung up"),
            hands="holds the front while the axle comes out",
            needs=(done(of_bike(Name.SUPPORT)),),
        )
    )
    legs_in = [_leg(work, leg.spec, done(out)) for leg in legs]
    words = "Front wheel and brake on"
    job = work.job(JobKind.WHEEL_IN, words, attitude=LIFTED)
    work.step(
        Step(
            id=of_bike(Name.WHEEL_IN),
            job=job,
            ask=Ask.CHECK,
            title=words,
            instruction="Axle, pinch bolts and calliper by the manual's values. Pump the brake up.",
            items=("Axle and pinch bolts torqued", "Brake lever is hard", SECOND_PERSON),
            hands="holds the wheel up while the axle goes in, then looks at axle and brake",
            needs=tuple(done(step) for step in legs_in),
        )
    )


def _leg(work: Work, spec: ReservoirSpec, out: Need) -> StepId:
    """One fork leg; its waits are long."""
    label, key = spec.label.capitalize(), spec.key

    def step(
        kind: JobKind,
        name: Name,
        words: str,
        text: str,
        before: Need,
        attitude: str = "",
        **more: Any,
    ) -> StepId:
        title = f"{label}: {words}"
        job = work.job(kind, title, spec, attitude=attitude)
        asked: dict[str, Any] = {"ask": Ask.CHECK, **more}
        return work.step(
            Step(
                id=StepId(key, name),
                job=job,
                title=title,
                instruction=text,
                needs=(before,),
                **asked,
            )
        )

    taken = step(
        JobKind.LEG_OUT,
        Name.LEG_OUT,
        "take it out",
        "Loosen the cap while the leg is still held, then the pinch bolts.",
        out,
        LIFTED,
        items=("Cap loosened, leg out",),
    )
    drained = step(
        JobKind.LEG_DRAIN,
        Name.LEG_DRAIN,
        "open it, pour out, hang it to drip",
        "Stroke it over the pan until nothing comes, then hang it upside down.",
        done(taken),
        ask=Ask.TIMER,
        minutes=Decimal(minutes_of(JobKind.LEG_DRAIN, work.learned)[1]),
    )
    book = next(iter(spec.capacities.values()), None)
    filled = step(
        JobKind.LEG_FILL,
        Name.LEG_FILL,
        "fill a little over, stroke the air out",
        f"The sheet gives {show(book, 'ml')}; a little over, the rest is drawn down."
        if book
        else "As the manual says, and a little over: the rest is drawn down.",
        done(drained),
        ask=Ask.AMOUNT,
    )
    wanted = f"{show(spec.air_gap, 'mm')} by the sheet, " if spec.air_gap else ""
    gap = step(
        JobKind.LEG_GAP,
        Name.LEG_GAP,
        "draw down to the air gap, close it",
        f"Leg collapsed, spring out: {wanted}both legs alike unless the sheet says otherwise.",
        done(filled),
        ask=Ask.MEASURE,
        measured=(Measured("air gap", "length"),),
    )
    return step(
        JobKind.LEG_IN,
        Name.LEG_IN,
        "put it back",
        "To its mark in the bridge; pinch bolts and cap by the manual's values.",
        done(gap),
        LIFTED,
        items=("In to its mark", "Cap and pinch bolts torqued"),
    )

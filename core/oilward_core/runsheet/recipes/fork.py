"""Fork legs, out and in again behind one front wheel. Axle, brake and bars: the manual comes first."""

from collections.abc import Iterable, Sequence

from ...codes.entries import Ask
from ...codes.options import Tick
from ...codes.roles import PINCHED_LAST
from ...codes.steps import JobKind, Name
from ...said import steps as words
from ..ids import StepId, of_bike
from ..jobs import LIFTED, job_id
from ..needs import Need, done
from ..openings import Opening, openings
from ..steps import PlannedTask, Step, ticks
from ..work import Work
from . import leg
from .cards import STRAPPED, carded_each


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
    ends = [leg.write(work, one, done(out), _held(work, [one], Name.TORQUE_LEG)) for one in legs]
    _wheel_in(work, legs, [need for end in ends for need in end])


def _held(work: Work, legs: Iterable[PlannedTask], name: Name) -> list[tuple[PlannedTask, Opening]]:
    """What wrench cards of that name close, leg by leg, those that the visit is not past."""
    there = ((one, opened) for one in legs for opened in openings(one.spec, one.variant))
    unasked = work.rounds.unasked
    return [
        (one, opened)
        for one, opened in there
        if opened.card.name == name and opened.card not in unasked
    ]


def _wheel_in(work: Work, legs: Sequence[PlannedTask], legs_in: Sequence[Need]) -> None:
    """Axle and brake, then the fork is stroked, then what pinches the axle: else the legs are held where
    they do not belong. Where the sheet names none of them, all of it is ticked."""
    held = _held(work, legs, Name.TORQUE_WHEEL)
    job = work.job(JobKind.WHEEL_IN, attitude=LIFTED)
    said = words.step(Name.WHEEL_IN)
    ticked = (Tick.WHEEL_FREE,) if held else (Tick.AXLE, Tick.LEVER)
    last = work.step(
        Step(
            id=of_bike(Name.WHEEL_IN),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            items=ticks(*ticked),
            hands=words.HOLDS_WHEEL,
            needs=(*legs_in, STRAPPED),
        )
    )
    if not held:
        _looked_at(work, job, last)
        return
    if of_bike(Name.STROKE) in work.rounds.unasked:
        return
    first = [one for one in held if one[1].role not in PINCHED_LAST]
    before = carded_each(work, first, job, (done(last),))
    said = words.step(Name.STROKE)
    last = work.step(
        Step(
            id=of_bike(Name.STROKE),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            items=ticks(Tick.LEVER, Tick.STROKED),
            needs=before,
        )
    )
    carded_each(work, [one for one in held if one[1].role in PINCHED_LAST], job, (done(last),))


def _looked_at(work: Work, job: str, wheel_in: StepId) -> None:
    """Where no card asks for them, a second person looks at all of it."""
    if of_bike(Name.WHEEL_LOOKED) in work.rounds.unasked:
        return
    said = words.step(Name.WHEEL_LOOKED)
    work.step(
        Step(
            id=of_bike(Name.WHEEL_LOOKED),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            looks_at=wheel_in,
            needs=(done(wheel_in),),
        )
    )

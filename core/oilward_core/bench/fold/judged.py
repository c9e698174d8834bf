"""What a reservoir's readings come to: the verdict on a finding."""

from collections.abc import Iterable
from datetime import date
from decimal import Decimal

from ...away import GAS_WITHIN, todays
from ...codes.entries import GRADINGS
from ...codes.options import Look, Tick
from ...codes.steps import Name
from ...debris import Found, Growth, Observation, Verdict, growth_next, look_verdict, verdict
from ...guard import guarded
from ...runsheet import StepId, TaskPlan, of_bike
from ...runsheet.recipes.look import BUSH_PLAY, GAS, TEMPERATURE
from ...spec import wets_a_clutch
from ..asks.choice import Chosen
from ..asks.common import Confirmed, Started
from ..asks.finding import Graded
from ..asks.values import Taken
from ..entries import Entry, ordered
from .known import Known


@guarded
def observed(task: TaskPlan, seen: Graded) -> Observation:
    """What a finding saw, with what is known of its reservoir."""
    spec = task.reservoir
    return Observation(
        reservoir=spec.kind,
        parts=seen.parts,
        oil=frozenset(seen.oil),
        km_since_wiped=task.km_since_wiped,
        first_service=task.first_service,
        fine_last_time=task.fine_last_time,
        wet_clutch=spec.facts.shares_clutch and wets_a_clutch(spec.requirement.friction),
        dipstick_flakes=seen.dipstick_flakes,
        excused=task.dipstick_excused,
        pan_clean=seen.pan_clean,
        seal_missing=seen.seal_missing,
        no_magnet=seen.no_magnet,
    )


@guarded
def pan_said(entries: Iterable[Entry], reservoir: str) -> bool | None:
    """Whether the pan was clean, as it was said when it was placed, else as it was looked at before
    anything; None where nobody said."""
    entries = list(entries)
    drain = str(StepId(reservoir, Name.DRAIN))
    said = [
        entry.data.pan_clean
        for entry in ordered(entries)
        if entry.step == drain
        and isinstance(entry.data, Started)
        and entry.data.pan_clean is not None
    ]
    if said:
        return said[-1]
    cold = str(of_bike(Name.COLD))
    looked = (e.data for e in ordered(entries) if e.step == cold)
    clean = any(isinstance(one, Confirmed) and Tick.PAN_CLEAN in one.items for one in looked)
    return True if clean else None


@guarded
def growing(task: TaskPlan, seen: Graded, who: str, day: date) -> Growth | None:
    """The chance after this finding that a fault is growing there; none while running in, where there is
    no magnet, or where nobody knows what was found before. ``who`` read it, on which ``day``."""
    if task.so_far is None:
        return None
    found = Found(
        day=day,
        parts=seen.parts,
        km_since_wiped=task.km_since_wiped,
        grader=who,
        run_in=task.first_service or seen.no_magnet,
    )
    return growth_next(task.so_far, found)


@guarded
def judge_finding(task: TaskPlan, seen: Graded, who: str, day: date) -> Verdict:
    """The verdict on a finding as it is shown and as it is signed: the rules, and the chance that a fault
    grows."""
    return verdict(observed(task, seen), growing(task, seen, who, day))


def looked(key: str, known: Known) -> Look | None:
    """What a look at a reservoir showed, if it was looked at."""
    entry = known.facts.last.get(str(StepId(key, Name.LOOK)))
    said = entry.data.value if entry is not None and isinstance(entry.data, Chosen) else ""
    look = Look(said) if said in tuple(Look) else None
    return _felt(key, known) or look if look == Look.FIRM else look


# from so much play on, mm, bushes are looked at [trade: common practice, no source]
LOOSE_FROM = Decimal(1)


def _felt(key: str, known: Known) -> Look | None:
    """What is not as it should be of a shock that looks dry and firm: its gas beside today's figure, the
    play in its bushes."""
    entry = known.facts.last.get(str(StepId(key, Name.SHOCK_FELT)))
    if entry is None or not isinstance(entry.data, Taken):
        return None
    found, ride = entry.data.stands, known.tasks[key].reservoir.ride
    gas, warm, play = (found.get(name) for name in (GAS, TEMPERATURE, BUSH_PLAY))
    if gas and warm and ride.gas and abs(gas.low - todays(ride.gas, warm.low)) > GAS_WITHIN:
        return Look.GAS_OFF
    return Look.LOOSE if play and play.low > LOOSE_FROM else None


def finding_of(key: str, known: Known) -> Verdict | None:
    """The verdict on a reservoir's plug, if it was read, or on the look at it."""
    look, task = looked(key, known), known.tasks[key]
    if look is not None:
        return look_verdict(task.reservoir.kind, look, task.low_last)
    entry = known.facts.last.get(str(StepId(key, Name.INSPECT)))
    if entry is None or not isinstance(entry.data, Graded):
        return None
    return judge_finding(task, entry.data, entry.who, entry.at.date())


def is_grading(entry: Entry) -> bool:
    """Whether it is a reading of a plug, a first or a second one."""
    return entry.kind in GRADINGS

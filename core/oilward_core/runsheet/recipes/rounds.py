"""Filling, closing, and reading the level, in as many rounds as it takes."""

from math import ceil

from ...spec import ATTITUDES, IDLING, FillRule, LevelCheck
from ..ids import Name, Pose, StepId
from ..jobs import UPRIGHT, JobKind
from ..needs import Fact, Need, done
from ..steps import Ask, PlannedTask, Step, unchecked
from ..work import Work

_STANDS = ("upright", "side stand")


def posed(attitude: str) -> str:
    """How the bike stands, in a sentence."""
    return Pose(attitude).words if attitude in tuple(Pose) else attitude


def fill(work: Work, task: PlannedTask, before: tuple[Need, ...]) -> None:
    """Every filling of a reservoir, and its filler shut again."""
    spec = task.spec
    job = work.job(JobKind.FILL, f"Fill the {spec.label}", spec, attitude=UPRIGHT)
    for number, one in enumerate(work.rounds.of(spec.key), 1):
        title = "Draw the excess off" if one.draws else "Fill" if number == 1 else "Top up"
        text = (
            "Take out what the coach says, measured." if one.draws else "Measure it, pour slowly."
        )
        work.step(
            Step(
                id=StepId(spec.key, Name.FILL, "", number),
                job=job,
                ask=Ask.FILL,
                title=title,
                instruction=text,
                unchecked=unchecked(spec, f"/capacity.{task.variant}"),
                draws=one.draws,
                options=("from the top", "at the drain plug") if one.draws else (),
                needs=(Need(Fact.SHUT, spec.key), *before),
            )
        )
    work.step(
        Step(
            id=StepId(spec.key, Name.CLOSE),
            job=job,
            ask=Ask.CHECK,
            title="Close the filler",
            instruction="Before anything runs. A cap by hand; a plug by hand until the level is right.",
            items=("Filler closed",),
            needs=(Need(Fact.POURED, spec.key),),
        )
    )


def levels(work: Work, task: PlannedTask, *, runs: bool) -> None:
    """Settling and reading, round by round. ``runs``: the engine has run before."""
    spec, level = task.spec, task.spec.level
    if level is None or spec.fill_rule != FillRule.LEVEL:
        return
    before = Need(Fact.RAN if runs else Fact.POURED, spec.key)
    rounds = [(n, one) for n, one in enumerate(work.rounds.of(spec.key), 1) if one.read]
    if not rounds:
        return
    label = f"{spec.label} settles"
    settle = work.job(JobKind.SETTLE, label, spec, wait=ceil(level.settle_minutes))
    words = f"Read the {spec.label} level"
    attitude = level.attitude or UPRIGHT
    read = work.job(JobKind.LEVEL, words, spec, attitude=attitude)
    idling = level.engine == IDLING
    for number, _ in rounds:
        needs: tuple[Need, ...] = (before,)
        if not idling:
            needs = (before, done(_settle(work, spec.key, number, level, settle, before)))
        work.step(_level(task, level, read, number, needs))


def _settle(work: Work, key: str, number: int, level: LevelCheck, job: str, before: Need) -> StepId:
    """Hands-off: begins by itself when the engine stops, or when the oil is in."""
    return work.step(
        Step(
            id=StepId(key, Name.SETTLE, "", number),
            job=job,
            ask=Ask.WAIT,
            title="Let it settle",
            instruction=f"Engine off, bike {posed(level.attitude)}. The oil has to run down.",
            minutes=level.settle_minutes,
            needs=(before,),
        )
    )


def _level(
    task: PlannedTask, level: LevelCheck, job: str, number: int, needs: tuple[Need, ...]
) -> Step:
    held = f"{level.gauge}, {level.dipstick}" if level.dipstick else level.gauge
    stands = (*_STANDS, level.attitude) if level.attitude in ATTITUDES[2:] else _STANDS
    engine = "Engine idling, bike" if level.engine == IDLING else "Bike"
    return Step(
        id=StepId(task.spec.key, Name.LEVEL, "", number),
        job=job,
        ask=Ask.LEVEL,
        title="Read the level",
        instruction=f"{engine} {posed(level.attitude)}, eye level with the {held}.",
        options=stands,
        hands="holds it upright while you read" if level.attitude == UPRIGHT else "",
        unchecked=unchecked(task.spec, "/level.between"),
        needs=needs,
    )

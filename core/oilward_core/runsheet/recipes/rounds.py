"""Filling, closing, and reading the level, in as many rounds as it takes."""

from math import ceil

from ...codes.entries import Ask
from ...codes.facts import Fact
from ...codes.fill import Start
from ...codes.options import Draw, Tick
from ...codes.poses import Pose
from ...codes.steps import JobKind, Name
from ...fill import start_of
from ...said import options as choices
from ...said import steps as words
from ...said.standing import minutes
from ...spec import IDLING, FillRule, LevelCheck
from ..ids import StepId
from ..jobs import UPRIGHT
from ..needs import Need, done
from ..steps import Option, PlannedTask, Step, chosen, ticks, unchecked
from ..work import Round, Work

_STANDS = (Pose.UPRIGHT, Pose.SIDE_STAND)


def _filling(number: int, one: Round) -> words.Words:
    if one.draws:
        return words.DRAIN_AGAIN if one.again else words.DRAW_OFF
    said = words.step(Name.FILL)
    return said if number == 1 else words.Words(words.TOP_UP, said.text)


def _poses(level: LevelCheck) -> tuple[Option, ...]:
    """How the bike may stand when its level is read; on a lift, where its sheet asks for that, or where
    it is known by how much that is out."""
    options = [Option(pose, choices.pose(pose)) for pose in _STANDS]
    if level.attitude == Pose.LIFTED or not level.edge:
        options.append(Option(Pose.LIFTED, choices.ON_A_LIFT))
    return tuple(options)


def _options(task: PlannedTask, one: Round) -> tuple[Option, ...]:
    """Where it is taken out; or how the bike stands, where its gauge is looked at before it runs."""
    if one.draws:
        return chosen(choices.DRAWS, (Draw.PLUG,) if one.again else Draw)
    level = task.spec.level
    if level is None or task.spec.fill_rule != FillRule.LEVEL or level.edge:
        return ()
    if start_of(task.spec) == Start.TANK:
        return ()
    return _poses(level)


def fill(work: Work, task: PlannedTask, before: tuple[Need, ...]) -> None:
    """Every filling of a reservoir, and its filler shut again."""
    spec = task.spec
    job = work.job(JobKind.FILL, spec, attitude=UPRIGHT)
    for number, one in enumerate(work.rounds.of(spec.key), 1):
        said = _filling(number, one)
        work.step(
            Step(
                id=StepId(spec.key, Name.FILL, "", number),
                job=job,
                ask=Ask.FILL,
                title=said.title,
                instruction=said.text,
                unchecked=unchecked(spec, f"/capacity.{task.variant}"),
                draws=one.draws,
                options=_options(task, one),
                # its plug is out while it is drained again
                needs=() if one.again else (Need(Fact.SHUT, spec.key), *before),
            )
        )
    said = words.step(Name.CLOSE)
    work.step(
        Step(
            id=StepId(spec.key, Name.CLOSE),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            items=ticks(Tick.FILLER),
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
    settle = work.job(JobKind.SETTLE, spec, wait=ceil(level.settle_minutes))
    attitude = level.attitude or UPRIGHT
    latest = level.latest and max(level.latest, level.settle_minutes)
    read = work.job(JobKind.LEVEL, spec, attitude=attitude, latest=latest if runs else None)
    idling = level.engine == IDLING
    for number, _ in rounds:
        needs: tuple[Need, ...] = (before,)
        if not idling:
            needs = (before, done(_settle(work, spec.key, number, level, settle, before)))
        work.step(_level(task, level, read, number, needs))


def _settle(work: Work, key: str, number: int, level: LevelCheck, job: str, before: Need) -> StepId:
    """Hands-off: begins by itself when the engine stops, or when the oil is in."""
    said = words.step(Name.SETTLE, stands=choices.stands(level.attitude))
    return work.step(
        Step(
            id=StepId(key, Name.SETTLE, "", number),
            job=job,
            ask=Ask.WAIT,
            title=said.title,
            instruction=said.text,
            minutes=level.settle_minutes,
            needs=(before,),
        )
    )


def _level(
    task: PlannedTask, level: LevelCheck, job: str, number: int, needs: tuple[Need, ...]
) -> Step:
    said = words.step(
        Name.LEVEL,
        engine=words.engine(level.engine == IDLING),
        stands=choices.stands(level.attitude),
        look=words.look_at(level.gauge, level.dipstick, drawn=level.drawn),
        latest=words.latest(minutes(level.latest)) if level.latest else "",
    )
    if level.edge:
        said = words.Words(said.title, words.edge(level.gauge, choices.stands(level.attitude)))
    return Step(
        id=StepId(task.spec.key, Name.LEVEL, "", number),
        job=job,
        ask=Ask.LEVEL,
        title=said.title,
        instruction=said.text,
        options=_poses(level),
        hands=words.HOLDS_UPRIGHT if level.attitude == UPRIGHT else "",
        unchecked=unchecked(task.spec, "/level.between"),
        edge=level.edge,
        needs=needs,
    )

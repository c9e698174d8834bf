"""What belongs to the whole bike: before everything, between, and at the end."""

from collections.abc import Iterator, Sequence
from decimal import Decimal
from math import ceil

from ...codes.entries import Ask
from ...codes.facts import Fact
from ...codes.fill import Start
from ...codes.options import BEFORE_WARM, Lamp, Tick
from ...codes.roles import Role
from ...codes.steps import JobKind, Name
from ...fill import start_of, will_rise
from ...quantity import show
from ...said import drained as said_drained
from ...said import fill as said_fill
from ...said import options as choices
from ...said import steps as words
from ...spec import AIR_ALONE, IDLING, FillRule, LevelCheck
from ..ids import COVER, StepId, of_bike
from ..jobs import AIR_MINUTES, IDLE_MINUTES, STANDS_MINUTES, UPRIGHT, WINDOWS, ColdJob
from ..needs import Need, done
from ..openings import openings
from ..steps import Measured, Option, Place, PlannedTask, Step, chosen, ticks
from ..work import Work
from .cards import carded, looked_at

COLD, _TENS = Decimal(20), Decimal("1E1")  # °C; ml


def drained(work: Work) -> list[PlannedTask]:
    """The tasks that are drained through a plug."""
    return [task for task in work.tasks if task.spec.facts.drained]


def prepare(work: Work, cold: Sequence[ColdJob]) -> None:
    """Cold checks and cold jobs, the warm-up where something is drained, the support."""
    job = work.job(JobKind.COLD_CHECKS)
    said = words.step(Name.COLD)
    first = Step(
        id=of_bike(Name.COLD),
        job=job,
        ask=Ask.CHECK,
        title=said.title,
        instruction=said.text,
        items=ticks(Tick.NO_LEAK, Tick.LAID_OUT, Tick.PAN_CLEAN),
        at_once=True,
        skippable=True,
    )
    before = [work.step(first)]
    for task in drained(work):
        before += _came(work, task, job)
    before += [_cold(work, one) for one in cold]
    warmed = tuple(done(step) for step in before)
    before = [_warm(work, warmed)] if drained(work) else [first.id]
    job = work.job(JobKind.SUPPORT, attitude=UPRIGHT)
    said = words.step(Name.SUPPORT)
    work.step(
        Step(
            id=of_bike(Name.SUPPORT),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            items=ticks(Tick.UPRIGHT, Tick.STRAPPED),
            at_once=True,
            needs=tuple(done(step) for step in before),
        )
    )


def _came(work: Work, task: PlannedTask, job: str) -> list[StepId]:
    """How an engine's level stands before it is started at all: below its low mark nobody starts it. Not
    where oil has run back out of a tank, nor where it is read idling."""
    spec, level = task.spec, task.spec.level
    asked = StepId(spec.key, Name.CAME)
    if not spec.facts.runs_engine or level is None or level.edge or level.engine == IDLING:
        return []
    if start_of(spec) == Start.TANK or asked in work.rounds.unasked:
        return []
    said = words.step(
        Name.CAME,
        stands=choices.stands(level.attitude),
        look=words.look_at(level.gauge, level.dipstick, drawn=level.drawn),
        cold=_lower_while_cold(task, level),
        left=words.left_last(said_fill.LEFT[task.left]) if task.left else "",
    )
    found = [
        work.step(
            Step(
                id=asked,
                job=job,
                ask=Ask.GATE,
                title=said.title,
                instruction=said.text,
                options=chosen(said_drained.STOOD, BEFORE_WARM),
                skippable=True,
            )
        )
    ]
    if spec.key in work.rounds.topped:
        found.append(_topped(work, task, job))
    return found


def _lower_while_cold(task: PlannedTask, level: LevelCheck) -> str:
    book = task.spec.capacities.get(task.variant)
    rise = will_rise(book, COLD, level.engine).quantize(_TENS) if book else Decimal(0)
    return words.cold_at_warm_marks(show(rise, "ml")) if rise else ""


def _topped(work: Work, task: PlannedTask, job: str) -> StepId:
    said = words.step(Name.TOPPED, label=task.spec.label)
    return work.step(
        Step(
            id=StepId(task.spec.key, Name.TOPPED),
            job=job,
            ask=Ask.AMOUNT,
            title=said.title,
            instruction=said.text,
            skippable=True,
            needs=(done(StepId(task.spec.key, Name.CAME)),),
        )
    )


def _cold(work: Work, one: ColdJob) -> StepId:
    job = work.cold_job(one)
    return work.step(
        Step(
            id=StepId("", one.key),
            job=job,
            ask=Ask.MEASURE,
            title=one.label,
            instruction=words.step(Name(one.key)).text,
            measured=tuple(Measured(name, kind, *WINDOWS[kind]) for name, kind in one.measured),
            needs=(done(of_bike(Name.COLD)),),
            skippable=True,
        )
    )


def _warmed_by(work: Work) -> str:
    """Idling warms an engine, hardly a gearbox, and never a final drive [trade]."""
    tasks = [task.spec for task in drained(work)]
    idles = any(spec.facts.runs_engine for spec in tasks)
    warmed = [spec for spec in tasks if idles and (spec.facts.runs_engine or spec.facts.clutch)]
    cold = [spec.label for spec in tasks if spec not in warmed]
    if cold:
        return words.ride(cold)
    return words.IDLE_AIR if _by_air(work) else words.IDLE


def _by_air(work: Work) -> bool:
    """Whether an engine stands there that nothing cools but the wind it does not get."""
    return any(task.spec.cooling == AIR_ALONE for task in drained(work))


def _warm(work: Work, needs: tuple[Need, ...]) -> StepId:
    job = work.job(JobKind.WARM_UP)
    said = words.step(Name.WARM, how=_warmed_by(work))
    return work.step(
        Step(
            id=of_bike(Name.WARM),
            job=job,
            ask=Ask.TIMER,
            title=said.title,
            instruction=said.text,
            minutes=Decimal(AIR_MINUTES if _by_air(work) else IDLE_MINUTES),
            needs=needs,
            skippable=True,
        )
    )


def wants_run(task: PlannedTask) -> bool:
    """Whether this level is read after the engine has run."""
    level = task.spec.level
    return bool(
        task.spec.facts.drained
        and task.spec.fill_rule == FillRule.LEVEL
        and level
        and level.run_minutes
    )


_AFTER_A_LEAK = (Name.RAN_OUT, Name.COVER, Name.THREAD)


def runs(work: Work) -> None:
    """One run for all levels that want one; again as often as one has to be read anew."""
    wanting = [task for task in drained(work) if wants_run(task)]
    if not wanting:
        return
    minutes = max(task.spec.level.run_minutes for task in wanting if task.spec.level)
    job = work.job(JobKind.RUN, wait=ceil(minutes), attitude=UPRIGHT)
    idling = any(task.spec.level and task.spec.level.engine == IDLING for task in wanting)
    said = words.step(Name.RUN, then=words.THEN_IDLES if idling else "")
    # a plug that came out again after the fill is back, too
    shut = tuple(Need(Fact.SHUT, task.spec.key) for task in drained(work))
    counted = tuple(done(step) for step in work.named(*_AFTER_A_LEAK, Name.TORQUE_COVER))
    needs = (*counted, *shut, Need(Fact.FULL), Need(Fact.FILLERS_SHUT), Need(Fact.WHEEL_IN))
    lamp = _lamp(work, job, needs)
    for number in range(1, work.rounds.runs + 1):
        work.step(
            Step(
                id=of_bike(Name.RUN, number),
                job=job,
                ask=Ask.TIMER,
                title=said.title,
                instruction=said.text,
                minutes=minutes,
                full=True,
                needs=(*needs, *lamp),
            )
        )


def _lamp(work: Work, job: str, needs: tuple[Need, ...]) -> tuple[Need, ...]:
    """Whether there is pressure, at the first start on the new oil."""
    if of_bike(Name.LAMP) in work.rounds.unasked:
        return ()
    said = words.step(Name.LAMP)
    lamp = work.step(
        Step(
            id=of_bike(Name.LAMP),
            job=job,
            ask=Ask.GATE,
            title=said.title,
            instruction=said.text,
            options=chosen(choices.LAMPS, Lamp),
            needs=needs,
        )
    )
    return (done(lamp),)


def _places(work: Work, task: PlannedTask) -> list[Place]:
    """Where oil can get out of a reservoir that was opened."""
    key, label = task.spec.key, task.spec.label
    steps = {step.id for step in work.steps}
    opened = [
        one
        for one in openings(task.spec, task.variant)
        if one.role != Role.FILL_PLUG
        if not one.card.part or one.card in steps or one.step(Name.ELEMENT) in steps
    ]
    drains = [one.part for one in opened if one.role == Role.DRAIN_PLUG] or [Role.DRAIN_PLUG]
    filters = [one.part for one in opened if one.card.name == Name.TORQUE_FILTER]
    level = [one.part for one in opened if one.card.name == Name.TORQUE_LEVEL]
    # where none is opened here, any may leak
    covers = [one.part for one in opened if one.card.name == Name.TORQUE_COVER] or [COVER]
    parts = (*drains, *filters, Role.FILL_PLUG, *level, *covers)
    return [Place(words.leak_place(part, label, work.several), key, part) for part in parts]


def finish(work: Work) -> None:
    """One leak look and one end for all of it."""
    tasks = drained(work)
    if tasks:
        _leaks(work, tasks, [done(step) for step in _fillers(work, tasks)])
    before = tuple(done(step.id) for step in work.steps)
    job = work.job(JobKind.FINISH)
    reset = words.resets(list(dict.fromkeys(task.spec.reset for task in tasks if task.spec.reset)))
    said = words.step(Name.FINISH, reset=reset)
    work.step(
        Step(
            id=of_bike(Name.FINISH),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            items=_ending(tasks),
            at_once=True,
            needs=before,
        )
    )


_LAST = (Name.TORQUE_FILLER, Name.TORQUE_LEVEL)


def _fillers(work: Work, tasks: Sequence[PlannedTask]) -> Iterator[StepId]:
    """Fillers and level plugs that a wrench closes, once nothing more goes in."""
    for task in tasks:
        key = task.spec.key
        found = [
            one
            for one in openings(task.spec, task.variant)
            if one.card.name in _LAST and one.card not in work.rounds.unasked
            if one.by_wrench or one.role == Role.LEVEL_PLUG
        ]
        if not found:
            continue
        job = work.job(JobKind.TORQUE_FILLER, task.spec, attitude=UPRIGHT)
        right = (Need(Fact.RIGHT, key), *looked_at(work, task.spec))
        closed = (done(StepId(key, Name.CLOSE)),)
        for one in found:
            needs = right + (closed if one.role == Role.FILL_PLUG else ())
            yield carded(work, one, job, "", needs)


def _leaks(work: Work, tasks: Sequence[PlannedTask], fillers: Sequence[Need]) -> None:
    job = work.job(JobKind.LEAKS, attitude=UPRIGHT)
    ran = [done(step) for step in work.named(Name.RUN)[-1:]]
    ran += [done(step) for step in work.named(*_AFTER_A_LEAK, Name.TORQUE_COVER)]
    said = words.step(Name.LEAKS)
    places = tuple(place for task in tasks for place in _places(work, task))
    looked = work.step(
        Step(
            id=of_bike(Name.LEAKS),
            job=job,
            ask=Ask.LEAKS,
            title=said.title,
            instruction=said.text,
            places=places,
            needs=(
                *ran,
                *fillers,
                *(Need(Fact.SHUT, task.spec.key) for task in tasks),
                *(Need(Fact.RIGHT, task.spec.key) for task in tasks),
                Need(Fact.FILLERS_SHUT),
            ),
        )
    )
    if of_bike(Name.LEAKS_AGAIN) not in work.rounds.unasked:
        _leaks_again(work, places, job, done(looked))


def _leaks_again(work: Work, places: tuple[Place, ...], job: str, looked: Need) -> None:
    """Once it has stood, has been ridden, or the next day: what creeps shows only then [trade]."""
    said = words.step(Name.STANDS)
    stood = work.step(
        Step(
            id=of_bike(Name.STANDS),
            job=job,
            ask=Ask.WAIT,
            title=said.title,
            instruction=said.text,
            minutes=Decimal(STANDS_MINUTES),
            needs=(looked,),
        )
    )
    said = words.step(Name.LEAKS_AGAIN)
    work.step(
        Step(
            id=of_bike(Name.LEAKS_AGAIN),
            job=work.job(JobKind.LEAKS_AGAIN, attitude=UPRIGHT),
            ask=Ask.LEAKS,
            title=said.title,
            instruction=said.text,
            places=places,
            skippable=True,
            needs=(looked, done(stood)),
        )
    )


def _ending(tasks: Sequence[PlannedTask]) -> tuple[Option, ...]:
    return ticks(Tick.WASTE, Tick.WIPED) if tasks else ticks(Tick.WIPED)

"""What belongs to the whole bike: before everything, between, and at the end."""

from collections.abc import Sequence
from decimal import Decimal
from math import ceil

from ...spec import IDLING, FillRule
from ..ids import Name, StepId, of_bike
from ..jobs import IDLE_MINUTES, UPRIGHT, ColdJob, JobKind
from ..needs import Fact, Need, done
from ..steps import Ask, Measured, Place, PlannedTask, Step
from ..work import Work

COLD_ITEMS = ("No fresh oil under the bike", "Tools, seals and oil laid out", "Pan is clean")
_IDLE = "Ten minutes at idle or a short ride, then a few minutes to cool. Warm oil carries the dirt out."
_RIDE = "A ride of ten to fifteen minutes, then a few to cool: idling does not warm {}."
_LAMP = "Neutral. Oil light on with the ignition, out within seconds: if not, stop the engine."


def drained(work: Work) -> list[PlannedTask]:
    """The tasks that are drained through a plug."""
    return [task for task in work.tasks if task.spec.facts.drained]


def prepare(work: Work, cold: Sequence[ColdJob]) -> None:
    """Cold checks and cold jobs, the warm-up where something is drained, the support."""
    job = work.job(JobKind.COLD_CHECKS, "Look it over cold, lay out")
    first = Step(
        id=of_bike(Name.COLD),
        job=job,
        ask=Ask.CHECK,
        title="Cold checks",
        instruction="Look the bike over before the engine is warm.",
        items=COLD_ITEMS,
        skippable=True,
    )
    before = [work.step(first), *(_cold(work, one) for one in cold)]
    warmed = tuple(done(step) for step in before)
    before = [_warm(work, warmed)] if drained(work) else [first.id]
    job = work.job(JobKind.SUPPORT, "Support it, strap it down", attitude=UPRIGHT)
    work.step(
        Step(
            id=of_bike(Name.SUPPORT),
            job=job,
            ask=Ask.CHECK,
            title="Support the bike",
            instruction="Upright on its stand or the lift, and strapped down.",
            items=("Stands upright", "Strapped down"),
            needs=tuple(done(step) for step in before),
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
            instruction="As found, then as left. Where nothing was changed, as found is enough.",
            measured=tuple(Measured(name, kind) for name, kind in one.measured),
            needs=(done(of_bike(Name.COLD)),),
            skippable=True,
        )
    )


def _warmed_by(work: Work) -> str:
    """Idling warms an engine, hardly a gearbox, and never a final drive [trade]."""
    tasks = drained(work)
    if any(task.spec.facts.runs_engine for task in tasks):
        return _IDLE
    names = " or ".join(f"the {task.spec.label}" for task in tasks)
    return _RIDE.format(names)


def _warm(work: Work, needs: tuple[Need, ...]) -> StepId:
    job = work.job(JobKind.WARM_UP, "Warm it up, let it cool a little")
    return work.step(
        Step(
            id=of_bike(Name.WARM),
            job=job,
            ask=Ask.TIMER,
            title="Warm it up",
            instruction=_warmed_by(work),
            minutes=Decimal(IDLE_MINUTES),
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


def runs(work: Work) -> None:
    """One run for all levels that want one; again as often as one has to be read anew."""
    wanting = [task for task in drained(work) if wants_run(task)]
    if not wanting:
        return
    minutes = max(task.spec.level.run_minutes for task in wanting if task.spec.level)
    words = "Run the engine, watch the oil light"
    job = work.job(JobKind.RUN, words, wait=ceil(minutes), attitude=UPRIGHT)
    idling = any(task.spec.level and task.spec.level.engine == IDLING for task in wanting)
    then = " Leave it running: the level is read at idle." if idling else ""
    for number in range(1, work.rounds.runs + 1):
        work.step(
            Step(
                id=of_bike(Name.RUN, number),
                job=job,
                ask=Ask.TIMER,
                title="Run the engine",
                instruction=f"{_LAMP}{then}",
                minutes=minutes,
                full=True,
                needs=(Need(Fact.FULL), Need(Fact.FILLERS_SHUT)),
            )
        )


def _places(work: Work, task: PlannedTask) -> list[Place]:
    """Where oil can get out of a reservoir that was opened."""
    key, label = task.spec.key, task.spec.label.capitalize()
    parts = [("Plug", "drain plug"), ("Filler", "fill plug"), ("Cover", "cover")]
    if any(step.id == (key, Name.FILTER, "", 0) for step in work.steps):
        parts.insert(1, ("Filter", "filter"))
    return [
        Place(f"{label}: {word.lower()}" if work.several else word, key, part)
        for word, part in parts
    ]


def finish(work: Work) -> None:
    """One leak look and one end for all of it."""
    tasks = drained(work)
    if tasks:
        job = work.job(JobKind.LEAKS, "Look for leaks", attitude=UPRIGHT)
        ran = [done(step) for step in work.named(Name.RUN)[:1]]
        work.step(
            Step(
                id=of_bike(Name.LEAKS),
                job=job,
                ask=Ask.LEAKS,
                title="Look for leaks",
                instruction="Wipe everything first, run it briefly, look again at each place.",
                places=tuple(place for task in tasks for place in _places(work, task)),
                needs=(
                    *ran,
                    *(Need(Fact.SHUT, task.spec.key) for task in tasks),
                    *(Need(Fact.RIGHT, task.spec.key) for task in tasks),
                    Need(Fact.FILLERS_SHUT),
                ),
            )
        )
    before = tuple(done(step.id) for step in work.steps)
    job = work.job(JobKind.FINISH, "Finish, waste oil, sign")
    work.step(
        Step(
            id=of_bike(Name.FINISH),
            job=job,
            ask=Ask.CHECK,
            title="Finish",
            instruction=_resets(tasks),
            items=(*_torqued(work), *_ending(tasks)),
            needs=before,
        )
    )


def _resets(tasks: Sequence[PlannedTask]) -> str:
    written = [task.spec.reset for task in tasks if task.spec.reset]
    if written:
        return f"Service indicator: {'; '.join(dict.fromkeys(written))}."
    return "Service indicator reset as the manual says."


def _ending(tasks: Sequence[PlannedTask]) -> tuple[str, ...]:
    return ("Waste oil in the container", "Bike wiped down") if tasks else ("Bike wiped down",)


def _torqued(work: Work) -> list[str]:
    """Fillers that a wrench closes."""
    found = []
    for task in drained(work):
        plug = task.spec.fastener("fill plug")
        if plug and plug.torque and plug.torque.by_wrench:
            whose = f"{task.spec.label.capitalize()}: fill" if work.several else "Fill"
            found.append(f"{whose} plug torqued to {plug.torque.text}")
    return found

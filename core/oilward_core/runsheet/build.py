"""What a visit consists of: one description, from which order, bench, kit and cautions are made."""

from collections.abc import Callable, Mapping, Sequence

from ..codes.steps import Name
from ..guard import guarded, whole_table
from ..spec import Recipe
from .ids import of_bike
from .jobs import ColdJob, Job
from .needs import done
from .recipes import bike, circuit, drained, fork, look, rounds
from .steps import PlannedTask
from .work import Rounds, RunSheet, Work

_Writer = Callable[[Work, Sequence[PlannedTask]], None]


def _each(write: Callable[[Work, PlannedTask], None]) -> _Writer:
    def all_of_them(work: Work, tasks: Sequence[PlannedTask]) -> None:
        for task in tasks:
            write(work, task)

    return all_of_them


def _circuits(work: Work) -> list[PlannedTask]:
    return [task for task in work.tasks if task.spec.facts.recipe == Recipe.CIRCUIT]


def _engine(work: Work) -> PlannedTask | None:
    """The engine whose oil the circuits of this visit share."""
    return next((task for task in bike.drained(work) if task.spec.facts.runs_engine), None)


def _drained(work: Work, tasks: Sequence[PlannedTask]) -> None:
    for task in tasks:
        shared = _circuits(work) if task is _engine(work) else []
        drained.write(work, task, shared)


def _left_over(work: Work, tasks: Sequence[PlannedTask]) -> None:
    """Circuits whose engine is not drained in this visit."""
    if _engine(work) is None:
        for task in tasks:
            circuit.write(work, task, done(of_bike(Name.SUPPORT)))


_looks = _each(look.write)

# in the order they are written down; the solver finds the one they are done in
RECIPES: dict[Recipe, _Writer] = whole_table(
    Recipe,
    {
        Recipe.FORK: fork.write,
        Recipe.SHOCK: _looks,
        Recipe.WATCHED: _looks,
        Recipe.DRAINED: _drained,
        Recipe.CIRCUIT: _left_over,
    },
)


@guarded
def build(
    tasks: Sequence[PlannedTask],
    cold: Sequence[ColdJob] = (),
    learned: Mapping[str, int] | None = None,
    fillings: Rounds | None = None,
) -> RunSheet:
    """Everything a visit consists of: cold jobs, warm-up, each reservoir, one run for all levels,
    one leak look, one end. ``learned`` are hands-on minutes and waits by kind of job, from finished
    visits; ``fillings`` how often it has come to filling so far."""
    work = Work(tasks, learned or {}, fillings or Rounds())
    bike.prepare(work, cold)
    for write in dict.fromkeys(RECIPES.values()):
        write(work, [task for task in tasks if RECIPES[task.spec.facts.recipe] is write])
    bike.runs(work)
    for task in bike.drained(work):
        rounds.levels(work, task, runs=bike.wants_run(task))
    bike.finish(work)
    return work.sheet()


@guarded
def jobs_for(
    tasks: Sequence[PlannedTask],
    cold: Sequence[ColdJob] = (),
    learned: Mapping[str, int] | None = None,
) -> tuple[Job, ...]:
    """Every job of a visit, for the order to be solved over (`build`)."""
    return build(tasks, cold, learned).jobs

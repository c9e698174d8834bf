"""Facts and plan to everything the steps are worked out from."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

from ...codes.entries import Ask
from ...codes.options import Seal, Stood, Tick
from ...codes.steps import Name
from ...runsheet import (
    Job,
    Opened,
    Rounds,
    Step,
    StepId,
    TaskPlan,
    build,
    done,
    look_up_id,
    of_bike,
    openings,
)
from ...spec import Cell, Path
from ..asks.amount import Amount
from ..asks.choice import Chosen
from ..asks.common import Confirmed
from ..asks.leaks import Looked
from ..asks.look_up import LookedUp
from ..entries import Entry
from . import legs
from .draining import asks_if_empty, out_before_it_was_shut
from .facts import Facts
from .filling import fillings_of
from .known import Bench, Filling, Known, VisitPlan
from .needs import LOOK_UP_OVER, run_since
from .overpulled import found_over
from .pulls import counted, torque_card
from .status import is_complete


def _looked_up(task: TaskPlan, facts: Facts) -> dict[Path, Cell]:
    """What was looked up in this visit, with where it stands."""
    found = {}
    for path in task.asks:
        entry = facts.last.get(str(look_up_id(path)))
        if entry is not None and isinstance(entry.data, LookedUp):
            data = entry.data
            found[path] = Cell(
                written=data.written,
                document=data.document,
                page=data.page,
                entered_by=entry.by,
                entered_by_who=entry.who,
            )
    return found


def _asked_anew(task: TaskPlan, facts: Facts) -> TaskPlan:
    """The plan, asking for a capacity that is in doubt as well."""
    key = task.reservoir.key
    path = Path(key, "", f"capacity.{task.variant.value}")
    book = task.capacity
    far = bool(book and facts.into(key) > LOOK_UP_OVER * book)
    if not (far or key in facts.looked_up_anew) or path in task.asks:
        return task
    return replace(task, asks=(*task.asks, path))


def _was_topped_up(key: str, facts: Facts) -> bool:
    entry = facts.last.get(str(StepId(key, Name.CAME)))
    return bool(entry and isinstance(entry.data, Chosen) and entry.data.value == Stood.TOPPED_UP)


def _topped_up(task: TaskPlan, facts: Facts) -> TaskPlan:
    """The plan, with what went in as the bike came: it was in when the case was drained."""
    key = task.reservoir.key
    entry = facts.last.get(str(StepId(key, Name.TOPPED)))
    if entry is None or not isinstance(entry.data, Amount) or not _was_topped_up(key, facts):
        return task
    return replace(task, topped_up=task.topped_up + entry.data.ml)


def _gone(facts: Facts) -> Iterator[StepId]:
    """Seals that have to be seen to again of which the old one cannot serve: a washer that was turned
    over in this visit already, a ring that tore."""
    for key, found in facts.by_step.items():
        step = StepId.of(key)
        if step.name != Name.WASHER or key in facts.last:
            continue
        turned = any(isinstance(e.data, Chosen) and e.data.value == Seal.TURNED for e in found)
        if turned or key in facts.torn:
            yield step


def _cards(tasks: Mapping[str, TaskPlan]) -> Iterator[tuple[StepId, StepId]]:
    """Every wrench card that earlier releases did not have, and the steps that came after it."""
    ran, finished = of_bike(Name.RUN, 1), of_bike(Name.FINISH)
    wheel = of_bike(Name.WHEEL_IN)
    for key, task in tasks.items():
        filled = StepId(key, Name.FILL, "", 1)
        for one in openings(task.reservoir, task.variant):
            if one.card.name in (Name.TORQUE_FILLER, Name.TORQUE_LEVEL):
                yield one.card, finished
            elif one.card.name == Name.TORQUE_COVER:
                yield from ((one.card, ran), (one.card, finished))
            elif one.card.name == Name.TORQUE_LEG:
                yield from ((one.card, wheel), (one.card, finished))
            elif one.card.name == Name.TORQUE_WHEEL:
                yield from ((one.card, finished), (of_bike(Name.STROKE), finished))
            elif one.card.name == Name.TORQUE_FILTER or one.card.part:
                yield from ((one.card, filled), (one.card, finished))


# what earlier releases did not ask of a leg, and what came after it
_OF_LEGS = {
    Name.LEG_SET: Name.LEG_OUT,
    **dict.fromkeys(
        (Name.MEASURE, Name.INSPECT, Name.LEG_SPRING, Name.LEG_TUBE, Name.LEG_SEALS), Name.LEG_FILL
    ),
    Name.LEG_STAYED: Name.LEG_IN,
}


def _of_legs(tasks: Mapping[str, TaskPlan]) -> Iterator[tuple[StepId, StepId]]:
    for key in legs.of(tasks):
        yield from ((StepId(key, one), StepId(key, then)) for one, then in _OF_LEGS.items())
        on = of_bike(Name.WHEEL_IN)
        yield from ((StepId(key, one), on) for one in (Name.LEG_PRESSURE, Name.LEG_BACK))


def _was_ticked(facts: Facts) -> bool:
    """Whether the front wheel went in while a second person was a tick."""
    entry = facts.last.get(str(of_bike(Name.WHEEL_IN)))
    confirmed = entry.data if entry and isinstance(entry.data, Confirmed) else None
    return confirmed is not None and Tick.SECOND_PERSON in confirmed.items


def _unasked(facts: Facts, tasks: Mapping[str, TaskPlan]) -> Iterator[StepId]:
    """Questions of today that the visit was past before anybody asked them: what follows them has begun,
    and not against them."""
    came = [(StepId(key, Name.CAME), of_bike(Name.WARM)) for key in tasks]
    ran, finished = of_bike(Name.RUN, 1), of_bike(Name.FINISH)
    if _was_ticked(facts):
        yield of_bike(Name.WHEEL_LOOKED)
    for asked, then in (
        *came,
        *_cards(tasks),
        *_of_legs(tasks),
        *((StepId(key, Name.SHOCK_FELT), StepId(key, Name.LOOK)) for key in tasks),
        (of_bike(Name.LAMP), ran),
        (of_bike(Name.LEAKS_AGAIN), finished),
    ):
        begun = str(then) in facts.timers or str(then) in facts.last
        against = any(done(asked).code in entry.against for entry in facts.against)
        if begun and not against and str(asked) not in facts.by_step:
            yield asked


def known_of(plan: VisitPlan, facts: Facts, bench: Bench) -> Known:
    """Everything a visit's steps are worked out from. Raises CoreError ``fill.no_capacity``."""
    asked = [_asked_anew(task, facts) for task in plan.tasks]
    told = [task.told(_looked_up(task, facts)) for task in asked]
    tasks = {task.reservoir.key: _topped_up(task, facts) for task in told}
    fillings = fillings_of(tasks, facts, bench)
    over = found_over(tasks, facts, bench)
    rounds = Rounds(
        fills={key: one.rounds for key, one in fillings.items()},
        runs=_runs(facts, tasks, fillings),
        opened={
            key: tuple(Opened(one.part, one.entry, one.out) for one in found)
            for key, found in facts.opened_again.items()
        },
        little=frozenset(key for key in fillings if asks_if_empty(tasks[key], facts)),
        early=frozenset(
            key for key in fillings if out_before_it_was_shut(tasks[key], facts) is not None
        ),
        topped=frozenset(key for key in fillings if _was_topped_up(key, facts)),
        unasked=frozenset(_unasked(facts, tasks)),
        over={key: tuple((one.look, one.nm) for one in found) for key, found in over.items()},
        gone=frozenset(_gone(facts)),
        legs={key: legs.so_far(key, tasks, facts) for key in legs.of(tasks)},
        covers={key: tuple(found) for key, found in facts.covers.items()},
    )
    sheet = build([task.task for task in tasks.values()], plan.cold, plan.learned, rounds)
    cards = {
        str(step.id): torque_card(
            step,
            tasks[step.id.reservoir],
            bench,
            counted(str(step.id), facts, over.get(step.id.reservoir, ())),
        )
        for step in sheet.steps
        if step.ask == Ask.TORQUE
    }
    known = Known(
        plan=plan,
        tasks=tasks,
        facts=facts,
        fillings=fillings,
        cards=cards,
        over=over,
        sheet=sheet,
        bench=bench,
    )
    known.steps = {step.id: step for step in sheet.steps}
    known.makers = sheet.makers()
    known.cautions = sheet.cautions()
    known.complete = {step.id: is_complete(step, known) for step in sheet.steps}
    return known


def _leak(facts: Facts) -> Entry | None:
    """The leak that was seen last, at either look, where nobody has looked again since."""
    looks = (facts.last.get(str(of_bike(name))) for name in (Name.LEAKS, Name.LEAKS_AGAIN))
    leaks = [look for look in looks if look and isinstance(look.data, Looked) and not look.data.dry]
    return max(leaks, key=lambda look: (look.at, look.id), default=None)


def _runs(facts: Facts, tasks: Mapping[str, TaskPlan], fillings: Mapping[str, Filling]) -> int:
    """Runs that happened, and one more where a level still has to be read after one, or a leak that was
    seen to has to be looked at again."""
    numbers = [StepId.of(key).round for key in facts.timers if StepId.of(key).name == Name.RUN]
    happened = max([0, *numbers])
    leak = _leak(facts)
    if leak is not None:
        return happened + (not any(run.started > leak.at for run in facts.runs))
    for key, filling in fillings.items():
        level = tasks[key].reservoir.level
        if level is None or not level.run_minutes or filling.right:
            continue
        if run_since(key, facts, filling) is None:
            return happened + 1
    return max(happened, 1)


def in_planned_order(
    steps: Sequence[Step], jobs: Sequence[Job], order: Sequence[str]
) -> list[Step]:
    """Steps as the plan has them; what it does not know stays where the description has it."""
    if not order:
        return list(steps)
    place = {job: n for n, job in enumerate(order)}
    own = {job.id: n for n, job in enumerate(jobs)}
    last = -1.0
    rank: dict[str, float] = {}
    for job in sorted(own, key=lambda key: own[key]):
        last = place.get(job, last)
        rank[job] = last if job in place else last + 0.5
    return sorted(steps, key=lambda step: rank.get(step.job, -1.0))

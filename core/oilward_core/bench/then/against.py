"""What an entry of the second description went against: sentences of then, as codes."""

from collections.abc import Iterable, Mapping, Sequence

from ...codes.facts import Fact
from ...codes.steps import Name
from ...runsheet import MAKERS, Need, Round, Rounds, Step, StepId, build
from ...spec import what
from ..fold.known import VisitPlan
from . import words_2
from .written import Written


def _rounds(entries: Iterable[Written]) -> tuple[dict[str, int], int]:
    """How often each reservoir was filled or read, and the engine run, by what was written down."""
    fills: dict[str, int] = {}
    runs = 1
    for entry in entries:
        step = StepId.of(entry.step)
        if step.name in (Name.FILL, Name.LEVEL, Name.SETTLE):
            fills[step.reservoir] = max(fills.get(step.reservoir, 1), step.round)
        elif step.name == Name.RUN:
            runs = max(runs, step.round)
    return fills, runs


class Against:
    """The needs of a visit's steps, by how they were said then."""

    def __init__(self, plan: VisitPlan, entries: Sequence[Written]) -> None:
        fills, runs = _rounds(entries)
        rounds = {key: (Round(),) * number for key, number in fills.items()}
        sheet = build(
            [task.task for task in plan.tasks],
            plan.cold,
            plan.learned,
            Rounds(fills=rounds, runs=runs),
        )
        self.labels = {task.reservoir.key: task.reservoir.label for task in plan.tasks}
        self.drained = [task.reservoir.key for task in plan.tasks if task.reservoir.facts.drained]
        self.steps = {step.id: step for step in sheet.steps}

    def _label(self, key: str) -> str:
        return self.labels.get(key, key)

    def _called(self, step: Step) -> tuple[str, ...]:
        if step.path is not None:
            return (f"Look up: {what(step.path)}",)
        return words_2.titles(step.id.name, self._label(step.id.reservoir))

    def _said(self, need: Need) -> Mapping[str, str]:
        """How a need was said, with its code; one of the whole bike, for each reservoir."""
        template = words_2.UNMET.get(need.fact, "")
        if need.step is not None:
            step = self.steps.get(need.step)
            titles = self._called(step) if step else ()
            return {template.format(label=title): need.code for title in titles}
        whole = MAKERS[need.fact].whole_bike and not need.reservoir
        keys = self.drained if whole else [need.reservoir]
        return {template.format(label=self._label(key)): Need(need.fact, key).code for key in keys}

    def codes(self, step: str, sentences: Iterable[str]) -> tuple[str, ...]:
        """What an entry at a step went against. A sentence nobody knows is kept as it is: somebody still
        has to say what was found. One that was no need but a stop stands as long as that stop."""
        found = self.steps.get(StepId.of(step))
        known: dict[str, str] = {}
        for need in found.needs if found else self._any():
            known |= self._said(need)
        stops = StepId.of(step).name in (Name.RUN, Name.FINISH)
        unknown = "stop:" if stops else f"{Fact.EARLIER}:"
        return tuple(
            known.get(text, unknown + ("" if stops else text)) for text in map(str, sentences)
        )

    def _any(self) -> list[Need]:
        """Every need of every reservoir, for a step that is not part of the visit any more."""
        return [
            Need(fact, key)
            for fact in words_2.UNMET
            if fact != Fact.DONE
            for key in (*self.labels, "")
        ]

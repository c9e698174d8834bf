"""What is only looked at: shocks, and what stands between two marks."""

from ...codes.entries import Ask
from ...codes.options import MARK_LOOKS, SHOCK_LOOKS
from ...codes.steps import JobKind, Name
from ...said import options as choices
from ...said import steps as words
from ...spec import Recipe
from ..ids import StepId, of_bike
from ..jobs import UPRIGHT
from ..needs import done
from ..steps import PlannedTask, Step, chosen
from ..work import Work

_OPTIONS = {Recipe.SHOCK: SHOCK_LOOKS, Recipe.WATCHED: MARK_LOOKS}


def _how(spec_recipe: Recipe, hydraulic: bool) -> str:
    """What its own sheet warns of stands beside it already."""
    said = words.LOOK_AT_SHOCK if spec_recipe == Recipe.SHOCK else words.LOOK_AT_MARKS
    return f"{said} {words.LOW_FLUID}" if hydraulic else said


def write(work: Work, task: PlannedTask) -> None:
    """One look, said in one tap."""
    spec = task.spec
    facts = spec.facts
    job = work.job(JobKind.LOOK, spec, attitude=UPRIGHT)
    said = words.step(
        Name.LOOK, label=spec.label, how=_how(facts.recipe, facts.hydraulic and not spec.caution)
    )
    work.step(
        Step(
            id=StepId(spec.key, Name.LOOK),
            job=job,
            ask=Ask.CHOICE,
            title=said.title,
            instruction=said.text,
            options=chosen(choices.LOOKS, _OPTIONS[facts.recipe]),
            needs=(done(of_bike(Name.SUPPORT)),),
        )
    )

"""What is only looked at: shocks, and what stands between two marks."""

from ...spec import Recipe
from ..ids import Name, StepId, of_bike
from ..jobs import UPRIGHT, JobKind
from ..needs import done
from ..steps import Ask, PlannedTask, Step
from ..work import Work

_SHOCK = ("dry and firm", "oil on the shaft", "damping is gone", "could not be seen")
_MARKS = (
    "between the marks",
    "low, topped up between the marks",
    "low, left as found",
    "above the mark",
)
_OPTIONS = {Recipe.SHOCK: _SHOCK, Recipe.WATCHED: _MARKS}
_TEXT = {
    Recipe.SHOCK: "Shaft, seal and damping. A rebuild or a charge is a specialist's work.",
    Recipe.WATCHED: "Bike upright, at eye level. As found, and as left.",
}
LOW_FLUID = "Low brake fluid usually means worn pads or a leak: look for which."


def write(work: Work, task: PlannedTask) -> None:
    """One look, said in one tap."""
    spec = task.spec
    recipe = spec.facts.recipe
    words = f"Look at the {spec.label}"
    job = work.job(JobKind.LOOK, words, spec, attitude=UPRIGHT)
    more = f" {LOW_FLUID}" if spec.facts.hydraulic else ""
    work.step(
        Step(
            id=StepId(spec.key, Name.LOOK),
            job=job,
            ask=Ask.CHOICE,
            title=words,
            instruction=_TEXT[recipe] + more,
            options=_OPTIONS[recipe],
            needs=(done(of_bike(Name.SUPPORT)),),
        )
    )

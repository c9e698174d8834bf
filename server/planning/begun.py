"""What an empty workshop has done of its first steps."""

from garage.models import SpecSheet
from shelf.models import Fluid
from workshop.models import Person, Workshop

from .shapes import FirstStep, StepOfFirst


def first_steps() -> list[FirstStep]:
    """The first steps of a workshop without a bike, in the order in which each helps the next."""
    approved = SpecSheet.objects.filter(state=SpecSheet.State.APPROVED)
    done: dict[StepOfFirst, bool] = {
        "place": Workshop.objects.filter(version__gt=1).exists(),
        "people": Person.objects.filter(is_active=True).count() > 1,
        "shelf": Fluid.objects.exists(),
        "model": approved.exists(),
        "bike": False,
    }
    return [FirstStep(step, is_done) for step, is_done in done.items()]

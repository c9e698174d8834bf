"""Tips written at the bench. Each write is safe to repeat; the actor is always named."""

from uuid import UUID

from django.db import transaction
from django.http import Http404
from oilward_core.errors import CoreError
from oilward_core.runsheet import Name, StepId
from workshop.access import as_id
from workshop.announce import announce
from workshop.models import Person
from workshop.repeated import digest, written

from visits.models import Tip, Visit
from visits.selectors import visits

from .shapes import NewTip


@transaction.atomic
def write_tip(visit_id: UUID, new: NewTip, *, actor: Person) -> Visit:
    """Write down a tip at a step, for everybody who does it on such a bike. What it replaces stays on
    record. Raises CoreError ``sheet.no_such_step``, Conflict ``visit.id_taken``."""
    visit = visits().filter(pk=visit_id).first()
    if visit is None:
        raise Http404
    step = StepId.of(new.step)
    if step.name not in tuple(Name):
        raise CoreError("sheet.no_such_step", step=new.step)
    tip, made = Tip.objects.get_or_create(
        id=as_id(new.id),
        defaults={
            "model": visit.bike.model,
            "step": step.place,
            "text": new.text.strip(),
            "tools": ", ".join(tool.strip() for tool in new.tools.split(",") if tool.strip()),
            "by": actor,
            "sent": digest(new),
        },
    )
    written(tip, digest(new))
    if made:
        announce(f"visit/{visit.pk}")
    return visit

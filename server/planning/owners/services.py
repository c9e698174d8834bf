"""An owner is forgotten; the machine's history stays."""

from django.db import connection, transaction
from garage.locks import lock_bikes
from garage.models import Bike
from oilward_core.errors import CoreError
from workshop.access import as_id, require_lead
from workshop.models import Person, Trace
from workshop.touched import touch
from workshop.traces import trace

from .shapes import OwnersData, OwnersName


@transaction.atomic
def erase(act_id: str, name: str, *, actor: Person) -> int:
    """Take an owner's name off every bike, with its plate, its notes, and what was traced of them; on how
    many it stood. Services, readings and findings stay: they are the machine's. A lead's to do; the same
    act again changes nothing. Raises CoreError ``owners.nobody``."""
    require_lead(actor)
    about = f"owner/{as_id(act_id)}"
    if done := Trace.objects.filter(about=about).first():
        return int(done.was["bikes"])
    ids = list(Bike.objects.filter(owner=name).values_list("pk", flat=True)) if name.strip() else []
    if not ids:
        raise CoreError("owners.nobody", field="name")
    bikes = lock_bikes(ids)
    for bike in bikes:
        Bike.objects.filter(pk=bike.pk).update(
            owner="", plate="", notes="", version=bike.version + 1
        )
    with connection.cursor() as cursor:
        # what happened is only ever added to; forgetting whom it happened to is a right of its own
        cursor.execute("SELECT workshop_forget_owner(%s)", [[f"bike/{pk}" for pk in ids]])
    trace("owner forgotten", about, actor=actor, was={"bikes": len(ids)})
    touch(*ids)
    return len(ids)


@transaction.atomic
def given_out(act: OwnersName, data: OwnersData, *, actor: Person) -> None:
    """Keep that what is held about an owner was given out, and of how many bikes: never the name, which
    may have to be forgotten. The same act again changes nothing."""
    about = f"owner given out/{as_id(act.id)}"
    if not Trace.objects.filter(about=about).exists():
        trace("owner's data given out", about, actor=actor, was={"bikes": len(data.bikes)})

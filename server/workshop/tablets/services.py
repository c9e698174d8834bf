"""A tablet belongs to its bench: a lead pairs it once, and can unpair it."""

from datetime import datetime
from uuid import UUID

from config.problems import Conflict
from django.db import transaction
from django.http import Http404
from oilward_core.errors import CoreError

from workshop.access import as_id, require_lead
from workshop.models import Person, Tablet
from workshop.people.links import digest, token_of
from workshop.traces import trace

from .shapes import NewTablet


@transaction.atomic
def pair(new: NewTablet, *, actor: Person, now: datetime) -> str:
    """Let the tablet that asks belong to a bench; what its cookie holds from now on. A lead's to do.

    Raises CoreError ``tablets.name`` and ``tablets.taken``, Conflict ``tablets.id_taken``.
    """
    require_lead(actor)
    tablet_id, name = as_id(new.id), " ".join(new.name.split())
    if not name or len(name) > 60 or not name.isprintable():
        raise CoreError("tablets.name", field="name")
    cookie = f"{tablet_id}.{token_of(tablet_id)}"
    if row := Tablet.objects.filter(pk=tablet_id).first():
        if row.name != name or row.unpaired_at:
            raise Conflict("tablets.id_taken")
        return cookie
    if Tablet.objects.filter(name__iexact=name, unpaired_at=None).exists():
        raise CoreError("tablets.taken", field="name", name=name)
    Tablet.objects.create(
        pk=tablet_id,
        name=name,
        digest=digest(token_of(tablet_id)),
        paired_by=actor,
        paired_at=now,
    )
    trace("tablet paired", f"tablet/{name}", actor=actor)
    return cookie


@transaction.atomic
def unpair(tablet_id: UUID, *, actor: Person, now: datetime) -> None:
    """Whoever holds this tablet signs in by password again; who is tapped in there is out. A lead's to
    do; twice is once."""
    require_lead(actor)
    row = Tablet.objects.select_for_update().filter(pk=tablet_id).first()
    if row is None:
        raise Http404
    if row.unpaired_at is None:
        trace("tablet unpaired", f"tablet/{row.name}", actor=actor)
        Tablet.objects.filter(pk=row.pk).update(unpaired_at=now)

"""Taking off the shelf what a visit used up, as whoever signs it has looked it over."""

from collections.abc import Sequence
from datetime import date
from decimal import Decimal
from uuid import uuid5

from config.problems import Conflict
from django.http import Http404
from oilward_core.bench import Closing, Entry, let_out
from oilward_core.kit import LineKind
from oilward_core.said import waste as said
from shelf.stock.selectors import batches
from shelf.stock.services import save_seals, take_from_bottle
from shelf.stock.shapes import BottleUse, SealForm
from shelf.waste.services import drained
from workshop.access import as_id
from workshop.models import Person

from visits.models import Visit
from visits.shapes import TakenOff


def printed(taken: Sequence[TakenOff]) -> dict[str, list[str]]:
    """The batches of the bottles that are taken, by fluid. What is no id is refused as it is taken."""
    try:
        return batches([as_id(one.bottle) for one in taken if one.bottle])
    except Http404:
        return {}


def keep_waste(
    visit: Visit, stands: Closing, happened: Sequence[Entry], *, actor: Person, today: date
) -> None:
    """What it let out runs into the container of used oil."""
    out = let_out(stands.tasks, happened)
    whose = [one.label if one.measured else said.unmeasured(one.label) for one in out]
    note = said.from_visit(visit.bike.name, ", ".join(whose))
    total = sum((one.ml for one in out), Decimal(0))
    drained(uuid5(visit.pk, "waste"), total, note, actor=actor, today=today)


def take_off(visit: Visit, taken: Sequence[TakenOff], *, actor: Person, today: date) -> None:
    """Written with the signature, and once with it. Raises Conflict ``shelf.gone`` for a bottle that is
    no longer there, CoreError ``shelf.not_there`` for more than there is."""
    for one in taken:
        act = f"{uuid5(visit.pk, one.bottle or one.part)}"
        if not one.bottle:
            form = SealForm(act=act, name=one.part, count=one.amount, kind=LineKind.USED)
            save_seals(form, actor=actor, today=today)
            continue
        try:
            use = BottleUse(act=act, id=one.bottle, used=one.amount)
            take_from_bottle(use, actor=actor, today=today)
        except Http404 as error:
            raise Conflict("shelf.gone") from error

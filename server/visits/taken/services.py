"""Taking off the shelf what a visit used up, as whoever signs it has looked it over."""

from collections.abc import Sequence
from datetime import date
from uuid import uuid5

from config.problems import Conflict
from django.http import Http404
from oilward_core.kit import LineKind
from shelf.stock.services import save_seals, take_from_bottle
from shelf.stock.shapes import BottleUse, SealForm
from workshop.models import Person

from visits.models import Visit
from visits.shapes import TakenOff


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

"""Every line of the container of used oil. A line sent twice is written once."""

from datetime import date
from decimal import Decimal
from uuid import UUID

from config.problems import Conflict
from django.db import connection, transaction
from oilward_core.errors import CoreError, at
from oilward_core.kit import WasteKind, waste_line
from oilward_core.quantity import Kind, parse_single
from workshop.access import as_id
from workshop.models import Person
from workshop.repeated import digest, written

from shelf.models import WasteRow

from . import selectors
from .shapes import WasteForm

BY_HAND = (WasteKind.CONTAINER, WasteKind.ADDED, WasteKind.COLLECTED, WasteKind.COUNTED)


def _queue() -> None:
    """Lines of the container queue up until this transaction ends."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(hashtextextended('waste', 0))")


def _add(
    row_id: UUID, kind: WasteKind, ml: Decimal, note: str, sent: str, by: Person, on: date
) -> None:
    line = waste_line(kind, ml, selectors.level())
    WasteRow.objects.create(
        id=row_id, kind=line.kind, ml=line.ml, note=note, sent=sent, by=by, on=on
    )


@transaction.atomic
def write(form: WasteForm, *, actor: Person, today: date) -> None:
    """What somebody did to the container. Raises CoreError at ``kind`` or ``amount``, Conflict
    ``visit.id_taken`` for an id that stands for something else."""
    row_id, told = as_id(form.id), digest(form)
    if form.kind not in BY_HAND:
        raise CoreError("sheet.choose", field="kind", options=[str(kind) for kind in BY_HAND])
    with at("amount"):
        ml = parse_single(form.amount, Kind.VOLUME, "l").low
    _queue()
    if written(WasteRow.objects.filter(id=row_id).first(), told) is None:
        _add(row_id, WasteKind(form.kind), ml, form.note.strip(), told, actor, today)


@transaction.atomic
def drained(row_id: UUID, ml: Decimal, note: str, *, actor: Person, today: date) -> None:
    """What a signed visit let out; once for a visit. Nothing that is none is written."""
    if ml <= 0:
        return
    _queue()
    if WasteRow.objects.filter(id=row_id).exists():
        raise Conflict("visit.id_taken")
    _add(row_id, WasteKind.DRAINED, ml, note[:200], "", actor, today)

from uuid import UUID

from django.db.models import Max, Q, QuerySet
from django.http import Http404
from oilward_core.kit import WasteKind, WasteLevel, waste_level
from workshop.mapping import speaker
from workshop.models import Person

from shelf.models import WasteRow

from . import mapping
from .papers import slip
from .shapes import Waste

LATEST = 100


def _rows() -> QuerySet[WasteRow]:
    """Oldest first."""
    return WasteRow.objects.select_related("by").order_by("number")


def _emptied_before(number: int | None = None) -> int:
    """The line of the last collection, before a line where one is named; 0 where there was none."""
    collected = WasteRow.objects.filter(kind=WasteKind.COLLECTED)
    if number is not None:
        collected = collected.filter(number__lt=number)
    return collected.aggregate(last=Max("number"))["last"] or 0


def level() -> WasteLevel:
    """What lies in the container: however long the ledger, only what came since it was collected."""
    since = Q(number__gt=_emptied_before()) | Q(kind=WasteKind.CONTAINER)
    return waste_level([mapping.line(row) for row in _rows().filter(since)])


def _unit(person: Person) -> str:
    """A container is read in litres, where its reader reads millilitres."""
    unit = speaker(person).volume
    return "l" if unit == "ml" else unit


def waste(person: Person) -> Waste:
    """What lies in the container, and what happened to it."""
    return mapping.waste(level(), _rows().reverse()[:LATEST], _unit(person))


def slip_pdf(row_id: UUID, person: Person) -> bytes:
    """The slip of a collection: what was in it, and where that came from."""
    collected = _rows().filter(id=row_id, kind=WasteKind.COLLECTED).first()
    if collected is None:
        raise Http404
    begun = _emptied_before(collected.number)
    inside = _rows().filter(number__gt=begun, number__lt=collected.number)
    return slip(collected, inside, _unit(person))

from uuid import UUID

from django.http import Http404
from oilward_core.kit import WasteLevel, since_collected, waste_level
from workshop.mapping import speaker
from workshop.models import Person

from shelf.models import WasteRow

from . import mapping
from .papers import slip
from .shapes import Waste

LATEST = 100


def _rows() -> list[WasteRow]:
    """Oldest first."""
    return list(WasteRow.objects.select_related("by").order_by("number"))


def level() -> WasteLevel:
    return waste_level([mapping.line(row) for row in _rows()])


def _unit(person: Person) -> str:
    """A container is read in litres, where its reader reads millilitres."""
    unit = speaker(person).volume
    return "l" if unit == "ml" else unit


def waste(person: Person) -> Waste:
    """What lies in the container, and what happened to it."""
    rows = _rows()
    found = waste_level([mapping.line(row) for row in rows])
    return mapping.waste(found, rows[::-1][:LATEST], _unit(person))


def slip_pdf(row_id: UUID, person: Person) -> bytes:
    """The slip of a collection: what was in it, and where that came from."""
    rows = _rows()
    number = next((n for n, row in enumerate(rows) if row.id == row_id), None)
    if number is None or not mapping.shown(rows[number], "ml").slip:
        raise Http404
    before = rows[:number]
    begun = since_collected([mapping.line(row) for row in before])
    return slip(rows[number], before[begun:], _unit(person))

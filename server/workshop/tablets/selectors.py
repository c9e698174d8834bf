from workshop import days
from workshop.access import require_lead
from workshop.models import Person, Tablet

from .shapes import Doorway, Face, TabletLine


def line(row: Tablet, here: Tablet | None) -> TabletLine:
    return TabletLine(
        id=str(row.pk),
        name=row.name,
        paired_by=row.paired_by.name,
        paired_on=days.day_of(row.paired_at).isoformat(),
        here=here is not None and row.pk == here.pk,
    )


def tablets(here: Tablet | None, actor: Person) -> list[TabletLine]:
    """The tablets that belong to benches. A lead's to see."""
    require_lead(actor)
    rows = Tablet.objects.filter(unpaired_at=None).select_related("paired_by").order_by("name")
    return [line(row, here) for row in rows]


def doorway(here: Tablet | None) -> Doorway:
    """Who may tap their name on this tablet: whoever works here and has a PIN."""
    if here is None:
        return Doorway("", [])
    rows = Person.objects.filter(is_active=True).exclude(pin="").order_by("name")
    return Doorway(here.name, [Face(row.username, row.name) for row in rows])

from decimal import Decimal

from django.http import Http404
from oilward_core.errors import CoreError
from oilward_core.quantity import Kind, parse_single, show
from workshop.mapping import speaker
from workshop.models import Person

from .devices import SimulatedWrench, TorqueSource
from .mapping import fluid_card, scales, wrench
from .models import Fluid, WrenchRow
from .shapes import Peak, Shelf

CAVEAT = "Grade limits are recalled, not quoted: compare with the current edition."


def pull(wrench_id: int, aim: str, source: TorqueSource | None = None) -> Peak:
    """The peak of one pull on a digital wrench towards ``aim`` (any torque unit)."""
    row = WrenchRow.objects.filter(pk=wrench_id, simulated=True).first()
    if row is None:
        raise Http404
    try:
        target = parse_single(aim, Kind.TORQUE, row.unit).low
    except CoreError as error:
        raise CoreError(error.code, **{**error.fields, "field": "aim"}) from error
    peak: Decimal = (source or SimulatedWrench()).peak(wrench(row), target)
    return Peak(show(peak, row.unit, 1), row.simulated)


def shelf(person: Person) -> Shelf:
    """Every fluid with what its measured values satisfy, in one query."""
    unit = speaker(person).volume
    return Shelf([fluid_card(row, unit) for row in Fluid.objects.all()], scales(), CAVEAT)

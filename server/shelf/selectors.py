from dataclasses import dataclass
from decimal import Decimal

from django.http import Http404
from oilward_core.errors import CoreError
from oilward_core.quantity import Kind, parse_single, show

from .devices import SimulatedWrench, TorqueSource
from .mapping import wrench
from .models import WrenchRow


@dataclass(frozen=True)
class Peak:
    """A pull as the wrench reports it, in its own unit."""

    reading: str
    simulated: bool


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

from datetime import date
from uuid import UUID

from oilward_core.due import check_odometer
from oilward_core.errors import CoreError
from oilward_core.quantity import Kind, parse_single
from workshop.models import Person

from .models import Bike, OdometerReading
from .selectors import last_odometer


def record_odometer(
    bike: Bike, text: str, *, reading_id: UUID, read_on: date, actor: Person
) -> OdometerReading:
    """Write down what the odometer shows, as typed in the bike's unit or any other.

    Raises CoreError at field ``odometer``.
    """
    last = last_odometer([bike.id]).get(bike.id)
    try:
        measure = parse_single(text, Kind.DISTANCE, bike.odometer_unit)
        check_odometer(measure.low, last.km if last else None, bike.odometer_unit)
    except CoreError as error:
        raise CoreError(error.code, **{**error.fields, "field": "odometer"}) from error
    return OdometerReading.objects.create(
        id=reading_id,
        bike=bike,
        km=measure.low,
        hours=last.hours if last else None,
        as_written=measure.text[:40],
        read_on=read_on,
        read_by=actor,
    )

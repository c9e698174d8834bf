"""What a visit's run sheet is told apart by, without working it out."""

from dataclasses import asdict

from django.db import connection
from workshop.kept import RUN_SHEET
from workshop.mapping import seconds_per_minute
from workshop.models import Person

from .models import Counted, Visit

# all that a run sheet is worked out from, in one question; what happened is only added to, so it is
# counted
COUNTED = """
SELECT (SELECT count(*) FROM visits_entryrow WHERE visit_id = visit.id),
       (SELECT json_agg(json_build_array(reservoir, variant, fluid_id, taken_out) ORDER BY id)
          FROM visits_task WHERE visit_id = visit.id),
       (SELECT count(*) FROM garage_odometerreading WHERE bike_id = visit.bike_id),
       (SELECT count(*) FROM visits_tip WHERE model_id = bike.model_id),
       (SELECT json_agg(wrench ORDER BY id) FROM shelf_wrenchrow wrench),
       (SELECT json_build_array(count(*), max(id), sum(version)) FROM shelf_fluid),
       (SELECT max(id) FROM shelf_stockline)
  FROM visits_visit visit JOIN garage_bike bike ON bike.id = visit.bike_id
 WHERE visit.id = %s
"""


def counted(visit: Visit) -> Counted:
    """What a visit is told apart by: counted once in a request, before what its sheet is made of is
    read, so that the sheet may be newer than its mark and never older."""
    if visit.counted is None:
        with connection.cursor() as cursor:
            cursor.execute(COUNTED, [visit.pk])
            *facts, fluids, stock = cursor.fetchone()
        visit.counted = Counted(facts, (*fluids, stock))
    return visit.counted


def mark(visit: Visit, person: Person) -> str:
    """As long as it is the same, so is a run sheet, but for the clock."""
    bike = visit.bike
    return RUN_SHEET.of(
        counted=asdict(counted(visit)),
        visit=[str(visit.pk), visit.state, seconds_per_minute()],
        bike=[bike.name, bike.model_id, bike.model.layout, bike.odometer_unit, bike.offset_km],
        person=[person.pk, person.volume_unit, person.torque_unit],
    )

"""What a plan stands on: bikes with their sheets, schools, services and what is due."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from django.http import Http404
from garage.mapping import BikeSpec
from garage.models import Bike
from garage.selectors import schools_of, specs_of
from oilward_core.bundle import Upkeep
from oilward_core.errors import CoreError
from oilward_core.fill import Filled
from oilward_core.schools import Schools
from visits.models import Service
from visits.selectors import filled_of, services_of

from planning.models import DueRow

from . import mapping


@dataclass(frozen=True, kw_only=True)
class Ground:
    """Everything a plan of one bike stands on."""

    bike: Bike
    spec: BikeSpec
    schools: Schools
    services: Mapping[str, Sequence[Service]]
    dues: Mapping[str, DueRow]
    upkeeps: Sequence[Upkeep]
    filled: Mapping[tuple[int, str, str], Sequence[Filled]]


def grounds(bikes: Sequence[Bike], today: date) -> dict[UUID, Ground]:
    """The ground of each bike that has an approved sheet, in a number of queries that does not
    grow."""
    ids = [bike.pk for bike in bikes]
    specs, schools = specs_of(bikes), schools_of(ids)
    services: dict[UUID, dict[str, Sequence[Service]]] = {}
    for (bike_id, key), rows in services_of(ids).items():
        services.setdefault(bike_id, {})[key] = rows
    dues: dict[UUID, dict[str, DueRow]] = {}
    for row in DueRow.objects.filter(bike_id__in=ids):
        dues.setdefault(row.bike_id, {})[row.reservoir] = row
    filled = filled_of({bike.model_id for bike in bikes})
    found = {}
    for bike in bikes:
        spec, due = specs.get(bike.pk), dues.get(bike.pk, {})
        if spec is None:
            continue
        upkeeps = [
            upkeep
            for reservoir in spec.reservoirs
            if reservoir.key in due
            and (upkeep := mapping.upkeep(due[reservoir.key], reservoir, today))
        ]
        found[bike.pk] = Ground(
            bike=bike,
            spec=spec,
            schools=schools[bike.pk],
            services=services.get(bike.pk, {}),
            dues=due,
            upkeeps=upkeeps,
            filled=filled,
        )
    return found


def ground(bike_id: UUID, today: date) -> Ground:
    """The ground of one bike. Raises CoreError ``visit.no_sheet``."""
    bike = Bike.objects.select_related("model").filter(pk=bike_id).first()
    if bike is None:
        raise Http404
    found = grounds([bike], today).get(bike.pk)
    if found is None:
        raise CoreError("visit.no_sheet")
    return found

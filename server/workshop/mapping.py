"""Between the workshop's rows and the core."""

from typing import cast

from django.conf import settings
from oilward_core.bench import Speaker
from oilward_core.quantity import Preference
from oilward_core.schools import Choice

from .models import Person, SchoolRow


def speaker(person: Person) -> Speaker:
    return Speaker(person.volume_unit, person.torque_unit, cast(Preference, person.ounces))


def choice(row: SchoolRow) -> Choice:
    return Choice(kind=row.kind, topic=row.topic, choice=row.choice)


def seconds_per_minute() -> float:
    return float(settings.SECONDS_PER_MINUTE)

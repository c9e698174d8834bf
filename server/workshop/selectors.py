from typing import cast

from django.conf import settings
from oilward_core.quantity import (
    CANONICAL,
    UNITS,
    Kind,
    convert,
    nudges,
    parse,
    quick_sum,
    show_range,
)

from .access import may_work
from .mapping import seconds_per_minute, speaker
from .models import Person, Workshop
from .shapes import Amount, Nudge, Prices, QuickSum, RoleWord, Session

KINDS = [kind.value for kind in Kind]


def session(person: Person | None) -> Session:
    workshop = Workshop.objects.first()
    name = workshop.name if workshop else "Oil Ward"
    practice = seconds_per_minute() != 60
    if person is None:
        return Session(False, "", "", "", False, "ml", "N·m", name, practice, 0)
    return Session(
        True,
        person.username,
        person.name,
        cast(RoleWord, person.role),
        may_work(person),
        person.volume_unit,
        person.torque_unit,
        name,
        practice,
        settings.EVENTS_PORT,
    )


def summed(text: str, person: Person) -> QuickSum:
    """A line of bench arithmetic, answered."""
    answer = quick_sum(text, speaker(person).preference)
    return QuickSum(answer.words, answer.kind.value)


def understood(text: str, kind: str, unit: str, person: Person) -> Amount:
    """What a typed amount means in the kind's canonical unit, and as a number of ``unit``."""
    wanted, speaks = Kind(kind), speaker(person)
    shown = {Kind.VOLUME: speaks.volume, Kind.TORQUE: speaks.torque}.get(wanted, CANONICAL[wanted])
    measure = parse(text, wanted, shown, speaks.preference)
    asked = unit if unit in UNITS and UNITS[unit].kind == wanted else CANONICAL[wanted]
    return Amount(
        show_range(measure.low, measure.high, CANONICAL[wanted]),
        float(convert(measure.value, asked)),
        [Nudge(one.label, one.text) for one in nudges(measure)],
    )


def prices() -> Prices:
    workshop = Workshop.objects.first()
    if workshop is None:
        return Prices("0", "0", "0")
    return Prices(
        f"{workshop.coldest_start.normalize():f}",
        f"{workshop.hour_price:.2f}",
        f"{workshop.flat_price:.2f}",
        workshop.time_zone,
        workshop.currency,
        workshop.version,
    )

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

from . import days
from .access import may_work
from .mapping import seconds_per_minute, speaker
from .models import Person, Tablet, Trace, Workshop
from .people.keys import TOLD
from .rights import Role, rights_of
from .shapes import Amount, Nudge, QuickSum, Session, WorkshopSettings

KINDS = [kind.value for kind in Kind]


def since_last(person: Person) -> list[str]:
    """What happened to one's keys since one signed in last; to be asked before one is."""
    if person.last_login is None:
        return []
    found = Trace.objects.filter(about=f"person/{person.username}", act__in=TOLD)
    rows = found.filter(at__gt=person.last_login).select_related("by").order_by("at", "pk")
    here = days.zone()
    return [
        f"{row.at.astimezone(here):%d %b %Y, %H:%M}: {TOLD[row.act]}, by {row.by.name}."
        for row in rows
    ][-5:]


def session(person: Person | None, tablet: Tablet | None = None) -> Session:
    """Who is signed in, at which bench's tablet."""
    workshop = Workshop.objects.first()
    name, idle = (workshop.name, workshop.idle_minutes) if workshop else ("Oil Ward", 0)
    practice = seconds_per_minute() != 60
    at, idle = (tablet.name, idle) if tablet else ("", 0)
    if person is None:
        return Session(
            signed_in=False,
            id="",
            username="",
            name="",
            role=None,
            rights=[],
            may_work=False,
            volume_unit="ml",
            torque_unit="N·m",
            workshop=name,
            practice=practice,
            events="",
            tablet=at,
            idle_minutes=0,
        )
    return Session(
        signed_in=True,
        id=str(person.pk),
        username=person.username,
        name=person.name,
        role=Role(person.role),
        rights=sorted(rights_of(person.role)),
        may_work=may_work(person),
        volume_unit=person.volume_unit,
        torque_unit=person.torque_unit,
        workshop=name,
        practice=practice,
        events=settings.EVENTS_AT,
        tablet=at,
        idle_minutes=idle,
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


def settings_now() -> WorkshopSettings:
    workshop = Workshop.objects.first()
    if workshop is None:
        return WorkshopSettings(coldest_start="0", hour_price="0", flat_price="0")
    return WorkshopSettings(
        coldest_start=f"{workshop.coldest_start.normalize():f}",
        hour_price=f"{workshop.hour_price:.2f}",
        flat_price=f"{workshop.flat_price:.2f}",
        time_zone=workshop.time_zone,
        currency=workshop.currency,
        version=workshop.version,
        name=workshop.name,
        volume_unit=workshop.volume_unit,
        torque_unit=workshop.torque_unit,
        ounces=workshop.ounces,
        week_begins=workshop.week_begins,
        idle_minutes=workshop.idle_minutes,
    )

from decimal import Decimal
from uuid import UUID
from zoneinfo import available_timezones

from django.db import transaction
from oilward_core.errors import CoreError, at
from oilward_core.people import reads
from oilward_core.quantity import Kind, parse_single, read_number

from workshop.repeated import stands, unchanged

from .access import require_lead
from .models import CounterSignature, Person, Trace, Workshop, new_token
from .shapes import WorkshopSettings
from .traces import stood, trace

COLDEST, MILDEST = -60, 40  # °C, a coldest start


def countersign(about: str, *, lead: Person, actor: Person) -> None:
    """Keep that a lead put a name to what ``actor`` did. Twice is once."""
    CounterSignature.objects.get_or_create(lead=lead, about=about, defaults={"beside": actor})


def _price(field: str, text: str, most: int) -> Decimal:
    with at(field):
        return read_number(text, Decimal(0), Decimal(most))


def _coldest(text: str) -> Decimal:
    with at("coldest_start"):
        value = parse_single(text, Kind.TEMPERATURE, "°C").low
        if not COLDEST <= value <= MILDEST:
            raise CoreError("number.range", low=COLDEST, high=MILDEST)
        return value


def _zone(text: str, stands: str) -> str:
    name = text.strip() or stands
    if name not in available_timezones():
        raise CoreError("workshop.zone", field="time_zone")
    return name


def _name(text: str) -> str:
    name = " ".join(text.split())
    if len(name) > 120 or not name.isprintable():
        raise CoreError("workshop.name", field="name")
    return name


def _habits(wanted: WorkshopSettings, stands: Workshop) -> dict[str, object]:
    """How the workshop reads amounts and counts its weeks, and how long a tablet waits for hands."""
    volume, torque, ounces = reads(
        wanted.volume_unit or stands.volume_unit,
        wanted.torque_unit or stands.torque_unit,
        wanted.ounces or stands.ounces,
    )
    for field, value, low, high in (
        ("week_begins", wanted.week_begins, 0, 6),
        ("idle_minutes", wanted.idle_minutes, 1, 240),
    ):
        if not low <= value <= high:
            raise CoreError("number.range", field=field, low=low, high=high)
    return {
        "volume_unit": volume,
        "torque_unit": torque,
        "ounces": ounces,
        "week_begins": wanted.week_begins,
        "idle_minutes": wanted.idle_minutes,
    }


@transaction.atomic
def renew_calendar(act: UUID, *, actor: Person) -> None:
    """Give the calendar a new secret address; the old one shows nothing any more. A lead's to do; the
    same ``act`` again changes nothing."""
    require_lead(actor)
    workshop, about = Workshop.objects.select_for_update().get(), f"calendar/{act}"
    if Trace.objects.filter(about=about).exists():
        return
    trace("calendar's address renewed", about, actor=actor)
    workshop.calendar_token = new_token()
    workshop.save(update_fields=["calendar_token"])


@transaction.atomic
def set_workshop(wanted: WorkshopSettings, *, actor: Person) -> None:
    """Set the workshop's name, place, units, prices and the coldest start expected. A lead's to do.
    Raises Conflict ``workshop.edited``."""
    require_lead(actor)
    columns: dict[str, object] = {
        "coldest_start": _coldest(wanted.coldest_start),
        "hour_price": _price("hour_price", wanted.hour_price, 10_000),
        "flat_price": _price("flat_price", wanted.flat_price, 100_000),
    }
    workshop = Workshop.objects.select_for_update().get()
    columns["time_zone"] = _zone(wanted.time_zone, workshop.time_zone)
    columns["currency"] = wanted.currency.strip() or workshop.currency
    columns["name"] = _name(wanted.name) or workshop.name
    columns |= _habits(wanted, workshop)
    if stands(workshop, columns):
        return
    unchanged(workshop, wanted.version, "workshop.edited")
    trace(
        "workshop set",
        workshop.name,
        actor=actor,
        was=stood(workshop, "calendar_token", "generation", "release"),
    )
    Workshop.objects.update(**columns, version=workshop.version + 1, changed_by=actor.name)

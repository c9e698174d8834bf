from django.http import Http404
from django.utils import timezone
from oilward_core.people import TORQUES, VOLUMES, Qualification

from workshop.access import require_lead
from workshop.models import Person, Welcome, Workshop
from workshop.rights import DOES, Role
from workshop.second.selectors import with_second

from . import links
from .shapes import OwnPage, People, PersonLine, RoleLine, WelcomePage


def line(row: Person, second: bool) -> PersonLine:
    return PersonLine(
        id=row.pk,
        username=row.username,
        name=row.name,
        role=Role(row.role),
        qualifications=list(row.qualifications),
        active=row.is_active,
        waits=not row.has_usable_password(),
        has_pin=bool(row.pin),
        second=second,
        version=row.version,
    )


def people(actor: Person) -> People:
    """Everybody who works here or did, those who do first. A lead's to see."""
    require_lead(actor)
    rows, second = Person.objects.order_by("-is_active", "name"), with_second()
    return People(
        [line(row, row.pk in second) for row in rows],
        [one.value for one in Qualification],
        [RoleLine(role, does) for role, does in DOES.items()],
    )


def own(person: Person) -> OwnPage:
    return OwnPage(
        username=person.username,
        name=person.name,
        role=Role(person.role),
        qualifications=list(person.qualifications),
        volume_unit=person.volume_unit,
        torque_unit=person.torque_unit,
        ounces=person.ounces,
        volume_units=list(VOLUMES),
        torque_units=list(TORQUES),
        has_pin=bool(person.pin),
    )


def welcome(token: str) -> Welcome:
    """The link's row while it is good. Raises Http404 for one that was used, is too old or never was."""
    found = Welcome.objects.select_related("person").filter(
        digest=links.digest(token), used_at=None, until__gt=timezone.now(), person__is_active=True
    )
    row = found.first()
    if row is None:
        raise Http404
    return row


def welcome_page(token: str) -> WelcomePage:
    row, workshop = welcome(token), Workshop.objects.first()
    name = workshop.name if workshop else "Oil Ward"
    return WelcomePage(row.person.name, row.person.username, name)

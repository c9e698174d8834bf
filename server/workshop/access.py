"""Who may what. Views name one of these; nobody else decides about rights."""

import logging
from typing import cast
from uuid import UUID

from config.problems import LeadOnly
from django.contrib.auth import authenticate
from django.http import Http404
from oilward_core.errors import CoreError
from rest_framework.permissions import SAFE_METHODS, BasePermission
from rest_framework.request import Request
from rest_framework.views import APIView

from .models import Person
from .pins import knows_pin
from .rights import Right, rights_of
from .tablets.here import tablet_of
from .tries import tried, where

log = logging.getLogger("oilward.access")


def may(person: Person, right: Right) -> bool:
    """Whether somebody has a right: by the table, and no other way."""
    return right in rights_of(person.role)


def may_work(person: Person) -> bool:
    """Whether somebody writes at all."""
    return may(person, Right.WORK)


def leads(person: Person) -> bool:
    """Approves sheets, sets schools and prices, corrects readings, lifts holds."""
    return may(person, Right.LEAD)


def stands_alone(person: Person) -> bool:
    """Signs a visit and checks a number without a lead beside."""
    return may(person, Right.STAND_ALONE)


ONE_PAIR = "one pair of eyes"


def with_one_pair(person: Person) -> str:
    """Who compared a number alone, as the record says it."""
    return f"{person.name[:60]}, {ONE_PAIR}"


def only_one(person: Person) -> bool:
    """Whether nobody else here could check what this person wrote."""
    others = Person.objects.filter(is_active=True).exclude(pk=person.pk)
    return stands_alone(person) and not any(map(stands_alone, others))


class MayWork(BasePermission):
    """Everybody signed in may read; all but readers may write."""

    def has_permission(self, request: Request, view: APIView) -> bool:
        person = request.user
        if not isinstance(person, Person):
            return False
        return request.method in SAFE_METHODS or may_work(person)


def require_lead(person: Person) -> None:
    """Refuse what only a lead may do."""
    if not leads(person):
        raise LeadOnly


def _beside(request: Request, username: str, password: str, actor: Person) -> Person:
    """Whoever gives name and password, on a bench's tablet a PIN as well. Who tries is ``actor``."""

    def look() -> Person | None:
        found = authenticate(request._request, username=username, password=password)
        if found is None and tablet_of(request._request):
            found = knows_pin(username, password)
        return found if isinstance(found, Person) else None

    if not username or not password:
        raise CoreError("access.wrong_password", field="password")
    # wherever they are: it is they who try
    found = tried(f"beside {actor.pk}", "anywhere", look)
    log.info("countersignature beside %s by %s: %s", actor.username, username[:40], bool(found))
    if found is None:
        raise CoreError("access.wrong_password", field="password")
    return found


def second_person(
    request: Request, username: str, password: str, actor: Person
) -> tuple[Person, bool]:
    """Whoever stands for a fastener beside ``actor``, and whether that is the only person there is: one
    who stands alone with the qualification. Raises CoreError ``access.not_alone`` for anybody else."""
    found = _beside(request, username, password, actor)
    alone = found.pk == actor.pk and only_one(found)
    if not stands_alone(found):
        raise CoreError("access.not_alone", field="username")
    return found, alone


def countersigner(request: Request, username: str, password: str, actor: Person) -> Person:
    """The lead beside ``actor``, by name and password, on a bench's tablet by PIN as well. Raises
    CoreError at ``password`` for anybody else, ``actor`` among them."""
    found = _beside(request, username, password, actor)
    if not leads(found) or found.pk == actor.pk:
        raise CoreError("access.no_lead", field="username")
    return found


def prove(request: Request, password: str, field: str) -> None:
    """Let whoever is signed in say their password again, before what nobody else must do with their
    tablet. Raises CoreError ``people.current`` at ``field``."""
    person = person_of(request)
    right = tried(
        f"own {person.pk}",
        where(request),
        lambda: person if person.check_password(password) else None,
    )
    if right is None:
        raise CoreError("people.current", field=field)


def as_id(text: str) -> UUID:
    """An id somebody sent; one that is none names nothing."""
    try:
        return UUID(text)
    except ValueError as error:
        raise Http404 from error


def person_of(request: Request) -> Person:
    """The signed-in person of an authorised request."""
    return cast(Person, request.user)

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
from rest_framework.throttling import SimpleRateThrottle
from rest_framework.views import APIView

from .models import Person
from .pins import knows_pin
from .rights import Right, rights_of
from .tablets.here import tablet_of

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
    """Whoever gives name and password, on a bench's tablet a PIN as well."""
    found = authenticate(request._request, username=username, password=password)
    if found is None and tablet_of(request._request):
        found = knows_pin(username, password)
    log.info("countersignature beside %s by %s: %s", actor.username, username[:40], bool(found))
    if not isinstance(found, Person):
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


class SignInThrottle(SimpleRateThrottle):
    """Counts failed tries per name and address; a success clears them."""

    scope = "sign-in"

    def get_cache_key(self, request: Request, view: APIView) -> str:
        told = request.data if isinstance(request.data, dict) else {}
        name = str(told.get("username", "")).lower()[:40]
        return f"sign-in:{self.get_ident(request)}:{name}"

    def forget(self, request: Request, view: APIView) -> None:
        self.cache.delete(self.get_cache_key(request, view))


class CrowdThrottle(SimpleRateThrottle):
    """All tries to sign in together, whoever and wherever from: a password costs time to check."""

    scope = "sign-in-all"

    def get_cache_key(self, request: Request, view: APIView) -> str:
        return "sign-in-all"


class OwnThrottle(SimpleRateThrottle):
    """Counts how often somebody tries their own password, to change it."""

    scope = "sign-in"

    def get_cache_key(self, request: Request, view: APIView) -> str:
        return f"own:{request.user.pk}"


def as_id(text: str) -> UUID:
    """An id somebody sent; one that is none names nothing."""
    try:
        return UUID(text)
    except ValueError as error:
        raise Http404 from error


def person_of(request: Request) -> Person:
    """The signed-in person of an authorised request."""
    return cast(Person, request.user)

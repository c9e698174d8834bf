"""Who may what. Views name one of these; nobody else decides about rights."""

from typing import cast

from rest_framework.permissions import SAFE_METHODS, BasePermission
from rest_framework.request import Request
from rest_framework.throttling import SimpleRateThrottle
from rest_framework.views import APIView

from .models import Person, Role


class MayWork(BasePermission):
    """Everybody signed in may read; technicians and leads may write."""

    def has_permission(self, request: Request, view: APIView) -> bool:
        person = request.user
        if not isinstance(person, Person):
            return False
        return request.method in SAFE_METHODS or person.role in (Role.TECHNICIAN, Role.LEAD)


class SignInThrottle(SimpleRateThrottle):
    """Counts failed tries per name and address; a success clears them."""

    scope = "sign-in"

    def get_cache_key(self, request: Request, view: APIView) -> str:
        name = str(request.data.get("username", "")).lower()[:40]
        return f"sign-in:{self.get_ident(request)}:{name}"

    def forget(self, request: Request, view: APIView) -> None:
        self.cache.delete(self.get_cache_key(request, view))


def person_of(request: Request) -> Person:
    """The signed-in person of an authorised request."""
    return cast(Person, request.user)

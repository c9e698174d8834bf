from typing import Any

from django.contrib.auth import logout
from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import SessionAuthentication
from rest_framework.permissions import SAFE_METHODS
from rest_framework.request import Request

from .tablets import here


class SessionSignIn(SessionAuthentication):
    """Session authentication that answers 401, not 403, to somebody who is not signed in; on a bench's
    tablet it ends when nobody has touched it for a while."""

    def authenticate(self, request: Request) -> Any:
        session = request._request.session
        if here.over(session):
            logout(request._request)
            return None
        found = super().authenticate(request)
        if found and request.method not in SAFE_METHODS:
            here.hands(session)
        return found

    def authenticate_header(self, request: Request) -> str:
        return "Session"


class SessionSignInScheme(OpenApiAuthenticationExtension):  # type: ignore[no-untyped-call]
    target_class = SessionSignIn
    name = "session"

    def get_security_definition(self, auto_schema: object) -> dict[str, Any]:
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}

from typing import Any

from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request


class SessionSignIn(SessionAuthentication):
    """Session authentication that answers 401, not 403, to somebody who is not signed in."""

    def authenticate_header(self, request: Request) -> str:
        return "Session"


class SessionSignInScheme(OpenApiAuthenticationExtension):
    target_class = SessionSignIn
    name = "session"

    def get_security_definition(self, auto_schema: object) -> dict[str, Any]:
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}

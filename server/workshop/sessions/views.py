from config.shaped import shaped, told
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from workshop.access import person_of

from . import selectors, services
from .shapes import SignedIn


def _page(request: Request) -> Response:
    found = selectors.signed_in(person_of(request), request._request.session.session_key)
    return Response(told(SignedIn, found))


class SessionsView(APIView):
    """Where one is signed in."""

    @extend_schema(operation_id="own_sessions", responses=shaped(SignedIn)(many=True))
    def get(self, request: Request) -> Response:
        return _page(request)


class OneSessionView(APIView):
    @extend_schema(
        operation_id="own_session_end", request=None, responses={200: shaped(SignedIn)(many=True)}
    )
    def delete(self, request: Request, named: str) -> Response:
        services.end(person_of(request), named)
        return _page(request)

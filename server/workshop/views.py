from dataclasses import replace
from uuid import UUID

from config.asked import Asked
from config.shaped import sent, shaped, told
from django.contrib.auth import authenticate, logout
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect, ensure_csrf_cookie
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import status
from rest_framework.exceptions import AuthenticationFailed
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from . import proof, selectors, services
from .access import MayWork, log, person_of
from .models import Person
from .second import services as second
from .shapes import Amount, Credentials, QuickSum, Session, WorkshopSettings
from .tablets import here
from .tries import tried, where


@method_decorator([csrf_protect, ensure_csrf_cookie], name="dispatch")
class SessionView(APIView):
    """Signing in and out. CSRF is checked on signing in too."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="session_get", responses=shaped(Session))
    def get(self, request: Request) -> Response:
        person = request.user if isinstance(request.user, Person) else None
        tablet = here.tablet_of(request._request)
        return Response(told(Session, selectors.session(person, tablet)))

    @extend_schema(
        operation_id="session_sign_in", request=shaped(Credentials), responses=shaped(Session)
    )
    def post(self, request: Request) -> Response:
        given = sent(Credentials, request)

        def look() -> Person | None:
            name, password = given.username, given.password
            found = authenticate(request._request, username=name, password=password)
            return found if isinstance(found, Person) else None

        person = tried(f"password {given.username.strip().lower()[:40]}", where(request), look)
        if person is None:
            log.warning("sign-in refused: %s", given.username[:40])
            raise AuthenticationFailed(code="access.wrong_password")
        second.asked(person, given.second, given.passkey, request._request)
        log.info("signed in: %s", person.username)
        news = selectors.since_last(person)
        tablet = here.enter(request._request, person)
        proof.note(request._request.session)
        found = replace(selectors.session(person, tablet), news=news)
        return Response(told(Session, found))

    @extend_schema(operation_id="session_sign_out", request=None, responses={200: shaped(Session)})
    def delete(self, request: Request) -> Response:
        log.info("signed out: %s", getattr(request.user, "username", "nobody"))
        logout(request._request)
        tablet = here.tablet_of(request._request)
        # what the browser has kept of this person's pages and pictures goes with them
        leave = {"Clear-Site-Data": '"cache"'}
        return Response(told(Session, selectors.session(None, tablet)), headers=leave)


class QuickSumView(APIView):
    """Bench arithmetic: 2.7 l - 2.5 qt, 38 oz in qt, mid 14-21 ft-lb in Nm, 3 x 946 ml."""

    @extend_schema(
        operation_id="quick_sum",
        parameters=[OpenApiParameter("text", str, required=True)],
        responses=shaped(QuickSum),
    )
    def get(self, request: Request) -> Response:
        text = Asked(request.query_params).text("text")
        return Response(told(QuickSum, selectors.summed(text, person_of(request))))


class AmountView(APIView):
    """Says back what a typed amount means, while it is typed."""

    @extend_schema(
        operation_id="amount_understood",
        parameters=[
            OpenApiParameter("text", str, required=True),
            OpenApiParameter("unit", str),
            OpenApiParameter("kind", str, enum=selectors.KINDS, required=True),
        ],
        responses=shaped(Amount),
    )
    def get(self, request: Request) -> Response:
        asked = Asked(request.query_params)
        kind = asked.text("kind")
        if kind not in selectors.KINDS:
            kind = selectors.KINDS[0]
        answer = selectors.understood(
            asked.text("text"), kind, asked.text("unit"), person_of(request)
        )
        return Response(told(Amount, answer))


class SettingsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="settings_get", responses=shaped(WorkshopSettings))
    def get(self, request: Request) -> Response:
        return Response(told(WorkshopSettings, selectors.settings_now()))

    @extend_schema(
        operation_id="settings_set",
        request=shaped(WorkshopSettings),
        responses=shaped(WorkshopSettings),
    )
    def put(self, request: Request) -> Response:
        given = sent(WorkshopSettings, request)
        services.set_workshop(given, actor=person_of(request))
        return Response(told(WorkshopSettings, selectors.settings_now()))


class CalendarAddressView(APIView):
    """A new secret address for the calendar's feed; ``act`` is the client's id of renewing it."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="calendar_renew", request=None, responses={204: None})
    def put(self, request: Request, act: UUID) -> Response:
        services.renew_calendar(act, actor=person_of(request))
        return Response(status=status.HTTP_204_NO_CONTENT)

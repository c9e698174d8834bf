from dataclasses import replace
from uuid import UUID

from config.shaped import sent, shaped, told
from django.conf import settings
from django.contrib.auth import logout
from django.utils import timezone
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect, ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.exceptions import AuthenticationFailed
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from workshop.access import MayWork, log, person_of
from workshop.pins import knows_pin
from workshop.selectors import session, since_last
from workshop.shapes import Session
from workshop.tries import tried, where

from . import here, selectors, services
from .shapes import Doorway, NewTablet, TabletLine, Tapped


class TabletsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="tablets", responses=shaped(TabletLine)(many=True))
    def get(self, request: Request) -> Response:
        rows = selectors.tablets(here.tablet_of(request._request), person_of(request))
        return Response(told(TabletLine, rows))

    @extend_schema(
        operation_id="tablet_pair", request=shaped(NewTablet), responses={201: shaped(Session)}
    )
    def post(self, request: Request) -> Response:
        """Pairs the tablet that asks; its lead is signed out of it, so that people tap their names."""
        new = sent(NewTablet, request)
        cookie = services.pair(new, actor=person_of(request), now=timezone.now())
        logout(request._request)
        answer = Response(told(Session, session(None)), status=status.HTTP_201_CREATED)
        here.keep_cookie(answer, cookie)
        return answer


class TabletView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="tablet_unpair", request=None, responses={204: None})
    def delete(self, request: Request, tablet_id: UUID) -> Response:
        services.unpair(tablet_id, actor=person_of(request), now=timezone.now())
        return Response(status=status.HTTP_204_NO_CONTENT)


@method_decorator([csrf_protect, ensure_csrf_cookie], name="dispatch")
class DoorwayView(APIView):
    """Who may tap their name on this tablet, and tapping it."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="doorway", responses=shaped(Doorway))
    def get(self, request: Request) -> Response:
        found = here.tablet_of(request._request)
        answer = Response(told(Doorway, selectors.doorway(found)))
        if found:
            here.keep_cookie(answer, request._request.COOKIES[settings.TABLET_COOKIE])
        return answer

    @extend_schema(operation_id="doorway_tap", request=shaped(Tapped), responses=shaped(Session))
    def post(self, request: Request) -> Response:
        tapped = sent(Tapped, request)
        tablet = here.tablet_of(request._request)
        if tablet is None:
            raise AuthenticationFailed(code="access.no_tablet")
        name, pin = tapped.username.strip().lower()[:40], tapped.pin
        person = tried(f"PIN {name}", where(request), lambda: knows_pin(name, pin))
        if person is None:
            log.warning("PIN refused: %s", tapped.username[:40])
            raise AuthenticationFailed(code="access.wrong_pin")
        news = since_last(person)
        here.enter(request._request, person)
        log.info("tapped in: %s at %s", person.username, tablet.name)
        return Response(told(Session, replace(session(person, tablet), news=news)))


class HandsView(APIView):
    """Hands are on the tablet: its idle time begins anew."""

    @extend_schema(operation_id="hands_here", request=None, responses={204: None})
    def put(self, request: Request) -> Response:
        return Response(status=status.HTTP_204_NO_CONTENT)

from uuid import UUID

from config.shaped import sent, shaped, told
from django.contrib.auth import update_session_auth_hash
from django.utils import timezone
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect, ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from workshop import proof
from workshop.access import MayWork, person_of, prove
from workshop.second.selectors import is_on
from workshop.selectors import session
from workshop.shapes import Session
from workshop.tablets import here
from workshop.tries import where

from . import selectors, services
from .shapes import (
    ChangedPerson,
    Chosen,
    NewPassword,
    NewPerson,
    NewPin,
    OwnPage,
    OwnUnits,
    People,
    PersonLine,
    Proof,
    WelcomeLink,
    WelcomePage,
)


class PeopleView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="people", responses=shaped(People))
    def get(self, request: Request) -> Response:
        return Response(told(People, selectors.people(person_of(request))))

    @extend_schema(
        operation_id="person_add",
        request=shaped(NewPerson),
        responses={201: shaped(WelcomeLink)},
    )
    def post(self, request: Request) -> Response:
        proof.require_proven_lead(request)
        new = sent(NewPerson, request)
        link = services.add(new, actor=person_of(request), now=timezone.now())
        return Response(told(WelcomeLink, link), status=status.HTTP_201_CREATED)


class PersonView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="person_change",
        request=shaped(ChangedPerson),
        responses=shaped(PersonLine),
    )
    def put(self, request: Request, person_id: int) -> Response:
        proof.require_proven_lead(request)
        changed = sent(ChangedPerson, request)
        row = services.change(person_id, changed, actor=person_of(request))
        return Response(told(PersonLine, selectors.line(row, is_on(row))))


class WelcomeAgainView(APIView):
    """A new one-time link for somebody; ``act`` is the client's id of making it."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="person_welcome", request=None, responses=shaped(WelcomeLink))
    def put(self, request: Request, person_id: int, act: UUID) -> Response:
        proof.require_proven_lead(request)
        link = services.welcome_again(person_id, act, actor=person_of(request), now=timezone.now())
        return Response(told(WelcomeLink, link))


@method_decorator([csrf_protect, ensure_csrf_cookie], name="dispatch")
class WelcomeView(APIView):
    """What a one-time link opens, and choosing a password through it."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="welcome_get", responses=shaped(WelcomePage))
    def get(self, request: Request, token: str) -> Response:
        return Response(told(WelcomePage, selectors.welcome_page(token)))

    @extend_schema(operation_id="welcome_choose", request=shaped(Chosen), responses=shaped(Session))
    def post(self, request: Request, token: str) -> Response:
        given = sent(Chosen, request)
        person = services.choose(token, given, where(request), now=timezone.now())
        if is_on(person):  # a link alone does not open what a second factor closes
            return Response(told(Session, session(None, here.tablet_of(request._request))))
        tablet = here.enter(request._request, person)
        proof.note(request._request.session)
        return Response(told(Session, session(person, tablet)))


class OwnView(APIView):
    @extend_schema(operation_id="own_get", responses=shaped(OwnPage))
    def get(self, request: Request) -> Response:
        return Response(told(OwnPage, selectors.own(person_of(request))))

    @extend_schema(operation_id="own_units", request=shaped(OwnUnits), responses=shaped(OwnPage))
    def put(self, request: Request) -> Response:
        row = services.set_units(sent(OwnUnits, request), actor=person_of(request))
        return Response(told(OwnPage, selectors.own(row)))


class OwnPasswordView(APIView):
    @extend_schema(
        operation_id="own_password", request=shaped(NewPassword), responses=shaped(OwnPage)
    )
    def put(self, request: Request) -> Response:
        given = sent(NewPassword, request)
        prove(request, given.current, "current")
        row = services.set_password(given, actor=person_of(request))
        update_session_auth_hash(request._request, row)
        proof.note(request._request.session)
        return Response(told(OwnPage, selectors.own(row)))


class OwnProofView(APIView):
    """Types one's password again, for what asks it of a lead; good for some minutes."""

    @extend_schema(operation_id="own_proof", request=shaped(Proof), responses={204: None})
    def put(self, request: Request) -> Response:
        proof.prove_again(request, sent(Proof, request).current)
        return Response(status=status.HTTP_204_NO_CONTENT)


class OwnPinView(APIView):
    @extend_schema(operation_id="own_pin", request=shaped(NewPin), responses=shaped(OwnPage))
    def put(self, request: Request) -> Response:
        given = sent(NewPin, request)
        prove(request, given.current, "current")
        row = services.set_pin(given, actor=person_of(request))
        return Response(told(OwnPage, selectors.own(row)))

from typing import Any
from uuid import UUID

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
from rest_framework_dataclasses.serializers import DataclassSerializer

from workshop.access import CrowdThrottle, MayWork, OwnThrottle, person_of
from workshop.selectors import session
from workshop.shapes import Session
from workshop.tablets import here

from . import selectors, services
from .shapes import (
    ChangedPerson,
    Chosen,
    NewPassword,
    NewPerson,
    NewPin,
    NewWelcome,
    OwnPage,
    OwnUnits,
    People,
    PersonLine,
    WelcomeLink,
    WelcomePage,
)


class PeopleSerializer(DataclassSerializer[People]):
    class Meta:
        dataclass = People


class PersonLineSerializer(DataclassSerializer[PersonLine]):
    class Meta:
        dataclass = PersonLine


class NewPersonSerializer(DataclassSerializer[NewPerson]):
    class Meta:
        dataclass = NewPerson


class ChangedPersonSerializer(DataclassSerializer[ChangedPerson]):
    class Meta:
        dataclass = ChangedPerson


class NewWelcomeSerializer(DataclassSerializer[NewWelcome]):
    class Meta:
        dataclass = NewWelcome


class WelcomeLinkSerializer(DataclassSerializer[WelcomeLink]):
    class Meta:
        dataclass = WelcomeLink


class WelcomePageSerializer(DataclassSerializer[WelcomePage]):
    class Meta:
        dataclass = WelcomePage


class ChosenSerializer(DataclassSerializer[Chosen]):
    class Meta:
        dataclass = Chosen


class OwnPageSerializer(DataclassSerializer[OwnPage]):
    class Meta:
        dataclass = OwnPage


class OwnUnitsSerializer(DataclassSerializer[OwnUnits]):
    class Meta:
        dataclass = OwnUnits


class NewPasswordSerializer(DataclassSerializer[NewPassword]):
    class Meta:
        dataclass = NewPassword


class NewPinSerializer(DataclassSerializer[NewPin]):
    class Meta:
        dataclass = NewPin


class SessionSerializer(DataclassSerializer[Session]):
    class Meta:
        dataclass = Session


def given(serializer: type[DataclassSerializer[Any]], request: Request) -> Any:
    """What was sent, in the shape the serializer describes."""
    told = serializer(data=request.data)
    told.is_valid(raise_exception=True)
    return told.validated_data


class PeopleView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="people", responses=PeopleSerializer)
    def get(self, request: Request) -> Response:
        return Response(PeopleSerializer(selectors.people(person_of(request))).data)

    @extend_schema(
        operation_id="person_add",
        request=NewPersonSerializer,
        responses={201: WelcomeLinkSerializer},
    )
    def post(self, request: Request) -> Response:
        new = given(NewPersonSerializer, request)
        link = services.add(new, actor=person_of(request), now=timezone.now())
        return Response(WelcomeLinkSerializer(link).data, status=status.HTTP_201_CREATED)


class PersonView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="person_change",
        request=ChangedPersonSerializer,
        responses=PersonLineSerializer,
    )
    def put(self, request: Request, person_id: int) -> Response:
        changed = given(ChangedPersonSerializer, request)
        row = services.change(person_id, changed, actor=person_of(request))
        return Response(PersonLineSerializer(selectors.line(row)).data)


class WelcomeAgainView(APIView):
    """A new one-time link for somebody; ``act`` is the client's id of making it."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="person_welcome", request=None, responses=WelcomeLinkSerializer)
    def put(self, request: Request, person_id: int, act: UUID) -> Response:
        link = services.welcome_again(person_id, act, actor=person_of(request), now=timezone.now())
        return Response(WelcomeLinkSerializer(link).data)


@method_decorator([csrf_protect, ensure_csrf_cookie], name="dispatch")
class WelcomeView(APIView):
    """What a one-time link opens, and choosing a password through it."""

    permission_classes = [AllowAny]
    throttle_classes = [CrowdThrottle]

    @extend_schema(operation_id="welcome_get", responses=WelcomePageSerializer)
    def get(self, request: Request, token: str) -> Response:
        return Response(WelcomePageSerializer(selectors.welcome_page(token)).data)

    @extend_schema(
        operation_id="welcome_choose", request=ChosenSerializer, responses=SessionSerializer
    )
    def post(self, request: Request, token: str) -> Response:
        person = services.choose(token, given(ChosenSerializer, request), now=timezone.now())
        tablet = here.enter(request._request, person)
        return Response(SessionSerializer(session(person, tablet)).data)


class OwnView(APIView):
    @extend_schema(operation_id="own_get", responses=OwnPageSerializer)
    def get(self, request: Request) -> Response:
        return Response(OwnPageSerializer(selectors.own(person_of(request))).data)

    @extend_schema(
        operation_id="own_units", request=OwnUnitsSerializer, responses=OwnPageSerializer
    )
    def put(self, request: Request) -> Response:
        row = services.set_units(given(OwnUnitsSerializer, request), actor=person_of(request))
        return Response(OwnPageSerializer(selectors.own(row)).data)


class OwnPasswordView(APIView):
    throttle_classes = [OwnThrottle, CrowdThrottle]

    @extend_schema(
        operation_id="own_password", request=NewPasswordSerializer, responses=OwnPageSerializer
    )
    def put(self, request: Request) -> Response:
        row = services.set_password(given(NewPasswordSerializer, request), actor=person_of(request))
        update_session_auth_hash(request._request, row)
        return Response(OwnPageSerializer(selectors.own(row)).data)


class OwnPinView(APIView):
    throttle_classes = [OwnThrottle, CrowdThrottle]

    @extend_schema(operation_id="own_pin", request=NewPinSerializer, responses=OwnPageSerializer)
    def put(self, request: Request) -> Response:
        row = services.set_pin(given(NewPinSerializer, request), actor=person_of(request))
        return Response(OwnPageSerializer(selectors.own(row)).data)

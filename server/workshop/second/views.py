from config.shaped import sent, shaped, told
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from workshop import proof
from workshop.access import MayWork, person_of
from workshop.models import Person

from . import selectors, services
from .shapes import PasskeyBegun, PasskeyMade, SecondBegun, SecondCode, SecondCodes, SecondPage


def _page(request: Request) -> Response:
    found = selectors.page(person_of(request), request._request)
    return Response(told(SecondPage, found))


class OwnSecondView(APIView):
    """One's own second factor. What changes it asks for the password again."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="own_second", responses=shaped(SecondPage))
    def get(self, request: Request) -> Response:
        return _page(request)

    @extend_schema(operation_id="own_second_begin", request=None, responses=shaped(SecondBegun))
    def post(self, request: Request) -> Response:
        proof.require_proven_lead(request)
        device = services.begin(actor=person_of(request))
        return Response(told(SecondBegun, selectors.begun(device)))

    @extend_schema(
        operation_id="own_second_confirm",
        request=shaped(SecondCode),
        responses=shaped(SecondCodes),
    )
    def put(self, request: Request) -> Response:
        proof.require_proven(request)
        codes = services.confirm(sent(SecondCode, request).code, actor=person_of(request))
        return Response(told(SecondCodes, SecondCodes(codes)))

    @extend_schema(
        operation_id="own_second_clear", request=None, responses={200: shaped(SecondPage)}
    )
    def delete(self, request: Request) -> Response:
        proof.require_proven(request)
        person = person_of(request)
        services.clear(person, actor=person)
        return _page(request)


class PasskeysView(APIView):
    """Another passkey of one's own: begun, and made."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="own_passkey_begin", request=None, responses=shaped(PasskeyBegun))
    def post(self, request: Request) -> Response:
        proof.require_proven_lead(request)
        options = services.begin_passkey(request._request, actor=person_of(request))
        return Response(told(PasskeyBegun, PasskeyBegun(options)))

    @extend_schema(
        operation_id="own_passkey_made",
        request=shaped(PasskeyMade),
        responses=shaped(SecondCodes),
    )
    def put(self, request: Request) -> Response:
        proof.require_proven_lead(request)
        given = sent(PasskeyMade, request)
        codes = services.add_passkey(
            request._request, given.answer, given.name, actor=person_of(request)
        )
        return Response(told(SecondCodes, SecondCodes(codes)))


class PasskeyView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="own_passkey_drop", request=None, responses={200: shaped(SecondPage)}
    )
    def delete(self, request: Request, number: int) -> Response:
        proof.require_proven(request)
        services.drop_passkey(number, actor=person_of(request))
        return _page(request)


class CodesView(APIView):
    """Other recovery codes."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="own_second_codes", request=None, responses=shaped(SecondCodes))
    def post(self, request: Request) -> Response:
        proof.require_proven(request)
        codes = services.new_codes(actor=person_of(request))
        return Response(told(SecondCodes, SecondCodes(codes)))


class AnothersView(APIView):
    """Somebody lost theirs: a lead clears it."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="person_second_clear", request=None, responses={204: None})
    def delete(self, request: Request, person_id: int) -> Response:
        proof.require_proven_lead(request)
        person = get_object_or_404(Person, pk=person_id)
        services.clear(person, actor=person_of(request))
        return Response(status=status.HTTP_204_NO_CONTENT)

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
from .shapes import SecondBegun, SecondCode, SecondCodes, SecondPage


class OwnSecondView(APIView):
    """One's own second factor. What changes it asks for the password again."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="own_second", responses=shaped(SecondPage))
    def get(self, request: Request) -> Response:
        return Response(told(SecondPage, selectors.page(person_of(request))))

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
        return Response(told(SecondPage, selectors.page(person)))


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

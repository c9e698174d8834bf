from dataclasses import asdict

from config.shaped import sent, shaped, told
from django.http import JsonResponse
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, person_of
from workshop.proof import require_proven_lead

from . import selectors, services
from .shapes import Erased, Erasure, Owner, OwnersData, OwnersName


class OwnersView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="owners", responses=shaped(Owner)(many=True))
    def get(self, request: Request) -> Response:
        return Response(told(Owner, selectors.owners(person_of(request))))


class OwnersDataView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="owners_data", request=shaped(OwnersName), responses=shaped(OwnersData)
    )
    def post(self, request: Request) -> JsonResponse:
        """Gives out what is held about an owner; that it was given out leaves a trace."""
        require_proven_lead(request)
        given, actor = sent(OwnersName, request), person_of(request)
        found = selectors.owners_data(given.name, actor, days.today())
        services.given_out(given, found, actor=actor)
        named = {"Content-Disposition": 'attachment; filename="owner.json"'}
        return JsonResponse(asdict(found), headers=named, json_dumps_params={"indent": 1})


class ErasureView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="owner_erase", request=shaped(Erasure), responses=shaped(Erased))
    def post(self, request: Request) -> Response:
        require_proven_lead(request)
        wanted = sent(Erasure, request)
        erased = services.erase(wanted.id, wanted.name, actor=person_of(request))
        return Response(told(Erased, Erased(erased)))

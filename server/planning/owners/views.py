from dataclasses import asdict

from config.asked import Asked
from config.shaped import sent, shaped, told
from django.http import JsonResponse
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import Erased, Erasure, Owner, OwnersData


class OwnersView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="owners", responses=shaped(Owner)(many=True))
    def get(self, request: Request) -> Response:
        return Response(told(Owner, selectors.owners(person_of(request))))


class OwnersDataView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="owners_data",
        parameters=[OpenApiParameter("name", str, required=True)],
        responses=shaped(OwnersData),
    )
    def get(self, request: Request) -> JsonResponse:
        name = Asked(request.query_params).text("name", 80)
        found = selectors.owners_data(name, person_of(request), days.today())
        named = {"Content-Disposition": 'attachment; filename="owner.json"'}
        return JsonResponse(asdict(found), headers=named, json_dumps_params={"indent": 1})


class ErasureView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="owner_erase", request=shaped(Erasure), responses=shaped(Erased))
    def post(self, request: Request) -> Response:
        given = sent(Erasure, request)
        wanted = given
        erased = services.erase(wanted.id, wanted.name, actor=person_of(request))
        return Response(told(Erased, Erased(erased)))

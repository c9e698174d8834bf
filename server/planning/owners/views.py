from dataclasses import asdict

from django.http import JsonResponse
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import Erased, Erasure, Owner, OwnersData


class OwnerSerializer(DataclassSerializer[Owner]):
    class Meta:
        dataclass = Owner


class OwnersDataSerializer(DataclassSerializer[OwnersData]):
    class Meta:
        dataclass = OwnersData


class ErasureSerializer(DataclassSerializer[Erasure]):
    class Meta:
        dataclass = Erasure


class ErasedSerializer(DataclassSerializer[Erased]):
    class Meta:
        dataclass = Erased


class OwnersView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="owners", responses=OwnerSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(OwnerSerializer(selectors.owners(person_of(request)), many=True).data)


class OwnersDataView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="owners_data",
        parameters=[OpenApiParameter("name", str, required=True)],
        responses=OwnersDataSerializer,
    )
    def get(self, request: Request) -> JsonResponse:
        name = request.query_params.get("name", "").replace("\x00", "")[:80]
        found = selectors.owners_data(name, person_of(request), days.today())
        named = {"Content-Disposition": 'attachment; filename="owner.json"'}
        return JsonResponse(asdict(found), headers=named, json_dumps_params={"indent": 1})


class ErasureView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="owner_erase", request=ErasureSerializer, responses=ErasedSerializer
    )
    def post(self, request: Request) -> Response:
        given = ErasureSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        wanted = given.validated_data
        erased = services.erase(wanted.id, wanted.name, actor=person_of(request))
        return Response(ErasedSerializer(Erased(erased)).data)

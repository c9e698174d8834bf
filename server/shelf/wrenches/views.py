from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import Wrenches, WrenchForm


class WrenchesSerializer(DataclassSerializer[Wrenches]):
    class Meta:
        dataclass = Wrenches


class WrenchFormSerializer(DataclassSerializer[WrenchForm]):
    class Meta:
        dataclass = WrenchForm


class WrenchesView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="wrenches", responses=WrenchesSerializer)
    def get(self, request: Request) -> Response:
        return Response(WrenchesSerializer(selectors.wrenches()).data)

    @extend_schema(
        operation_id="wrench_save", request=WrenchFormSerializer, responses=WrenchesSerializer
    )
    def put(self, request: Request) -> Response:
        given = WrenchFormSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        services.save_wrench(given.validated_data, actor=person_of(request))
        return Response(WrenchesSerializer(selectors.wrenches()).data)

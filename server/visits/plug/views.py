from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from oilward_bench.shapes import VerdictShape
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop.access import MayWork, person_of

from visits.selectors import visits

from . import selectors
from .shapes import PlugSoFar


class PlugSoFarSerializer(DataclassSerializer[PlugSoFar]):
    class Meta:
        dataclass = PlugSoFar


class VerdictSerializer(DataclassSerializer[VerdictShape]):
    class Meta:
        dataclass = VerdictShape


class VerdictView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="plug_so_far", request=PlugSoFarSerializer, responses=VerdictSerializer
    )
    def post(self, request: Request, visit_id: UUID) -> Response:
        given = PlugSoFarSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        visit = get_object_or_404(visits(), pk=visit_id)
        found = selectors.so_far(visit, given.validated_data, person_of(request), timezone.now())
        return Response(VerdictSerializer(found).data)

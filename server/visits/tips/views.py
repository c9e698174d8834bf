from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop.access import MayWork, person_of

from visits.views import RunSheetSerializer, answer

from . import services
from .shapes import NewTip


class NewTipSerializer(DataclassSerializer[NewTip]):
    class Meta:
        dataclass = NewTip


class TipsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="tip_write", request=NewTipSerializer, responses=RunSheetSerializer)
    def post(self, request: Request, visit_id: UUID) -> Response:
        given = NewTipSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        visit = services.write_tip(visit_id, given.validated_data, actor=person_of(request))
        return answer(visit, request)

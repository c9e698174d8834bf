from uuid import UUID

from config.shaped import sent, shaped
from drf_spectacular.utils import extend_schema
from oilward_bench import RunSheet
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop.access import MayWork, person_of

from visits.views import answer

from . import services
from .shapes import NewTip


class TipsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="tip_write", request=shaped(NewTip), responses=shaped(RunSheet))
    def post(self, request: Request, visit_id: UUID) -> Response:
        given = sent(NewTip, request)
        visit = services.write_tip(visit_id, given, actor=person_of(request))
        return answer(visit, request)

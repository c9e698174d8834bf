from uuid import UUID

from config.shaped import shaped, told
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop.access import MayWork

from visits.models import Visit
from visits.selectors import visits

from .selectors import finish
from .shapes import Finish


class FinishView(APIView):
    """When an open visit will be through, as a process of its own worked it out."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="visit_finish", responses=shaped(Finish))
    def get(self, request: Request, visit_id: UUID) -> Response:
        visit = get_object_or_404(visits().filter(state=Visit.State.OPEN), pk=visit_id)
        return Response(told(Finish, finish(visit)))

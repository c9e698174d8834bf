from uuid import UUID

from config.shaped import sent, shaped, told
from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from oilward_bench.shapes import VerdictShape
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop.access import MayWork, person_of

from visits.selectors import visits

from . import selectors
from .shapes import PlugSoFar


class VerdictView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="plug_so_far", request=shaped(PlugSoFar), responses=shaped(VerdictShape)
    )
    def post(self, request: Request, visit_id: UUID) -> Response:
        given = sent(PlugSoFar, request)
        visit = get_object_or_404(visits(), pk=visit_id)
        found = selectors.so_far(visit, given, person_of(request), timezone.now())
        return Response(told(VerdictShape, found))

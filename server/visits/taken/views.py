from uuid import UUID

from config.shaped import shaped, told
from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop.access import MayWork, person_of
from workshop.days import day_of

from visits.selectors import visits

from .selectors import to_take
from .shapes import Taken


class TakenView(APIView):
    """What a visit took from shelf and drawer."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="visit_taken", responses=shaped(Taken))
    def get(self, request: Request, visit_id: UUID) -> Response:
        visit = get_object_or_404(visits(), pk=visit_id)
        return Response(told(Taken, to_take(visit, person_of(request), day_of(timezone.now()))))

from uuid import UUID

from config.shaped import sent, shaped
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, person_of

from . import services
from .shapes import Elsewhere


class ElsewhereView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="elsewhere_write", request=shaped(Elsewhere), responses={204: None})
    def post(self, request: Request, bike_id: UUID) -> Response:
        given = sent(Elsewhere, request)
        actor, now = person_of(request), timezone.now()
        services.write_down(bike_id, given, actor=actor, now=now, today=days.today())
        return Response(status=status.HTTP_204_NO_CONTENT)

from uuid import UUID

from config.shaped import sent, shaped, told
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop.access import MayWork

from . import selectors
from .shapes import GapAnswer, GapRead, SagAnswer, SagRead


class SagView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="sag", request=shaped(SagRead), responses=shaped(SagAnswer))
    def post(self, request: Request, bike_id: UUID, reservoir: str) -> Response:
        """How far a bike sinks, and what follows from it; nothing is kept."""
        given = sent(SagRead, request)
        return Response(told(SagAnswer, selectors.sags(bike_id, reservoir, given)))


class GapView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="air_gap", request=shaped(GapRead), responses=shaped(GapAnswer))
    def post(self, request: Request, bike_id: UUID, reservoir: str) -> Response:
        """What another air gap does to a leg; nothing is kept."""
        given = sent(GapRead, request)
        return Response(told(GapAnswer, selectors.gaps(bike_id, reservoir, given)))

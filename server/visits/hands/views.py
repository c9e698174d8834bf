from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop.access import MayWork

from .selectors import called
from .shapes import CalledHands


class CalledHandsSerializer(DataclassSerializer[CalledHands]):
    class Meta:
        dataclass = CalledHands


class HandsView(APIView):
    """Who calls for a second pair of hands, anywhere in the house."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="hands_called", responses=CalledHandsSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(CalledHandsSerializer(called(), many=True).data)

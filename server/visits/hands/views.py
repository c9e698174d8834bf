from config.shaped import shaped, told
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop.access import MayWork

from .selectors import called
from .shapes import CalledHands


class HandsView(APIView):
    """Who calls for a second pair of hands, anywhere in the house."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="hands_called", responses=shaped(CalledHands)(many=True))
    def get(self, request: Request) -> Response:
        return Response(told(CalledHands, called()))

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop.access import MayWork

from . import selectors
from .selectors import Peak


class PeakSerializer(DataclassSerializer[Peak]):
    class Meta:
        dataclass = Peak


class WrenchPullView(APIView):
    """A pull on a simulated digital wrench. Reads a device; writes nothing down."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="wrench_pull",
        parameters=[OpenApiParameter("aim", str, required=True)],
        responses=PeakSerializer,
    )
    def get(self, request: Request, wrench_id: int) -> Response:
        peak = selectors.pull(wrench_id, request.query_params.get("aim", ""))
        return Response(PeakSerializer(peak).data)

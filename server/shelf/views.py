from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop.access import MayWork, person_of

from . import selectors
from .shapes import Peak, Shelf


class PeakSerializer(DataclassSerializer[Peak]):
    class Meta:
        dataclass = Peak


class ShelfSerializer(DataclassSerializer[Shelf]):
    class Meta:
        dataclass = Shelf


class ShelfView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="shelf_get", responses=ShelfSerializer)
    def get(self, request: Request) -> Response:
        return Response(ShelfSerializer(selectors.shelf(person_of(request))).data)


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

from typing import Any

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import Blend, FluidForm, Peak, Shelf, Weighed

_TEXTS = (
    *("name", "family", "bottle", "grade", "friction_class", "service", "base", "approvals"),
    *("kv40", "kv100", "hths", "cranking", "pumping", "density15", "pour_point"),
    *("dfi", "sfi", "sti"),
)


class PeakSerializer(DataclassSerializer[Peak]):
    class Meta:
        dataclass = Peak


class ShelfSerializer(DataclassSerializer[Shelf]):
    class Meta:
        dataclass = Shelf


class FluidFormSerializer(DataclassSerializer[FluidForm]):
    class Meta:
        dataclass = FluidForm
        extra_kwargs: dict[str, Any] = {name: {"allow_blank": True} for name in _TEXTS}


class BlendSerializer(DataclassSerializer[Blend]):
    class Meta:
        dataclass = Blend


class ShelfView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="shelf_get", responses=ShelfSerializer)
    def get(self, request: Request) -> Response:
        return Response(ShelfSerializer(selectors.shelf()).data)


class FluidsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="fluid_save", request=FluidFormSerializer, responses=ShelfSerializer
    )
    def put(self, request: Request) -> Response:
        given = FluidFormSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        services.save_fluid(given.validated_data, actor=person_of(request))
        return Response(ShelfSerializer(selectors.shelf()).data)


class BlendView(APIView):
    """Two oils to one between."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="blend_get",
        parameters=[
            OpenApiParameter("thin", int, required=True),
            OpenApiParameter("thick", int, required=True),
            OpenApiParameter("target", str, required=True),
            OpenApiParameter("total", str, required=True),
        ],
        responses=BlendSerializer,
    )
    def get(self, request: Request) -> Response:
        asked = request.query_params
        thin, thick = asked.get("thin", ""), asked.get("thick", "")
        answer = selectors.blend(
            int(thin) if thin.isdigit() else 0,
            int(thick) if thick.isdigit() else 0,
            asked.get("target", "")[:80],
            asked.get("total", "")[:80],
            person_of(request),
        )
        return Response(BlendSerializer(answer).data)


class WeighedSerializer(DataclassSerializer[Weighed]):
    class Meta:
        dataclass = Weighed


class ScaleView(APIView):
    """The simulated scale under a drain pan, with its thermometer. Writes nothing down."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="scale_read",
        parameters=[OpenApiParameter("expected", str, required=True)],
        responses=WeighedSerializer,
    )
    def get(self, request: Request) -> Response:
        weighed = selectors.weigh(request.query_params.get("expected", ""))
        return Response(WeighedSerializer(weighed).data)


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

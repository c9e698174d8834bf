from config.asked import Asked
from config.shaped import sent, shaped, told
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import Blend, FluidForm, Peak, Shelf, Weighed


class ShelfView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="shelf_get", responses=shaped(Shelf))
    def get(self, request: Request) -> Response:
        return Response(told(Shelf, selectors.shelf()))


class FluidsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="fluid_save", request=shaped(FluidForm), responses=shaped(Shelf))
    def put(self, request: Request) -> Response:
        given = sent(FluidForm, request)
        services.save_fluid(given, actor=person_of(request))
        return Response(told(Shelf, selectors.shelf()))


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
        responses=shaped(Blend),
    )
    def get(self, request: Request) -> Response:
        asked = Asked(request.query_params)
        answer = selectors.blend(
            asked.whole("thin", 0),
            asked.whole("thick", 0),
            asked.text("target", 80),
            asked.text("total", 80),
            person_of(request),
        )
        return Response(told(Blend, answer))


class ScaleView(APIView):
    """The simulated scale under a drain pan, with its thermometer. Writes nothing down."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="scale_read",
        parameters=[OpenApiParameter("expected", str, required=True)],
        responses=shaped(Weighed),
    )
    def get(self, request: Request) -> Response:
        weighed = selectors.weigh(Asked(request.query_params).text("expected"))
        return Response(told(Weighed, weighed))


class WrenchPullView(APIView):
    """A pull on a simulated digital wrench. Reads a device; writes nothing down."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="wrench_pull",
        parameters=[OpenApiParameter("aim", str, required=True)],
        responses=shaped(Peak),
    )
    def get(self, request: Request, wrench_id: int) -> Response:
        peak = selectors.pull(wrench_id, Asked(request.query_params).text("aim"))
        return Response(told(Peak, peak))

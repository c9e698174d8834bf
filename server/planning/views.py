from uuid import UUID

from django.utils import timezone
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from shelf.shapes import Matches
from workshop.access import MayWork, person_of

from . import selectors
from .shapes import BikePage, Ward


class WardSerializer(DataclassSerializer[Ward]):
    class Meta:
        dataclass = Ward


class BikePageSerializer(DataclassSerializer[BikePage]):
    class Meta:
        dataclass = BikePage


class WardView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="ward_get",
        parameters=[OpenApiParameter("page", int), OpenApiParameter("search", str)],
        responses=WardSerializer,
    )
    def get(self, request: Request) -> Response:
        page = request.query_params.get("page", "1")
        now = timezone.now()
        typed = request.query_params.get("search", "")[:100]
        ward = selectors.ward(int(page) if page.isdigit() else 1, typed, now.date(), now)
        return Response(WardSerializer(ward).data)


class BikeView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="bike_get", responses=BikePageSerializer)
    def get(self, request: Request, bike_id: UUID) -> Response:
        page = selectors.bike_page(bike_id, person_of(request), timezone.now().date())
        return Response(BikePageSerializer(page).data)


class MatchesSerializer(DataclassSerializer[Matches]):
    class Meta:
        dataclass = Matches


class MatchesView(APIView):
    """Which fluids of the shelf fit a reservoir, and why."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="matches_get",
        parameters=[OpenApiParameter("reservoir", str, required=True)],
        responses=MatchesSerializer,
    )
    def get(self, request: Request, bike_id: UUID) -> Response:
        found = selectors.fluid_matches(bike_id, request.query_params.get("reservoir", ""))
        return Response(MatchesSerializer(found).data)

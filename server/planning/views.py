from uuid import UUID

from config.asked import Asked
from config.shaped import shaped, told
from django.utils import timezone
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from shelf.shapes import Matches
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors
from .bikes import selectors as bike_selectors
from .shapes import BikePage, Health, Wanted, Ward


class WardView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="ward_get",
        parameters=[
            OpenApiParameter("page", int),
            OpenApiParameter("search", str),
            OpenApiParameter("within", int, description="days until something is due"),
            OpenApiParameter("shop", bool),
            OpenApiParameter("hold", bool),
            OpenApiParameter("use", str),
            OpenApiParameter("fluid", str),
            OpenApiParameter("group", str, enum=["", "use"]),
        ],
        responses=shaped(Ward),
    )
    def get(self, request: Request) -> Response:
        asked, now = Asked(request.query_params), timezone.now()
        wanted = Wanted(
            page=asked.whole("page", 1) or 1,
            search=asked.text("search"),
            within=asked.whole("within", 0),
            shop=asked.yes("shop"),
            hold=asked.yes("hold"),
            use=asked.text("use", 30),
            fluid=asked.text("fluid", 300),
            group=asked.text("group"),
        )
        return Response(selectors.ward(wanted, days.day_of(now), now))


class HealthView(APIView):
    """Whether the database answers, and when what is due was last brought forward. For whoever
    watches the machine; nobody signs in for it."""

    authentication_classes = []
    permission_classes = [AllowAny]

    @extend_schema(operation_id="health", auth=[], responses=shaped(Health))
    def get(self, request: Request) -> Response:
        now = timezone.now()
        return Response(told(Health, selectors.health(days.day_of(now), now)))


class BikeView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="bike_get", responses=shaped(BikePage))
    def get(self, request: Request, bike_id: UUID) -> Response:
        page = bike_selectors.bike_page(bike_id, person_of(request), days.today())
        return Response(told(BikePage, page))


class MatchesView(APIView):
    """Which fluids of the shelf fit a reservoir, and why."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="matches_get",
        parameters=[OpenApiParameter("reservoir", str, required=True)],
        responses=shaped(Matches),
    )
    def get(self, request: Request, bike_id: UUID) -> Response:
        found = bike_selectors.fluid_matches(bike_id, Asked(request.query_params).text("reservoir"))
        return Response(told(Matches, found))

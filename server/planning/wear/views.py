from uuid import UUID

from cattrs.preconf.json import make_converter
from config.asked import Asked
from config.shaped import shaped, told
from django.http import HttpResponse
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, person_of

from . import comparisons, selectors, services
from .shapes import Comparisons, FindingsLedger, LedgerAsked, WearHistory

# plain words and numbers already: the serializers describe them, and would take as long as the rest
_plain = make_converter()


class WearView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="wear_history", responses=shaped(WearHistory))
    def get(self, request: Request, bike_id: UUID, reservoir: str) -> HttpResponse:
        page = services.history_page(bike_id, reservoir)
        return HttpResponse(page, content_type="application/json")


FILTERS = ("level", "matter", "kind", "model", "fluid", "grader", "school")


class FindingsLedgerView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="findings_ledger",
        parameters=[
            OpenApiParameter("page", int),
            *(OpenApiParameter(name, str) for name in FILTERS),
        ],
        responses=shaped(FindingsLedger),
    )
    def get(self, request: Request) -> Response:
        asked = Asked(request.query_params)
        narrowed = {name: asked.text(name, 200) for name in FILTERS}
        wanted = LedgerAsked(page=asked.whole("page", 1), **narrowed)
        return Response(_plain.unstructure(selectors.ledger(wanted, days.today())))


class ComparisonsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="findings_compared", responses=shaped(Comparisons))
    def get(self, request: Request, kind: str) -> Response:
        found = comparisons.comparisons(kind, person_of(request), days.today())
        return Response(told(Comparisons, found))

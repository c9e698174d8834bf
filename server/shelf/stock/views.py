from config.asked import Asked
from config.shaped import sent, shaped, told
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import Arrival, BottleForm, BottleUse, Ledger, SealForm, Stock

_BLANK = {"allow_blank": True}


def _stock(request: Request) -> Response:
    return Response(told(Stock, selectors.stock(person_of(request))))


class StockView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="stock_get", responses=shaped(Stock))
    def get(self, request: Request) -> Response:
        return _stock(request)


class LedgerView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="stock_ledger",
        parameters=[OpenApiParameter("fluid", int), OpenApiParameter("part", str)],
        responses=shaped(Ledger),
    )
    def get(self, request: Request) -> Response:
        asked = Asked(request.query_params)
        fluid, part = asked.whole("fluid", 0) or None, asked.text("part", 200)
        found = selectors.ledger(fluid, part, person_of(request))
        return Response(told(Ledger, found))


class BottlesView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="bottle_save", request=shaped(BottleForm), responses=shaped(Stock))
    def put(self, request: Request) -> Response:
        given = sent(BottleForm, request)
        services.save_bottle(given, actor=person_of(request), today=days.today())
        return _stock(request)

    @extend_schema(operation_id="bottle_take", request=shaped(BottleUse), responses=shaped(Stock))
    def post(self, request: Request) -> Response:
        given = sent(BottleUse, request)
        services.take_from_bottle(given, actor=person_of(request), today=days.today())
        return _stock(request)


class ArrivalView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="arrival_put_away", request=shaped(Arrival), responses=shaped(Stock)
    )
    def post(self, request: Request) -> Response:
        given = sent(Arrival, request)
        services.put_away(given, actor=person_of(request), today=days.today())
        return _stock(request)


class SealsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="seals_save", request=shaped(SealForm), responses=shaped(Stock))
    def put(self, request: Request) -> Response:
        given = sent(SealForm, request)
        services.save_seals(given, actor=person_of(request), today=days.today())
        return _stock(request)

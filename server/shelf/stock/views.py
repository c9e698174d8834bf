from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import Arrival, BottleForm, BottleUse, Ledger, SealForm, Stock

_BLANK = {"allow_blank": True}


class StockSerializer(DataclassSerializer[Stock]):
    class Meta:
        dataclass = Stock


class LedgerSerializer(DataclassSerializer[Ledger]):
    class Meta:
        dataclass = Ledger


class BottleFormSerializer(DataclassSerializer[BottleForm]):
    class Meta:
        dataclass = BottleForm
        extra_kwargs = {name: _BLANK for name in ("size", "left", "opened_on")}


class BottleUseSerializer(DataclassSerializer[BottleUse]):
    class Meta:
        dataclass = BottleUse
        extra_kwargs = {"used": _BLANK}


class ArrivalSerializer(DataclassSerializer[Arrival]):
    class Meta:
        dataclass = Arrival


class SealFormSerializer(DataclassSerializer[SealForm]):
    class Meta:
        dataclass = SealForm
        extra_kwargs = {name: _BLANK for name in ("name", "count", "kind")}


def _stock(request: Request) -> Response:
    return Response(StockSerializer(selectors.stock(person_of(request))).data)


class StockView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="stock_get", responses=StockSerializer)
    def get(self, request: Request) -> Response:
        return _stock(request)


class LedgerView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="stock_ledger",
        parameters=[OpenApiParameter("fluid", int), OpenApiParameter("part", str)],
        responses=LedgerSerializer,
    )
    def get(self, request: Request) -> Response:
        asked = request.query_params
        fluid = asked.get("fluid", "")
        found = selectors.ledger(
            int(fluid) if fluid.isdecimal() and len(fluid) < 10 else None,
            asked.get("part", "")[:200],
            person_of(request),
        )
        return Response(LedgerSerializer(found).data)


class BottlesView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="bottle_save", request=BottleFormSerializer, responses=StockSerializer
    )
    def put(self, request: Request) -> Response:
        given = BottleFormSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        services.save_bottle(given.validated_data, actor=person_of(request), today=days.today())
        return _stock(request)

    @extend_schema(
        operation_id="bottle_take", request=BottleUseSerializer, responses=StockSerializer
    )
    def post(self, request: Request) -> Response:
        given = BottleUseSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        services.take_from_bottle(
            given.validated_data, actor=person_of(request), today=days.today()
        )
        return _stock(request)


class ArrivalView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="arrival_put_away", request=ArrivalSerializer, responses=StockSerializer
    )
    def post(self, request: Request) -> Response:
        given = ArrivalSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        services.put_away(given.validated_data, actor=person_of(request), today=days.today())
        return _stock(request)


class SealsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="seals_save", request=SealFormSerializer, responses=StockSerializer)
    def put(self, request: Request) -> Response:
        given = SealFormSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        services.save_seals(given.validated_data, actor=person_of(request), today=days.today())
        return _stock(request)

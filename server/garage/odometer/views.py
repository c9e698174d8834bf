from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop import days
from workshop.access import MayWork, person_of

from garage.sheets.views import BLANK

from . import selectors, services
from .shapes import NewReading, ReadingCorrection, Readings


class NewReadingSerializer(DataclassSerializer[NewReading]):
    class Meta:
        dataclass = NewReading
        extra_kwargs = {name: BLANK for name in ("odometer", "hours", "new_shows")}


class ReadingCorrectionSerializer(DataclassSerializer[ReadingCorrection]):
    class Meta:
        dataclass = ReadingCorrection
        extra_kwargs = {name: BLANK for name in ("odometer", "hours", "reason")}


class ReadingsSerializer(DataclassSerializer[Readings]):
    class Meta:
        dataclass = Readings


class ReadingsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="odometer_record", request=NewReadingSerializer, responses={204: None}
    )
    def post(self, request: Request, bike_id: UUID) -> Response:
        given = NewReadingSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        services.add_reading(
            bike_id, given.validated_data, actor=person_of(request), today=days.today()
        )
        return Response(status=status.HTTP_204_NO_CONTENT)

    @extend_schema(operation_id="odometer_readings", responses=ReadingsSerializer)
    def get(self, request: Request, bike_id: UUID) -> Response:
        return Response(
            ReadingsSerializer(selectors.readings_page(bike_id, person_of(request))).data
        )


class CorrectionView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="odometer_correct",
        request=ReadingCorrectionSerializer,
        responses=ReadingsSerializer,
    )
    def post(self, request: Request, bike_id: UUID, reading_id: UUID) -> Response:
        given = ReadingCorrectionSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        actor = person_of(request)
        services.correct_reading(bike_id, reading_id, given.validated_data, actor=actor)
        return Response(ReadingsSerializer(selectors.readings_page(bike_id, actor)).data)

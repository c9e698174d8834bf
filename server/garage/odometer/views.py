from uuid import UUID

from config.shaped import sent, shaped, told
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import NewReading, ReadingCorrection, Readings


class ReadingsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="odometer_record", request=shaped(NewReading), responses={204: None}
    )
    def post(self, request: Request, bike_id: UUID) -> Response:
        given = sent(NewReading, request)
        services.add_reading(bike_id, given, actor=person_of(request), today=days.today())
        return Response(status=status.HTTP_204_NO_CONTENT)

    @extend_schema(operation_id="odometer_readings", responses=shaped(Readings))
    def get(self, request: Request, bike_id: UUID) -> Response:
        return Response(told(Readings, selectors.readings_page(bike_id, person_of(request))))


class CorrectionView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="odometer_correct",
        request=shaped(ReadingCorrection),
        responses=shaped(Readings),
    )
    def post(self, request: Request, bike_id: UUID, reading_id: UUID) -> Response:
        given = sent(ReadingCorrection, request)
        actor = person_of(request)
        services.correct_reading(bike_id, reading_id, given, actor=actor)
        return Response(told(Readings, selectors.readings_page(bike_id, actor)))

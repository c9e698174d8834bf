from uuid import UUID

from django.http import HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import LabHistory, LabProgress, NewLabFile, NewSample, SampleLine


class NewSampleSerializer(DataclassSerializer[NewSample]):
    class Meta:
        dataclass = NewSample


class SampleLineSerializer(DataclassSerializer[SampleLine]):
    class Meta:
        dataclass = SampleLine


class NewLabFileSerializer(DataclassSerializer[NewLabFile]):
    class Meta:
        dataclass = NewLabFile


class LabProgressSerializer(DataclassSerializer[LabProgress]):
    class Meta:
        dataclass = LabProgress


class LabHistorySerializer(DataclassSerializer[LabHistory]):
    class Meta:
        dataclass = LabHistory


class SamplesView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="lab_samples", responses=SampleLineSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(SampleLineSerializer(selectors.samples(), many=True).data)

    @extend_schema(
        operation_id="lab_sample_take",
        request=NewSampleSerializer,
        responses={201: SampleLineSerializer},
    )
    def post(self, request: Request) -> Response:
        given = NewSampleSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        row = services.take_sample(
            given.validated_data, actor=person_of(request), today=days.today()
        )
        line = SampleLineSerializer(selectors.one_sample(row.pk)).data
        return Response(line, status=status.HTTP_201_CREATED)


class LabelView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="lab_label", responses={(200, "application/pdf"): OpenApiTypes.BINARY}
    )
    def get(self, request: Request, sample_id: UUID) -> HttpResponse:
        name = f'inline; filename="sample-{sample_id}.pdf"'
        return HttpResponse(
            selectors.label_of(sample_id),
            content_type="application/pdf",
            headers={"Content-Disposition": name},
        )


class SimulatedView(APIView):
    """The simulated laboratory answers a label."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="lab_simulated", request=None, responses={201: SampleLineSerializer}
    )
    def post(self, request: Request, sample_id: UUID) -> Response:
        services.ask_simulated(sample_id, days.today())
        line = SampleLineSerializer(selectors.one_sample(sample_id)).data
        return Response(line, status=status.HTTP_201_CREATED)


class LabFilesView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="lab_file_send",
        request=NewLabFileSerializer,
        responses={202: LabProgressSerializer},
    )
    def post(self, request: Request) -> Response:
        given = NewLabFileSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        row = services.send_in(given.validated_data, actor=person_of(request), now=timezone.now())
        said = LabProgressSerializer(selectors.progress(row.pk)).data
        return Response(said, status=status.HTTP_202_ACCEPTED)


class LabFileView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="lab_file_get", responses=LabProgressSerializer)
    def get(self, request: Request, file_id: UUID) -> Response:
        return Response(LabProgressSerializer(selectors.progress(file_id)).data)


class LabHistoryView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="lab_history", responses=LabHistorySerializer)
    def get(self, request: Request, bike_id: UUID, reservoir: str) -> Response:
        return Response(LabHistorySerializer(selectors.lab_history(bike_id, reservoir)).data)

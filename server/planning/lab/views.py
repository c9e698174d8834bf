from uuid import UUID

from config.shaped import sent, shaped, told
from django.http import HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import MOST_TEXT, LabHistory, LabProgress, NewLabFile, NewSample, SampleLine


class SamplesView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="lab_samples", responses=shaped(SampleLine)(many=True))
    def get(self, request: Request) -> Response:
        return Response(told(SampleLine, selectors.samples()))

    @extend_schema(
        operation_id="lab_sample_take",
        request=shaped(NewSample),
        responses={201: shaped(SampleLine)},
    )
    def post(self, request: Request) -> Response:
        given = sent(NewSample, request)
        row = services.take_sample(given, actor=person_of(request), today=days.today())
        line = told(SampleLine, selectors.one_sample(row.pk))
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

    @extend_schema(operation_id="lab_simulated", request=None, responses={201: shaped(SampleLine)})
    def post(self, request: Request, sample_id: UUID) -> Response:
        services.ask_simulated(sample_id, days.today())
        line = told(SampleLine, selectors.one_sample(sample_id))
        return Response(line, status=status.HTTP_201_CREATED)


class LabFilesView(APIView):
    permission_classes = [MayWork]
    most_text = MOST_TEXT
    most_body = 4 * MOST_TEXT // 3

    @extend_schema(
        operation_id="lab_file_send",
        request=shaped(NewLabFile),
        responses={202: shaped(LabProgress)},
    )
    def post(self, request: Request) -> Response:
        given = sent(NewLabFile, request)
        row = services.send_in(given, actor=person_of(request), now=timezone.now())
        said = told(LabProgress, selectors.progress(row.pk))
        return Response(said, status=status.HTTP_202_ACCEPTED)


class LabFileView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="lab_file_get", responses=shaped(LabProgress))
    def get(self, request: Request, file_id: UUID) -> Response:
        return Response(told(LabProgress, selectors.progress(file_id)))


class LabHistoryView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="lab_history", responses=shaped(LabHistory))
    def get(self, request: Request, bike_id: UUID, reservoir: str) -> Response:
        return Response(told(LabHistory, selectors.lab_history(bike_id, reservoir)))

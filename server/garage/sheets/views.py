from typing import Any

from config.asked import Asked
from config.shaped import sent, shaped, told
from django.http import HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors, services, whole
from .shapes import (
    Answer,
    Approval,
    CellWrites,
    CopyFrom,
    LegLent,
    Models,
    NewModel,
    NewPart,
    Paths,
    Reading,
    SheetPage,
    Table,
    TableReading,
)

BLANK: dict[str, Any] = {"allow_blank": True}


def _page(sheet_id: int, request: Request, code: int = status.HTTP_200_OK) -> Response:
    page = selectors.sheet_page(sheet_id, person_of(request))
    return Response(told(SheetPage, page), status=code)


class ModelsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="models_get", responses=shaped(Models))
    def get(self, request: Request) -> Response:
        return Response(told(Models, selectors.models()))

    @extend_schema(
        operation_id="model_create",
        request=shaped(NewModel),
        responses={201: shaped(SheetPage)},
    )
    def post(self, request: Request) -> Response:
        sheet = whole.create_model(sent(NewModel, request), actor=person_of(request))
        return _page(sheet.pk, request, status.HTTP_201_CREATED)


class ModelView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="model_delete", responses={204: None})
    def delete(self, request: Request, model_id: int) -> Response:
        whole.delete_model(model_id, actor=person_of(request))
        return Response(status=status.HTTP_204_NO_CONTENT)


class DraftView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="draft_start", request=None, responses=shaped(SheetPage))
    def post(self, request: Request, model_id: int) -> Response:
        return _page(whole.start_draft(model_id, actor=person_of(request)).pk, request)


class SheetView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="sheet_get", responses=shaped(SheetPage))
    def get(self, request: Request, sheet_id: int) -> Response:
        return _page(sheet_id, request)

    @extend_schema(operation_id="sheet_discard", responses={204: None})
    def delete(self, request: Request, sheet_id: int) -> Response:
        whole.discard(sheet_id, actor=person_of(request))
        return Response(status=status.HTTP_204_NO_CONTENT)


class CellsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="cells_write", request=shaped(CellWrites), responses=shaped(SheetPage)
    )
    def put(self, request: Request, sheet_id: int) -> Response:
        writes = sent(CellWrites, request).cells
        today = days.today()
        services.write_cells(sheet_id, writes, actor=person_of(request), today=today)
        return _page(sheet_id, request)


class ReadingView(APIView):
    """Says back what a value means, while it is typed."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="cell_reading",
        parameters=[
            OpenApiParameter("path", str, required=True),
            OpenApiParameter("written", str, required=True),
        ],
        responses=shaped(Reading),
    )
    def get(self, request: Request, sheet_id: int) -> Response:
        asked = Asked(request.query_params)
        path, written = asked.text("path"), asked.text("written", 400)
        answer = selectors.reading(sheet_id, path, written, person_of(request))
        return Response(told(Reading, answer))


class ChecksView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="cells_check", request=shaped(Paths), responses=shaped(SheetPage))
    def post(self, request: Request, sheet_id: int) -> Response:
        paths, today = sent(Paths, request).paths, days.today()
        services.check_cells(sheet_id, paths, actor=person_of(request), today=today)
        return _page(sheet_id, request)


class PartsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="part_add", request=shaped(NewPart), responses=shaped(SheetPage))
    def post(self, request: Request, sheet_id: int) -> Response:
        new, today = sent(NewPart, request), days.today()
        actor = person_of(request)
        services.add_part(sheet_id, new, actor=actor, today=today)
        return _page(sheet_id, request)

    @extend_schema(
        operation_id="part_remove",
        parameters=[
            OpenApiParameter("reservoir", str, required=True),
            OpenApiParameter("part", str),
        ],
        responses={200: shaped(SheetPage)},
    )
    def delete(self, request: Request, sheet_id: int) -> Response:
        asked, actor = Asked(request.query_params), person_of(request)
        services.remove_part(sheet_id, asked.text("reservoir"), asked.text("part"), actor=actor)
        return _page(sheet_id, request)


class CopyView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="sheet_copy", request=shaped(CopyFrom), responses=shaped(SheetPage))
    def post(self, request: Request, sheet_id: int) -> Response:
        given, today = sent(CopyFrom, request), days.today()
        actor = person_of(request)
        services.copy_missing(sheet_id, given.sheet, given.reservoirs, actor=actor, today=today)
        return _page(sheet_id, request)


class LegView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="leg_copy", request=shaped(LegLent), responses=shaped(SheetPage))
    def post(self, request: Request, sheet_id: int) -> Response:
        given, today = sent(LegLent, request), days.today()
        services.copy_leg(sheet_id, given.leg, given.to, actor=person_of(request), today=today)
        return _page(sheet_id, request)


class AnswersView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="doubt_answer", request=shaped(Answer), responses=shaped(SheetPage))
    def post(self, request: Request, sheet_id: int) -> Response:
        answer, today = sent(Answer, request), days.today()
        services.answer_doubt(sheet_id, answer, actor=person_of(request), today=today)
        return _page(sheet_id, request)


class ApprovalView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="sheet_approve", request=shaped(Approval), responses=shaped(SheetPage)
    )
    def post(self, request: Request, sheet_id: int) -> Response:
        named, now = sent(Approval, request).unchecked, timezone.now()
        services.approve(sheet_id, actor=person_of(request), now=now, unchecked=named)
        return _page(sheet_id, request)


class TableView(APIView):
    """What a pasted table would write. Writes nothing."""

    permission_classes = [MayWork]

    @extend_schema(operation_id="table_read", request=shaped(Table), responses=shaped(TableReading))
    def post(self, request: Request, sheet_id: int) -> Response:
        reading = selectors.table(sheet_id, sent(Table, request), person_of(request))
        return Response(told(TableReading, reading))


class DocumentView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="sheet_export", responses=OpenApiTypes.OBJECT)
    def get(self, request: Request, sheet_id: int) -> Response:
        return Response(selectors.document(sheet_id))


class ImportView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="sheet_import",
        request=OpenApiTypes.OBJECT,
        responses={201: shaped(SheetPage)},
    )
    def post(self, request: Request) -> Response:
        today = days.today()
        sheet = whole.import_document(request.data, actor=person_of(request), today=today)
        return _page(sheet.pk, request, status.HTTP_201_CREATED)


class FastenersView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="fasteners_csv", responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request, sheet_id: int) -> HttpResponse:
        name = f'attachment; filename="fasteners-{sheet_id}.csv"'
        return HttpResponse(
            selectors.fasteners_csv(sheet_id),
            content_type="text/csv; charset=utf-8",
            headers={"Content-Disposition": name},
        )
